import { z } from 'zod';
import { InputError } from '../errors/inputError';
import { tableRows } from '../import/tables/delimited';
import type { CatalogProduct } from './comparing';
/** Which attribute each column of a partner's range is; `sku` is the partner's own code. */
export const rangeMappingSchema = z.record(z.string(), z.string());
export type RangeMapping = z.infer<typeof rangeMappingSchema>;

export interface RangeTable {
  readonly columns: readonly string[];
  readonly rows: readonly { readonly line: number; readonly cells: Readonly<Record<string, string>> }[];
}

/** No range has more variants. */
const MAX_VARIANTS = 20_000;

/** A partner's range as delimited text with a heading. @throws InputError where it has no rows, or too many */
export function readRangeTable(text: string): RangeTable {
  const [head, ...body] = tableRows(text);
  if (!head || body.length === 0) throw new InputError('rangeEmpty');
  if (body.length > MAX_VARIANTS)
    throw new InputError('rangeTooLong', { count: body.length, most: MAX_VARIANTS });
  const columns = head.cells.map((cell, at) => cell.trim() || `column ${at + 1}`);
  return {
    columns,
    rows: body.map(({ line, cells }) => ({
      line,
      cells: Object.fromEntries(columns.map((column, at) => [column, (cells[at] ?? '').trim()])),
    })),
  };
}

/** A row that is no variant, by its line in the file. */
export interface RefusedVariant {
  readonly line: number;
  readonly why: 'noCode' | 'codeTwice';
}

/** The variants of a range. @throws InputError where no column is the partner's code, or no row has one */
export function variantsOf(
  { columns, rows }: RangeTable,
  mapping: RangeMapping,
): { variants: CatalogProduct[]; refused: RefusedVariant[] } {
  const codeColumn = Object.entries(mapping).find(([, attribute]) => attribute === 'sku')?.[0];
  if (codeColumn === undefined || !columns.includes(codeColumn)) throw new InputError('rangeWithoutCode');
  const known = new Set<string>();
  const refused: RefusedVariant[] = [];
  const variants = rows.flatMap(({ line, cells }): CatalogProduct[] => {
    const code = cells[codeColumn] ?? '';
    if (code === '' || known.has(code)) {
      refused.push({ line, why: code === '' ? 'noCode' : 'codeTwice' });
      return [];
    }
    known.add(code);
    const values = Object.entries(mapping).flatMap(([column, attribute]) => {
      const value = cells[column] ?? '';
      return attribute === 'sku' || value === '' ? [] : [[attribute, value] as const];
    });
    return [{ code, values: Object.fromEntries(values) }];
  });
  if (variants.length === 0) throw new InputError('rangeEmpty');
  return { variants, refused };
}
