import { and, asc, eq, gt, inArray, type SQL } from 'drizzle-orm';
import { axisCodes } from '../../core/catalog/attributes';
import { groupKeyOf } from '../../core/catalog/grouping';
import type { Values } from '../../core/catalog/item';
import { asText, sameValue } from '../../core/catalog/value';
import { readIdentifier, shortForm } from '../../core/identifiers/gtin';
import { rejectionWords } from '../../core/import/importReview';
import type { ImportMapping, ItemKey } from '../../core/import/mapping/importMapping';
import type { ReadItem, Rejection } from '../../core/import/mapping/mapping';
import type { SourceRow } from '../../files/reading';
import { readFamilyValues } from '../catalog/changes';
import { db, type Transaction } from '../db/connection';
import { type ItemState, item, type RunItemKind, runItem } from '../db/schema';

export type RunItemRow = typeof runItem.$inferInsert;

export interface Refused {
  readonly row: number;
  readonly reason: string;
  readonly cells: Readonly<Record<string, string>>;
}

/** Every way in which a key may be written in the catalog: GTINs with and without their leading zeros. */
function spellingsOf(key: string, kind: ItemKey): string[] {
  if (kind !== 'gtin') return [key];
  const { normal } = readIdentifier(key);
  return normal === ''
    ? [key]
    : [...new Set([key, normal, shortForm(normal), normal.replace(/^0+/, '').padStart(12, '0')])];
}

/** A key as rows of one file are compared by it. */
const normalKey = (key: string, kind: ItemKey): string =>
  kind === 'gtin' ? readIdentifier(key).normal || key : key;

const keyColumns = { sku: item.sku, gtin: item.gtin, mpn: item.mpn } as const;

interface Known extends ItemState {
  readonly sku: string;
}

/** The items of the catalog that some keys name; more than one where the key is not unique. */
async function findByKeys(
  tx: Transaction,
  keys: readonly string[],
  kind: ItemKey,
): Promise<Map<string, Known[]>> {
  const found = new Map<string, Known[]>();
  if (keys.length === 0) return found;
  const rows = await tx
    .select({
      sku: item.sku,
      key: keyColumns[kind],
      family: item.family,
      values: item.values,
      origins: item.origins,
      archived: item.archived,
      sourceId: item.sourceId,
    })
    .from(item)
    .where(inArray(keyColumns[kind], [...new Set(keys.flatMap((key) => spellingsOf(key, kind)))]));
  for (const { key, ...known } of rows) {
    const normal = normalKey(key ?? '', kind);
    found.set(normal, [...(found.get(normal) ?? []), known]);
  }
  return found;
}

/** The cells of an item that do not stand in it as they were. */
const rawCells = ({ cells, values }: ReadItem): Record<string, string> =>
  Object.fromEntries(
    Object.entries(cells).flatMap(([code, { cell }]) =>
      cell === '' || cell === asText(values[code]) ? [] : [[code, cell]],
    ),
  );

/** What a read item would change: attribute, before, after. */
export function changesOf(
  values: Values,
  family: string | undefined,
  known: Pick<ItemState, 'values' | 'family' | 'archived'> | undefined,
  shared: Values | undefined,
): [string, string, string][] {
  const changes: [string, string, string][] = [];
  for (const [attribute, value] of Object.entries(values)) {
    const before = known?.values[attribute] ?? shared?.[attribute];
    if (!sameValue(before, value)) changes.push([attribute, asText(before), asText(value)]);
  }
  if (family && family !== known?.family) changes.push(['family', known?.family ?? '', family]);
  if (known?.archived) changes.push(['archived', 'archived', 'in the catalog again']);
  return changes;
}

/**
 * What a row says without the values that a person has mended by hand, unless they are to be overwritten.
 * @returns the values that count, and the attributes whose own values stay although the file says otherwise
 */
function withoutMended(
  values: Values,
  known: Known | undefined,
  shared: Values | undefined,
  overwrite: ReadonlySet<string>,
): { values: Values; kept: string[] } {
  if (!known) return { values, kept: [] };
  const stored = Object.keys(values).filter(
    (attribute) =>
      known.origins[attribute]?.file === '' &&
      !overwrite.has(attribute) &&
      !sameValue(known.values[attribute] ?? shared?.[attribute], values[attribute]),
  );
  if (stored.length === 0) return { values, kept: stored };
  const left = new Set(stored);
  return {
    values: Object.fromEntries(Object.entries(values).filter(([code]) => !left.has(code))),
    kept: stored,
  };
}

/**
 * Decides for each row of a chunk what it is, against the catalog as it stands: new, changed, unchanged or refused.
 * Rows whose family is told by other rows of the file get a group key and are looked at again when all are read.
 */
