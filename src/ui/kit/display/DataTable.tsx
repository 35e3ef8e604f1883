'use client';
import { IconArrowDown, IconArrowUp } from '@tabler/icons-react';
import { createSortedRowModel, rowSortingFeature, tableFeatures, useTable } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useMemo, useRef } from 'react';

export interface DataColumn<T> {
  /** Names the column; also its key. */
  readonly head: string;
  cell(row: T): ReactNode;
  /** What the column is sorted by; without it, it cannot be sorted. */
  by?(row: T): string | number;
  readonly className?: string;
  readonly width?: number | string;
}

interface DataTableProps<T> {
  rows: readonly T[];
  columns: readonly DataColumn<T>[];
  keyOf(row: T): string;
  /** What stands there where there are no rows. */
  empty?: ReactNode;
  className?: string;
  /** Height of a row in pixels; with it, only the rows in sight are drawn, and the table scrolls by itself. */
  rowHeight?: number;
  /** Whether its columns are named. */
  heads?: boolean;
}

const collator = new Intl.Collator('en', { numeric: true });

const features = tableFeatures({
  rowSortingFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: {
    /** Numbers by their size, words as a person sorts them: "POT-2" before "POT-10". */
    natural: (a, b, column) => {
      const [first, second] = [a.getValue<string | number>(column), b.getValue<string | number>(column)];
      return typeof first === 'number' && typeof second === 'number'
        ? first - second
        : collator.compare(String(first), String(second));
    },
  },
});

/** Rows in columns. A click on a column's name sorts by it, a second one the other way, a third as it was. */
export function DataTable<T extends object>({
  rows,
  columns,
  keyOf,
  empty,
  className = '',
  rowHeight,
  heads = true,
}: DataTableProps<T>) {
  const scroller = useRef<HTMLDivElement>(null);
  const defined = useMemo(
    () =>
      columns.map(({ head, by }, at) => ({
        // Names may be empty or alike.
        id: String(at),
        header: head,
        accessorFn: (row: T) => by?.(row) ?? '',
        enableSorting: by !== undefined,
        sortFn: 'natural' as const,
      })),
    [columns],
  );
  const data = useMemo(() => [...rows], [rows]);
  const table = useTable({ features, columns: defined, data });
  const shown = table.getRowModel().rows;
  const lines = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight ?? 0,
    overscan: 14,
    enabled: rowHeight !== undefined,
  });
  const drawn = lines.getVirtualItems();
  const part = rowHeight === undefined ? shown : drawn.flatMap(({ index }) => shown[index] ?? []);
  const above = rowHeight === undefined ? 0 : (drawn[0]?.start ?? 0);
  const below = rowHeight === undefined ? 0 : lines.getTotalSize() - (drawn.at(-1)?.end ?? 0);
  const gap = (height: number) =>
    height > 0 && (
      <tr aria-hidden style={{ height }}>
        <td colSpan={columns.length} style={{ padding: 0, border: 0 }} />
      </tr>
    );
  const body = (
    <table className={`plain ${className}`} {...(rowHeight && { 'aria-rowcount': shown.length + 1 })}>
      {heads && (
        <thead>
          <tr>
            {table.getFlatHeaders().map((header, at) => {
              const sorted = header.column.getIsSorted();
              const { head, width, by, className: looks } = columns[at] as DataColumn<T>;
              return (
                <th
                  key={header.id}
                  className={looks?.includes('number') ? 'number' : ''}
                  style={{ width }}
                  aria-sort={sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : undefined}
                >
                  {by ? (
                    <button type="button" className="plain" onClick={header.column.getToggleSortingHandler()}>
                      {head} {sorted === 'asc' && <IconArrowUp size={12} />}
                      {sorted === 'desc' && <IconArrowDown size={12} />}
                    </button>
                  ) : (
                    head
                  )}
                </th>
              );
            })}
          </tr>
        </thead>
      )}
      <tbody>
        {gap(above)}
        {part.map(({ original }) => (
          <tr key={keyOf(original)} style={{ height: rowHeight }}>
            {columns.map(({ cell, className: looks, width }, at) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: columns keep their places, and may share a name
              <td key={at} className={looks} style={heads ? undefined : { width }}>
                {cell(original)}
              </td>
            ))}
          </tr>
        ))}
        {gap(below)}
      </tbody>
    </table>
  );
  if (rows.length === 0 && empty) return empty;
  return rowHeight === undefined ? (
    body
  ) : (
    <div className="panel scrolling" ref={scroller}>
      {body}
    </div>
  );
}
