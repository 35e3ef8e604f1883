import { type ColumnSuggestion, evidenceOf, lastName } from './columnEvidence';
import { certainName } from './priceColumns';

/** Where nothing is called an SKU, the supplier's part number is what tells its items apart. */
export function keyAtLeast(found: readonly ColumnSuggestion[]): ColumnSuggestion[] {
  const part = found.find(({ attribute }) => attribute === 'mpn');
  if (!part || found.some(({ attribute }) => attribute === 'sku')) return [...found];
  return found.map((one) =>
    one === part
      ? { ...one, attribute: 'sku', reasons: [...one.reasons, 'no other column identifies the items'] }
      : one,
  );
}

/** Where nothing is called a name, what is called a description and is as short as one is the name. */
export function nameAtLeast(
  found: readonly ColumnSuggestion[],
  sample: readonly Readonly<Record<string, string>>[],
): ColumnSuggestion[] {
  if (found.some(({ attribute }) => attribute === 'name')) return [...found];
  const text = found.find(({ attribute }) => attribute === 'description');
  // A label is a brand, or what stands on the thing: one that differs from item to item is its name.
  const label = found.find(
    ({ attribute, column }) => attribute === 'brand' && /^@?label$/i.test(lastName(column)),
  );
  if (!text && label && new Set(sample.map((record) => record[label.column])).size === sample.length)
    return found.map((one) =>
      one === label
        ? { ...one, attribute: 'name', reasons: [...one.reasons, 'every item has another'] }
        : one,
    );
  if (!text) return [...found];
  const cells = sample.map((record) => record[text.column]?.trim() ?? '').filter((cell) => cell !== '');
  const short = cells.filter((cell) => cell.length <= 90 && !/<[a-z]/i.test(cell)).length;
  if (cells.length === 0 || short < 0.9 * cells.length) return [...found];
  return found.map((one) =>
    one === text
      ? {
          ...one,
          attribute: 'name',
          reasons: [...one.reasons, 'its texts are short like names, and no other column is a name'],
        }
      : one,
  );
}

/**
 * Where nothing is called a description, or what was is the name, another column that is called one is it; else the one column of
 * long texts that nothing else is made of.
 */
export function textAtLeast(
  found: readonly ColumnSuggestion[],
  columns: readonly string[],
  sample: readonly Readonly<Record<string, string>>[],
  fits: ReadonlyMap<string, readonly ColumnSuggestion[]>,
): ColumnSuggestion[] {
  if (found.some(({ attribute }) => attribute === 'description')) return [...found];
  const called = columns.flatMap((column) =>
    found.some((one) => one.column === column)
      ? []
      : (fits.get(column) ?? []).filter(
          ({ attribute, score }) => attribute === 'description' && score >= certainName,
        ),
  );
  const [best] = called.sort((one, other) => other.score - one.score);
  if (best) return [...found, best];
  const long = columns.filter((column) => {
    if (found.some((one) => one.column === column)) return false;
    const { filled, long: share, markup, link } = evidenceOf(sample.map((record) => record[column] ?? ''));
    return filled > 0 && link === 0 && (share > 0.5 || markup > 0.5);
  });
  const [only] = long;
  if (only === undefined || long.length > 1) return [...found];
  return [
    ...found,
    { column: only, attribute: 'description', score: 50, reasons: ['its cells are long texts'] },
  ];
}
