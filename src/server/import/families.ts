import { and, asc, eq, gt, inArray, isNotNull, or, sql } from 'drizzle-orm';
import { axisCodes } from '../../core/catalog/attributes';
import { type GroupingWay, type GroupRow, groupRows } from '../../core/catalog/grouping';
import { gatherFamilies, type Item, neverShared, type Values } from '../../core/catalog/item';
import { rejectionWords } from '../../core/import/importReview';
import { raiseRevision, readFamilyValues, readStates, writeItems } from '../catalog/changes';
import { insertRows } from '../db/bulk';
import { db, type Transaction } from '../db/connection';
import { family, item, runFamily, runItem } from '../db/schema';
import type { Work } from '../jobs/queue';
import { changesOf, type Refused } from './staging';

const CHUNK_ROWS = 1000;
type Staged = typeof runItem.$inferSelect;

/** The staged rows that are to be grouped, whole groups at a time, so that memory does not grow with the file. */
async function* groups(id: number): AsyncGenerator<Staged[]> {
  let from: { key: string; row: number } | undefined;
  let blocked: Staged[] = [];
  for (;;) {
    const rows = await db
      .select()
      .from(runItem)
      .where(
        and(
          eq(runItem.runId, id),
          isNotNull(runItem.groupKey),
          from
            ? or(
                gt(runItem.groupKey, from.key),
                and(eq(runItem.groupKey, from.key), gt(runItem.row, from.row)),
              )
            : undefined,
        ),
      )
      .orderBy(asc(runItem.groupKey), asc(runItem.row))
      .limit(CHUNK_ROWS);
    const last = rows.at(-1);
    blocked.push(...rows);
    if (!last || rows.length < CHUNK_ROWS) break;
    from = { key: last.groupKey ?? '', row: last.row };
    // The last group may go on in the next chunk.
    const complete = blocked.filter((row) => row.groupKey !== last.groupKey);
    if (complete.length > 0) yield complete;
    blocked = blocked.filter((row) => row.groupKey === last.groupKey);
  }
  if (blocked.length > 0) yield blocked;
}

/** Makes families of a run's staged rows, as they would be; nothing in the catalog changes. */
export async function groupStaged(
  id: number,
  route: GroupingWay,
  work: Work,
  refuse: (tx: Transaction, refused: Refused[]) => Promise<void>,
): Promise<void> {
  for await (const rows of groups(id))
    await db.transaction(async (tx) => {
      await work.hold(tx);
      const keys = [...new Set(rows.flatMap((row) => row.groupKey ?? []))];
      const parents =
        route === 'parentCode'
          ? await tx
              .select()
              .from(runItem)
              .where(and(eq(runItem.runId, id), inArray(runItem.sku, keys)))
          : [];
      const known = await readStates(
        tx,
        [...rows, ...parents].map(({ sku }) => sku),
      );
      const shared = await readFamilyValues(tx, [
        ...[...known.values()].map((state) => state.family),
        ...keys,
      ]);
      const valuesOf = (row: Staged): Values => {
        const state = known.get(row.sku);
        return { ...(state?.family ? shared.get(state.family) : {}), ...state?.values, ...row.values };
      };
      const asRow = (row: Staged): GroupRow => ({
        sku: row.sku,
        values: valuesOf(row),
        group: row.groupKey ?? undefined,
        parent: row.groupKey ?? undefined,
      });
      const grouping = groupRows(
        [...rows.map(asRow), ...parents.map((row) => ({ sku: row.sku, values: valuesOf(row) }))],
        route,
        axisCodes,
      );
      const familyOf = new Map<string, string>();
      const sharedOf = new Map<string, Values>();
      const created = grouping.families.map((found) => {
        // Named by their first item, such families keep the code they got when they were first made.
        const stored =
          route === 'sameName' || route === 'names'
            ? found.skus.flatMap((sku) => known.get(sku)?.family ?? [])[0]
            : undefined;
        const code = stored ?? found.code;
        for (const sku of found.skus) familyOf.set(sku, code);
        if (found.shared) sharedOf.set(code, found.shared);
        return { ...found, code };
      });
      const misfits = new Map(grouping.loose.map(({ sku, why }) => [sku, why]));
      // A single row of a group joins the family that the catalog already has for it.
      for (const row of rows)
        if (misfits.get(row.sku) === 'alone' && row.groupKey && shared.has(row.groupKey))
          familyOf.set(row.sku, row.groupKey);
      const parentSkus = new Set(parents.map(({ sku }) => sku));
      const parentValues = new Map(parents.map((row) => [row.sku, row.values]));
      const refused: Refused[] = [];
      const next = rows.flatMap((row): Staged[] => {
        const state = known.get(row.sku);
        const code = familyOf.get(row.sku);
        const common = {
          ...parentValues.get(row.groupKey ?? ''),
          ...sharedOf.get(code ?? ''),
          ...shared.get(code ?? state?.family ?? ''),
        };
        if (!state && row.values.name === undefined && common.name === undefined) {
          refused.push({ row: row.row, reason: rejectionWords({ reason: 'noName' }), cells: {} });
          return [];
        }
        const changes = changesOf(row.values, code, state, shared.get(code ?? state?.family ?? ''));
        return [
          {
            ...row,
            family: code ?? null,
            // A row that joined a family the catalog has is alone only in this file.
            misfit: code && misfits.get(row.sku) === 'alone' ? null : (misfits.get(row.sku) ?? null),
            changes: state ? changes : [],
            kind: !state ? 'new' : changes.length > 0 ? 'changed' : 'unchanged',
          },
        ];
      });
      if (refused.length > 0) {
        await tx.delete(runItem).where(
          and(
            eq(runItem.runId, id),
            inArray(
              runItem.row,
              refused.map(({ row }) => row),
            ),
          ),
        );
        await refuse(tx, refused);
      }
      await insertRows(tx, runItem, next, ['family', 'misfit', 'changes', 'kind']);
      if (parents.length > 0)
        await tx
          .update(runItem)
          .set({ kind: 'parent', chosen: false })
          .where(and(eq(runItem.runId, id), inArray(runItem.sku, [...parentSkus])));
      if (created.length > 0)
        await tx
          .insert(runFamily)
          .values(
            created.map((one) => ({
              runId: id,
              code: one.code,
              name: one.name.slice(0, 500),
              items: one.skus.length,
              axes: [...one.axes],
              shared: one.shared ?? null,
            })),
          )
          .onDuplicateKeyUpdate({ set: { items: sql`items + values(items)` } });
    });
}

