import { and, eq, gt, inArray, isNotNull } from 'drizzle-orm';
import { asList, asText, type Row } from '../../core/catalog/value';
import type { CatalogHints, ExternalFacts, PictureMeasurement } from '../../core/checks/externalFacts';
import type { ChannelStatus } from '../../core/conditions/conditions';
import { channelStatusOf, type LedgerEntry } from '../../core/ledger/ledger';
import type { PageFacts } from '../../core/shop/page';
import { hasDigestOf } from '../db/bulk';
import { db, type Transaction } from '../db/connection';
import { item, itemHint, type PictureFacts, picture, shopPage } from '../db/schema';

/**
 * What was found of pictures, pages and likes, in memory. Whatever changes of it raises the revision of the items it is about,
 * so that their listings are counted anew with what is here by then.
 */
export class StoredFacts implements ExternalFacts {
  private readonly pictures = new Map<string, PictureMeasurement>();
  private readonly pages = new Map<string, PageFacts>();
  private readonly said = new Map<string, CatalogHints>();
  private readonly ledgers = new Map<string, ReadonlyMap<string, LedgerEntry>>();
  /** Many pictures are of one size and kind: they share what is said of them. */
  private readonly kinds = new Map<string, Exclude<PictureMeasurement, 'unreadable'>>();

  picturesAsOf: object = {};

  picture(link: string): PictureMeasurement | undefined {
    return this.pictures.get(link);
  }
  page(address: string): PageFacts | undefined {
    return this.pages.get(address);
  }
  hints(sku: string): CatalogHints | undefined {
    return this.said.get(sku);
  }
  standing(feed: string, sku: string): readonly ChannelStatus[] | undefined {
    const entries = this.ledgers.get(feed);
    return entries && channelStatusOf(entries.get(sku));
  }

  /** Takes what a feed's channel has, for conditions that ask for it: of all listings, or of those that are evaluated. */
  takeLedger(feed: string, entries: ReadonlyMap<string, LedgerEntry>): void {
    this.ledgers.set(feed, entries);
  }

  private takePictures(
    rows: readonly { link: string; facts: PictureFacts | null; same: string | null }[],
  ): void {
    if (rows.length > 0) this.picturesAsOf = {};
    for (const { link, facts, same } of rows) {
      if (facts === null) {
        this.pictures.set(link, 'unreadable');
        continue;
      }
      const { width, height, format, beside } = facts;
      const whiteBorder = Math.floor(facts.whiteBorder * 1000) / 1000;
      const key = [width, height, format, whiteBorder, beside].join(' ');
      const kind = this.kinds.get(key) ?? { width, height, format, whiteBorder, ...(beside && { beside }) };
      this.kinds.set(key, kind);
      this.pictures.set(link, same === null ? kind : { ...kind, same });
    }
  }
  private takePages(rows: readonly { address: string; seen: PageFacts | null }[]): void {
    for (const { address, seen } of rows)
      if (seen) this.pages.set(address, seen);
      else this.pages.delete(address);
  }
  private takeHints(rows: readonly { sku: string; hints: CatalogHints | null }[]): void {
    for (const { sku, hints } of rows)
      if (hints) this.said.set(sku, hints);
      else this.said.delete(sku);
  }

  /** Reads whatever was found since a revision of the catalog. */
  async readSince(revision: number): Promise<this> {
    const [pictures, pages, hints] = await Promise.all([
      db.select(ofPicture).from(picture).where(gt(picture.revision, revision)),
      db
        .select(ofPage)
        .from(shopPage)
        .where(and(gt(shopPage.revision, revision), isNotNull(shopPage.seen))),
      db.select().from(itemHint).where(gt(itemHint.revision, revision)),
    ]);
    this.takePictures(pictures);
    this.takePages(pages);
    this.takeHints(hints);
    return this;
  }

  /** Takes what was found of some items, and forgets all else. */
  takeOnly({ pictures, pages, hints }: Found): void {
    this.pictures.clear();
    this.pages.clear();
    this.said.clear();
    this.takePictures(pictures);
    this.takePages(pages);
    this.takeHints(hints);
  }
}

/** What was found of some items. */
export type Found = Awaited<ReturnType<typeof foundOf>>;

/** Reads what was found of items. @param rows what the rest of the catalog tells of each was read with it */
export async function foundOf(
  rows: readonly { readonly sku: string; readonly row: Row; readonly hints: CatalogHints | null }[],
  slotOf: (attribute: string) => number | undefined,
) {
  const [image, url] = [slotOf('image') ?? -1, slotOf('url') ?? -1];
  const links = [...new Set(rows.flatMap(({ row }) => asList(row[image])))];
  const addresses = [...new Set(rows.map(({ row }) => asText(row[url])))].filter((one) => one !== '');
  const [pictures, pages] = await Promise.all([
    links.length === 0
      ? []
      : db
          .select(ofPicture)
          .from(picture)
          .where(and(hasDigestOf(picture.digest, links), isNotNull(picture.revision))),
    addresses.length === 0
      ? []
      : db.select(ofPage).from(shopPage).where(hasDigestOf(shopPage.digest, addresses)),
  ]);
  return { pictures, pages, hints: rows.filter(({ hints }) => hints !== null) };
}

const ofPicture = { link: picture.link, facts: picture.facts, same: picture.same };
const ofPage = { address: shopPage.address, seen: shopPage.seen };

/** Has items counted anew with what was found of them. @param revision that of the change */
export async function touchItems(tx: Transaction, skus: readonly string[], revision: number): Promise<void> {
  for (let at = 0; at < skus.length; at += 500)
    await tx
      .update(item)
      .set({ revision })
      .where(and(inArray(item.sku, skus.slice(at, at + 500)), eq(item.archived, false)));
}
