import { createHash } from 'node:crypto';
import { mkdir, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { and, inArray, isNotNull, sql } from 'drizzle-orm';
import sharp from 'sharp';
import { asList } from '../../core/catalog/value';
import { InputError } from '../../core/formats/inputError';
import { fold } from '../../core/text/folding';
import { db } from '../db/connection';
import { type PictureFacts, picture, workspace } from '../db/schema';
import { guardAddress } from '../net/address';
import { record, whoAsks } from '../people/gate';
import { settings } from '../settings';
import { type EditDone, editCatalog } from './editing';
import { currentSnapshot } from './snapshot';

export const pictureFolder = (): string => join(settings.dataFolder, 'pictures');

/** The file kept for a picture's address: the last part of its path, where that is a plain file name. */
export function pictureFile(link: string): string | undefined {
  const name = link.split(/[?#]/)[0]?.split('/').at(-1) ?? '';
  return /^[\w.-]+\.(jpe?g|png|gif|webp|tiff?)$/i.test(name) && !name.startsWith('.') ? name : undefined;
}

/** Measures a picture file: size, format, bytes and the white share of its border. */
async function measurePicture(path: string): Promise<PictureFacts> {
  const image = sharp(path, { limitInputPixels: 120_000_000 });
  const { width, height, format } = await image.metadata();
  const { data, info } = await image
    .flatten({ background: '#000000' })
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  let white = 0;
  let border = 0;
  const look = (x: number, y: number) => {
    const at = (y * info.width + x) * info.channels;
    border++;
    if ((data[at] ?? 0) >= 250 && (data[at + 1] ?? 0) >= 250 && (data[at + 2] ?? 0) >= 250) white++;
  };
  for (let x = 0; x < info.width; x++) {
    look(x, 0);
    look(x, info.height - 1);
  }
  for (let y = 1; y < info.height - 1; y++) {
    look(0, y);
    look(info.width - 1, y);
  }
  return {
    width: width ?? info.width,
    height: height ?? info.height,
    format: format ?? 'unknown',
    bytes: (await stat(path)).size,
    whiteBorder: border === 0 ? 0 : white / border,
  };
}

/** A difference hash: the picture as 9 × 8 greys, a bit for each grey that is brighter than the one to its right. */
async function printOf(path: string): Promise<string> {
  const grey = await sharp(path, { limitInputPixels: 120_000_000 })
    .flatten({ background: '#ffffff' })
    .greyscale()
    .resize(9, 8, { fit: 'fill' })
    .raw()
    .toBuffer();
  let bits = 0n;
  for (let y = 0; y < 8; y++)
    for (let x = 0; x < 8; x++)
      bits = (bits << 1n) | ((grey[y * 9 + x] ?? 0) > (grey[y * 9 + x + 1] ?? 0) ? 1n : 0n);
  return bits.toString(16).padStart(16, '0');
}

export interface MeasuredPicture {
  readonly link: string;
  readonly file: string | undefined;
  readonly facts: PictureFacts | undefined;
  readonly print: string | undefined;
  readonly alternativeText: string;
}

/** Measures a kept file and writes down what was found under the picture's address. */
async function measureAndKeep(link: string, file: string): Promise<MeasuredPicture | undefined> {
  const path = join(pictureFolder(), file);
  const measured = await Promise.all([measurePicture(path), printOf(path)]).catch(() => undefined);
  if (!measured) return undefined;
  const [facts, print] = measured;
  const row = { file, facts, print };
  await db
    .insert(picture)
    .values({ link: link.slice(0, 700), ...row })
    .onDuplicateKeyUpdate({ set: row });
  return { link, file, facts, print, alternativeText: '' };
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
      if (row?.print)
        return {
          link,
          file: row.file ?? undefined,
          facts: row.facts ?? undefined,
          print: row.print,
          alternativeText,
        };
      const file = row?.file ?? pictureFile(link);
      const made = file ? await measureAndKeep(link, file) : undefined;
      return made
        ? { ...made, alternativeText }
        : { link, file: undefined, facts: undefined, print: undefined, alternativeText };
    }),
  );
}

/** Measures every picture of the catalog that has not been measured. @returns how many were */
export async function measureAll(): Promise<number> {
  const { rows, index } = await currentSnapshot();
  const slot = index.slotOf('image') ?? -1;
  const links = [...new Set(rows.flatMap((row) => asList(row[slot])))];
  let count = 0;
  for (let i = 0; i < links.length; i += 100) {
    const some = links.slice(i, i + 100);
    const known = await db
      .select({ link: picture.link })
      .from(picture)
      .where(and(inArray(picture.link, some), isNotNull(picture.print)));
    const done = new Set(known.map(({ link }) => link));
    // A few at a time: each is decoded whole.
    const open = some.filter((link) => !done.has(link));
    for (let n = 0; n < open.length; n += 4) {
      const measured = await picturesOf(open.slice(n, n + 4));
      count += measured.filter(({ facts }) => facts).length;
    }
  }
  return count;
}

