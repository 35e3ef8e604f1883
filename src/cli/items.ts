import { createWriteStream, mkdirSync, writeFileSync } from 'node:fs';
import { access } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { finished } from 'node:stream/promises';
import { stringify } from 'csv-stringify/sync';
import { axisCodes, startingAttributes } from '../core/catalog/attributes';
import { type Grouping, type GroupingWay, type GroupRow, groupRows } from '../core/catalog/grouping';
import { InputError } from '../core/errors/inputError';
import { rejectionWords } from '../core/import/importReview';
import { type Damage, damages } from '../core/import/mapping/damage';
import { formOf, type ImportMapping, importMappingSchema } from '../core/import/mapping/importMapping';
import { compileMapping, type ReadItem, type Rejection } from '../core/import/mapping/mapping';
import { type Repair, tallyRepairs } from '../core/import/mapping/repairs';
import { readHead } from '../files/head';
import { withPlainFile } from '../files/packed/unpacking';
import { readSource } from '../files/reading';
import { suggestMapping } from '../files/suggesting';
import { expanderWith } from '../files/words';
import { fileText, pathOption, readArguments } from './arguments';

const usage = 'cart items --source FILE [--mapping mapping.json] [--accept DAMAGE,…] --out DIR';
const CHUNK_ROWS = 1000;
/** Families are suggested from this many rows at most; a grouping that was chosen takes them all. */
const MAX_SUGGESTED = 50_000;

function readMapping(path: string): ImportMapping {
  let json: unknown;
  try {
    json = JSON.parse(fileText(path, 'mapping'));
  } catch (error) {
    if (error instanceof InputError) throw error;
    throw new InputError('mappingNoJson', { path, why: error instanceof Error ? error.message : error });
  }
  const parsed = importMappingSchema.safeParse(json);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  throw new InputError('mappingInvalid', {
    path,
    place: issue?.path.join('.') || 'its root',
    why: issue?.message,
  });
}

interface Outcome {
  readonly row: number;
  readonly cells: Readonly<Record<string, string>>;
  readonly item: ReadItem | undefined;
  readonly group: string | undefined;
  readonly reason: string | undefined;
  /** The damage of a row that waits for a repair. */
  readonly damaged?: Pick<ReadItem, 'sku' | 'proposals'> | undefined;
}

/** Every row of a source under a mapping, in its order; memory grows only with the keys seen. */
async function* outcomes(path: string, mapping: ImportMapping): AsyncGenerator<Outcome> {
  const read = compileMapping(mapping, startingAttributes);
  const seen = new Map<string, number>();
  for await (const rows of readSource(path, formOf(mapping), CHUNK_ROWS, () => undefined))
    for (const { row, record, broken } of rows) {
      const cells = record?.cells ?? {};
      const refused = (reason: string): Outcome => ({
        row,
        cells,
        item: undefined,
        group: undefined,
        reason,
      });
      if (!record || broken !== undefined) {
        yield refused(broken ?? 'cannot be read');
        continue;
      }
      const item = read(cells);
      if ('reason' in item) {
        const damaged = item.reason === 'decimalSign' ? item.damaged : undefined;
        yield { ...refused(rejectionWords(item satisfies Rejection)), damaged };
        continue;
      }
      const before = seen.get(item.key);
      if (before !== undefined) {
        yield refused(rejectionWords({ reason: 'repeated', sku: item.sku, row: before }));
        continue;
      }
      seen.set(item.key, row);
      yield { row, cells, item, group: item.family ?? record.group, reason: undefined };
    }
}

/** Only what grouping looks at, so that a large file's texts are not held. */
function groupRow({ item, group, cells }: Outcome, mapping: ImportMapping): GroupRow | undefined {
  if (!item) return undefined;
  const values = Object.fromEntries(
    ['name', ...axisCodes].flatMap((code) => {
      const value = item.values[code];
      return value === undefined ? [] : [[code, value]];
    }),
  );
  const parent = mapping.grouping?.column === undefined ? undefined : cells[mapping.grouping.column];
  return { sku: item.sku, values, group, parent };
}

const briefly = ({ families }: Grouping) =>
  families.map(({ code, name, skus, axes }) => ({ code, name, items: skus.length, axes }));