const atOnce = 100;

/**
 * Writes the families of an applied run: what all items of a new family share moves up to it; an existing one only gets
 * the axes it lacks. Each hundred is one transaction; a run that stopped goes on with the rest.
 */
export async function writeRunFamilies(id: number, work: Work): Promise<void> {
  for (;;) {
    const open = await db
      .select()
      .from(runFamily)
      .where(and(eq(runFamily.runId, id), eq(runFamily.written, false)))
      .orderBy(asc(runFamily.code))
      .limit(atOnce);
    if (open.length === 0) return;
    await db.transaction(async (tx) => {
      await work.hold(tx);
      const revision = await raiseRevision(tx);
      const codes = open.map(({ code }) => code);
      const present = new Map(
        (await tx.select().from(family).where(inArray(family.code, codes))).map((row) => [row.code, row]),
      );
      const rows = await tx
        .select()
        .from(item)
        .where(and(inArray(item.family, codes), eq(item.archived, false)))
        .orderBy(asc(item.id));
      const sharedNow = new Map([...present].map(([code, row]) => [code, row.values]));
      const members = rows.map(
        (row): Item => ({
          sku: row.sku,
          values: { ...sharedNow.get(row.family ?? ''), ...row.values },
          ...(row.family ? { family: row.family } : {}),
        }),
      );
      const gathered = gatherFamilies(members, axisCodes);
      const found = new Map(gathered.families.map((one) => [one.code, one]));
      const madeNow = new Set(open.filter(({ before }) => before === null).map(({ code }) => code));
      const after = open.flatMap((one) => {
        const now = found.get(one.code);
        if (!now) return [];
        const old = present.get(one.code);
        if (!madeNow.has(one.code))
          return [
            {
              ...one,
              after: {
                variesBy: [...new Set([...(old?.variesBy ?? []), ...now.variesBy])],
                values: old?.values ?? {},
              },
            },
          ];
        const fromParent = Object.fromEntries(
          Object.entries(one.shared ?? {}).filter(([code]) => !neverShared.has(code)),
        );
        return [{ ...one, after: { variesBy: [...now.variesBy], values: { ...fromParent, ...now.values } } }];
      });
      await insertRows(
        tx,
        family,
        after.map(({ code, after: state }) => ({ code, ...state, revision })),
        ['variesBy', 'values', 'revision'],
      );
      const stateOf = new Map(after.map(({ code, after: state }) => [code, state.values]));
      const own = new Map(gathered.items.map(({ sku, values }) => [sku, values]));
      await writeItems(
        tx,
        rows
          .filter((row) => madeNow.has(row.family ?? ''))
          .map((row) => {
            const up = stateOf.get(row.family ?? '') ?? {};
            // What the parent row says and the item repeats need not stand twice.
            const values = Object.fromEntries(
              Object.entries(own.get(row.sku) ?? row.values).filter(
                ([code, value]) => JSON.stringify(up[code]) !== JSON.stringify(value),
              ),
            );
            return { ...row, values };
          }),
        stateOf,
        revision,
      );
      const states = new Map(after.map((one) => [one.code, one.after]));
      await insertRows(
        tx,
        runFamily,
        open.map((one) => ({ ...one, written: true, after: states.get(one.code) ?? null })),
        ['written', 'after'],
      );
    });
  }
}
