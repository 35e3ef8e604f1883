import {
  and,
  asc,
  count,
  eq,
  inArray,
  isNotNull,
  isNull,
  lte,
  min,
  notInArray,
  type SQL,
  sql,
} from 'drizzle-orm';
import { asText } from '../../core/catalog/value';
import { differsInAvailability, differsInPrice, productOnPage } from '../../core/checks/listings/shopPage';
import { InputError } from '../../core/errors/inputError';
import { type ShopVisits, shopVisitsSchema } from '../../core/forms/shopVisits';
import { readAmount } from '../../core/measures/money';
import { type PageFacts, pageText } from '../../core/shop/page';
import { currentUser, recordActivity } from '../auth/authorize';
import { raiseRevision } from '../catalog/changes';
import { touchItems } from '../catalog/externalFacts';
import { catalogCurrency } from '../catalog/snapshot';
import { db, type Transaction } from '../db/connection';
import { item, notification, shopPage, shopPageItem, source, workspace } from '../db/schema';
import { enqueue, hasten, isWaiting, type Work } from '../jobs/queue';
import { guardAddress } from '../net/address';
import { notify } from '../notifications/notifications';
import { Later, pause, type Visit, visit } from './visit';

/** A stretch of work before the job lets others have its lane, in ms. */
const stretch = 15_000;
/** Pages whose news are written down together, and the longest they wait, in ms. */
const writtenTogether = 50;
const writtenAfter = 4000;
/** A page that fails is tried again after this, twice as long each time; in ms. */
const firstRetry = 15 * 60_000;
const day = 24 * 3600_000;

export async function readVisits(): Promise<ShopVisits> {
  const [row] = await db.select({ visits: workspace.shopVisits }).from(workspace);
  return row?.visits ?? shopVisitsSchema.parse({});
}

/** Sets how the shop's pages are visited. @throws InputError where the address for visits is refused */
export async function saveVisits(given: ShopVisits): Promise<void> {
  const person = await currentUser();
  const visits = shopVisitsSchema.parse(given);
  if (visits.at !== '') await guardAddress(visits.at);
  const [done] = await db.update(workspace).set({ shopVisits: visits });
  if (done.affectedRows === 0) throw new InputError('noWorkspace');
  await recordActivity(person, 'changed the shop visits', JSON.stringify(visits));
  await requestVisits();
}

/** Has all pages visited as soon as the pace allows. */
export async function visitAllNow(): Promise<void> {
  const person = await currentUser();
  if (!(await readVisits()).on) throw new InputError('visitsOff');
  await db.update(shopPage).set({ nextAt: new Date() });
  await db.transaction(async (tx) => {
    await tx.update(workspace).set({ pagesRevision: -1 });
    if (!(await hasten(tx, 'visitShop'))) await enqueue(tx, 'visitShop', {});
  });
  await recordActivity(person, 'started a shop visit', 'all pages');
}

/** Sees to it that the shop is visited where it is to be; asked now and then. */
export async function requestVisits(): Promise<void> {
  const [space] = await db.select({ visits: workspace.shopVisits }).from(workspace);
  if (!space?.visits?.on) return;
  await db.transaction(async (tx) => {
    if (!(await isWaiting(tx, 'visitShop', true))) await enqueue(tx, 'visitShop', {});
  });
}

/** Learns which pages there are: those of items that changed are visited soon, those of items that went are forgotten. */
export async function learnPages(now: Date): Promise<void> {
  const [space] = await db
    .select({
      revision: workspace.catalogRevision,
      reload: workspace.reloadRevision,
      known: workspace.pagesRevision,
    })
    .from(workspace);
  if (!space || space.revision === space.known) return;
  const { known, revision } = space;
  const found = (where: SQL) => sql`
    replace into shop_page_item (sku, address)
    select * from (
      select i.sku as sku, left(coalesce(json_value(i.own_values, '$.url'), json_value(f.own_values, '$.url')), 700) as address
      from item i left join family f on f.code = i.family
      where not i.archived and ${where}) found
    where address regexp '^https?://.'`;
  await db.transaction(
    async (tx) => {
      await tx.execute(
        sql`delete p from shop_page_item p join item i on i.sku = p.sku where i.revision > ${known}`,
      );
      await tx.execute(found(sql`i.revision > ${known}`));
      await tx.execute(found(sql`f.revision > ${known}`));
      await tx.execute(sql`
        insert into shop_page (address, next_at)
        select distinct p.address, ${now} from shop_page_item p join item i on i.sku = p.sku
        where i.revision > ${known}
        on duplicate key update next_at = least(next_at, values(next_at))`);
      await tx.execute(sql`
        insert ignore into shop_page (address, next_at)
        select distinct p.address, ${now} from family f join item i on i.family = f.code
        join shop_page_item p on p.sku = i.sku where f.revision > ${known}`);
      // Only where items went away since are there pages that nobody has.
      if (space.reload > known)
        await tx.execute(sql`
          delete p from shop_page_item p left join item i on i.sku = p.sku
          where i.id is null or i.archived`);
      await tx.execute(sql`
        delete s from shop_page s left join shop_page_item p on p.address = s.address where p.sku is null`);
      // What changed meanwhile is learned the next time.
      await tx.update(workspace).set({ pagesRevision: revision }).where(eq(workspace.pagesRevision, known));
    },
    { isolationLevel: 'read committed' },
  );
}

