'use client';
import { Button } from '@mantine/core';
import type { ChecksStage } from '@/server/stages/checks';
import { Bar } from '../kit/display/Bar';
import { useAddress } from '../kit/hooks/useAddress';
import { Link } from '../kit/Link';
import './checks.css';
import { useApplyFix } from './useApplyFix';

/** The next changes that are worth most, as a path to ready: what several blockers hold is freed by all of them together. */
export function Ahead({ stage, failed }: { stage: ChecksStage; failed: boolean }) {
  const { withChange } = useAddress();
  const { take, busy } = useApplyFix();
  return (
    <section className="ahead" aria-label="Fastest way to ready">
      <h2>Fastest way to ready</h2>
      <ol>
        {stage.path.map(({ titles, frees, freed, share, words, worked, tried, then }) => (
          <li key={titles.map(({ key }) => key).join()}>
            <span className="step">
              <span>
                {titles.map(({ key, field, title }, at) => (
                  <span key={key}>
                    {at > 0 && ' and '}
                    <Link href={withChange({ fix: key, field, show: undefined })} scroll={false}>
                      {title}
                    </Link>
                  </span>
                ))}{' '}
                {frees > 0 && (
                  <span
                    className="frees"
                    title={tried ? 'Calculated by trying the fix' : 'Listings with no other blocker'}
                  >
                    {tried ? '+' : 'up to +'}
                    {frees}
                  </span>
                )}
              </span>
              {worked && (
                <Button
                  size="compact-sm"
                  variant="light"
                  disabled={busy}
                  aria-label={`Apply ${titles.map(({ title }) => title).join(' and ')}`}
                  title="Calculated in full, for this draft only. Open the fix to see each value first."
                  onClick={() => take(titles.map(({ key }) => ({ cause: key })))}
                >
                  Apply
                </Button>
              )}
            </span>
            {then.length > 0 && (
              <span className="small tone-blocker">
                needs another change: {then.map(({ title, listings }) => `${title} (${listings})`).join(', ')}
              </span>
            )}
            <Bar
              segments={[{ share, kind: 'ready' }]}
              label={`${freed} of ${stage.blocked} ready after it`}
            />
            <span className="small muted">
              {freed} of {stage.blocked} ready;{' '}
              {worked ? 'calculated' : worked === undefined && !failed ? 'calculating' : words}
            </span>
          </li>
        ))}
      </ol>
      {stage.ofBest !== undefined && (
        <p className="small muted">
          At least {Math.floor(stage.ofBest * 100)} % of the best possible result with as many changes.
        </p>
      )}
    </section>
  );
}
