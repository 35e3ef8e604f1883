import { parse } from 'csv-parse/sync';
import { type Attribute, startingAttributes } from '../catalog/attributes';
import type { Item } from '../catalog/item';
import { readLoosely } from '../catalog/reading';
import { codeInCurrency, codeInLanguage, emptyRecord, type Value } from '../catalog/value';
import { InputError } from '../errors/inputError';
import { commonLanguages, languageName } from '../locale/languages';
import { fold } from '../text/folding';

/** What each heading names: an attribute by its code or, as the pages export it, by its label. */
function codesOf(headings: readonly string[], attributes: readonly Attribute[]): string[] {
  const byCode = new Set(attributes.map(({ code }) => code));
  const byLabel = new Map(attributes.map(({ code, label }) => [fold(label), code]));
  const codes = headings.map((heading) =>
    byCode.has(heading) || heading === 'family'
      ? heading
      : fold(heading) === 'family'
        ? 'family'
        : (byLabel.get(fold(heading)) ?? codeBeside(heading, byLabel) ?? heading),
  );
  const twice = codes.find((code, i) => codes.indexOf(code) < i);
  if (twice !== undefined)
    throw new InputError('columnsAlike', {
      attribute: twice,
      first: headings[codes.indexOf(twice)],
      second: headings[codes.lastIndexOf(twice)],
    });
  return codes;
}

const languageByLabel = new Map(commonLanguages.map((tag) => [fold(languageName(tag)), tag]));

/** What a heading such as "Name in German" or "Price in GBP" names, as the pages export it. */
function codeBeside(heading: string, byLabel: ReadonlyMap<string, string>): string | undefined {
  const [, label = '', beside = ''] = /^(.+) in (.+)$/.exec(heading.trim()) ?? [];
  const code = byLabel.get(fold(label));
  if (code === undefined) return undefined;
  const language = languageByLabel.get(fold(beside));
  if (language !== undefined) return codeInLanguage(code, language);
  return /^[A-Z]{3}$/.test(beside) ? codeInCurrency(code, beside) : undefined;
}

/**
 * Reads a catalog whose heading row holds attribute codes or labels, with `sku` and, where items belong together,
 * `family`. Takes what the pages export.
 * @param attributes to know how each column is kept
 * @throws InputError naming the row
 */
export function readCatalogCsv(text: string, attributes: readonly Attribute[] = startingAttributes): Item[] {
  let records: Record<string, string>[];
  try {
    const [headings = [], ...rows]: string[][] = parse(text, { bom: true, skip_empty_lines: true });
    const codes = codesOf(headings, attributes);
    records = rows.map((row) => {
      const record = emptyRecord<string>();
      codes.forEach((code, i) => {
        record[code] = row[i] ?? '';
      });
      return record;
    });
  } catch (error) {
    if (error instanceof InputError) throw error;
    throw new InputError('catalogUnreadable', { why: error instanceof Error ? error.message : error });
  }
  const kinds = new Map(attributes.map((one) => [one.code, one]));
  if (records.length === 0) throw new InputError('catalogEmpty');
  const known = new Map<string, number>();
  return records.map((record, i) => {
    const { sku, family, ...others } = record;
    const row = i + 2;
    if (sku === undefined) throw new InputError('catalogWithoutSku');
    if (sku === '') throw new InputError('rowWithoutSku', { row });
    const before = known.get(sku);
    if (before !== undefined) throw new InputError('skuTwice', { row, sku, before });
    known.set(sku, row);
    const values: Record<string, Value> = emptyRecord();
    for (const [code, cell] of Object.entries(others)) {
      const value = readLoosely(kinds.get(code) ?? kinds.get(code.split('@')[0] ?? ''), cell);
      if (value !== undefined) values[code] = value;
    }
    return family ? { sku, family, values } : { sku, values };
  });
}

/** A value of JSON as the catalog keeps it: numbers and truth values as texts, empty ones not at all. */
function valueOfJson(found: unknown): Value | undefined {
  if (found === null || found === undefined || found === '') return undefined;
  if (typeof found === 'string') return found;
  if (typeof found === 'number' || typeof found === 'boolean') return String(found);
  if (Array.isArray(found)) {
    const list = found.flatMap((entry) => {
      const value = valueOfJson(entry);
      return typeof value === 'string' ? [value] : [];
    });
    return list.length > 0 ? list : undefined;
  }
  throw new Error('a value is a text, a number, a truth value or a list of these');
}

/** Reads NDJSON: one item a line, `sku`, optional `family`, and its attributes under `values` or beside them. */
export function readCatalogNdjson(
  text: string,
  attributes: readonly Attribute[] = startingAttributes,
): Item[] {
  const kinds = new Map(attributes.map((one) => [one.code, one]));
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
      const { sku, family, values: given, ...others } = parsed as Record<string, unknown> & { sku: string };
      const values: Record<string, Value> = emptyRecord();
      for (const [code, found] of Object.entries(given ?? others)) {
        const value = valueOfJson(found);
        const read = typeof value === 'string' ? readLoosely(kinds.get(code), value) : value;
        if (read !== undefined) values[code] = read;
      }
      return [{ sku, ...(typeof family === 'string' && family !== '' ? { family } : {}), values }];
    } catch (error) {
      throw new InputError('lineNoItem', {
        line: i + 1,
        why: error instanceof Error ? error.message : error,
      });
    }
  });
}
