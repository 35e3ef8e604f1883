'use client';
import { storeRetention } from '@/actions/workspace';
import { type Retention, retentionSchema } from '@/core/forms/retention';
import { useAction } from '../kit/hooks/useAction';
import { SavedSettings } from './SavedSettings';

/** How long things are kept that pile up. */
export function RetentionForm({ retention }: { retention: Retention }) {
  const doing = useAction();
  return (
    <section className="panel setup-form" aria-label="How long things are kept" aria-busy={doing.busy}>
      <h2>How long things are kept, in days</h2>
      <SavedSettings
        of="Kept"
        schema={retentionSchema}
        values={retention}
        doing={doing}
        store={storeRetention}
      />
      <p className="small muted">
        Who did what, and what came of each submission in numbers, is kept for good. How much was dropped
        stands in the log of what was done.
      </p>
    </section>
  );
}
