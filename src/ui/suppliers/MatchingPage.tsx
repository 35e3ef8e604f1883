'use client';
import { Button } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { applySupplierMatches, decideSupplierMatch, deleteSupplier } from '@/actions/catalog/suppliers';
import { counted, formatNumber } from '@/core/formatting/formatting';
import type { MatchingView } from '@/server/suppliers/suppliers';
import { DataTable } from '../kit/display/DataTable';
import { FilterChips } from '../kit/display/FilterChips';
import { Empty } from '../kit/Empty';
import { useCatalog } from '../kit/hooks/useCatalog';
import { CheckboxField, TextField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { CandidateMatches } from '../matching/CandidateMatches';
import { ItemName, Products } from '../matching/Products';

type Show = 'doubts' | 'pairs' | 'items' | 'variants' | 'refused';

/** A partner's range beside the merchant's items: what is paired, what is in doubt, and what is left on both sides. */
export function MatchingPage({ view }: { view: MatchingView }) {
  const acts = useCatalog(undefined, false);
  const router = useRouter();
  const [asked, ask] = useState<Show>();
  const names: Record<Show, string> = {
    doubts: `Uncertain ${formatNumber(view.doubts.length)}`,
    pairs: `Matched ${formatNumber(view.pairs.length)}`,
    items: `Unmatched items ${formatNumber(view.itemCount)}`,
    variants: `Unmatched variants ${formatNumber(view.variants.length)}`,
    refused: `Rejected ${formatNumber(view.refused.length)}`,
  };
  const show: Show = asked ?? (view.doubts.length > 0 ? 'doubts' : 'pairs');
  const settle = (sku: string, variant: string, same: boolean | null) =>
    acts.run((press) => decideSupplierMatch(view.code, sku, variant, same, press));
  return (
    <>
      <header className="page-head">
        <h1>{view.name}</h1>
        <span className="sub">
          {counted(view.pairs.length, 'item')} matched to the supplier’s code, cost and stock
        </span>
        <div className="acts">
          <TextButton
            onClick={() =>
              acts.run(
                (press) => deleteSupplier(view.code, press),
                () => router.push('/suppliers'),
              )
            }
          >
            Delete range
          </TextButton>
        </div>
      </header>
      <div className="row" style={{ paddingBottom: 8 }}>
        <FilterChips
          options={(Object.keys(names) as Show[])
            .filter((one) => one !== 'refused' || view.refused.length > 0)
            .map((one) => [one, names[one]] as const)}
          current={show}
          onPick={ask}
        />
        <Give view={view} />
      </div>
      {show === 'doubts' && (
        <CandidateMatches
          doubts={view.doubts}
          busy={acts.busy}
          theirs="Possible variants of the supplier"
          money="cost"
          none="Every item is matched, or has no similar variant."
          onSettle={(sku, { code }, same) => settle(sku, code, same)}
        />
      )}
      {(show === 'pairs' || show === 'refused') && (
        <div className="panel scrolling">
          <DataTable
            rows={view[show]}
            keyOf={({ item, variant }) => `${item.code} ${variant.code}`}
            rowHeight={44}
            columns={[
              {
                head: 'Item',
                by: ({ item }) => item.name,
                cell: ({ item }) => (
                  <span>
                    <ItemName item={item} />
                  </span>
                ),
              },
              {
                head: show === 'pairs' ? 'Match' : 'Rejected match',
                by: ({ variant }) => variant.name,
                cell: ({ variant }) => (
                  <span>
                    <span className="mono small">{variant.code}</span> {variant.name}{' '}
                    <span className="muted">{variant.axes.join(', ')}</span>
                  </span>
                ),
              },
              {
                head: 'Cost',
                width: 80,
                className: 'number',
                by: ({ variant }) => Number(variant.price),
                cell: ({ variant }) => variant.price,
              },
              {
                head: 'Stock',
                width: 70,
                className: 'number',
                by: ({ variant }) => Number(variant.stock),
                cell: ({ variant }) => variant.stock,
              },
              {
                head: 'Taken',
                width: 120,
                className: 'muted nowrap',
                by: ({ byHand }) => (byHand ? 'by hand' : 'sure'),
                cell: ({ byHand, supports }) => (
                  <span title={supports.join('\n')}>{byHand ? 'by hand' : 'certain'}</span>
                ),
              },
              {
                head: '',
                width: 80,
                className: 'nowrap',
                cell: ({ item, variant }) => (
                  <TextButton onClick={() => settle(item.code, variant.code, null)}>
                    {show === 'pairs' ? 'Unmatch' : 'Reconsider'}
                  </TextButton>
                ),
              },
            ]}
            empty={<Empty title={show === 'pairs' ? 'No matches yet.' : 'No rejected matches.'} />}
          />
        </div>
      )}
      {(show === 'items' || show === 'variants') && (
        <div className="panel scrolling">
          <Products
            rows={view[show]}
            code="Code"
            money={show === 'items' ? 'Price' : 'Cost'}
            empty={show === 'items' ? 'Every item has a similar variant.' : 'Every variant is matched.'}
          />
        </div>
      )}
    </>
  );
}

/** What pairs give their items, taken with one press. */
function Give({ view }: { view: MatchingView }) {
  const acts = useCatalog();
  const [stock, setStock] = useState(view.gives.includes('inventoryLevel'));
  const [profit, setProfit] = useState('');
  const share = profit.trim() === '' ? undefined : Number(profit.replace(',', '.'));
  const wrong = share !== undefined && !(share >= 0 && share <= 95);
  return (
    <span className="row small">
      {view.gives.includes('inventoryLevel') && (
        <CheckboxField name="Update stock" checked={stock} onChange={setStock} />
      )}
      {view.gives.includes('cost') && (
        <TextField
          name="Set prices for a margin of %"
          shown="beside"
          width={56}
          value={profit}
          onChange={setProfit}
          error={wrong}
          title="Margin: share of the price after the cost. Empty: prices stay."
        />
      )}
      <Button
        disabled={view.pairs.length === 0 || wrong || acts.busy}
        onClick={() =>
          acts.run((press) =>
            applySupplierMatches(
              view.code,
              { stock, ...(share === undefined ? {} : { profit: share }) },
              press,
            ),
          )
        }
      >
        Update codes and costs
      </Button>
    </span>
  );
}