interface Visited {
  readonly address: string;
  readonly visit: Visit;
  readonly failures: number;
  readonly before: PageFacts | null;
}

/** Writes down what visits came to; items whose page says something new are counted anew. */
async function writeVisits(
  done: readonly Visited[],
  { everyDays }: ShopVisits,
  { hold }: Work,
): Promise<void> {
  const now = new Date();
  const changed = done.filter(
    ({ visit: one, before }) => 'seen' in one && (before === null || pageText(before) !== pageText(one.seen)),
  );
  await db.transaction(async (tx) => {
    await hold(tx);
    const revision = changed.length > 0 ? await raiseRevision(tx) : 0;
    const news = new Set(changed.map(({ address }) => address));
    for (const { address, visit: one, failures } of done)
      await tx
        .update(shopPage)
        .set(
          'seen' in one
            ? {
                visitedAt: now,
                nextAt: new Date(now.getTime() + everyDays * day),
                failures: 0,
                trouble: null,
                ...(news.has(address) ? { seen: one.seen, revision } : {}),
              }
            : {
                visitedAt: now,
                // What it said before stands: a shop that cannot be reached says nothing new.
                nextAt: new Date(
                  now.getTime() + Math.min(everyDays * day, firstRetry * 2 ** Math.min(failures, 12)),
                ),
                failures: failures + 1,
                trouble: one.trouble.slice(0, 300),
              },
        )
        .where(eq(shopPage.address, address));
    if (news.size === 0) return;
    const items = await tx
      .select({ sku: shopPageItem.sku })
      .from(shopPageItem)
      .where(inArray(shopPageItem.address, [...news]));
    await touchItems(
      tx,
      items.map(({ sku }) => sku),
      revision,
    );
    // That alone is no reason to visit them again.
    await tx
      .update(workspace)
      .set({ pagesRevision: revision })
      .where(eq(workspace.pagesRevision, revision - 1));
    await followShop(tx, [...news], now);
  });
}

/** A source is not fetched again for this within so long, and nobody is told more often; in ms. */
const followAgain = 3600_000;
const tellAgain = day;

/** Where pages contradict the catalog in price or stock, the sources of their items are fetched again, and it is told. */
async function followShop(tx: Transaction, addresses: readonly string[], now: Date): Promise<void> {
  const rows = await tx
    .select({
      sku: item.sku,
      values: item.values,
      source: item.sourceId,
      seen: shopPage.seen,
    })
    .from(shopPageItem)
    .innerJoin(shopPage, eq(shopPage.address, shopPageItem.address))
    .innerJoin(item, eq(item.sku, shopPageItem.sku))
    .where(inArray(shopPageItem.address, [...addresses]));
  const currency = await catalogCurrency();
  const otherwise = rows.filter(({ sku, values, seen }) => {
    const stated = seen?.state === 'read' ? productOnPage(seen, sku, asText(values.gtin)) : undefined;
    if (!stated) return false;
    const own = readAmount(asText(values.price));
    const inCurrency = own?.currency ?? (asText(values.priceCurrency) || currency);
    return (
      (own !== undefined && differsInPrice(stated, own.amount, inCurrency)) ||
      differsInAvailability(stated, asText(values.availability))
    );
  });
  if (otherwise.length === 0) return;
  const sources = [...new Set(otherwise.flatMap(({ source: id }) => id ?? []))];
  const stale =
    sources.length === 0
      ? []
      : await tx
          .select({ id: source.id })
          .from(source)
          .where(
            and(
              inArray(source.id, sources),
              isNotNull(source.address),
              sql`(${source.fetchedAt} is null or ${source.fetchedAt} < ${new Date(now.getTime() - followAgain)})`,
            ),
          );
  for (const { id } of stale) {
    // The mark is set at once: pages that are visited meanwhile ask for the same.
    await tx.update(source).set({ fetchedAt: now }).where(eq(source.id, id));
    await enqueue(tx, 'fetchSource', { source: id });
  }
  const [told] = await tx
    .select({ id: notification.id })
    .from(notification)
    .where(
      and(
        eq(notification.kind, 'shopDiffers'),
        sql`${notification.at} > ${new Date(now.getTime() - tellAgain)}`,
      ),
    )
    .limit(1);
  if (!told)
    await notify(tx, 'shopDiffers', null, {
      items: otherwise.length,
      example: otherwise[0]?.sku ?? '',
      fetched: stale.length,
    });
}

