import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { startingAttributes } from '@/core/catalog/attributes';
import { asList, asText, type Value } from '@/core/catalog/value';
import { compileMapping } from '@/core/import/mapping/mapping';
import { readHead } from '@/files/head';
import { withPlainFile } from '@/files/packed/unpacking';
import { readSource } from '@/files/reading';
import { suggestMapping } from '@/files/suggesting';

/** How a source came in by itself: each value as it should be, wrong, missing, or where none should be. */
export interface Outcome {
  readonly file: string;
  readonly wanted: number;
  readonly right: number;
  readonly wrong: readonly string[];
  readonly missing: readonly string[];
}

const folder = join(process.cwd(), 'tests/data/sources');
export const sourceFiles = readdirSync(folder).filter((name) => !name.endsWith('.expected.json'));

type Expected = Record<string, Record<string, string | string[]>>;
const sameText = (value: Value | undefined, wanted: string | string[]): boolean =>
  value !== undefined && asList(value).join('|') === (Array.isArray(wanted) ? wanted.join('|') : wanted);

/** Brings one of the files in with the suggested mapping alone and compares every value with what a careful person expects. */
export async function bringIn(file: string, from = folder): Promise<Outcome> {
  const path = join(from, file);
  const expected: Expected = JSON.parse(readFileSync(`${path}.expected.json`, 'utf8'));
  const wrong: string[] = [];
  const missing: string[] = [];
  let right = 0;
  const items = new Map<string, Record<string, Value>>();
  try {
    await withPlainFile(path, async (plain) => {
      const head = await readHead(plain);
      const mapping = suggestMapping(head, startingAttributes);
      const read = compileMapping(mapping, startingAttributes);
      for await (const rows of readSource(plain, mapping, 500, () => undefined))
        for (const { record, broken } of rows) {
          if (!record || broken) continue;
          const item = read(record.cells);
          if (!('reason' in item)) items.set(item.sku, { ...item.values });
        }
    });
  } catch (error) {
    wrong.push(String(error));
  }
  for (const [sku, values] of Object.entries(expected)) {
    const found = items.get(sku);
    for (const [attribute, value] of Object.entries(values)) {
      const got = found?.[attribute];
      if (sameText(got, value)) right++;
      else if (got === undefined) missing.push(`${sku}.${attribute}`);
      else wrong.push(`${sku}.${attribute}: “${asText(got)}” instead of “${value}”`);
    }
    for (const [attribute, value] of Object.entries(found ?? {}))
      if (values[attribute] === undefined && attribute !== 'sku')
        wrong.push(`${sku}.${attribute}: “${asText(value)}” where nothing was said`);
  }
  for (const sku of items.keys()) if (!expected[sku]) wrong.push(`${sku} is no item`);
  const wanted = Object.values(expected).reduce((sum, values) => sum + Object.keys(values).length, 0);
  return { file, wanted, right, wrong, missing };
}
