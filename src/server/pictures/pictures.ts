import { createHash } from 'node:crypto';
import { readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { and, eq, inArray, isNotNull, isNull } from 'drizzle-orm';
import sharp, { type Sharp } from 'sharp';
import { overlayOn } from '../../core/pictures/overlay';
import {
  greysOf,
  type Pixels,
  perceptualHashOf,
  shrunk,
  type Thumbnail,
  thumbnailFrom,
  whiteBorderOf,
} from '../../core/pictures/thumbnail';
import { db, type Transaction } from '../db/connection';
import { type PictureFacts, picture } from '../db/schema';
import { enqueue, isWaiting } from '../jobs/queue';
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
export const MAX_PIXELS = 60_000_000;
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
export async function requestMeasuring(tx: Transaction): Promise<void> {
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
export async function measureAndKeep(link: string, file: string): Promise<MeasuredPicture | undefined> {
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

export type Holder = { sku: string } | { family: string };
