import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { and, eq, gt, inArray, isNotNull, isNull, ne, or } from 'drizzle-orm';
import type { Values } from '../../core/catalog/item';
import { asList } from '../../core/catalog/value';
import { firstPicture } from '../../core/checks/externalFacts';
import { areHashesNear, sameThumbnail } from '../../core/pictures/thumbnail';
import { raiseRevision } from '../catalog/changes';
import { touchItems } from '../catalog/externalFacts';
import { currentSnapshot } from '../catalog/snapshot';
import { inParts, isOneOf } from '../db/bulk';
import { db, type Transaction } from '../db/connection';
import { family, item, picture } from '../db/schema';
import { procedure } from '../rpc/rpc';
import { type Holder, pictureFile, pictureFolder, picturesOf, requestMeasuring } from './pictures';

/** Which items and families show each picture, some of them at a time. */
async function* allShown(): AsyncGenerator<Map<string, Holder[]>> {
  const shownBy = (rows: readonly { holder: Holder; values: Values }[]) => {
    const shown = new Map<string, Holder[]>();
    for (const { holder, values } of rows)
      for (const link of asList(values.image)) shown.set(link, [...(shown.get(link) ?? []), holder]);
    return shown;
  };
  for (let after = 0; ; ) {
    const rows = await db
      .select({ id: item.id, sku: item.sku, values: item.values })
      .from(item)
      .where(and(gt(item.id, after), eq(item.archived, false)))
      .orderBy(item.id)
      .limit(200);
    const last = rows.at(-1);
    if (!last) break;
    after = last.id;
    yield shownBy(rows.map(({ sku, values }) => ({ holder: { sku }, values })));
  }
  for (let after = ''; ; ) {
    const rows = await db
      .select({ code: family.code, values: family.values })
      .from(family)
      .where(gt(family.code, after))
      .orderBy(family.code)
      .limit(200);
    const last = rows.at(-1);
    if (!last) break;
    after = last.code;
    yield shownBy(rows.map(({ code, values }) => ({ holder: { family: code }, values })));
  }
}

/** Pictures looked at that the items which show them have not been counted with. */
const unannounced = (links: readonly string[]) =>
  and(
    isOneOf(picture.link, links),
    isNull(picture.revision),
    or(isNotNull(picture.perceptualHash), isNotNull(picture.trouble)),
  );

/** Links a transaction: each is looked for among the pictures that look like it. */
const BATCH_TOLD = 50;

/** Has the items counted anew that show pictures of which something was found that they do not know of yet. */
async function announce(shown: ReadonlyMap<string, readonly Holder[]>): Promise<void> {
  if (shown.size === 0) return;
  const open = await db
    .select({ link: picture.link })
    .from(picture)
    .where(unannounced([...shown.keys()]));
  for (const part of inParts(open, BATCH_TOLD)) {
    const links = part.map(({ link }) => link);
    await db.transaction(async (tx) => {
      // Raising it first has those who tell of pictures wait for each other: of two that are the same one is the first.
      const revision = await raiseRevision(tx);
      const fresh = await tx
        .select({ link: picture.link, perceptualHash: picture.perceptualHash, thumbnail: picture.thumbnail })
        .from(picture)
        .where(unannounced(links))
        .orderBy(picture.link);
      for (const { link, ...seen } of fresh)
        await tx
          .update(picture)
          .set({ revision, same: await firstOf(tx, link, seen) })
          .where(eq(picture.link, link));
      const holders = fresh.flatMap(({ link }) => shown.get(link) ?? []);
      const families = holders.flatMap((one) => ('family' in one ? [one.family] : []));
      const members =
        families.length === 0
          ? []
          : await tx.select({ sku: item.sku }).from(item).where(inArray(item.family, families));
      const skus = [
        ...holders.flatMap((one) => ('sku' in one ? [one.sku] : [])),
        ...members.map(({ sku }) => sku),
      ];
      await touchItems(tx, [...new Set(skus)], revision);
    });
  }
}

/** The picture that was there first and is the same as this one; null where this one is. */
async function firstOf(
  tx: Transaction,
  link: string,
  { perceptualHash, thumbnail }: Pick<typeof picture.$inferSelect, 'perceptualHash' | 'thumbnail'>,
): Promise<string | null> {
  // Others that were the same as this one: what this one looks like may have changed, so they look for another first.
  const [parted] = await tx.update(picture).set({ same: null, revision: null }).where(eq(picture.same, link));
  if (parted.affectedRows > 0) await requestMeasuring(tx);
  if (perceptualHash === null || thumbnail === null) return null;
  const near = await tx
    .select({ link: picture.link, thumbnail: picture.thumbnail })
    .from(picture)
    .where(
      and(
        inArray(picture.perceptualHash, areHashesNear(perceptualHash)),
        isNull(picture.same),
        isNotNull(picture.revision),
        ne(picture.link, link),
      ),
    )
    .orderBy(picture.link)
    .limit(MAX_ALIKE);
  return near.find(({ thumbnail: other }) => other !== null && sameThumbnail(thumbnail, other))?.link ?? null;
}

/** Pictures that one is laid beside; more that look so much alike are drawings by one hand. */
const MAX_ALIKE = 2000;

/**
 * Of some pictures those that have not been measured and of which a file is kept here. Most of a catalog may lie elsewhere: of those
 * nothing is asked one by one.
 */
async function notMeasured(links: readonly string[]): Promise<string[]> {
  if (links.length === 0) return [];
  const rows = await db
    .select({
      link: picture.link,
      file: picture.file,
      perceptualHash: picture.perceptualHash,
      trouble: picture.trouble,
    })
    .from(picture)
    .where(isOneOf(picture.link, links));
  const known = new Map(rows.map((row) => [row.link, row]));
  const stored = await Promise.all(
    links.map(async (link) => {
      const row = known.get(link);
      if (row && (row.perceptualHash !== null || row.trouble !== null)) return false;
      const file = row?.file ?? pictureFile(link);
      if (file === undefined) return false;
      return (await stat(join(pictureFolder(), file)).catch(() => undefined)) !== undefined;
    }),
  );
  return links.filter((_link, at) => stored[at]);
}

/** Measures every picture of the catalog that has not been measured. @returns how many were */
export async function measureAll(): Promise<number> {
  let count = 0;
  for await (const shown of allShown()) {
    // A few at a time: each is decoded whole.
    for (const some of inParts(await notMeasured([...shown.keys()]), 4)) {
      const measured = await picturesOf(some);
      count += measured.filter(({ facts }) => facts).length;
    }
    await announce(shown);
  }
  return count;
}

/** Items whose main picture is the same as this one, or nearly: scaled or saved anew. */
export const nearDuplicates = procedure('nearDuplicates', alikeTo);

async function alikeTo(sku: string, main: string): Promise<string[]> {
  const { rows, skus, index, items, positionOf, seen } = await currentSnapshot();
  const slot = index.slotOf('image') ?? -1;
  const family = items[positionOf(sku) ?? -1]?.family;
  const shown = firstPicture(main, seen);
  return rows.flatMap((row, at) => {
    const other = skus[at] ?? '';
    const [first] = asList(row[slot]);
    // Variants of one family may well share a picture; that is no mistake.
    const sameFamily = family !== undefined && items[at]?.family === family;
    return first !== undefined && other !== sku && !sameFamily && firstPicture(first, seen) === shown
      ? [other]
      : [];
  });
}
