import { parse } from 'csv-parse/sync';
import type { Item } from '../catalog/item';
import type { Value } from '../catalog/value';
import { InputError } from './inputError';

/** What parts the entries of a list in one cell. */
export const listSeparator = '|';

/** Attributes that are lists even with a single entry. */
const listAttributes = new Set(['image', 'highlights']);

/**
 * Reads a catalog whose heading row holds attribute codes, with `sku` and, where items belong together, `family`.
 * @throws InputError naming the row
 */
export function readCatalogCsv(text: string): Item[] {
  let records: Record<string, string>[];
  try {
    records = parse(text, { columns: true, bom: true, skip_empty_lines: true });
  } catch (error) {
    throw new InputError(
      `The catalog cannot be read as CSV: ${error instanceof Error ? error.message : error}`,
    );
  }
  if (records.length === 0) throw new InputError('The catalog has no rows below its heading row.');
  const seen = new Map<string, number>();
  return records.map((record, i) => {
    const { sku, family, ...others } = record;
    const row = i + 2;
    if (sku === undefined)
      throw new InputError(
        'The catalog has no column "sku"; name the column that identifies each item "sku".',
      );
    if (sku === '') throw new InputError(`Row ${row} has no SKU; every item needs one.`);
    const before = seen.get(sku);
    if (before !== undefined)
      throw new InputError(
        `Row ${row} repeats the SKU ${sku} of row ${before}; SKUs identify one item each.`,
      );
    seen.set(sku, row);
    const values: Record<string, Value> = {};
    for (const [code, cell] of Object.entries(others)) {
      if (cell === '') continue;
      values[code] =
        listAttributes.has(code) || cell.includes(listSeparator)
          ? cell.split(listSeparator).filter((entry) => entry !== '')
          : cell;
    }
    return family ? { sku, family, values } : { sku, values };
  });
}

/** Reads NDJSON: one item a line, `sku`, optional `family`, and its attributes under `values`. */
export function readCatalogNdjson(text: string): Item[] {
  return text.split('\n').flatMap((line, i) => {
    if (line.trim() === '') return [];
    try {
      const parsed: unknown = JSON.parse(line);
      if (
        typeof parsed !== 'object' ||
        parsed === null ||
        !('sku' in parsed) ||
        typeof parsed.sku !== 'string'
      )
        throw new Error('it has no "sku"');
      const { sku, family, values, ...others } = parsed as {
        sku: string;
        family?: string;
        values?: Record<string, Value>;
      };
      return [{ sku, ...(family ? { family } : {}), values: values ?? (others as Record<string, Value>) }];
    } catch (error) {
      throw new InputError(
        `Line ${i + 1} of the catalog is not an item: ${error instanceof Error ? error.message : error}`,
      );
    }
  });
}
