import { formatNumber } from '@/core/formatting/formatting';
import type { DifferencesPage } from '@/server/evaluation/differences';
import { Marked } from '../kit/display/Marked';
import { Empty } from '../kit/Empty';
import { AddressFilter } from '../kit/inputs/AddressFilter';
import { Link } from '../kit/Link';

const states = {
  ready: { words: 'ready', tone: 'tone-ready' },
  blocked: { words: 'blocked', tone: 'tone-blocker' },
  leftOut: { words: 'excluded', tone: 'muted' },
} as const;

interface DifferencesProps {
  feed: string;
  page: DifferencesPage;
  /** The one field that is shown; all where left out. */
  only: string | undefined;
  /** The versions that are compared, as the address has them. */
  versions: { readonly old?: string | undefined; readonly new?: string | undefined };
}

/** What a draft changes, a listing a line, each value before and after. */
export function Differences({
  feed,
  page: { compared, total, counts, lines, from, last, matching, atOnce },
  only,
  versions,
}: DifferencesProps) {
  const most = last - from;
  const address = (more: Record<string, string | undefined>) => {
    const query = new URLSearchParams(
      Object.entries({ ...versions, ...more }).flatMap(([name, value]) => (value ? [[name, value]] : [])),
    );
    return `/feeds/${feed}/differences?${query}`;
  };
  return (
    <>
      <div className="bench-head">
        <h2 style={{ whiteSpace: 'nowrap' }}>
          {compared ? `From ${compared.old} to ${compared.new}` : 'Changes in the draft'}
        </h2>
        <AddressFilter param="only" what="field" total={total} options={counts} />
      </div>
      <div className="bench-body">
        {total === 0 && (
          <Empty title="No listing changes.">
            <span className="muted">
              {compared
                ? 'Both versions give the same listings for the present catalog.'
                : 'The draft gives the same listings as the published version.'}
            </span>
          </Empty>
        )}
        <table className="plain">
          <tbody>
            {lines.map(({ sku, name, before, after, fields, cleared, appeared, entry }) => (
              <tr key={sku}>
                <td style={{ width: 230 }}>
                  <Link
                    href={address({
                      sample: sku,
                      only,
                      field: only,
                      from: from > 0 ? String(from) : undefined,
                    })}
                  >
                    <b>{name || sku}</b>
                    <span className="mono muted small" style={{ display: 'block' }}>
                      {sku}
                    </span>
                  </Link>
                  {before !== after && (
                    <div className="small">
                      <span className={before === 'blocked' ? 'tone-blocker' : 'muted'}>
                        {states[before].words}
                      </span>{' '}
                      → <span className={states[after].tone}>{states[after].words}</span>
                    </div>
                  )}
                </td>
                <td>
                  {entry && (
                    <div>
                      <span className="muted">In the file: </span>
                      {entry.before} → {entry.after}
                    </div>
                  )}
                  {fields.map(({ label, pieces }) => (
                    <div key={label}>
                      <span className="muted">{label}: </span>
                      <Marked pieces={pieces} />
                    </div>
                  ))}
                  {cleared.map((words) => (
                    <div key={`c${words}`} className="small tone-ready">
                      clears: {words}
                    </div>
                  ))}
                  {appeared.map((words) => (
                    <div key={`a${words}`} className="small tone-blocker">
                      appears: {words}
                    </div>
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {matching > most && (
          <p className="row" style={{ padding: 12 }}>
            <span className="muted">
              {from + 1} to {last} of {formatNumber(matching)}
            </span>
            {from > 0 && (
              <Link className="text" href={address({ from: String(Math.max(0, from - atOnce)), only })}>
                Before
              </Link>
            )}
            {last < matching && (
              <Link className="text" href={address({ from: String(from + atOnce), only })}>
                Next
              </Link>
            )}
          </p>
        )}
      </div>
    </>
  );
}
