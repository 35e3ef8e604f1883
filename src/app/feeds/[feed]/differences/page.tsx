import { FeedFrame } from '@/app/feeds/FeedFrame';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';
import { asText } from '@/core/catalog/value';
import { wordDifference } from '@/core/text/difference';
import { AddressFilter } from '@/ui/kit/AddressFilter';
import { Empty } from '@/ui/kit/Empty';
import { Link } from '@/ui/kit/Link';
import { Marked } from '@/ui/kit/Marked';

const most = 60;
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
        const from = Math.max(0, Math.floor(Number(query.from)) || 0);
        const last = Math.min(from + most, shown.length);
        const withFrom = (next: number) =>
          `/feeds/${feed}/differences?from=${next}${query.only ? `&only=${query.only}` : ''}`;
        return (
          <>
            <div className="bench-head">
              <h2 style={{ whiteSpace: 'nowrap' }}>What the draft changes</h2>
              <AddressFilter
                param="only"
                what="field"
                total={found.length}
                options={[...counts].flatMap(([at, count]) => {
                  const field = sheet.fields[at];
                  return field ? [{ key: field.code, label: field.label, count }] : [];
                })}
              />
            </div>
            <div className="bench-body">
              {found.length === 0 && (
                <Empty title="No listing changes.">
                  <span className="muted">The draft makes the same listings as the published version.</span>
                </Empty>
              )}
              <table className="plain">
                <tbody>
                  {shown.slice(from, last).map((difference) => (
                    <tr key={difference.sku}>
                      <td style={{ width: 170 }}>
                        <Link
                          className="mono"
                          href={`/feeds/${feed}/differences?sample=${encodeURIComponent(difference.sku)}${query.only ? `&only=${query.only}&field=${query.only}` : ''}${from > 0 ? `&from=${from}` : ''}`}
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
                <p className="row" style={{ padding: 12 }}>
                  <span className="muted">
                    {from + 1} to {last} of {shown.length.toLocaleString()}
                  </span>
                  {from > 0 && (
                    <Link className="text" href={withFrom(Math.max(0, from - most))}>
                      Before
                    </Link>
                  )}
                  {last < shown.length && (
                    <Link className="text" href={withFrom(last)}>
                      Next
                    </Link>
                  )}
                </p>
              )}
            </div>
          </>
        );
      }}
    </FeedFrame>
  );
}, feedPage);
