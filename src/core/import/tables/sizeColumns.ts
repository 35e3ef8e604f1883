import { emptyRecord } from '../../catalog/value';

/** Tables that list a thing's sizes across, a column each, with how many of it there are below: each size is an item. */

type Cells = Readonly<Record<string, string>>;

/** Columns of the items that are made of such a row. */
export const sizeColumnNames = { size: 'Size', stock: 'Stock' } as const;

const MIN_SIZES = 3;
const letterSizes = /^(?:\d?x{0,3}[sl]|x{1,4}s|x{1,4}l|[2-6]xl|m|[sml]\/[sml]l?|xs\/s|one ?size|os)$/i;
const numbered = /^(?:eu|uk|us|gr\.?|t\.?|size)?\s?(\d{1,3}(?:[.,]5|½)?)(?:\/\d{1,3})?$/i;

/** A size as a number, where it is one: "38", "EU 38", "38.5". */
const numberOf = (heading: string): number | undefined => {
  const found = numbered.exec(heading.trim())?.[1];
  return found === undefined ? undefined : Number(found.replace(',', '.').replace('½', '.5'));
};

/** Whether headings are sizes in their order: letters, or numbers that rise in steps. */
function areSizes(headings: readonly string[]): boolean {
  if (headings.every((heading) => letterSizes.test(heading.trim()))) return true;
  const numbers = headings.map(numberOf);
  const steps = numbers.slice(1).map((number, at) => (number ?? Number.NaN) - (numbers[at] ?? Number.NaN));
  // Years, days of a month and months begin elsewhere.
  return (
    (numbers[0] ?? 0) >= 14 && (numbers.at(-1) ?? 0) <= 200 && steps.every((step) => step > 0 && step <= 12)
  );
}

const isCount = (cell: string): boolean => /^\s*(?:\d{1,5}|[-–x×])?\s*$/i.test(cell);

/**
 * The columns that are sizes with how many there are of each: at least three beside each other, under which nothing stands but
 * counts. @param records the first of a table
 */
export function sizesAcross(
  columns: readonly string[],
  records: readonly { readonly cells: Cells }[],
): readonly string[] {
  const counts = (column: string) =>
    records.every(({ cells }) => isCount(cells[column] ?? '')) &&
    records.some(({ cells }) => (cells[column] ?? '').trim() !== '');
  for (let from = 0; from <= columns.length - MIN_SIZES; from++) {
    let to = from;
    while (
      to < columns.length &&
      (letterSizes.test(columns[to] ?? '') || numberOf(columns[to] ?? '') !== undefined)
    )
      to++;
    const run = columns.slice(from, to);
    if (run.length >= MIN_SIZES && areSizes(run) && run.every(counts)) return run;
    from = Math.max(from, to);
  }
  return [];
}

/** The items of a row, one for each size that it has; the row itself where it has none. */
export function spread(cells: Cells, across: readonly string[]): Record<string, string>[] {
  const sizes = new Set(across);
  const base = emptyRecord<string>();
  for (const [column, cell] of Object.entries(cells)) if (!sizes.has(column)) base[column] = cell;
  const items = across.flatMap((size) => {
    const count = (cells[size] ?? '').trim();
    if (count === '' || /^[-–]$/.test(count)) return [];
    const own = Object.assign(emptyRecord<string>(), base);
    own[sizeColumnNames.size] = size;
    // A mark says that there is one to be had, and not how many.
    own[sizeColumnNames.stock] = /^[x×]$/i.test(count) ? '' : count;
    return [own];
  });
  return items.length > 0 ? items : [base];
}
