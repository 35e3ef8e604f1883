import { and, asc, count, eq, gt, lte, max } from 'drizzle-orm';
import { type Family, rowOf } from '../../core/catalog/item';
import { type AttributeIndex, asText, type Row } from '../../core/catalog/value';
import { partOf, shownOfShared } from '../../core/checks/comparing';
import { weighed } from '../../core/listing/completeness';
import { evaluate, type Listing, watchEvery } from '../../core/listing/evaluate';
import { causesOf } from '../../core/listing/figures';
import { asksChannelStatus } from '../../core/plans/plan';
import { type Found, foundOf } from '../catalog/externalFacts';
import { isOneOf } from '../db/bulk';
import { db } from '../db/connection';
import { family, item, itemHint, packIssues, type ValueShared } from '../db/schema';
import { ledgerEntries } from '../ledger/ledger';
import { type Counted, counting } from './compiledPlans';
import { sharedDigest, valuesDigest } from './digest';

/** Reading items a chunk at a time, and what a feed makes of them: here or in a thread (`threads.ts`); nothing is written. */

/** Items that are read, made listings of and written together. */
export const chunk = 2000;

/** What a listing is compared with others by. */
function sharedOf({ compiled }: Counted, { sku, state, values }: Listing, row: Row): ValueShared[] {
  const shared: ValueShared[] = [];
  if (state === 'leftOut') return shared;
  const familySlot = compiled.index.slotOf('family');
  for (const comparison of compiled.compared) {
    const { check, field, at } = comparison;
    const key = comparison.keyOf(values[at]);
    if (key === undefined) continue;
    const part = partOf(comparison, sku, row, familySlot);
    const own = part === sku ? '' : part.slice(0, 190);
    shared.push([check, field, sharedDigest(field, key), shownOfShared(check, values[at]), own]);
  }
  return shared;
}

/** The row of one item in one feed; what is kept as JSON is text already, to be compared, written and handed on. */
function evaluatedListing(counted: Counted, category: string, listing: Listing, row: Row) {
  const { compiled } = counted;
  const { sku, state, reason, values, issues } = listing;
  const causes = causesOf(issues);
  const place = compiled.categoryAt < 0 ? undefined : values[compiled.categoryAt];
  const { completed, total } =
    state === 'leftOut' ? { completed: 0, total: 0 } : weighed(compiled, listing, row);
  return {
    sku,
    state,
    own: state,
    reason: reason?.slice(0, 300) ?? null,
    digest: valuesDigest(values),
    category,
    place: place === undefined ? null : asText(place).slice(0, 190),
    ownCauses: causes,
    causes,
    issues: packIssues(issues),
    shared: JSON.stringify(sharedOf(counted, listing, row)),
    completed,
    total,
  };
}

export type EvaluatedListing = ReturnType<typeof evaluatedListing>;

/** Items of the catalog behind one of them up to another, by their number, that changed since a revision; all where that is below 0. */
export interface Range {
  readonly behind: number;
  readonly to: number;
  readonly since: number;
}
const isIn = ({ behind, to, since }: Range) =>
  and(
    gt(item.id, behind),
    ...(to === Number.POSITIVE_INFINITY ? [] : [lte(item.id, to)]),
    ...(since < 0 ? [] : [gt(item.revision, since)]),
  );

/**
 * Where so many further items end.
 * @returns how many there are, at most as many as asked for, and the number of the last
 */
export async function endBehind(
  { behind, since }: Pick<Range, 'behind' | 'since'>,
  most = chunk,
): Promise<{ readonly items: number; readonly last: number }> {
  const next = db
    .select({ id: item.id })
    .from(item)
    .where(isIn({ behind, since, to: Number.POSITIVE_INFINITY }))
    .orderBy(asc(item.id))
    .limit(most)
    .as('next');
  const [found] = await db.select({ items: count(), last: max(next.id) }).from(next);
  return { items: found?.items ?? 0, last: found?.last ?? behind };
}