/** Prints of the same picture, scaled or saved anew, differ in this many of their 64 bits at most. */
const nearBits = 3;

/** Items whose main picture is nearly the same as this one. */
export async function nearDuplicates(sku: string, main: MeasuredPicture): Promise<string[]> {
  if (!main.print) return [];
  const near = await db
    .select({ link: picture.link })
    .from(picture)
    .where(
      sql`${picture.print} is not null and bit_count(cast(conv(${picture.print}, 16, 10) as unsigned) ^ cast(conv(${main.print}, 16, 10) as unsigned)) <= ${nearBits}`,
    )
    .limit(2000);
  const links = new Set([main.link, ...near.map(({ link }) => link)]);
  const { rows, skus, index, items, positionOf } = await currentSnapshot();
  const slot = index.slotOf('image') ?? -1;
  const family = items[positionOf(sku) ?? -1]?.family;
  return rows.flatMap((row, at) => {
    const other = skus[at] ?? '';
    const [first] = asList(row[slot]);
    // Variants of one family may well share a picture; that is no mistake.
    const sameFamily = family !== undefined && items[at]?.family === family;
    return first !== undefined && other !== sku && !sameFamily && links.has(first) ? [other] : [];
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
      if (!state) throw new InputError(`There is no family ${holder.family} any more.`);
      const image = [...new Set(change(asList(state.values.image)))];
      desk.putFamily(holder.family, { ...state, values: { ...state.values, image } });
      return `${words} of the family ${holder.family}`;
    }
    const state = (await desk.items([holder.sku])).get(holder.sku);
    if (!state) throw new InputError(`There is no item ${holder.sku} any more.`);
    const shared = state.family ? await desk.family(state.family) : undefined;
    const image = [...new Set(change(asList(state.values.image ?? shared?.values.image)))];
    desk.putItem(holder.sku, { ...state, values: { ...state.values, image } });
    return `${words} of ${holder.sku}`;
  });
}

const mostBytes = 25 * 1024 * 1024;
const kinds = { jpeg: 'jpg', png: 'png', gif: 'gif', webp: 'webp', tiff: 'tif' } as const;

/** Keeps bytes that are a picture. @returns its file @throws InputError where they are none */
async function keepPicture(bytes: Buffer, name: string): Promise<string> {
  if (bytes.length > mostBytes)
    throw new InputError('The picture is larger than 25 MB. Nothing was changed.');
  const format = await sharp(bytes, { limitInputPixels: 120_000_000 })
    .metadata()
    .then((found) => found.format)
    .catch(() => undefined);
  const ending = Object.entries(kinds).find(([kind]) => kind === format)?.[1];
  if (!ending)
    throw new InputError(`${name} is not a JPEG, PNG, GIF, WebP or TIFF picture. Nothing was changed.`);
  const digest = createHash('sha256').update(bytes).digest('hex').slice(0, 12);
  const title =
    fold(name.replace(/\.[^.]*$/, ''))
      .replace(/[^a-z0-9]+/g, '-')
      .slice(0, 60) || 'picture';
  const file = `${title}-${digest}.${ending}`;
  await mkdir(pictureFolder(), { recursive: true });
  await writeFile(join(pictureFolder(), file), bytes);
  return file;
}

/** Takes an uploaded picture and puts it behind the others of an item or a family. */
export async function takePicture(holder: Holder, name: string, bytes: Buffer): Promise<EditDone> {
  const file = await keepPicture(bytes, name);
  const [state] = await db.select({ base: workspace.pictureBase }).from(workspace);
  const link = `${state?.base || 'https://pictures.example/'}${file}`;
  await measureAndKeep(link, file);
  return setPictures(holder, (before) => [...before, link], 'added a picture');
}

/** Fetches a picture from an address, measures it, and puts the address behind the others. */
export async function addPicture(holder: Holder, address: string): Promise<EditDone> {
  const [known] = await picturesOf([address]);
  if (!known?.facts) {
    const url = await guardAddress(address);
    const answer = await fetch(url, { redirect: 'error', signal: AbortSignal.timeout(20_000) }).catch(
      () => undefined,
    );
    if (!answer?.ok)
      throw new InputError(
        `No picture came from ${address}${answer ? `: it answered ${answer.status}` : ''}. Nothing was changed.`,
      );
    const bytes = Buffer.from(await answer.arrayBuffer());
    await measureAndKeep(address, await keepPicture(bytes, url.pathname.split('/').at(-1) ?? 'picture'));
  }
  return setPictures(holder, (before) => [...before, address], 'added a picture');
}

/** Says what a picture shows, for those who cannot see it; it holds wherever the picture is used. */
export async function setAlternativeText(link: string, words: string): Promise<void> {
  const person = await whoAsks();
  const alternativeText = words.trim() || null;
  await db
    .insert(picture)
    .values({ link, alternativeText })
    .onDuplicateKeyUpdate({ set: { alternativeText } });
  await record(person, 'described a picture', link);
}
