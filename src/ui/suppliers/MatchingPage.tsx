'use client';
import { Button } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { applySupplierMatches, decideSupplierMatch, deleteSupplier } from '@/actions/catalog';
import type { MatchingView } from '@/server/suppliers/suppliers';
import { counted } from '../kit/display/counted';
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
    doubts: `In doubt ${view.doubts.length.toLocaleString()}`,
    pairs: `Paired ${view.pairs.length.toLocaleString()}`,
    items: `Items without ${view.itemCount.toLocaleString()}`,
    variants: `Left of theirs ${view.variants.length.toLocaleString()}`,
    refused: `Said no ${view.refused.length.toLocaleString()}`,
  };
  const show: Show = asked ?? (view.doubts.length > 0 ? 'doubts' : 'pairs');
  const settle = (sku: string, variant: string, same: boolean | null) =>
    acts.run((press) => decideSupplierMatch(view.code, sku, variant, same, press));
  return (
    <>
      <header className="page-head">
        <h1>{view.name}</h1>
        <span className="sub">
          {counted(view.pairs.length, 'item')} paired, each with the partner’s code, cost and stock
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
            Take the range away
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
          theirs="May be the partner’s"
          money="cost"
          none="Every item is paired, or nothing of the range is like it."
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
                head: show === 'pairs' ? 'Is the partner’s' : 'Is not the partner’s',
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
                  <span title={supports.join('\n')}>{byHand ? 'by hand' : 'was sure'}</span>
                ),
              },
              {
                head: '',
                width: 80,
                className: 'nowrap',
                cell: ({ item, variant }) => (
                  <TextButton onClick={() => settle(item.code, variant.code, null)}>
                    {show === 'pairs' ? 'Part' : 'Look again'}
                  </TextButton>
                ),
              },
            ]}
            empty={<Empty title={show === 'pairs' ? 'Nothing is paired yet.' : 'Nothing was said no to.'} />}
          />
        </div>
      )}
      {(show === 'items' || show === 'variants') && (
        <div className="panel scrolling">
          <Products
            rows={view[show]}
            code="Code"
            money={show === 'items' ? 'Price' : 'Cost'}
            empty={show === 'items' ? 'Every item is like one of theirs.' : 'Nothing of theirs is left.'}
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
        <CheckboxField name="Stock too" checked={stock} onChange={setStock} />
      )}
      {view.gives.includes('cost') && (
        <TextField
          name="Prices for a profit of %"
          shown="beside"
          width={56}
          value={profit}
          onChange={setProfit}
          error={wrong}
          title="The share of the price that is left when the cost is paid; prices stay where this is empty"
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
        Give items code and cost
      </Button>
    </span>
  );
}
