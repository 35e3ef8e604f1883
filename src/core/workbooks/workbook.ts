import type { Attribute } from '../catalog/attributes';
import type { Values } from '../catalog/item';
import { readValue, shownText } from '../catalog/reading';
import { termFinder } from '../catalog/terms';
import { sameValue, type Value } from '../catalog/value';
import { InputError } from '../errors/inputError';
import { fold } from '../text/folding';

/**
 * A table of items to be filled in or mended in a spreadsheet, and brought back: a row an item, a column an attribute. What comes
 * back is read like a typed cell; what cannot be taken is named with its row and reason, and the rest is taken.
 */

export interface WorkbookColumn {
  readonly attribute: string;
  readonly label: string;
  /** What the channel asks of it, a line each; stands in the heading's note. */
  readonly notes: readonly string[];
  /** What may be chosen; anything where empty. */
  readonly choices: readonly string[];
}

export interface WorkbookRow {
  readonly sku: string;
  readonly name: string;
  /** What is wrong with it, in words. */
  readonly wrong: string;
  /** By column, as people read it. */
  readonly cells: readonly string[];
}

export interface Workbook {
  readonly title: string;
  readonly columns: readonly WorkbookColumn[];
  readonly rows: readonly WorkbookRow[];
}

/** Columns that stand before those of attributes: what finds the item again, and what only a person reads. */
export const fixedHeadings = ['SKU', 'Item', 'Problem'] as const;

/** A workbook as a table of texts, its heading first. */
export function* tableOf({ columns, rows }: Workbook): Generator<readonly string[]> {
  yield [...fixedHeadings, ...columns.map(({ label }) => label)];
  for (const { sku, name, wrong, cells } of rows) yield [sku, name, wrong, ...cells];
}

/** A row as it came back, with its number in the file. */
export interface BroughtRow {
  readonly row: number;
  readonly cells: readonly string[];
}

/** A cell that cannot be taken. */
export interface RefusedCell {
  readonly row: number;
  readonly sku: string;
  /** The column; empty where the row as a whole is refused. */
  readonly attribute: string;
  readonly label: string;
  readonly text: string;
  readonly why: string;
}

export interface CameBack {
  readonly cells: readonly { readonly sku: string; readonly attribute: string; readonly text: string }[];
  readonly refused: readonly RefusedCell[];
  /** Headings that are no attribute's. */
  readonly ignored: readonly string[];
  /** Cells that are empty though the item has a value: nothing is taken away by leaving a cell out. */
  readonly emptied: number;
  readonly items: number;
}

/** Where a table says which items its rows are of. @throws InputError where it does not */
function skuColumn(heading: readonly string[]): number {
  const at = heading.findIndex((name) => fold(name) === 'sku');
  if (at < 0) throw new InputError('workbookWithoutSku', { found: heading.slice(0, 8).join(', ') });
  return at;
}

/** The SKUs that a table names. @throws InputError where it has no column of SKUs */
export function skusIn([heading, ...rows]: readonly BroughtRow[]): string[] {
  const at = skuColumn(heading?.cells ?? []);
  return [...new Set(rows.map(({ cells }) => (cells[at] ?? '').trim()))];
}

/** Where the columns of a table stand, by its heading. */
function placesOf(heading: readonly string[], attributes: readonly Attribute[]) {
  const byName = new Map<string, Attribute>();
  for (const attribute of [...attributes].reverse())
    for (const name of [attribute.code, attribute.label]) byName.set(fold(name), attribute);
  const known = new Set(fixedHeadings.map(fold));
  const skuAt = skuColumn(heading);
  const columns: { at: number; attribute: Attribute }[] = [];
  const ignored: string[] = [];
  heading.forEach((name, at) => {
    const attribute = byName.get(fold(name));
    if (fold(name) === '' || at === skuAt) return;
    if (attribute && attribute.code !== 'sku' && !columns.some((one) => one.attribute === attribute))
      columns.push({ at, attribute });
    else if (!known.has(fold(name))) ignored.push(name);
  });
  return { skuAt, columns, ignored };
}

/**
 * What a table that came back changes.
 * @param rows its rows, the heading first
 * @param itemOf an item's values, its family's below its own; undefined where there is no such item
 * @throws InputError where it has no column of SKUs
 */
export function readBack(
  [heading, ...rows]: readonly BroughtRow[],
  attributes: readonly Attribute[],
  itemOf: (sku: string) => Values | undefined,
): CameBack {
  const { skuAt, columns, ignored } = placesOf(heading?.cells ?? [], attributes);
  const cells = new Map<string, { sku: string; attribute: string; text: string }>();
  const refused: RefusedCell[] = [];
  const items = new Set<string>();
  let emptied = 0;
  for (const { row, cells: texts } of rows) {
    const sku = (texts[skuAt] ?? '').trim();
    if (texts.every((text) => (text ?? '').trim() === '')) continue;
    const values = sku === '' ? undefined : itemOf(sku);
    const refuse = (attribute: string, label: string, text: string, why: string) =>
      refused.push({ row, sku, attribute, label, text, why });
    if (!values) {
      refuse('', 'SKU', sku, sku === '' ? 'The row has no SKU.' : 'No item has this SKU.');
      continue;
    }
    if (items.has(sku)) {
      refuse('', 'SKU', sku, 'An earlier row has the same SKU.');
      continue;
    }
    items.add(sku);
    for (const { at, attribute } of columns) {
      const text = (texts[at] ?? '').trim();
      const now: Value | undefined = values[attribute.code];
      if (text === '') {
        if (now !== undefined) emptied++;
        continue;
      }
      // What was not touched stays, also where it could not be typed like that.
      if (text === shownText(attribute, now).trim()) continue;
      // The table offers the terms there are: another word is a slip, and no new term.
      const { terms = [] } = attribute;
      if (attribute.kind === 'choice' && terms.length > 0 && termFinder(terms)(text) === undefined) {
        const offered = terms.slice(0, 8).map(({ term, label }) => label ?? term);
        const more = terms.length > offered.length ? ', …' : '';
        refuse(
          attribute.code,
          attribute.label,
          text,
          `“${text}” is not one of its choices: ${offered.join(', ')}${more}.`,
        );
        continue;
      }
      try {
        if (sameValue(readValue(attribute, text), now)) continue;
        cells.set(`${sku}\n${attribute.code}`, { sku, attribute: attribute.code, text });
      } catch (error) {
        if (!(error instanceof InputError)) throw error;
        refuse(attribute.code, attribute.label, text, error.message);
      }
    }
  }
  return { cells: [...cells.values()], refused, ignored, emptied, items: items.size };
}

/** What was refused as a workbook of its own: the rows as they came back, with their reasons, to be mended and brought again. */
export function refusedBook(
  title: string,
  refused: readonly RefusedCell[],
  columns: readonly WorkbookColumn[],
  nameOf: (sku: string) => string,
): Workbook {
  const rows = new Map<number, RefusedCell[]>();
  for (const one of refused) rows.set(one.row, [...(rows.get(one.row) ?? []), one]);
  return {
    title,
    columns,
    rows: [...rows.values()].map((cells): WorkbookRow => {
      const sku = cells[0]?.sku ?? '';
      return {
        sku,
        name: nameOf(sku),
        wrong: cells.map(({ label, why }) => `${label}: ${why}`).join('\n'),
        cells: columns.map(({ attribute }) => cells.find((cell) => cell.attribute === attribute)?.text ?? ''),
      };
    }),
  };
}
