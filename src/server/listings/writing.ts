import { and, asc, eq, getTableColumns, gt, sql } from 'drizzle-orm';
import { type Family, rowOf } from '../../core/catalog/item';
import { type AttributeIndex, asText, type Row } from '../../core/catalog/value';
import { partOf, shownOfShared } from '../../core/checks/comparing';
import { weighed } from '../../core/listing/completeness';
import { evaluate, type Listing, watchEvery } from '../../core/listing/evaluate';
import { causesOf, causesTogether, type FeedFigures, noFigures } from '../../core/listing/figures';
import { type Found, foundOf } from '../catalog/seen';
import { inParts, insertRows, isOneOf } from '../db/bulk';
import { db, type Transaction } from '../db/connection';
import { family, feedListing, feedValue, item } from '../db/schema';
import { ledgerEntries } from '../submissions/ledger';
import { type Counted, counting } from './counted';
import { sharedDigest, valuesDigest } from './digest';

/** Writing down what is true of listings, comparing those that share a value, and the figures that follow from it. */

/** Items a transaction. */
export const chunk = 2000;

/** The rows of one item in one feed. */
function rowsOf({ code, compiled }: Counted, category: string, listing: Listing, row: Row) {
  const { sku, state, reason, values, issues } = listing;
  const causes = causesOf(issues);
  const place = compiled.categoryAt < 0 ? undefined : values[compiled.categoryAt];
  const familySlot = compiled.index.slotOf('family');
  const unique =
    state === 'leftOut'
      ? []
      : compiled.compared.flatMap((comparison) => {
          const { check, field, at } = comparison;
          const key = comparison.keyOf(values[at]);
          return key === undefined
            ? []
            : [
                {
                  feed: code,
                  sku,
                  field,
                  check,
                  digest: sharedDigest(field, key),
                  value: shownOfShared(values[at]),
                  part: partOf(comparison, sku, row, familySlot).slice(0, 190),
                },
              ];
        });
  return {
    listing: {
      feed: code,
      sku,
      state,
      own: state,
      reason: reason?.slice(0, 300) ?? null,
      digest: valuesDigest(values),
      category,
      place: place === undefined ? null : asText(place).slice(0, 190),
      ownCauses: causes,
      causes,
      issues: [...issues],
      ...(state === 'leftOut' ? { got: 0, of: 0 } : weighed(compiled, listing, row)),
    },
    unique,
  };
}

const listingColumns = [
  'state',
  'own',
  'reason',
  'digest',
  'category',
  'place',
  'ownCauses',
  'causes',
  'issues',
  'got',
  'of',
] as const;

type Standing = Pick<typeof feedListing.$inferSelect, 'category' | 'state' | 'causes'>;

/** Counts a listing in, or out, of a feed's figures. */
export type Tell = (standing: Standing, by: number) => void;

/** What was told together: listings that stand alike, and how many more there are of them. */
export type Told = readonly (readonly [Standing, number])[];

/** What is told, gathered: what comes and goes again is nothing. */
export function gathered(): { tell: Tell; all(): Told } {
  const net = new Map<string, [Standing, number]>();
  return {
    tell: (standing, by) => {
      const { category, state, causes } = standing;
      const key = `${state}\n${category}\n${causes}`;
      const known = net.get(key);
      if (known) known[1] += by;
      else net.set(key, [{ category, state, causes }, by]);
    },
    all: () => [...net.values()].filter(([, by]) => by !== 0),
  };
}

/** Figures after what was told. */
export function figuresAfter(figures: FeedFigures, told: Told): FeedFigures {
  const states = { ...figures.states };
  const categories = new Map(figures.categories.map(([name, counts]) => [name, { ...counts }]));
  const causes = new Map(figures.causes);
  for (const [{ category, state, causes: together }, by] of told) {
    states[state] += by;
    const counts = categories.get(category) ?? { ready: 0, blocked: 0, leftOut: 0 };
    counts[state] += by;
    categories.set(category, counts);
    if (state === 'blocked') causes.set(together, (causes.get(together) ?? 0) + by);
  }
  return {
    states,
    categories: [...categories]
      .filter(([, { ready, blocked, leftOut }]) => ready + blocked + leftOut > 0)
      .sort(([a], [b]) => (a < b ? -1 : 1)),
    causes: [...causes].filter(([, count]) => count > 0).sort(([a], [b]) => (a < b ? -1 : 1)),
  };
}