/** Visits pages that are due, for a stretch. @returns in how many ms it is to go on; undefined where nobody wants it */
export async function visitShop(work: Work): Promise<number | undefined> {
  const visits = await readVisits();
  if (!visits.on) return undefined;
  const begun = Date.now();
  await learnPages(new Date());
  let waiting: Visited[] = [];
  let since = Date.now();
  let wait = 0;
  const write = async () => {
    if (waiting.length > 0) await writeVisits(waiting, visits, work);
    waiting = [];
    since = Date.now();
  };
  while (Date.now() - begun < stretch && wait === 0) {
    const [next] = await db
      .select()
      .from(shopPage)
      .where(
        and(
          lte(shopPage.nextAt, new Date()),
          waiting.length === 0
            ? undefined
            : notInArray(
                shopPage.address,
                waiting.map(({ address }) => address),
              ),
        ),
      )
      .orderBy(asc(shopPage.nextAt), asc(shopPage.address))
      .limit(1);
    if (!next) break;
    try {
      const { address, failures, seen } = next;
      waiting.push({ address, visit: await visit(address, visits), failures, before: seen });
    } catch (error) {
      if (!(error instanceof Later)) throw error;
      // Short waits are waited for here.
      if (error.wait <= 3000) await pause(error.wait);
      else wait = error.wait;
    }
    if (waiting.length >= writtenTogether || Date.now() - since > writtenAfter) await write();
    await work.progress(0);
  }
  await write();
  if (wait > 0) return Math.min(wait, 60_000);
  const [soonest] = await db.select({ at: min(shopPage.nextAt) }).from(shopPage);
  const left = soonest?.at ? soonest.at.getTime() - Date.now() : 60_000;
  return Math.max(500, Math.min(left, 60_000));
}

/** How the visits stand. */
export interface VisitsView {
  readonly pages: number;
  /** Pages by what came of the last visit that counted; `due` were not visited yet. */
  readonly states: Readonly<Partial<Record<PageFacts['state'] | 'due', number>>>;
  readonly failing: number;
  readonly last: Date | undefined;
  /** What the last visit met to which no answer came. */
  readonly trouble: { readonly address: string; readonly words: string } | undefined;
}

export async function visitsView(): Promise<VisitsView> {
  const [states, [sums], [trouble], [due]] = await Promise.all([
    db
      .select({ state: sql<PageFacts['state']>`json_value(${shopPage.seen}, '$.state')`, count: count() })
      .from(shopPage)
      .where(isNotNull(shopPage.seen))
      .groupBy(sql`1`),
    db
      .select({
        pages: count(),
        failing: sql<number>`coalesce(sum(${shopPage.failures} > 0), 0)`,
        last: sql<string | null>`max(${shopPage.visitedAt})`,
      })
      .from(shopPage),
    db
      .select({ address: shopPage.address, words: shopPage.trouble })
      .from(shopPage)
      .where(isNotNull(shopPage.trouble))
      .orderBy(sql`${shopPage.visitedAt} desc`)
      .limit(1),
    db.select({ count: count() }).from(shopPage).where(isNull(shopPage.seen)),
  ]);
  return {
    pages: sums?.pages ?? 0,
    states: {
      ...Object.fromEntries(states.map(({ state, count: found }) => [state, found])),
      due: due?.count ?? 0,
    },
    failing: Number(sums?.failing ?? 0),
    last: sums?.last ? new Date(`${sums.last.replace(' ', 'T')}Z`) : undefined,
    trouble: trouble ? { address: trouble.address, words: trouble.words ?? '' } : undefined,
  };
}

/** What the shop's page of an item said last, and when; undefined where nobody looked. */
export async function pageOfItem(sku: string) {
  const [row] = await db
    .select({
      address: shopPage.address,
      seen: shopPage.seen,
      at: shopPage.visitedAt,
      trouble: shopPage.trouble,
    })
    .from(shopPageItem)
    .innerJoin(shopPage, eq(shopPage.address, shopPageItem.address))
    .where(eq(shopPageItem.sku, sku));
  return row?.at ? { ...row, at: row.at } : undefined;
}
