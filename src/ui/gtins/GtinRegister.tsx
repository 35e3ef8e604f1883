'use client';
import { Button } from '@mantine/core';
import { useState } from 'react';
import { addGtins, assignGtinsTo, removeGtins } from '@/actions/catalog/gtins';
import { counted, formatNumber } from '@/core/formatting/formatting';
import type { RegisterView } from '@/server/items/gtinRegister';
import { Bar } from '../kit/display/Bar';
import { DataTable } from '../kit/display/DataTable';
import { Empty } from '../kit/Empty';
import { useCatalog } from '../kit/hooks/useCatalog';
import { CheckboxField, TextField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import './gtins.css';

/** The numbers that were bought: what is used and left, and the next free one for each item that has none. */
export function GtinRegister({ view }: { view: RegisterView }) {
  const acts = useCatalog();
  const [adding, setAdding] = useState(false);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const shown = view.without.filter(({ sku }) => chosen.has(sku)).map(({ sku }) => sku);
  const put = (skus: readonly string[], on: boolean) =>
    setChosen((known) => {
      const next = new Set(known);
      for (const sku of skus)
        if (on) next.add(sku);
        else next.delete(sku);
      return next;
    });
  const all = shown.length > 0 && shown.length === view.without.length;
  return (
    <>
      <header className="page-head">
        <h1>GTINs</h1>
        <span className="sub">
          GTINs you own: {formatNumber(view.left)} left, {counted(view.withoutCount, 'item')} without a GTIN
        </span>
        <div className="acts">
          <Button aria-expanded={adding} onClick={() => setAdding(!adding)}>
            Add a block
          </Button>
        </div>
      </header>
      {adding && <BlockForm onDone={() => setAdding(false)} />}
      <div className="panel blocks">
        <DataTable
          rows={view.blocks}
          keyOf={({ id }) => String(id)}
          columns={[
            {
              head: 'From – to',
              cell: ({ first, last }) => (
                <span className="mono">
                  {first} – {last}
                </span>
              ),
            },
            {
              head: 'Used',
              width: 220,
              cell: ({ used, count }) => (
                <span className="coverage">
                  <Bar segments={[{ share: used / count, kind: 'primary' }]} />
                  <span className="number">
                    {formatNumber(used)} of {formatNumber(count)}
                  </span>
                </span>
              ),
            },
            {
              head: 'Next',
              width: 180,
              cell: ({ next }) =>
                next ? <span className="mono">{next}</span> : <span className="tone-risk">used up</span>,
            },
            {
              head: '',
              width: 110,
              className: 'nowrap',
              cell: ({ id }) => (
                <TextButton onClick={() => acts.run((press) => removeGtins(id, press))}>Remove</TextButton>
              ),
            },
          ]}
          empty={
            <Empty title="No GTINs yet.">
              <span>
                Enter the first number of a block and its size, as in your certificate. Numbers that items
                already use are recognised. For example: 9520000010004 and 100.
              </span>
            </Empty>
          }
        />
      </div>
      <div className="row without-head">
        <h2 className="grow">Items without a GTIN</h2>
        <Button
          disabled={shown.length === 0 || view.left === 0 || acts.busy}
          onClick={() =>
            acts.run(
              (press) => assignGtinsTo(shown, press),
              () => setChosen(new Set()),
            )
          }
        >
          {shown.length > 0 ? `Assign GTINs to ${counted(shown.length, 'item')}` : 'Assign a GTIN'}
        </Button>
      </div>
      <div className="panel scrolling">
        <DataTable
          rows={view.without}
          keyOf={({ sku }) => sku}
          columns={[
            {
              head: 'Selected',
              width: 80,
              cell: ({ sku }) => (
                <CheckboxField
                  name={`Choose ${sku}`}
                  words={false}
                  checked={chosen.has(sku)}
                  onChange={(on) => put([sku], on)}
                />
              ),
            },
            {
              head: 'Item',
              by: ({ name }) => name,
              cell: ({ sku, name }) => (
                <Link className="text" href={`/items/${encodeURIComponent(sku)}`}>
                  {name || sku}
                </Link>
              ),
            },
            {
              head: 'SKU',
              width: 220,
              by: ({ sku }) => sku,
              className: 'mono small',
              cell: ({ sku }) => sku,
            },
            {
              head: 'Family',
              width: 160,
              by: ({ family }) => family,
              className: 'muted',
              cell: ({ family }) => family,
            },
          ]}
          empty={<Empty title="Every item has a GTIN." />}
        />
      </div>
      {view.without.length > 0 && (
        <div className="row small">
          <TextButton
            onClick={() =>
              put(
                view.without.map(({ sku }) => sku),
                !all,
              )
            }
          >
            {all ? 'Select none' : `Select all ${formatNumber(view.without.length)}`}
          </TextButton>
          {view.withoutCount > view.without.length && (
            <span className="muted">
              The first {formatNumber(view.without.length)} of {formatNumber(view.withoutCount)}.
            </span>
          )}
        </div>
      )}
    </>
  );
}

function BlockForm({ onDone }: { onDone(): void }) {
  const acts = useCatalog();
  const [first, setFirst] = useState('');
  const [count, setCount] = useState('');
  const [refused, setRefused] = useState<string>();
  const number = Number(count);
  return (
    <form
      className="panel family-form"
      onSubmit={(event) => {
        event.preventDefault();
        acts.run((press) => addGtins(first, number, press), onDone, setRefused);
      }}
    >
      <TextField
        name="First number"
        shown="beside"
        mono
        width={190}
        value={first}
        onChange={setFirst}
        autoFocus
      />
      <TextField name="How many" shown="beside" width={90} value={count} onChange={setCount} />
      <Button
        type="submit"
        disabled={first.trim() === '' || !Number.isInteger(number) || number < 1 || acts.busy}
      >
        Add block
      </Button>
      {refused && <span className="tone-blocker small">{refused}</span>}
    </form>
  );
}