/**
 * Marks the listings of a feed that share what may stand on one alone, and blocks them: one item that changes touches those it is
 * compared with where that makes a difference to them, and nothing else. What else is shared blocks nothing, and is looked up when
 * somebody asks (`kept.ts`).
 * @param digests of values that came or went @param others listings that stand marked and were written anew, or stand so no more: they are told again
 */
async function compareShared(
  tx: Transaction,
  code: string,
  digests: ReadonlySet<string>,
  others: readonly string[],
  tell: Tell,
): Promise<void> {
  const affected = new Set(others);
  for (const part of inParts([...digests])) {
    const groups = await tx
      .select({
        digest: feedValue.digest,
        count: sql<number>`count(*)`,
        marked: sql<number>`sum(${feedValue.alike})`,
      })
      .from(feedValue)
      .where(and(eq(feedValue.feed, code), isOneOf(feedValue.digest, part)))
      .groupBy(feedValue.digest);
    // Nearly all stand as they should: one has it, unmarked.
    const wrongly = groups.filter(
      ({ count, marked }) => Number(marked) !== (Number(count) > 1 ? Number(count) : 0),
    );
    const alike = wrongly.flatMap(({ digest, count }) => (Number(count) > 1 ? [digest] : []));
    const alone = wrongly.flatMap(({ digest, count }) => (Number(count) > 1 ? [] : [digest]));
    for (const [which, marked] of [
      [alike, true],
      [alone, false],
    ] as const) {
      if (which.length === 0) continue;
      const wrong = and(
        eq(feedValue.feed, code),
        isOneOf(feedValue.digest, which),
        eq(feedValue.alike, !marked),
      );
      for (const { sku } of await tx.select({ sku: feedValue.sku }).from(feedValue).where(wrong))
        affected.add(sku);
      await tx.update(feedValue).set({ alike: marked }).where(wrong);
    }
  }
  for (const skus of inParts([...affected])) await blockAlike(tx, code, skus, tell);
}

/** Blocks those of some listings that are marked, and lets the others be as they are by themselves. */
async function blockAlike(tx: Transaction, code: string, skus: readonly string[], tell: Tell): Promise<void> {
  const [listings, alike] = await Promise.all([
    tx
      .select()
      .from(feedListing)
      .where(and(eq(feedListing.feed, code), isOneOf(feedListing.sku, skus))),
    tx
      .select({ sku: feedValue.sku, field: feedValue.field })
      .from(feedValue)
      .where(and(eq(feedValue.feed, code), isOneOf(feedValue.sku, skus), eq(feedValue.alike, true))),
  ]);
  const fields = new Map<string, string[]>();
  for (const { sku, field } of alike) fields.set(sku, [...(fields.get(sku) ?? []), field]);
  const compared = listings.map((one) => {
    const found = (fields.get(one.sku) ?? []).map((field) => `duplicate:${field}`);
    const state: Listing['state'] = found.length > 0 && one.own === 'ready' ? 'blocked' : one.own;
    const own = one.ownCauses.split('\n').filter((cause) => cause !== '');
    const next = { ...one, state, causes: causesTogether([...own, ...found]) };
    tell(one, -1);
    tell(next, 1);
    return next;
  });
  await insertRows(tx, feedListing, compared, ['state', 'causes']);
}

/** What of a listing follows from its item alone; the rest from what it is compared with. */
const ownColumns = listingColumns.filter((name) => name !== 'state' && name !== 'causes');
type MadeListing = ReturnType<typeof rowsOf>['listing'];

/** A listing as it stands, its issues as they are written down. */
type Stored = Omit<typeof feedListing.$inferSelect, 'issues' | 'feed'> & { issues: string };
const { feed: _feed, issues: _issues, ...plainColumns } = getTableColumns(feedListing);
const storedColumns = { ...plainColumns, issues: sql<string>`cast(${feedListing.issues} as char)` };

const standsAs = (made: MadeListing, stored: Stored): boolean =>
  ownColumns.every((name) =>
    name === 'issues' ? JSON.stringify(made.issues) === stored.issues : made[name] === stored[name],
  );

