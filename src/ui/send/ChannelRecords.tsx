'use client';
import { askChannelAgain, takeChannelList } from '@/actions/submissions';
import { counted, formatNumber } from '@/core/formatting/formatting';
import type { ListDifference } from '@/core/ledger/comparison';
import type { ComparisonView } from '@/server/submissions/channelRecords';
import { When } from '../kit/display/When';
import type { Action } from '../kit/hooks/useAction';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';

const wordsOf = (one: ListDifference, labelOf: (field: string) => string): string =>
  one.what === 'missing'
    ? 'accepted in our records, not in the list'
    : one.what === 'extra'
      ? one.known
        ? 'in the list, not accepted in our records'
        : 'in the list, unknown in our records'
      : `${labelOf(one.field)}: ${one.theirs || 'empty'} in the list, ${one.ours || 'empty'} in our records`;

const BATCH_SHOWN = 8;

/** How the list of what the channel has compares with our records. */
export function ChannelRecords({
  feed,
  records,
  labels,
  doing,
}: {
  feed: string;
  records: ComparisonView;
  labels: Readonly<Record<string, string>>;
  doing: Action;
}) {
  const { comparedAt, ours, theirs, differing, differences, trouble } = records;
  return (
    <section aria-label="Comparison with the channel’s list" className="records">
      <h2>Comparison with the channel’s list</h2>
      <p className="small muted">
        {comparedAt ? (
          <>
            <When at={comparedAt} />: {formatNumber(theirs)} in its list, {formatNumber(ours)} accepted in our
            records.
          </>
        ) : (
          'Not compared yet. Lively Cart compares once a day.'
        )}
      </p>
      {trouble && <p className="small tone-risk">{trouble}</p>}
      {comparedAt && differing === 0 && <p className="small tone-ready">No differences.</p>}
      {differing > 0 && (
        <>
          <p className="small tone-blocker">{counted(differing, 'difference')}</p>
          <ul className="lines small">
            {differences.slice(0, BATCH_SHOWN).map((one) => (
              <li key={`${one.sku}${one.what === 'differs' ? one.field : ''}`}>
                <Link className="text mono" href={`/items/${encodeURIComponent(one.sku)}`}>
                  {one.sku}
                </Link>{' '}
                {wordsOf(one, (field) => labels[field] ?? field)}
              </li>
            ))}
          </ul>
          {differing > BATCH_SHOWN && (
            <p className="small muted">and {formatNumber(differing - BATCH_SHOWN)} more</p>
          )}
        </>
      )}
      <span className="small row">
        <TextButton
          onClick={() => doing.run(askChannelAgain(feed), 'Comparing. Reload in a moment to see the result.')}
          disabled={doing.busy}
        >
          Compare now
        </TextButton>
        {differing > 0 && (
          <TextButton
            onClick={() =>
              doing.run(
                takeChannelList(feed),
                'Our records match the list. Uncertain listings will be sent again.',
              )
            }
            disabled={doing.busy}
          >
            Update our records from the list
          </TextButton>
        )}
      </span>
    </section>
  );
}
