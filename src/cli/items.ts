import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import { axisCodes, startingAttributes } from '../core/catalog/attributes';
import { type Grouping, type GroupRow, groupRows } from '../core/catalog/grouping';
import { InputError } from '../core/formats/inputError';
import { suggestColumns } from '../core/intake/columns';
import { damages } from '../core/intake/damage';
import {
  decodeBytes,
  detectEncoding,
  detectSeparator,
  refusalWords,
  refuseFile,
} from '../core/intake/decode';
import {
  compileMapping,
  type ImportMapping,
  importMappingSchema,
  mappingFrom,
  type ReadItem,
  type Rejection,
  rejectionWords,
} from '../core/intake/mapping';
import { readJsonRecords, readXmlRecords, type SourceRecords } from '../core/intake/records';
import { tallyRepairs } from '../core/intake/repairs';
import { fileText, pathOption, readArguments } from './arguments';

const usage = 'cart items --source FILE [--mapping mapping.json] [--accept DAMAGE,…] --out DIR';
const targets = [
  ...startingAttributes,
  {
    code: 'family',
    label: 'Family',
    kind: 'identifier' as const,
    synonyms: ['product group', 'group code', 'style', 'modell'],
  },
];

type Form = Pick<ImportMapping, 'encoding' | 'separator' | 'list'>;

/** A source of any kind as records; its kind is told from its first sign, not from its name. */
function readSource(bytes: Uint8Array, given: Partial<Form>): { form: Form; source: SourceRecords } {
  const refusal = refuseFile(bytes);
  if (refusal) throw new InputError(refusalWords[refusal]);
  const encoding = given.encoding ?? detectEncoding(bytes);
  const text = decodeBytes(bytes, encoding).replace(/^\ufeff/, '');
  const first = text.trimStart()[0];
  if (first === '<' || first === '{' || first === '[') {
    const source = first === '<' ? readXmlRecords(text, given.list) : readJsonRecords(text, given.list);
    return { form: { encoding, separator: ',', list: source.list }, source };
  }
  const separator = given.separator ?? detectSeparator(text);
  let rows: string[][];
  try {
    rows = parse(text, { delimiter: separator, relax_column_count: true, skip_empty_lines: true });
  } catch (error) {
    throw new InputError(
      `The file cannot be read as delimited text: ${error instanceof Error ? error.message : error}. Nothing was written.`,
    );
  }
  const [heading, ...records] = rows;
  if (!heading || records.length === 0) throw new InputError(refusalWords.onlyHeading);
  const columns = heading.map((cell, i) => cell.trim() || `Column ${i + 1}`);
  return {
    form: { encoding, separator },
    source: {
      columns,
      list: '',
      nested: undefined,
      records: records.map((cells) => ({
        cells: Object.fromEntries(columns.map((column, i) => [column, cells[i] ?? ''])),
        group: undefined,
      })),
    },
  };
}

function readMapping(path: string): ImportMapping {
  let json: unknown;
  try {
    json = JSON.parse(fileText(path, 'mapping'));
  } catch (error) {
    if (error instanceof InputError) throw error;
    throw new InputError(
      `The mapping ${path} is not JSON: ${error instanceof Error ? error.message : error}`,
    );
  }
  const parsed = importMappingSchema.safeParse(json);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  throw new InputError(
    `The mapping ${path} is not valid at ${issue?.path.join('.') || 'its root'}: ${issue?.message}`,
  );
}