type ValueRow = Omit<typeof feedValue.$inferSelect, 'alike'>;
/** Whether it blocks those that share it. */
const blocks = ({ check }: Pick<ValueRow, 'check'>): boolean => check === 'duplicate';
const valueKey = ({ sku, field }: Pick<ValueRow, 'sku' | 'field'>): string => `${sku}\n${field}`;
const sameRow = (a: ValueRow, b: ValueRow | undefined): boolean =>
  a.digest === b?.digest && a.part === b.part && a.check === b.check && a.value === b.value;

/**
 * Takes what is kept of the values of some items away, but for those that they have as before.
 * @param now what they have now, by {@link valueKey}
 * @returns the digests of what went of what blocks; the keys of what stays, and whose of it stands marked; whose of what went
 *   did; the listings as they stood, which are told to be no more
 */
async function forget(
  tx: Transaction,
  code: string,
  skus: readonly string[],
  now: ReadonlyMap<string, ValueRow>,
  tell: Tell,
): Promise<{
  digests: Set<string>;
  stays: ReadonlySet<string>;
  marked: readonly string[];
  freed: ReadonlySet<string>;
  stood: ReadonlyMap<string, Stored>;
}> {
  const digests = new Set<string>();
  const stays = new Set<string>();
  const marked: string[] = [];
  const freed = new Set<string>();
  const stood = new Map<string, Stored>();
  for (const part of inParts(skus)) {
    const rows = await tx
      .select()
      .from(feedValue)
      .where(and(eq(feedValue.feed, code), isOneOf(feedValue.sku, part)));
    const gone = rows.filter((row) => {
      const key = valueKey(row);
      const same = sameRow(row, now.get(key));
      if (!same && blocks(row)) digests.add(row.digest);
      if (same) stays.add(key);
      if (row.alike && same) marked.push(row.sku);
      else if (row.alike) freed.add(row.sku);
      return !same;
    });
    for (const some of inParts(gone, 500))
      await tx.execute(
        sql`delete from ${feedValue} where ${feedValue.feed} = ${code} and (${feedValue.sku}, ${feedValue.field}) in (${sql.join(
          some.map(({ sku, field }) => sql`(${sku}, ${field})`),
          sql`, `,
        )})`,
      );
    const standing = await tx
      .select(storedColumns)
      .from(feedListing)
      .where(and(eq(feedListing.feed, code), isOneOf(feedListing.sku, part)));
    for (const one of standing) {
      tell(one, -1);
      stood.set(one.sku, one);
    }
  }
  return { digests, stays, marked, freed, stood };
}

async function remove(tx: Transaction, code: string, skus: readonly string[]): Promise<void> {
  for (const part of inParts(skus))
    await tx.delete(feedListing).where(and(eq(feedListing.feed, code), isOneOf(feedListing.sku, part)));
}

/** Items of the catalog in their order, behind one of them, that changed since a revision. */
const itemsBehind = (id: number, since: number) =>
  db
    .select({
      id: item.id,
      sku: item.sku,
      family: item.family,
      values: item.values,
      category: item.category,
      archived: item.archived,
      changedOn: item.changedOn,
    })
    .from(item)
    .where(and(gt(item.id, id), ...(since < 0 ? [] : [gt(item.revision, since)])))
    .orderBy(asc(item.id))
    .limit(chunk);
type ItemRow = Awaited<ReturnType<typeof itemsBehind>>[number];

/** The families of items. */
async function familiesOf(rows: readonly ItemRow[]): Promise<ReadonlyMap<string, Family>> {
  const codes = [...new Set(rows.flatMap((row) => row.family ?? []))];
  const found = codes.length > 0 ? await db.select().from(family).where(isOneOf(family.code, codes)) : [];
  return new Map(found.map((one) => [one.code, one]));
}

/** Items as they were read, and what was found of them: for every feed that counts them. */
export interface Chunk {
  readonly rows: readonly ItemRow[];
  /** Those that are not archived. */
  readonly items: readonly { readonly sku: string; readonly category: string | null; readonly row: Row }[];
  readonly found: Found;
}

/** The next items of the catalog behind one of them, that changed since a revision, with all that listings are made of. */
export async function chunkBehind(id: number, since: number, index: AttributeIndex): Promise<Chunk> {
  const rows = await itemsBehind(id, since);
  const families = await familiesOf(rows);
  const items = rows
    .filter(({ archived }) => !archived)
    .map(({ sku, family: own, values, category, changedOn }) => {
      const one = { sku, values, ...(own ? { family: own } : {}), ...(changedOn ? { changedOn } : {}) };
      return { sku, category, row: rowOf(one, own ? families.get(own) : undefined, index) };
    });
  return { rows, items, found: await foundOf(items, index.slotOf) };
}

