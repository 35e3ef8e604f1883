'use client';
import { holdForReview } from '@/actions/import';
import { counted, formatNumber } from '@/core/formatting/formatting';
import type { RunRow } from '@/server/import/runs';
import type { ImportEffects } from '@/server/pages/importEffect';
import { SelectField } from '../../kit/inputs/inputs';
import { Link } from '../../kit/Link';
import type { RunActs } from './useImportRun';

/** Blocked listings that an import adds, over all feeds; 0 where it adds none. */
export const blockedMore = (effects: ImportEffects | undefined): number =>
  (effects?.feeds ?? []).reduce(
    (sum, { waits, blockedNow, blockedThen, joins, ready }) =>
      sum + Math.max(0, blockedThen - (waits ? joins - ready : 0) - blockedNow),
    0,
  );

/** What an import adds to each feed, and whether its new items join it at once. */
export function FeedEffects({
  run,
  effects,
  acts,
}: {
  run: RunRow;
  effects: ImportEffects | undefined;
  acts: RunActs;
}) {
  if (run.state === 'uploaded')
    return <p className="side-pad muted">Check all rows to see the effect on each feed.</p>;
  if (!effects)
    return <p className="side-pad muted">The effect on each feed is shown until the import is applied.</p>;
  if (effects.feeds.length === 0) return <p className="side-pad muted">No feeds yet.</p>;
  return (
    <>
      <p className="side-pad muted">
        New items join a feed at once, or wait until you add them in the feed’s settings.
        {effects.tried < effects.of &&
          ` Counted over the first ${formatNumber(effects.tried)} of ${formatNumber(effects.of)} rows.`}
      </p>
      <table className="changes">
        <thead>
          <tr>
            <th>Feed</th>
            <th>New items</th>
            <th>Blocked listings</th>
            <th>New items of this source</th>
          </tr>
        </thead>
        <tbody>
          {effects.feeds.map(({ feed, name, waits, joins, ready, blockedNow, blockedThen, failed }) => {
            const then = blockedThen - (waits ? joins - ready : 0);
            return (
              <tr key={feed}>
                <td>
                  <Link className="text" href={`/feeds/${feed}/checks`}>
                    {name}
                  </Link>
                </td>
                {failed ? (
                  <td className="tone-blocker" colSpan={2}>
                    {failed}
                  </td>
                ) : (
                  <>
                    <td>
                      {joins === 0 ? (
                        <span className="muted">none</span>
                      ) : waits ? (
                        `${counted(joins, 'item')} will wait`
                      ) : (
                        <>
                          {counted(joins, 'item')}: <span className="tone-ready">{ready} ready</span>
                          {joins > ready && <span className="tone-blocker">, {joins - ready} blocked</span>}
                        </>
                      )}
                    </td>
                    <td className={then > blockedNow ? 'tone-blocker' : ''}>
                      {then === blockedNow ? blockedNow : `${blockedNow} → ${then}`}
                    </td>
                  </>
                )}
                <td>
                  <SelectField
                    name={`New items of this source in ${name}`}
                    value={waits ? 'wait' : 'join'}
                    options={[
                      ['join', 'join at once'],
                      ['wait', 'wait'],
                    ]}
                    disabled={acts.busy || acts.locked}
                    onChange={(to) =>
                      acts.act((press) => holdForReview(run.sourceId, feed, to === 'wait', press))
                    }
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </>
  );
}
