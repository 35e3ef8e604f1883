'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type ClipboardEvent, type KeyboardEvent, type ReactNode, useEffect, useRef, useState } from 'react';
import { kindFacts } from '@/core/catalog/attributeKinds';
import { readBlock, writeBlock } from '@/core/formats/block';
import type { ItemRow } from '@/server/items/items';
import { CheckboxField, TextField } from '../kit/inputs/inputs';
import { Link } from '../kit/Link';
import { Picture } from '../kit/Picture';
import { type Column, markWidth, pictureWidth, rowHeight } from './columns';
import { GridText } from './GridText';
import type { ItemRows } from './useItemRows';

export interface CellChange {
  readonly sku: string;
  readonly attribute: string;
  readonly text: string;
}

interface GridBodyProps {
  columns: readonly Column[];
  items: ItemRows;
  marked(sku: string): boolean;
  onMark(sku: string, on: boolean): void;
  /** @param refused told why, where nothing was changed */
  onChange(cells: CellChange[], refused?: (words: string) => void): void;
  head: ReactNode;
  empty: ReactNode;
}

interface Place {
  row: number;
  column: number;
}

/** How values of a column are set. */
const shownClass = { text: '', number: 'number', identifier: 'mono' } as const;

const between = (a: number, b: number, at: number) => at >= Math.min(a, b) && at <= Math.max(a, b);

/**
 * The rows of the grid. Arrow keys move, with Shift they mark a block; Enter or typing edits, Delete empties; a block is
 * copied and pasted as a spreadsheet does.
 */
