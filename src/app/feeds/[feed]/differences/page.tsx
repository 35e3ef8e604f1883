import Link from 'next/link';
import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { asText } from '@/core/catalog/value';
import { wordDifference } from '@/core/text/difference';
import { Marked } from '@/ui/bench/Marked';

const most = 200;
const stateWords = { ready: 'ready', blocked: 'blocked', leftOut: 'left out' } as const;

/** Every value the draft changes, before and after, filterable by field. */
export default page(async ({ params: { feed }, query }) => {
  return (
    <FeedFrame
      feed={feed}
      stage="differences"
      query={query}
      traySample={({ found }) => found[0]?.sku}
      trayField={({ found, sheet }) => query.only ?? sheet.fields[found[0]?.fields[0] ?? -1]?.code}
    >
      {({ found, sheet, wordsOf }) => {
        const counts = new Map<number, number>();
        for (const { fields } of found) for (const at of fields) counts.set(at, (counts.get(at) ?? 0) + 1);
        const only = sheet.fields.findIndex(({ code }) => code === query.only);
        const shown = found.filter(({ fields }) => only < 0 || fields.includes(only));
        const withOnly = (code?: string) => `/feeds/${feed}/differences${code ? `?only=${code}` : ''}`;
        return (
          <>
            <div className="bench-head" style={{ flexWrap: 'wrap' }}>
              <h2 style={{ marginRight: 10 }}>What the draft changes</h2>
              <Link className="filter" href={withOnly()} aria-current={only < 0 ? 'page' : undefined}>
                All {found.length}
              </Link>
              {[...counts]
                .sort((a, b) => b[1] - a[1])
                .map(([at, count]) => (
                  <Link
                    key={at}
                    className="filter"
                    href={withOnly(sheet.fields[at]?.code)}
                    aria-current={at === only ? 'page' : undefined}
                  >
                    {sheet.fields[at]?.label} {count}
                  </Link>
                ))}
            </div>
            <div className="bench-body">
              {found.length === 0 && (
                <div className="empty">
                  <b>No listing changes.</b>
                  <span className="muted">The draft makes the same listings as the published version.</span>
                </div>
              )}
              <table className="plain">
                <tbody>
                  {shown.slice(0, most).map((difference) => (
                    <tr key={difference.sku}>
                      <td style={{ width: 170 }}>
                        <Link
                          className="mono"
                          href={`/feeds/${feed}/differences?sample=${encodeURIComponent(difference.sku)}${query.only ? `&only=${query.only}&field=${query.only}` : ''}`}
                        >
                          {difference.sku}
                        </Link>
                        {difference.before.state !== difference.after.state && (
                          <div className="small">
                            <span
                              className={difference.before.state === 'blocked' ? 'tone-blocker' : 'muted'}
                            >
                              {stateWords[difference.before.state]}
                            </span>{' '}
                            →{' '}
                            <span
                              className={
                                difference.after.state === 'ready'
                                  ? 'tone-ready'
                                  : difference.after.state === 'blocked'
                                    ? 'tone-blocker'
                                    : 'muted'
                              }
                            >
                              {stateWords[difference.after.state]}
                            </span>
                          </div>
                        )}
                      </td>
                      <td>
                        {difference.fields
                          .filter((at) => only < 0 || at === only)
                          .map((at) => (
                            <div key={at}>
                              <span className="muted">{sheet.fields[at]?.label}: </span>
                              <Marked
                                pieces={wordDifference(
                                  asText(difference.before.values[at]),
                                  asText(difference.after.values[at]),
                                )}
                              />
                            </div>
                          ))}
                        {difference.cleared.map((issue) => (
                          <div key={`c${wordsOf(issue)}`} className="small tone-ready">
                            clears: {wordsOf(issue)}
                          </div>
                        ))}
                        {difference.appeared.map((issue) => (
                          <div key={`a${wordsOf(issue)}`} className="small tone-blocker">
                            appears: {wordsOf(issue)}
                          </div>
                        ))}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
              {shown.length > most && (
                <p className="muted" style={{ padding: 12 }}>
                  The first {most} of {shown.length}. Choose a field above to see others.
                </p>
              )}
            </div>
          </>
        );
      }}
    </FeedFrame>
  );
}, feedPage);