/** Items in their order, with all that their listings are made of but what was found of pictures and pages; so many at most. */
const itemsIn = (range: Range, most: number) =>
  db
    .select({
      id: item.id,
      sku: item.sku,
      family: item.family,
      values: item.values,
      category: item.category,
      archived: item.archived,
      changedOn: item.changedOn,
      hints: itemHint.hints,
    })
    .from(item)
    .leftJoin(itemHint, eq(itemHint.sku, item.sku))
    .where(isIn(range))
    .orderBy(asc(item.id))
    .limit(most);
type ItemRow = Awaited<ReturnType<typeof itemsIn>>[number];

/** The families of items. */
async function familiesOf(rows: readonly ItemRow[]): Promise<ReadonlyMap<string, Family>> {
  const codes = [...new Set(rows.flatMap((row) => row.family ?? []))];
  const found = codes.length > 0 ? await db.select().from(family).where(isOneOf(family.code, codes)) : [];
  return new Map(found.map((one) => [one.code, one]));
}

/** Items as they were read, and what was found of them: for every feed that counts them. */
export interface Chunk {
  /** The number up to which items were read. */
  readonly last: number;
  /** Those that are archived. */
  readonly archived: readonly string[];
  readonly items: readonly { readonly sku: string; readonly category: string | null; readonly row: Row }[];
  readonly found: Found;
}

/** Reads items with all that listings are made of. @param most how many at most: more may have changed since the range was found */
export async function readChunk(range: Range, index: AttributeIndex, most = 2 * chunk): Promise<Chunk> {
  const rows = await itemsIn(range, most);
  const families = await familiesOf(rows);
  const items = rows
    .filter(({ archived }) => !archived)
    .map(({ sku, family: own, values, category, changedOn, hints }) => {
      const one = { sku, values, ...(own ? { family: own } : {}), ...(changedOn ? { changedOn } : {}) };
      return { sku, category, row: rowOf(one, own ? families.get(own) : undefined, index), hints };
    });
  return {
    last: rows.length < most ? range.to : (rows.at(-1)?.id ?? range.to),
    archived: rows.flatMap(({ sku, archived }) => (archived ? [sku] : [])),
    items,
    found: await foundOf(items, index.slotOf),
  };
}

/** Chunks that were read last: feeds go through the catalog beside each other, and what one has just read is there for the others. */
const chunksKept = 3;

/**
 * Reads chunks, each once for all who ask for it at about the same time.
 * @returns what reads one; its target is the revision that is counted to: what was read for an earlier one may be older than that
 */
export function readingOnce(
  index: AttributeIndex,
): (range: Range, target: number, most?: number) => Promise<Chunk> {
  const known = new Map<string, Promise<Chunk>>();
  return (range, target, most) => {
    const key = `${range.behind} ${range.to} ${range.since} ${target}`;
    const found = known.get(key) ?? readChunk(range, index, most);
    known.delete(key);
    known.set(key, found);
    for (const [first] of known) {
      if (known.size <= chunksKept) break;
      known.delete(first);
    }
    return found;
  };
}

/** What a feed makes of a chunk of items, up to the number of the last that was read. */
export interface EvaluatedChunk {
  readonly last: number;
  readonly archived: readonly string[];
  readonly listings: readonly EvaluatedListing[];
}

/** Makes listings of items. */
export async function evaluateChunk(
  counted: Counted,
  { last, archived, items, found }: Chunk,
): Promise<EvaluatedChunk> {
  const { compiled, seen } = counted;
  const { feed: asked } = compiled.plan;
  if (asked !== undefined && asksChannelStatus(compiled.plan))
    seen.takeLedger(
      asked,
      await ledgerEntries(
        asked,
        items.map(({ sku }) => sku),
      ),
    );
  // Nothing else is waited for from here on: a feed's next chunk is not begun before this one is made.
  seen.takeOnly(found);
  counting.begin();
  const listings = items.map(({ sku, category, row }, i) => {
    if (i % watchEvery === 0) counting.watch(i);
    return evaluatedListing(counted, category ?? '', evaluate(compiled, sku, row), row);
  });
  return { last, archived, listings };
}
