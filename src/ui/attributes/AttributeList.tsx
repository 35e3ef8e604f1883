'use client';
import { Button } from '@mantine/core';
import { useState } from 'react';
import { kindName } from '@/core/catalog/attributeKinds';
import { counted, formatNumber } from '@/core/formatting/formatting';
import type { AttributeLine } from '@/server/catalog/attributes';
import { Bar } from '../kit/display/Bar';
import { FilterChips } from '../kit/display/FilterChips';
import { Link } from '../kit/Link';
import { AttributeForm } from './AttributeForm';
import { itemsHref, oddWords, valueHref } from './oddWords';
import './attributes.css';
import { type DataColumn, DataTable } from '../kit/display/DataTable';
import { SearchField } from '../kit/inputs/inputs';

/** A term of a standard as people read it: "in stock", not its code. */
const wordsOf = ({ terms }: Pick<AttributeLine, 'terms'>, value: string): string =>
  terms?.find(({ term }) => term === value)?.label ?? value;

type Show = 'all' | 'odd' | 'empty';

/** Every attribute with how it stands: filled, distinct, most frequent, and what is odd, each leading to the items. */
export function AttributeList({ lines, items }: { lines: readonly AttributeLine[]; items: number }) {
  const [find, setFind] = useState('');
  const [show, setShow] = useState<Show>('all');
  const [adding, setAdding] = useState(false);
  const tests: Record<Show, (line: AttributeLine) => boolean> = {
    all: () => true,
    odd: ({ quality }) => quality.odd.length > 0,
    empty: ({ quality }) => quality.filled === 0,
  };
  const names: Record<Show, string> = { all: 'All', odd: 'Unusual values', empty: 'Always empty' };
  const shown = lines.filter(
    (line) => tests[show](line) && `${line.label} ${line.code}`.toLowerCase().includes(find.toLowerCase()),
  );
  const columns: DataColumn<AttributeLine>[] = [
    {
      head: 'Attribute',
      by: ({ label }) => label,
      cell: ({ code, label, family }) => (
        <>
          <Link className="text" href={`/attributes/${code}`}>
            {label}
          </Link>
          {family && <span className="small muted"> only {family}</span>}
        </>
      ),
    },
    {
      head: 'Kind',
      by: ({ kind }) => kindName(kind),
      className: 'muted',
      cell: ({ kind, unit }) => `${kindName(kind)}${unit ? `, ${unit}` : ''}`,
    },
    {
      head: 'Filled',
      by: ({ quality }) => quality.filled,
      cell: ({ code, quality: { filled } }) => (
        <Link
          className="coverage"
          href={`/items?columns=sku,name,${code}&f.${code}=${filled < items ? '-' : ''}`}
        >
          <Bar segments={[{ share: items === 0 ? 0 : filled / items, kind: 'ready' }]} />
          <span className="number">{formatNumber(filled)}</span>
        </Link>
      ),
    },
    {
      head: 'Distinct',
      by: ({ quality }) => quality.distinct,
      className: 'number',
      cell: ({ quality }) => formatNumber(quality.distinct),
    },
    {
      head: 'Most frequent',
      className: 'cut top',
      cell: ({ quality: { filled, distinct, top }, ...attribute }) =>
        filled > 0 &&
        distinct < filled &&
        top.slice(0, 3).map(([value, count]) => (
          <Link key={value} href={valueHref(attribute.code, value)} title={counted(count, 'item')}>
            <span className="mono">
              {wordsOf(attribute, value)
                .replace(/<[^>]*>/g, ' ')
                .slice(0, 24)}
            </span>{' '}
            <span className="muted small">{count}</span>{' '}
          </Link>
        )),
    },
    {
      head: 'Unusual values',
      by: ({ quality }) => quality.odd.length,
      cell: ({ code, quality: { odd } }) => (
        <div className="odd">
          {odd.slice(0, 2).map((one) => (
            <Link key={one.kind + one.values[0]} className="tone-risk" href={itemsHref(one.skus, code)}>
              {oddWords(one)}
            </Link>
          ))}
          {odd.length > 2 && (
            <Link className="text small" href={`/attributes/${code}`}>
              and {odd.length - 2} more
            </Link>
          )}
        </div>
      ),
    },
  ];
  return (
    <>
      <header className="page-head">
        <h1>Attributes</h1>
        <span className="sub">what {formatNumber(items)} items say, and what looks wrong</span>
        <div className="acts">
          <SearchField name="Find an attribute" start={find} onFind={setFind} />
          <Button aria-expanded={adding} onClick={() => setAdding(!adding)}>
            Add an attribute
          </Button>
        </div>
      </header>
      {adding && <AttributeForm families={[]} onDone={() => setAdding(false)} />}
      <div style={{ paddingBottom: 8 }}>
        <FilterChips
          options={(Object.keys(names) as Show[]).map(
            (one) => [one, `${names[one]} ${lines.filter(tests[one]).length}`] as const,
          )}
          current={show}
          onPick={setShow}
        />
      </div>
      <div className="panel scrolling">
        <DataTable rows={shown} columns={columns} keyOf={({ code }) => code} className="attributes" />
      </div>
    </>
  );
}