export function GridBody({ columns, items, marked, onMark, onChange, head, empty }: GridBodyProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState<Place>({ row: 0, column: 1 });
  const [anchor, setAnchor] = useState<Place>();
  const [editing, setEditing] = useState<string>();
  /** What was typed into a cell and refused: it stays there with its reason until it is mended or given up. */
  const [refused, setRefused] = useState<CellChange & { words: string }>();
  const total = items.state?.total ?? 0;
  const rows = useVirtualizer({
    count: total,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
    scrollPaddingStart: 60,
  });
  const visible = rows.getVirtualItems();
  const first = visible[0]?.index ?? 0;
  const last = visible.at(-1)?.index ?? 0;
  const { show, drawn } = items;
  // biome-ignore lint/correctness/useExhaustiveDependencies: read again when something was changed
  useEffect(() => show(first, last), [show, first, last, drawn]);
  const rowAt = (index: number): ItemRow | undefined => items.state?.rows.get(index);

  const isRefused = (row: ItemRow | undefined, code: string) =>
    row !== undefined && refused?.sku === row.sku && refused.attribute === code;
  const textIn = (row: ItemRow, code: string): string =>
    isRefused(row, code) ? (refused?.text ?? '') : (row.cells[code] ?? '');

  const focusCell = (place: Place) => {
    setAt(place);
    rows.scrollToIndex(place.row);
    requestAnimationFrame(() =>
      scroller.current?.querySelector<HTMLElement>(`[data-cell="${place.row}:${place.column}"]`)?.focus(),
    );
  };
  const move = (by: Partial<Place>, mark: boolean) => {
    const next = {
      row: Math.min(Math.max(at.row + (by.row ?? 0), 0), Math.max(total - 1, 0)),
      column: Math.min(Math.max(at.column + (by.column ?? 0), 0), columns.length - 1),
    };
    setAnchor(mark ? (anchor ?? at) : undefined);
    focusCell(next);
  };
  const block = {
    top: Math.min(at.row, anchor?.row ?? at.row),
    bottom: Math.max(at.row, anchor?.row ?? at.row),
    left: Math.min(at.column, anchor?.column ?? at.column),
    right: Math.max(at.column, anchor?.column ?? at.column),
  };
  const save = (text: string) => {
    setEditing(undefined);
    const row = rowAt(at.row);
    const column = columns[at.column];
    if (row && column?.editable && text !== (row.cells[column.code] ?? '')) {
      const cell = { sku: row.sku, attribute: column.code, text };
      setRefused(undefined);
      onChange([cell], (words) => setRefused({ ...cell, words }));
    }
    focusCell(at);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (editing !== undefined) return;
    const steps: Record<string, Partial<Place>> = {
      ArrowDown: { row: 1 },
      ArrowUp: { row: -1 },
      ArrowLeft: { column: -1 },
      ArrowRight: { column: 1 },
      PageDown: { row: 18 },
      PageUp: { row: -18 },
    };
    const step = steps[event.key];
    const column = columns[at.column];
    if (step) {
      event.preventDefault();
      move(step, event.shiftKey);
    } else if ((event.key === 'Enter' || event.key === 'F2') && column?.editable) {
      event.preventDefault();
      const row = rowAt(at.row);
      setEditing(row ? textIn(row, column.code) : '');
    } else if (event.key === ' ' && event.ctrlKey) {
      event.preventDefault();
      const row = rowAt(at.row);
      if (row) onMark(row.sku, !marked(row.sku));
    } else if (event.key === 'Delete') {
      const cells: CellChange[] = [];
      for (let row = block.top; row <= block.bottom; row++)
        for (let n = block.left; n <= block.right; n++) {
          const one = columns[n];
          const sku = rowAt(row)?.sku;
          if (sku && one?.editable && rowAt(row)?.cells[one.code])
            cells.push({ sku, attribute: one.code, text: '' });
        }
      if (cells.length > 0) onChange(cells);
    } else if (
      event.key.length === 1 &&
      !event.ctrlKey &&
      !event.metaKey &&
      !event.altKey &&
      column?.editable
    ) {
      if (event.key === ' ') return;
      event.preventDefault();
      setEditing(event.key);
    }
  };
  const onCopy = (event: ClipboardEvent) => {
    if (editing !== undefined) return;
    const lines: string[][] = [];
    for (let row = block.top; row <= block.bottom; row++)
      lines.push(columns.slice(block.left, block.right + 1).map(({ code }) => rowAt(row)?.cells[code] ?? ''));
    event.clipboardData.setData('text/plain', writeBlock(lines));
    event.preventDefault();
  };
  const onPaste = (event: ClipboardEvent) => {
    if (editing !== undefined) return;
    event.preventDefault();
    const pasted = readBlock(event.clipboardData.getData('text/plain'));
    const width = pasted.reduce((most, cells) => Math.max(most, cells.length), 0);
    const height = pasted.length;
    // A single value fills the whole block that is marked.
    const single = width === 1 && height === 1;
    const cells: CellChange[] = [];
    for (let n = 0; n < (single ? block.bottom - block.top + 1 : height); n++)
      for (let m = 0; m < (single ? block.right - block.left + 1 : width); m++) {
        const column = columns[block.left + m];
        const row = rowAt(block.top + n);
        const text = single ? (pasted[0]?.[0] ?? '') : pasted[n]?.[m];
        if (!column?.editable || !row || text === undefined || text === (row.cells[column.code] ?? ''))
          continue;
        cells.push({ sku: row.sku, attribute: column.code, text });
      }
    if (cells.length > 0) onChange(cells);
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a virtual grid cannot be a table
    <div
      className="panel grid"
      ref={scroller}
      role="grid"
      tabIndex={-1}
      aria-label="Items"
      aria-rowcount={total + 1}
      aria-colcount={columns.length + 2}
      aria-busy={!items.current}
      onKeyDown={onKeyDown}
      onCopy={onCopy}
      onPaste={onPaste}
    >
      {head}
      {items.state && total === 0 && empty}
      {/* biome-ignore lint/a11y/useSemanticElements: as above */}
      <div style={{ height: rows.getTotalSize(), position: 'relative' }} role="rowgroup">
        {visible.map(({ index, start }) => {
          const row = rowAt(index);
          return (
            // biome-ignore lint/a11y/useSemanticElements: as above
            // biome-ignore lint/a11y/useFocusableInteractive: its cells take the focus
            <div
              className={`grid-row item ${row && marked(row.sku) ? 'marked' : ''}`}
              key={index}
              style={{ top: start }}
              role="row"
              aria-rowindex={index + 2}
            >
              {/* biome-ignore lint/a11y/useSemanticElements: as above */}
              <div
                className="grid-cell pinned"
                role="gridcell"
                tabIndex={-1}
                style={{ width: markWidth, left: 0 }}
              >
                {row && (
                  <CheckboxField
                    name={`Mark ${row.sku}`}
                    words={false}
                    checked={marked(row.sku)}
                    onChange={(on) => onMark(row.sku, on)}
                  />
                )}
              </div>
              {/* biome-ignore lint/a11y/useSemanticElements: as above */}
              <div
                className="grid-cell pinned"
                role="gridcell"
                tabIndex={-1}
                style={{ width: pictureWidth, left: markWidth }}
              >
                {row && <Picture file={row.picture} name={row.cells.name ?? row.sku} size={26} />}
              </div>
              {columns.map((column, n) => {
                const here = at.row === index && at.column === n;
                const wrong = isRefused(row, column.code);
                const text = row ? textIn(row, column.code) : '';
                const inBlock =
                  anchor !== undefined &&
                  between(anchor.row, at.row, index) &&
                  between(anchor.column, at.column, n);
                const kind = column.code === 'sku' ? 'mono' : shownClass[kindFacts[column.kind].shown];
                return (
                  // biome-ignore lint/a11y/useSemanticElements: as above
                  // biome-ignore lint/a11y/useKeyWithClickEvents: keys are handled by the grid around it
                  <div
                    key={column.code}
                    role="gridcell"
                    data-cell={`${index}:${n}`}
                    tabIndex={here ? 0 : -1}
                    aria-colindex={n + 3}
                    aria-selected={here || inBlock}
                    aria-readonly={!column.editable}
                    className={`grid-cell ${kind} ${column.left === undefined ? '' : 'pinned'} ${inBlock ? 'block' : ''} ${wrong ? 'refused' : ''}`}
                    aria-invalid={wrong}
                    style={{
                      width: column.width,
                      ...(column.left === undefined ? {} : { left: column.left }),
                    }}
                    title={wrong ? refused?.words : text.length > 24 ? text : undefined}
                    onClick={(event) => {
                      setAnchor(event.shiftKey ? (anchor ?? at) : undefined);
                      focusCell({ row: index, column: n });
                    }}
                    onDoubleClick={() => column.editable && row && setEditing(text)}
                  >
                    {here && editing !== undefined ? (
                      <CellEditor
                        label={`${column.label} of ${row?.sku}`}
                        text={editing}
                        onDone={save}
                        onLeave={() => {
                          setEditing(undefined);
                          setRefused(undefined);
                          focusCell(at);
                        }}
                      />
                    ) : wrong ? (
                      <>
                        <span>{text}</span>
                        <span className="why" role="alert">
                          {refused?.words}
                        </span>
                      </>
                    ) : column.code === 'sku' && row ? (
                      <Link href={`/items/${encodeURIComponent(row.sku)}`} tabIndex={-1}>
                        {text}
                      </Link>
                    ) : (
                      <GridText column={column} text={text} />
                    )}
                  </div>
                );
              })}
            </div>
          );
        })}
      </div>
    </div>
  );
}

interface CellEditorProps {
  label: string;
  text: string;
  onDone(text: string): void;
  onLeave(): void;
}

function CellEditor({ label, text, onDone, onLeave }: CellEditorProps) {
  const [typed, setTyped] = useState(text);
  const left = useRef(false);
  const end = (work: () => void) => {
    if (left.current) return;
    left.current = true;
    work();
  };
  return (
    <TextField
      name={label}
      width="100%"
      autoFocus
      quiet
      value={typed}
      onChange={setTyped}
      onBlur={() => end(() => onDone(typed))}
      onEnter={() => end(() => onDone(typed))}
      onLeave={() => end(onLeave)}
    />
  );
}