/** What a feed makes of items. */
export async function listingsOf(counted: Counted, { items: read, found }: Chunk) {
  const { compiled, seen } = counted;
  const { feed: asked } = compiled.plan;
  if (asked !== undefined)
    seen.takeLedger(
      asked,
      await ledgerEntries(
        asked,
        read.map(({ sku }) => sku),
      ),
    );
  // Nothing else is waited for from here on: a feed's next chunk is not begun before this one is made.
  seen.takeOnly(found);
  counting.begin();
  return read.map(({ sku, category, row }, i) => {
    if (i % watchEvery === 0) counting.watch(i);
    return rowsOf(counted, category ?? '', evaluate(compiled, sku, row), row);
  });
}

/** Writes down what was made of items, and compares them with the others. */
export async function write(
  tx: Transaction,
  code: string,
  rows: readonly ItemRow[],
  made: Awaited<ReturnType<typeof listingsOf>>,
  tell: Tell,
): Promise<void> {
  const values = made.flatMap(({ unique }) => unique);
  const { digests, stays, marked, freed, stood } = await forget(
    tx,
    code,
    rows.map(({ sku }) => sku),
    new Map(values.map((one) => [valueKey(one), one])),
    tell,
  );
  await remove(
    tx,
    code,
    rows.flatMap(({ sku, archived }) => (archived ? [sku] : [])),
  );
  // Most listings are as they were, whatever has changed: reading what stands takes a part of the time that writing does.
  const written = new Map<string, MadeListing>();
  for (const { listing } of made) {
    const before = stood.get(listing.sku);
    if (before && standsAs(listing, before)) tell(before, 1);
    else {
      written.set(listing.sku, listing);
      tell(listing, 1);
    }
  }
  for (const part of inParts([...written.values()], 500))
    await insertRows(tx, feedListing, part, listingColumns);
  const fresh = values.filter((one) => !stays.has(valueKey(one)));
  for (const part of inParts(fresh)) await insertRows(tx, feedValue, part);
  for (const one of fresh) if (blocks(one)) digests.add(one.digest);
  await compareShared(tx, code, digests, [...marked.filter((sku) => written.has(sku)), ...freed], tell);
}

/** Takes away what is kept of items that are no more, where any went away since. @param reload the revision at which some last did */
export async function removeGone(
  tx: Transaction,
  code: string,
  { since, reload }: { readonly since: number; readonly reload: number },
  tell: Tell,
): Promise<void> {
  if (since >= reload) return;
  const gone = await tx
    .select({ sku: feedListing.sku })
    .from(feedListing)
    .leftJoin(item, eq(item.sku, feedListing.sku))
    .where(and(eq(feedListing.feed, code), sql`(${item.id} is null or ${item.archived})`));
  const skus = gone.map(({ sku }) => sku);
  const { digests } = await forget(tx, code, skus, new Map(), tell);
  await remove(tx, code, skus);
  await compareShared(tx, code, digests, [], tell);
}

export async function figuresOf(tx: Transaction, code: string): Promise<FeedFigures> {
  const mine = eq(feedListing.feed, code);
  const [states, causes] = await Promise.all([
    tx
      .select({ category: feedListing.category, state: feedListing.state, count: sql<number>`count(*)` })
      .from(feedListing)
      .where(mine)
      .groupBy(feedListing.category, feedListing.state),
    tx
      .select({ causes: feedListing.causes, count: sql<number>`count(*)` })
      .from(feedListing)
      .where(and(mine, eq(feedListing.state, 'blocked')))
      .groupBy(feedListing.causes),
  ]);
  const total = { ...noFigures.states };
  const categories = new Map<string, Record<Listing['state'], number>>();
  for (const { category, state, count } of states) {
    const one = categories.get(category) ?? { ready: 0, blocked: 0, leftOut: 0 };
    one[state] += Number(count);
    total[state] += Number(count);
    categories.set(category, one);
  }
  return {
    states: total,
    categories: [...categories].sort(([a], [b]) => (a < b ? -1 : 1)),
    causes: causes
      .map(({ causes: together, count }) => [together, Number(count)] as const)
      .sort(([a], [b]) => (a < b ? -1 : 1)),
  };
}
