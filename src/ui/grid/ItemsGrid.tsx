'use client';
import { Menu } from '@mantine/core';
import { useDebouncedCallback } from '@mantine/hooks';
import { IconArrowDown, IconArrowUp, IconColumns3 } from '@tabler/icons-react';
import { useVirtualizer } from '@tanstack/react-virtual';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Attribute } from '@/core/catalog/attributes';
import type { ItemRow } from '@/server/catalog/items';
import { LinkButton } from '../bench/LinkButton';
import { useAddress } from '../bench/useAddress';
import { Picture } from '../tray/Picture';
import './grid.css';

const starting = [
  'sku',
  'name',
  'family',
  'brand',
  'category',
  'gtin',
  'price',
  'availability',
  'color',
  'glaze',
  'size',
];
const windowSize = 120;
const rowHeight = 34;

const widthOf = (code: string, attribute: Attribute | undefined): number => {
  if (code === 'sku') return 176;
  if (code === 'name') return 250;
  if (code === 'description') return 280;
  if (code === 'gtin') return 122;
  return attribute?.kind === 'money' || attribute?.kind === 'number'
    ? 82
    : attribute?.kind === 'link' || attribute?.kind === 'pictures'
      ? 220
      : 112;
};

/** All items: windows are fetched as they come into view; sorting, filters and columns stand in the address. */
export function ItemsGrid({ attributes }: { attributes: readonly Attribute[] }) {
  const { query, go } = useAddress();
  const router = useRouter();
  const known = useMemo(() => new Map(attributes.map((one) => [one.code, one])), [attributes]);
  const columns = useMemo(
    () =>
      (query.get('columns')?.split(',') ?? starting).filter(
        (code) => code === 'sku' || code === 'family' || known.has(code),
      ),
    [query, known],
  );
  const filters = useMemo(
    () =>
      Object.fromEntries(
        [...query.entries()].flatMap(([name, text]) =>
          name.startsWith('f.') ? [[name.slice(2), text]] : [],
        ),
      ),
    [query],
  );
  const sort = query.get('sort') ?? '';
  const descending = query.get('descending') === '1';
  const search = query.get('q') ?? '';
  const base = useMemo(
    () =>
      new URLSearchParams({
        columns: columns.join(','),
        q: search,
        sort,
        descending: descending ? '1' : '0',
        filters: JSON.stringify(filters),
      }).toString(),
    [columns, search, sort, descending, filters],
  );
  const [state, setState] = useState<{
    base: string;
    total: number;
    all: number;
    rows: Map<number, ItemRow>;
  }>();
  const fetched = useRef(new Set<string>());
  const scroller = useRef<HTMLDivElement>(null);
  const total = state?.total ?? 0;
  const rows = useVirtualizer({
    count: total,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const visible = rows.getVirtualItems();
  const first = Math.floor((visible[0]?.index ?? 0) / windowSize);
  const last = Math.floor((visible.at(-1)?.index ?? 0) / windowSize);
  useEffect(() => {
    for (let page = first; page <= last; page++) {
      const key = `${base}&from=${page * windowSize}&count=${windowSize}`;
      if (fetched.current.has(key)) continue;
      fetched.current.add(key);
      fetch(`/api/items?${key}`)
        .then((answer) => answer.json())
        .then((found: { total: number; all: number; rows: ItemRow[] }) =>
          setState((old) => {
            const kept = old?.base === base ? old.rows : new Map<number, ItemRow>();
            const next = new Map(kept);
            for (const [i, row] of found.rows.entries()) next.set(page * windowSize + i, row);
            return { base, total: found.total, all: found.all, rows: next };
          }),
        )
        .catch(() => fetched.current.delete(key));
    }
  }, [base, first, last]);
  const filter = useDebouncedCallback(
    (code: string, text: string) => go({ [`f.${code}`]: text || undefined }),
    250,
  );
  const find = useDebouncedCallback((text: string) => go({ q: text || undefined }), 250);
  const labelOf = (code: string) => (code === 'family' ? 'Family' : (known.get(code)?.label ?? code));
  const filtered = Object.keys(filters).length > 0 || search !== '';
  const bySort = (code: string) =>
    go(
      sort !== code
        ? { sort: code, descending: undefined }
        : descending
          ? { sort: undefined, descending: undefined }
          : { descending: '1' },
    );
  return (
    <>
      <header className="page-head">
        <h1>Items</h1>
        <span className="sub" role="status">
          {state
            ? filtered
              ? `${total.toLocaleString()} of ${state.all.toLocaleString()}`
              : total.toLocaleString()
            : '…'}
        </span>
        <div className="acts">
          {filtered && (
            <button
              type="button"
              className="link"
              onClick={() =>
                go({
                  q: undefined,
                  ...Object.fromEntries(Object.keys(filters).map((code) => [`f.${code}`, undefined])),
                })
              }
            >
              Clear filters
            </button>
          )}
          <input
            className="cell"
            style={{ width: 210 }}
            placeholder="Find in these columns"
            aria-label="Find items"
            defaultValue={search}
            onChange={(event) => find(event.target.value)}
          />
          <Menu closeOnItemClick={false} position="bottom-end">
            <Menu.Target>
              <button type="button" className="link row">
                <IconColumns3 size={16} /> Columns
              </button>
            </Menu.Target>
            <Menu.Dropdown mah={420} style={{ overflow: 'auto' }}>
              {attributes
                .filter(({ code }) => code !== 'sku')
                .map(({ code, label }) => (
                  <Menu.Item
                    key={code}
                    onClick={() =>
                      go({
                        columns: (columns.includes(code)
                          ? columns.filter((one) => one !== code)
                          : [...columns, code]
                        ).join(','),
                      })
                    }
                  >
                    {columns.includes(code) ? '✓ ' : '\u2003'}
                    {label}
                  </Menu.Item>
                ))}
            </Menu.Dropdown>
          </Menu>
          <LinkButton href="/sources">Bring in items</LinkButton>
        </div>
      </header>
      <div className="panel grid" ref={scroller} aria-busy={state?.base !== base}>
        <div className="grid-row grid-top">
          <div className="grid-cell" style={{ width: 50 }} />
          {columns.map((code) => (
            <div className="grid-cell" key={code} style={{ width: widthOf(code, known.get(code)) }}>
              <button
                type="button"
                className="plain cut"
                data-sorted={sort === code || undefined}
                onClick={() => bySort(code)}
              >
                {labelOf(code)}{' '}
                {sort === code && (descending ? <IconArrowDown size={12} /> : <IconArrowUp size={12} />)}
              </button>
              <input
                className="cell"
                key={filters[code] ?? ''}
                defaultValue={filters[code] ?? ''}
                aria-label={`Filter ${labelOf(code)}`}
                title="Part of the value; - finds empty ones"
                onChange={(event) => filter(code, event.target.value)}
              />
            </div>
          ))}
        </div>
        {state && total === 0 && (
          <div className="empty">
            <b>{state.all === 0 ? 'There are no items yet.' : 'No item matches.'}</b>
            {state.all === 0 ? (
              <LinkButton href="/sources">Bring in the first</LinkButton>
            ) : (
              <span className="muted">Clear a filter above, or look for another word.</span>
            )}
          </div>
        )}
        <div style={{ height: rows.getTotalSize(), position: 'relative' }}>
          {visible.map(({ index, start }) => {
            const row = state?.rows.get(index);
            const href = row ? `/items/${encodeURIComponent(row.sku)}` : '';
            return (
              // biome-ignore lint/a11y/useSemanticElements: a row of a virtual grid; its cells hold further links
              <div
                className="grid-row item"
                key={index}
                style={{ top: start }}
                role="link"
                tabIndex={0}
                aria-label={row ? `Open ${row.cells.name ?? row.sku}` : 'loading'}
                onClick={() => href && router.push(href)}
                onKeyDown={(event) => event.key === 'Enter' && href && router.push(href)}
              >
                <div className="grid-cell" style={{ width: 50 }}>
                  {row && <Picture file={row.picture} name={row.cells.name ?? row.sku} size={26} />}
                </div>
                {columns.map((code) => {
                  const kind = known.get(code)?.kind;
                  return (
                    <div
                      key={code}
                      className={`grid-cell ${kind === 'money' || kind === 'number' ? 'number' : ''} ${kind === 'identifier' || code === 'sku' ? 'mono' : ''}`}
                      style={{ width: widthOf(code, known.get(code)) }}
                    >
                      {code === 'name' && row ? (
                        <Link href={href} style={{ fontWeight: 600 }} tabIndex={-1}>
                          {row.cells[code]}
                        </Link>
                      ) : (
                        row?.cells[code]
                      )}
                    </div>
                  );
                })}
              </div>
            );
          })}
        </div>
      </div>
    </>
  );
}
