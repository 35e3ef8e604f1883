import { createHash } from 'node:crypto';
import { mkdir, readFile, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { and, eq, gt, inArray, isNotNull, isNull, ne, or } from 'drizzle-orm';
import sharp, { type Sharp } from 'sharp';
import type { Values } from '../../core/catalog/item';
import { asList } from '../../core/catalog/value';
import { firstPicture } from '../../core/checks/externalFacts';
import { InputError } from '../../core/errors/inputError';
import { overlayOn } from '../../core/pictures/overlay';
import {
  areHashesNear,
  greysOf,
  type Pixels,
  perceptualHashOf,
  sameThumbnail,
  shrunk,
  type Thumbnail,
  thumbnailFrom,
  whiteBorderOf,
} from '../../core/pictures/thumbnail';
import { fold } from '../../core/text/folding';
import { currentUser, recordActivity } from '../auth/authorize';
import { raiseRevision } from '../catalog/changes';
import { type EditDone, editCatalog } from '../catalog/editing';
import { touchItems } from '../catalog/externalFacts';
import { currentSnapshot } from '../catalog/snapshot';
import { inParts, isOneOf } from '../db/bulk';
import { db, type Transaction } from '../db/connection';
import { family, item, type PictureFacts, picture, workspace } from '../db/schema';
import { enqueue, isWaiting } from '../jobs/queue';
import { fetchOutside } from '../net/fetching';
import { procedure } from '../rpc/rpc';
import { Memo } from '../runtime/memo';
import { settings } from '../runtime/settings';

export const pictureFolder = (): string => join(settings.dataFolder, 'pictures');

/** The file kept for a picture's address: the last part of its path, where that is a plain file name. */
export function pictureFile(link: string): string | undefined {
  const name = link.split(/[?#]/)[0]?.split('/').at(-1) ?? '';
  return /^[\w.-]+\.(jpe?g|png|gif|webp|tiff?)$/i.test(name) && !name.startsWith('.') ? name : undefined;
}

/** What is found of a picture by looking at it. */
interface Found {
  readonly facts: PictureFacts;
  readonly thumbnail: Thumbnail;
}

/** What was found of the last files, by a digest of their bytes: shops show one picture of a thing on each of its variants. */
const foundBefore = new Memo<Found>({ owner: 'picture files', maxEntries: 1000 });

/** Measures a picture file; one that is the same as another, byte for byte, is looked at once. */
async function measurePicture(path: string): Promise<Found> {
  const bytes = await readFile(path);
  const digest = createHash('sha256').update(bytes).digest('base64');
  const known = foundBefore.get(digest);
  if (known) return known;
  const found = await measureBytes(bytes);
  foundBefore.set(digest, found);
  return found;
}

/** Measures a picture: size, format, bytes, the white share of its border, what it looks like and what stands beside the thing. */
async function measureBytes(bytes: Uint8Array): Promise<Found> {
  const image = sharp(bytes, { limitInputPixels: MAX_PIXELS });
  const { width, height, format, hasAlpha } = await image.metadata();
  const pixels = await pixelsOf(image, '#ffffff');
  // What lets the ground through is not white.
  const whiteBorder = whiteBorderOf(hasAlpha ? await pixelsOf(image, '#000000') : pixels);
  const afar = shrunk(pixels, enough);
  // On another ground a thing cannot be told from what stands beside it.
  const beside = whiteBorder < 0.5 ? [] : overlayOn(greysOf(afar));
  return {
    facts: {
      width: width ?? pixels.width,
      height: height ?? pixels.height,
      format: format ?? 'unknown',
      bytes: bytes.length,
      whiteBorder,
      ...(beside.length > 0 ? { beside } : {}),
    },
    thumbnail: thumbnailFrom(afar),
  };
}

/** Pixels a side that are enough to tell pictures apart, and what stands beside a thing. */
const enough = 320;

/** A picture whole on a ground: what a decoder makes small itself is less exact. */
export async function pixelsOf(picture: Sharp, background: string): Promise<Pixels> {
  const { data, info } = await picture
    .clone()
    .flatten({ background })
    .toColourspace('srgb')
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}

export interface MeasuredPicture {
  readonly link: string;
  readonly file: string | undefined;
  readonly facts: PictureFacts | undefined;
  readonly alternativeText: string;
}

/** Pixels of one picture; as many are decoded at once in this process, one after another. */
const MAX_PIXELS = 60_000_000;
let turn: Promise<unknown> = Promise.resolve();

/** Decodes one picture after another: however many are asked for at once, only one stands in memory. */
function sharpTurn<T>(work: () => Promise<T>): Promise<T> {
  const mine = turn.then(work, work);
  turn = mine.catch(() => undefined);
  return mine;
}

/** Writes down that a picture cannot be read, so that no listing is sent with it. */
async function rememberBroken(link: string, file: string): Promise<void> {
  const there = await stat(join(pictureFolder(), file)).catch(() => undefined);
  // A file that is not kept here was never looked at.
  if (!there) return;
  const row = { file, facts: null, perceptualHash: null, thumbnail: null, trouble: 'cannot be read' };
  const [known] = await db.select({ trouble: picture.trouble }).from(picture).where(eq(picture.link, link));
  if (!known?.trouble) await keepFound(link, row);
}

/** Writes down what was found of a picture, and has the listings that show it counted with it. */
const keepFound = (
  link: string,
  found: Pick<typeof picture.$inferInsert, 'file' | 'facts' | 'perceptualHash' | 'thumbnail' | 'trouble'>,
): Promise<void> =>
  db.transaction(async (tx) => {
    const row = { ...found, revision: null };
    await tx
      .insert(picture)
      .values({ link: link.slice(0, 700), ...row })
      .onDuplicateKeyUpdate({ set: row });
    await requestMeasuring(tx);
  });

/** Has pictures looked at, where nobody is about to. */
async function requestMeasuring(tx: Transaction): Promise<void> {
  if (!(await isWaiting(tx, 'measurePictures'))) await enqueue(tx, 'measurePictures', {});
}

/** Asked at every start: has pictures looked at anew of which less is known than would be found today. */
export const requestMissingMeasurements = (): Promise<void> =>
  db.transaction(async (tx) => {
    const [one] = await tx
      .select({ link: picture.link })
      .from(picture)
      .where(and(isNull(picture.perceptualHash), isNull(picture.trouble), isNotNull(picture.file)))
      .limit(1);
    if (one) await requestMeasuring(tx);
  });

/** Measures a kept file and writes down what was found under the picture's address. */
async function measureAndKeep(link: string, file: string): Promise<MeasuredPicture | undefined> {
  const path = join(pictureFolder(), file);
  const measured = await sharpTurn(() => measurePicture(path)).catch(() => undefined);
  if (!measured) {
    await rememberBroken(link, file);
    return undefined;
  }
  const { facts, thumbnail } = measured;
  await keepFound(link, {
    file,
    facts,
    perceptualHash: perceptualHashOf(thumbnail),
    thumbnail,
    trouble: null,
  });
  return { link, file, facts, alternativeText: '' };
}

const MAX_SMALL_BYTES = 64 * 1024 ** 2;
/** Small pictures already made, by file; the oldest go when they hold more than so many bytes. */
const small = new Memo<Buffer>({
  owner: 'small pictures',
  maxBytes: MAX_SMALL_BYTES,
  bytesOf: ({ length }) => length,
});

/** A kept picture, at most 320 pixels wide, as JPEG; undefined where there is none of that name that can be read. */
export async function smallPicture(name: string): Promise<Buffer | undefined> {
  const file = pictureFile(name);
  if (file === undefined) return undefined;
  const known = small.get(file);
  if (known) return known;
  const created = await sharpTurn(() =>
    sharp(join(pictureFolder(), file), { limitInputPixels: MAX_PIXELS })
      .resize(320, 320, { fit: 'inside', withoutEnlargement: true })
      .jpeg({ quality: 80 })
      .toBuffer(),
  ).catch(() => undefined);
  if (!created) return undefined;
  small.set(file, created);
  return created;
}

/** Facts of pictures by address; what has not been measured yet is measured now and kept. */
export async function picturesOf(links: readonly string[]): Promise<MeasuredPicture[]> {
  if (links.length === 0) return [];
  const rows = await db
    .select()
    .from(picture)
    .where(inArray(picture.link, [...links]));
  const known = new Map(rows.map((row) => [row.link, row]));
  return Promise.all(
    links.map(async (link) => {
      const row = known.get(link);
      const alternativeText = row?.alternativeText ?? '';
      if (row?.trouble) return { link, file: undefined, facts: undefined, alternativeText };
      if (row?.perceptualHash)
        return { link, file: row.file ?? undefined, facts: row.facts ?? undefined, alternativeText };
      const file = row?.file ?? pictureFile(link);
      const created = file ? await measureAndKeep(link, file) : undefined;
      return created
        ? { ...created, alternativeText }
        : { link, file: undefined, facts: undefined, alternativeText };
    }),
  );
}

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

export type Holder = { sku: string } | { family: string };

/** Puts pictures in an order, the first being the main one; those left out are taken off. */
export async function orderPictures(holder: Holder, links: readonly string[]): Promise<EditDone> {
  return setPictures(holder, () => links, 'put the pictures in order');
}

async function setPictures(
  holder: Holder,
  change: (before: readonly string[]) => readonly string[],
  words: string,
): Promise<EditDone> {
  return editCatalog(async (desk) => {
    if ('family' in holder) {
      const state = await desk.family(holder.family);
      if (!state) throw new InputError('noFamily', { family: holder.family });
      const image = [...new Set(change(asList(state.values.image)))];
      desk.putFamily(holder.family, { ...state, values: { ...state.values, image } });
      return `${words} of the family ${holder.family}`;
    }
    const state = (await desk.items([holder.sku])).get(holder.sku);
    if (!state) throw new InputError('noItem', { sku: holder.sku });
    const shared = state.family ? await desk.family(state.family) : undefined;
    const image = [...new Set(change(asList(state.values.image ?? shared?.values.image)))];
    desk.putItem(holder.sku, { ...state, values: { ...state.values, image } });
    return `${words} of ${holder.sku}`;
  });
}

const MAX_BYTES = 25 * 1024 * 1024;
const kinds = { jpeg: 'jpg', png: 'png', gif: 'gif', webp: 'webp', tiff: 'tif' } as const;

/** A body's bytes, counted as they come. @throws InputError where they are too many; no more are read then */
async function gather(body: AsyncIterable<Uint8Array>): Promise<Buffer> {
  const chunks: Uint8Array[] = [];
  let bytes = 0;
  for await (const chunk of body) {
    bytes += chunk.length;
    if (bytes > MAX_BYTES) throw new InputError('pictureTooLarge');
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

/** Keeps bytes that are a picture. @returns its file @throws InputError where they are none */
async function keepPicture(bytes: Buffer, name: string): Promise<string> {
  const found = await sharp(bytes, { limitInputPixels: MAX_PIXELS })
    .metadata()
    .catch(() => undefined);
  if (found && (found.width ?? 0) * (found.height ?? 0) > MAX_PIXELS)
    throw new InputError('tooManyPixels', {
      name,
      width: found.width,
      height: found.height,
      most: MAX_PIXELS / 1e6,
    });
  const format = found?.format;
  const ending = Object.entries(kinds).find(([kind]) => kind === format)?.[1];
  if (!ending) throw new InputError('noPicture', { name });
  const digest = createHash('sha256').update(bytes).digest('hex').slice(0, 12);
  const title =
    fold(name.replace(/\.[^.]*$/, ''))
      .replace(/[^a-z0-9]+/g, '-')
      .slice(0, 60) || 'picture';
  const file = `${title}-${digest}.${ending}`;
  await mkdir(pictureFolder(), { recursive: true, mode: 0o700 });
  await writeFile(join(pictureFolder(), file), bytes, { mode: 0o600 });
  return file;
}

/** Takes an uploaded picture and puts it behind the others of an item or a family. */
export async function takePicture(
  holder: Holder,
  name: string,
  body: AsyncIterable<Uint8Array>,
): Promise<EditDone> {
  const file = await keepPicture(await gather(body), name);
  const [state] = await db.select({ base: workspace.pictureBase }).from(workspace);
  const link = `${state?.base || 'https://pictures.example/'}${file}`;
  await measureAndKeep(link, file);
  return setPictures(holder, (before) => [...before, link], 'added a picture');
}

/** Fetches a picture from an address, measures it, and puts the address behind the others. */
export async function addPicture(holder: Holder, address: string): Promise<EditDone> {
  const [known] = await picturesOf([address]);
  if (!known?.facts) {
    const answer = await fetchOutside(address, { seconds: 30, bytes: MAX_BYTES }).catch((error: unknown) => {
      if (error instanceof InputError) throw error;
      return undefined;
    });
    if (!answer?.ok) throw new InputError('noPictureThere', { address, status: answer?.status ?? 0 });
    const bytes = await answer.bytes();
    await measureAndKeep(
      address,
      await keepPicture(bytes, answer.url.pathname.split('/').at(-1) ?? 'picture'),
    );
  }
  return setPictures(holder, (before) => [...before, address], 'added a picture');
}

/** Says what a picture shows, for those who cannot see it; it holds wherever the picture is used. */
export async function setAlternativeText(link: string, words: string): Promise<void> {
  const person = await currentUser();
  const alternativeText = words.trim() || null;
  await db
    .insert(picture)
    .values({ link, alternativeText })
    .onDuplicateKeyUpdate({ set: { alternativeText } });
  await recordActivity(person, 'described a picture', link);
}