export async function stageRows(
  tx: Transaction,
  runId: number,
  mapping: ImportMapping,
  rows: readonly SourceRow[],
  read: (cells: Readonly<Record<string, string>>) => ReadItem | Rejection,
): Promise<{
  staged: RunItemRow[];
  refused: Refused[];
  /** Of every row that was read or waits for a repair: its damage. */
  items: Pick<ReadItem, 'sku' | 'proposals'>[];
  held: Record<string, number>;
}> {
  const kind = mapping.key;
  const refused: Refused[] = [];
  const items: Pick<ReadItem, 'sku' | 'proposals'>[] = [];
  const parsed: { row: number; found: ReadItem; group: string | undefined; cells: Refused['cells'] }[] = [];
  for (const { row, record, broken } of rows) {
    const cells = record?.cells ?? {};
    if (!record || broken !== undefined) {
      refused.push({ row, reason: broken ?? 'cannot be read', cells });
      continue;
    }
    const found = read(cells);
    if ('reason' in found) {
      refused.push({ row, reason: rejectionWords(found), cells });
      // A row that waits for a repair is where the repair is offered.
      if (found.reason === 'decimalSign') items.push(found.damaged);
    } else {
      items.push(found);
      parsed.push({ row, found, group: record.group, cells });
    }
  }
  const keys = parsed.map(({ found }) => normalKey(found.key, kind));
  const earlier =
    keys.length === 0
      ? []
      : await tx
          .select({ key: runItem.itemKey, row: runItem.row })
          .from(runItem)
          .where(and(eq(runItem.runId, runId), inArray(runItem.itemKey, keys)));
  const seen = new Map(earlier.map(({ key, row }) => [key, row]));
  const known = await findByKeys(tx, keys, kind);
  const shared = await readFamilyValues(tx, [
    ...[...known.values()].flat().map(({ family }) => family),
    ...parsed.map(({ found }) => found.family),
  ]);
  const staged: RunItemRow[] = [];
  const blocked: Record<string, number> = {};
  const overwrite = new Set(mapping.overwrite);
  for (const { row, found, group, cells } of parsed) {
    const key = normalKey(found.key, kind);
    const before = seen.get(key);
    if (before !== undefined) {
      refused.push({
        row,
        reason: rejectionWords({ reason: 'repeated', sku: found.key, row: before }),
        cells,
      });
      continue;
    }
    seen.set(key, row);
    const matches = known.get(key) ?? [];
    if (matches.length > 1) {
      refused.push({
        row,
        reason: `${found.key} belongs to ${matches.length} items, ${matches.map(({ sku }) => sku).join(' and ')}`,
        cells,
      });
      continue;
    }
    const [old] = matches;
    const grouping = mapping.grouping;
    const groupKey = grouping
      ? groupKeyOf(
          {
            sku: found.sku,
            values: found.values,
            group: found.family ?? group,
            parent: grouping.column === undefined ? undefined : cells[grouping.column],
          },
          grouping.by,
          axisCodes,
        )
      : undefined;
    const family = grouping ? undefined : found.family;
    const common = shared.get(family ?? old?.family ?? '');
    const { values, kept } = withoutMended(found.values, old, common, overwrite);
    for (const attribute of kept) blocked[attribute] = (blocked[attribute] ?? 0) + 1;
    const changes = changesOf(values, family, old, common);
    // With a grouping the name may come from the parent row; that is seen when families are made.
    if (!old && found.values.name === undefined && common?.name === undefined && !groupKey) {
      refused.push({ row, reason: rejectionWords({ reason: 'noName' }), cells });
      continue;
    }
    const what: RunItemKind = !old ? 'new' : changes.length > 0 ? 'changed' : 'unchanged';
    staged.push({
      runId,
      row,
      itemKey: key,
      sku: old?.sku ?? found.sku,
      kind: what,
      groupKey: groupKey?.slice(0, 190) ?? null,
      family: family ?? null,
      values: what === 'unchanged' && !groupKey ? {} : values,
      cells: what === 'unchanged' ? {} : rawCells(found),
      changes: old ? changes : [],
    });
  }
  return { staged, refused, items, held: blocked };
}

/** Staged rows of a run in the order of its file, some at a time. @param where which of them; undefined for all */
export async function* stagedChunks(
  id: number,
  where: SQL | undefined,
  size: number,
): AsyncGenerator<(typeof runItem.$inferSelect)[]> {
  for (let after = Number.MIN_SAFE_INTEGER; ; ) {
    const rows = await db
      .select()
      .from(runItem)
      .where(and(eq(runItem.runId, id), gt(runItem.row, after), where))
      .orderBy(asc(runItem.row))
      .limit(size);
    const last = rows.at(-1);
    if (!last) return;
    yield rows;
    after = last.row;
  }
}
