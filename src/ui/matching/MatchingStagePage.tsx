'use client';
import { Button } from '@mantine/core';
import { refuseEntryOf, searchEntries } from '@/actions/feeds';
import { counted, formatNumber } from '@/core/formatting/formatting';
import type { ProductView } from '@/server/items/products';
import type { MatchingStage, MatchView } from '@/server/stages/matching';
import { useDraft } from '../draft/useDraft';
import { DataTable } from '../kit/display/DataTable';
import { FilterChips } from '../kit/display/FilterChips';
import { Empty } from '../kit/Empty';
import { useAction } from '../kit/hooks/useAction';
import { useAddress } from '../kit/hooks/useAddress';
import { usePolling } from '../kit/hooks/usePolling';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import { CandidateMatches } from './CandidateMatches';
import { ItemName, Products } from './Products';

type Show = 'doubts' | 'sure' | 'joined' | 'none';
const shows: readonly Show[] = ['doubts', 'sure', 'joined', 'none'];

const pairOf = ({ item, entry }: MatchView) => ({ sku: item.code, entry });

/** What the channel has already, beside the items that might join it: little is asked of those that do. */
export function MatchingStagePage({ stage }: { stage: MatchingStage }) {
  const draft = useDraft();
  const doing = useAction();
  const { query, go, path } = useAddress();
  const waiting = stage.waiting > 0;
  usePolling(waiting, 1200);
  const families = path.replace(/\/matching$/, '/families');
  if (!stage.can)
    return (
      <Empty title={`${stage.channel} has no list of its entries to match.`}>
        <Link className="text" href={families}>
          Go to Families
        </Link>
      </Empty>
    );
  const join = (pairs: readonly { sku: string; entry: ProductView }[]) =>
    draft.save({
      edit: 'joined',
      joined: Object.fromEntries(
        pairs.map(({ sku, entry }) => [sku, { entry: entry.code, name: entry.name.slice(0, 500) }]),
      ),
    });
  const part = (sku: string) => draft.save({ edit: 'joined', joined: { [sku]: null } });
  const settle = (sku: string, entry: ProductView, same: boolean | null) => {
    if (same === true) void join([{ sku, entry }]);
    else if (same === false) doing.run(refuseEntryOf(draft.feed, sku, entry.code, true));
    else if (stage.joined.some(({ item }) => item.code === sku)) void part(sku);
    else doing.run(refuseEntryOf(draft.feed, sku, entry.code, false));
  };
  const names: Record<Show, string> = {
    doubts: `Uncertain ${formatNumber(stage.doubts.length)}`,
    sure: `Certain ${formatNumber(stage.sure.length)}`,
    joined: `Matched ${formatNumber(stage.joined.length)}`,
    none: `No match ${formatNumber(stage.noneCount)}`,
  };
  const wanted = shows.find((one) => one === query.get('show'));
  const show: Show =
    wanted ?? (stage.doubts.length > 0 ? 'doubts' : stage.sure.length > 0 ? 'sure' : 'joined');
  return (
    <>
      <div className="bench-head">
        <FilterChips
          options={shows.map((one) => [one, names[one]] as const)}
          current={show}
          onPick={(next) => go({ show: next })}
        />
        <span className="small muted" role="status" style={{ marginLeft: 'auto' }}>
          {waiting
            ? `${counted(stage.waiting, 'item')} still to look up${stage.trouble ? `; ${stage.trouble}` : ' …'}`
            : (stage.trouble ?? (stage.asked > 0 && `searched for ${counted(stage.asked, 'item')}`))}
        </span>
        {stage.unasked > 0 && !waiting && (
          <Button
            variant={stage.asked > 0 ? 'default' : 'filled'}
            disabled={doing.busy}
            onClick={() => doing.run(searchEntries(draft.feed))}
          >
            Search for {counted(stage.unasked, 'item')}
          </Button>
        )}
        {show === 'sure' && stage.sure.length > 0 && (
          <Button disabled={draft.busy} onClick={() => void join(stage.sure.map(pairOf))}>
            Match {counted(stage.sure.length, 'item')}
          </Button>
        )}
      </div>
      <div className="bench-body" aria-busy={draft.busy || doing.busy}>
        <p className="small muted" style={{ padding: '8px 14px' }} title={stage.fields.join(', ')}>
          An item matched to an entry of {stage.channel} creates no entry of its own. Sent for it:{' '}
          {stage.fields.slice(0, 3).join(', ')} and other offer data; no texts, pictures or category.
        </p>
        {show === 'doubts' && (
          <CandidateMatches
            doubts={stage.doubts}
            busy={draft.busy || doing.busy}
            theirs={`Possible entries of ${stage.channel}`}
            money="price"
            none={
              stage.asked === 0
                ? `${stage.channel} was not searched for your items yet.`
                : 'Every item is matched, certain, or has no similar entry.'
            }
            onSettle={settle}
          />
        )}
        {show === 'sure' && (
          <Pairs
            rows={stage.sure}
            empty="No certain matches."
            act={(one) => (
              <span className="row">
                <TextButton onClick={() => void join([pairOf(one)])}>Match</TextButton>
                <TextButton onClick={() => settle(one.item.code, one.entry, false)}>Reject</TextButton>
              </span>
            )}
          />
        )}
        {show === 'joined' && (
          <Pairs
            stands
            rows={stage.joined}
            empty="No matched items yet."
            act={({ item }) => <TextButton onClick={() => void part(item.code)}>Unmatch</TextButton>}
          />
        )}
        {show === 'none' && (
          <Products
            rows={stage.none}
            code="SKU"
            money="Price"
            empty={`${stage.channel} has an entry for every item searched.`}
          />
        )}
      </div>
    </>
  );
}

/** Items beside the entries they join, or surely are. */
function Pairs({
  rows,
  stands = false,
  empty,
  act,
}: {
  rows: readonly MatchView[];
  /** Whether it is shown how they stand at the channel. */
  stands?: boolean;
  empty: string;
  act(row: MatchView): React.ReactNode;
}) {
  return (
    <DataTable
      rows={rows}
      keyOf={({ item }) => item.code}
      rowHeight={52}
      columns={[
        {
          head: 'Item',
          by: ({ item }) => item.name,
          cell: ({ item }) => (
            <span>
              <ItemName item={item} />
              <span className="mono small muted" style={{ display: 'block' }}>
                {item.code}
              </span>
            </span>
          ),
        },
        {
          head: 'The channel’s entry',
          by: ({ entry }) => entry.name,
          cell: ({ entry }) => (
            <span>
              {entry.name} <span className="muted">{entry.axes.join(', ')}</span>
              <span className="mono small muted" style={{ display: 'block' }}>
                {entry.code}
              </span>
            </span>
          ),
        },
        {
          head: stands ? 'At the channel' : 'Evidence',
          className: 'small muted',
          cell: ({ supports, sent }) => (stands ? sent || 'not sent yet' : supports.join(', ')),
        },
        { head: '', width: 130, className: 'nowrap', cell: act },
      ]}
      empty={<Empty title={empty} />}
    />
  );
}