/** `cart items`: a supplier's file of any shape into items, without a database. @returns 0, or 1 when rows were rejected */
export async function itemsCommand(words: readonly string[]): Promise<number> {
  const { values: options } = readArguments(words, {
    values: ['source', 'mapping', 'accept', 'out'],
    flags: [],
  });
  const path = pathOption(options, 'source', usage);
  const out = pathOption(options, 'out', usage);
  const given = options.has('mapping')
    ? readMapping(resolve(process.env.INIT_CWD ?? '.', options.get('mapping') ?? ''))
    : undefined;
  const accepted: Damage[] = (options.get('accept')?.split(',') ?? []).map((one) => {
    const known = damages.find((damage) => damage === one);
    if (!known) throw new InputError('unknownDamage', { known: damages.join(', '), word: one });
    return known;
  });
  await access(path).catch(() => {
    throw new InputError('sourceUnreadable', { path });
  });
  return withPlainFile(path, (plain) =>
    writeItems(plain, given, options.has('accept') ? accepted : undefined, out),
  );
}

async function writeItems(
  path: string,
  given: ImportMapping | undefined,
  accepted: Damage[] | undefined,
  out: string,
): Promise<number> {
  const head = await readHead(path, given ? formOf(given) : {});
  const chosen =
    given ??
    suggestMapping(head, startingAttributes, {
      english: (word) => expanderWith(process.env.LIVELY_WORDS ?? '.words').otherWords(word),
    });
  const repairs = accepted ?? chosen.repairs;
  const mapping: ImportMapping = { ...chosen, ...(repairs?.length ? { repairs } : {}) };
  if (!mapping.fields[mapping.key])
    throw new InputError('noSkuColumn', { columns: head.columns.slice(0, 20).join(', ') });

  const route: GroupingWay | undefined =
    mapping.grouping?.by ?? (mapping.fields.family ? 'sharedCode' : undefined);
  const rows: GroupRow[] = [];
  for await (const outcome of outcomes(path, mapping)) {
    const row = groupRow(outcome, mapping);
    if (row && (route || rows.length < MAX_SUGGESTED)) rows.push(row);
  }
  const grouping: Grouping = route ? groupRows(rows, route, axisCodes) : { families: [], loose: [] };
  const familyOf = new Map(
    grouping.families.flatMap(({ code, skus }) => skus.map((sku) => [sku, code] as const)),
  );
  const parents = new Set(grouping.families.flatMap(({ code, parent }) => (parent ? [code] : [])));

  mkdirSync(out, { recursive: true });
  const itemsFile = createWriteStream(join(out, 'items.ndjson'));
  const rejectedFile = createWriteStream(join(out, 'rejected.csv'));
  const csv = (cells: string[]) => stringify([cells], { escape_formulas: true });
  rejectedFile.write(csv(['row', 'reason', ...head.columns]));
  let found: Repair[] = [];
  const counts = { rows: 0, items: 0, rejected: 0 };
  for await (const { row, cells, item, reason, damaged } of outcomes(path, mapping)) {
    counts.rows++;
    if (!item) {
      counts.rejected++;
      if (damaged) found = tallyRepairs(found, [damaged]);
      rejectedFile.write(
        csv([String(row), reason ?? '', ...head.columns.map((column) => cells[column] ?? '')]),
      );
      continue;
    }
    found = tallyRepairs(found, [item]);
    if (parents.has(item.sku)) continue;
    counts.items++;
    const family = familyOf.get(item.sku);
    const line = JSON.stringify({ sku: item.sku, ...(family ? { family } : {}), ...item.values });
    if (!itemsFile.write(`${line}\n`)) await new Promise<void>((go) => itemsFile.once('drain', () => go()));
  }
  itemsFile.end();
  rejectedFile.end();
  await Promise.all([finished(itemsFile), finished(rejectedFile)]);
  writeFileSync(join(out, 'mapping.json'), `${JSON.stringify(mapping, null, 2)}\n`);
  const summary = {
    ...counts,
    families: briefly(grouping),
    loose: grouping.loose,
    repairs: found.map((one) => ({ ...one, accepted: mapping.repairs?.includes(one.damage) ?? false })),
    ...(route
      ? {}
      : {
          suggestedFamilies: briefly(groupRows(rows, 'names', axisCodes)).map(({ name, items, axes }) => ({
            name,
            items,
            axes,
          })),
        }),
  };
  writeFileSync(join(out, 'summary.json'), `${JSON.stringify(summary, null, 2)}\n`);
  return counts.rejected > 0 ? 1 : 0;
}
