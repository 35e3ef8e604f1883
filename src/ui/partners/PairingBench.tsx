'use client';
import { Button } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { givePairsToItems, settlePartnerPair, takePartnerRangeAway } from '@/actions/catalog';
import type { PairingView, WareView } from '@/server/catalog/partners';
import { counted } from '../kit/counted';
import { DataTable } from '../kit/DataTable';
import { Empty } from '../kit/Empty';
import { FilterChips } from '../kit/FilterChips';
import { Tick, Words } from '../kit/inputs';
import { Link } from '../kit/Link';
import { Picture } from '../kit/Picture';
import { TextButton } from '../kit/TextButton';
import { useCatalog } from '../kit/useCatalog';
import './partners.css';

type Show = 'doubts' | 'pairs' | 'items' | 'variants' | 'refused';

/** A partner's range beside the merchant's items: what is paired, what is in doubt, and what is left on both sides. */
export function PairingBench({ view }: { view: PairingView }) {
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
    acts.run(() => settlePartnerPair(view.code, sku, variant, same));
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
                () => takePartnerRangeAway(view.code),
                () => router.push('/partners'),
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
      {show === 'doubts' && <Doubts view={view} settle={settle} busy={acts.busy} />}
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
                    <Link className="text" href={`/items/${encodeURIComponent(item.code)}`}>
                      {item.name}
                    </Link>{' '}
                    <span className="muted">{item.axes.join(', ')}</span>
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
          <DataTable
            rows={view[show]}
            keyOf={({ code }) => code}
            rowHeight={37}
            columns={[
              {
                head: 'Code',
                width: 200,
                by: ({ code }) => code,
                className: 'mono small',
                cell: ({ code }) => code,
              },
              { head: 'Name', by: ({ name }) => name, cell: ({ name }) => name },
              {
                head: 'Variant',
                by: ({ axes }) => axes.join(),
                className: 'muted',
                cell: ({ axes }) => axes.join(', '),
              },
              {
                head: show === 'items' ? 'Price' : 'Cost',
                width: 100,
                className: 'number',
                by: ({ price }) => Number(price),
                cell: ({ price }) => price,
              },
            ]}
            empty={
              <Empty
                title={show === 'items' ? 'Every item is like one of theirs.' : 'Nothing of theirs is left.'}
              />
            }
          />
        </div>
      )}
    </>
  );
}

/** What pairs give their items, taken with one press. */
function Give({ view }: { view: PairingView }) {
  const acts = useCatalog();
  const [stock, setStock] = useState(view.gives.includes('inventoryLevel'));
  const [profit, setProfit] = useState('');
  const share = profit.trim() === '' ? undefined : Number(profit.replace(',', '.'));
  const wrong = share !== undefined && !(share >= 0 && share <= 95);
  return (
    <span className="row small">
      {view.gives.includes('inventoryLevel') && <Tick name="Stock too" checked={stock} onChange={setStock} />}
      {view.gives.includes('cost') && (
        <Words
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
          acts.run(() =>
            givePairsToItems(view.code, { stock, ...(share === undefined ? {} : { profit: share }) }),
          )
        }
      >
        Give items code and cost
      </Button>
    </span>
  );
}

interface DoubtsProps {
  view: PairingView;
  busy: boolean;
  settle(sku: string, variant: string, same: boolean | null): void;
}

/** One doubt after another: the item, and beside it what it may be, with what speaks for and against each. */
function Doubts({ view, busy, settle }: DoubtsProps) {
  const [skipped, setSkipped] = useState<readonly string[]>([]);
  const [at, setAt] = useState(0);
  const done = useRef<{ sku: string; variant: string }[]>([]);
  const waiting = view.doubts.filter(({ item }) => !skipped.includes(item.code));
  const doubt = waiting[0] ?? view.doubts[0];
  const chosen = doubt?.candidates[Math.min(at, doubt.candidates.length - 1)];
  const say = (same: boolean) => {
    if (!doubt || !chosen || busy) return;
    done.current.push({ sku: doubt.item.code, variant: chosen.variant.code });
    settle(doubt.item.code, chosen.variant.code, same);
    setAt(0);
  };
  const skip = () => {
    if (!doubt) return;
    setSkipped(waiting.length > 1 ? [...skipped, doubt.item.code] : []);
    setAt(0);
  };
  const back = () => {
    const last = done.current.pop();
    if (last) settle(last.sku, last.variant, null);
  };
  const move = (by: number) =>
    setAt((known) => Math.max(0, Math.min((doubt?.candidates.length ?? 1) - 1, known + by)));
  useHotkeys([
    ['ArrowDown', () => move(1)],
    ['ArrowUp', () => move(-1)],
    // A button that has the focus is what is pressed.
    ['Enter', () => document.activeElement?.tagName !== 'BUTTON' && say(true)],
    ['n', () => say(false)],
    ['s', skip],
    ['u', back],
  ]);
  if (!doubt || !chosen)
    return (
      <div className="panel">
        <Empty title="Nothing is in doubt.">
          <span>Every item is paired, or nothing of the range is like it.</span>
        </Empty>
      </div>
    );
  return (
    <div className="panel doubts">
      <div className="doubt-head small muted">
        <span className="grow" aria-live="polite">
          {counted(view.doubts.length, 'doubt')} left
        </span>
        <span>
          <kbd>↑</kbd> <kbd>↓</kbd> choose · <kbd>Enter</kbd> it is · <kbd>N</kbd> it is not · <kbd>S</kbd>{' '}
          later · <kbd>U</kbd> back
        </span>
      </div>
      <div className="doubt-grid">
        <section aria-label="Your item">
          <h2>Your item</h2>
          <WareCard ware={doubt.item} money="price" />
        </section>
        <section aria-label="What it may be">
          <h2>May be the partner’s</h2>
          <div className="candidates">
            {doubt.candidates.map((one, n) => (
              <button
                key={one.variant.code}
                type="button"
                aria-pressed={one === chosen}
                onClick={() => setAt(n)}
              >
                <WareCard ware={one.variant} money="cost" />
                <span className="speaks small">
                  {one.supports.map((words) => (
                    <span key={words} className="for">
                      {words}
                    </span>
                  ))}
                  {one.objects.map((words) => (
                    <span key={words} className="against">
                      {words}
                    </span>
                  ))}
                </span>
              </button>
            ))}
          </div>
          <div className="row">
            <Button disabled={busy} onClick={() => say(true)}>
              It is {chosen.variant.code}
            </Button>
            <Button variant="default" disabled={busy} onClick={() => say(false)}>
              It is not
            </Button>
            <TextButton onClick={skip}>Later</TextButton>
          </div>
        </section>
      </div>
    </div>
  );
}

function WareCard({ ware, money }: { ware: WareView; money: 'price' | 'cost' }) {
  return (
    <div className="ware">
      {ware.picture && <Picture file={ware.picture} name={ware.name} size={56} />}
      <span>
        <b>{ware.name}</b>
        <span className="mono small muted">{ware.code}</span>
        <span>{ware.axes.join(', ') || <span className="muted">says no colour or size</span>}</span>
        {ware.price && (
          <span className="small muted">
            {money} {ware.price}
            {ware.stock && `, ${ware.stock} in stock`}
          </span>
        )}
      </span>
    </div>
  );
}