/** `cart items`: a supplier's file of any shape into items, without a database. @returns 0, or 1 when rows were rejected */
export function itemsCommand(words: readonly string[]): number {
  const { values: options } = readArguments(words, {
    values: ['source', 'mapping', 'accept', 'out'],
    flags: [],
  });
  const sourcePath = pathOption(options, 'source', usage);
  const out = pathOption(options, 'out', usage);
  const given = options.has('mapping')
    ? readMapping(resolve(process.env.INIT_CWD ?? '.', options.get('mapping') ?? ''))
    : undefined;
  const accepted = (options.get('accept')?.split(',') ?? []).map((one) => {
    const known = damages.find((damage) => damage === one);
    if (!known) throw new InputError(`--accept knows ${damages.join(', ')}, not “${one}”.`);
    return known;
  });
  let bytes: Uint8Array;
  try {
    bytes = readFileSync(sourcePath);
  } catch {
    throw new InputError(`The source ${sourcePath} cannot be read; check the path.`);
  }
  const { form, source } = readSource(bytes, given ?? {});
  const { columns, records } = source;
  const suggested = mappingFrom(
    suggestColumns(
      columns,
      records.slice(0, 200).map(({ cells }) => cells),
      targets,
    ),
    targets,
    form,
  );
  const chosen: ImportMapping = given ?? {
    ...suggested,
    ...(form.list ? { list: form.list } : {}),
    ...(source.nested ? { grouping: { by: 'nesting' as const } } : {}),
  };
  const repairsAccepted = options.has('accept') ? accepted : chosen.repairs;
  const mapping: ImportMapping = {
    ...chosen,
    ...(repairsAccepted?.length ? { repairs: repairsAccepted } : {}),
  };
  if (!mapping.fields.sku)
    throw new InputError(
      `No column could be told to hold the SKU; the columns are ${columns.slice(0, 20).join(', ')}. Give a mapping with "sku".`,
    );
  const read = compileMapping(mapping, columns, startingAttributes);
  const rejected: string[][] = [];
  const items: ReadItem[] = [];
  const rows: GroupRow[] = [];
  const seen = new Map<string, number>();
  for (const [i, { cells, group }] of records.entries()) {
    const record = columns.map((column) => cells[column] ?? '');
    const row = i + 2;
    const reject = (rejection: Rejection) =>
      rejected.push([String(row), rejectionWords(rejection), ...record]);
    const item = read(record);
    if ('reason' in item) {
      reject(item);
      continue;
    }
    const before = seen.get(item.sku);
    if (before !== undefined) {
      reject({ reason: 'repeated', sku: item.sku, row: before });
      continue;
    }
    seen.set(item.sku, row);
    items.push(item);
    const parent = mapping.grouping?.column ? cells[mapping.grouping.column] : undefined;
    rows.push({ sku: item.sku, values: item.values, group: item.family ?? group, parent });
  }

  const way = mapping.grouping?.by ?? (mapping.fields.family ? 'sharedCode' : undefined);
  const grouping: Grouping = way ? groupRows(rows, way, axisCodes) : { families: [], loose: [] };
  const familyOf = new Map(
    grouping.families.flatMap(({ code, skus }) => skus.map((sku) => [sku, code] as const)),
  );
  const parents = new Set(grouping.families.flatMap(({ code, shared }) => (shared ? [code] : [])));
  mkdirSync(out, { recursive: true });
  const write = (name: string, text: string) => writeFileSync(join(out, name), text);
  const sellable = items.filter(({ sku }) => !parents.has(sku));
  write(
    'items.ndjson',
    sellable
      .map(
        ({ sku, values }) =>
          `${JSON.stringify({ sku, ...(familyOf.has(sku) ? { family: familyOf.get(sku) } : {}), ...values })}\n`,
      )
      .join(''),
  );
  write('mapping.json', `${JSON.stringify(mapping, null, 2)}\n`);
  write('rejected.csv', stringify([['row', 'reason', ...columns], ...rejected], { escape_formulas: true }));
  const summary = {
    rows: records.length,
    items: sellable.length,
    rejected: rejected.length,
    families: grouping.families.map(({ code, name, skus, axes }) => ({
      code,
      name,
      items: skus.length,
      axes,
    })),
    loose: grouping.loose,
    repairs: tallyRepairs([], items).map((one) => ({
      ...one,
      accepted: mapping.repairs?.includes(one.damage) ?? false,
    })),
    ...(way
      ? {}
      : {
          suggestedFamilies: groupRows(rows, 'names', axisCodes).families.map(({ name, skus, axes }) => ({
            name,
            items: skus.length,
            axes,
          })),
        }),
  };
  write('summary.json', `${JSON.stringify(summary, null, 2)}\n`);
  return rejected.length > 0 ? 1 : 0;
}
