'use client';
import { storeRetention } from '@/actions/workspace';
import { type Retention, retentionSchema } from '@/core/forms/retention';
import { useAction } from '../kit/hooks/useAction';
import { SavedSettings } from './SavedSettings';

/** How long things are kept that pile up. */
export function RetentionForm({ retention }: { retention: Retention }) {
  const doing = useAction();
  return (
    <section className="panel setup-form" aria-label="Retention" aria-busy={doing.busy}>
      <h2>Retention in days</h2>
      <SavedSettings
        of="Kept"
        schema={retentionSchema}
        values={retention}
        doing={doing}
        store={storeRetention}
      />
      <p className="small muted">
        The activity log and the figures of each submission are never deleted. The log records how much was
        deleted.
      </p>
    </section>
  );
}
