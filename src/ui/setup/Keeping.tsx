'use client';
import { storeRetention } from '@/actions/setup';
import { settingsOf, withSetting } from '@/core/forms/forms';
import { type Retention, retentionSchema } from '@/core/forms/retention';
import { Settings } from '../kit/Settings';
import { useDoing } from '../send/useDoing';

const settings = settingsOf(retentionSchema);

/** How long things are kept that pile up. */
export function Keeping({ retention }: { retention: Retention }) {
  const doing = useDoing();
  return (
    <section className="panel setup-form" aria-label="How long things are kept" aria-busy={doing.busy}>
      <h2>How long things are kept, in days</h2>
      <div className="row" style={{ flexWrap: 'wrap' }}>
        <Settings
          of="Kept"
          settings={settings}
          values={retention}
          onSet={(setting, text) => {
            const next = retentionSchema.safeParse(withSetting(retention, setting, text));
            doing.run(
              next.success
                ? storeRetention(next.data)
                : Promise.resolve({ ok: false, words: 'That is no number of days from 1 to 3650.' }),
            );
          }}
        />
      </div>
      <p className="small muted">
        Who did what, and what came of each submission in numbers, is kept for good. How much was dropped
        stands in the log of what was done.
      </p>
    </section>
  );
}
