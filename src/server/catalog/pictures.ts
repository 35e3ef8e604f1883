import { createHash } from 'node:crypto';
import { mkdir, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { and, eq, gt, inArray, isNotNull, isNull, or, sql } from 'drizzle-orm';
import sharp from 'sharp';
import type { Values } from '../../core/catalog/item';
import { asList } from '../../core/catalog/value';
import { InputError } from '../../core/errors/inputError';
import { fold } from '../../core/text/folding';
import { db, type Transaction } from '../db/connection';
import { family, item, type PictureFacts, picture, workspace } from '../db/schema';
import { asked } from '../evaluating/asked';
import { enqueue, isWaiting } from '../jobs/queue';
import { fetchOutside } from '../net/fetching';
import { record, whoAsks } from '../people/gate';
import { settings } from '../settings';
import { raiseRevision } from './changes';
import { type EditDone, editCatalog } from './editing';
import { touchItems } from './seen';
import { currentSnapshot } from './snapshot';

export const pictureFolder = (): string => join(settings.dataFolder, 'pictures');

/** The file kept for a picture's address: the last part of its path, where that is a plain file name. */
export function pictureFile(link: string): string | undefined {
  const name = link.split(/[?#]/)[0]?.split('/').at(-1) ?? '';
  return /^[\w.-]+\.(jpe?g|png|gif|webp|tiff?)$/i.test(name) && !name.startsWith('.') ? name : undefined;
}

/** Measures a picture file: size, format, bytes and the white share of its border. */
async function measurePicture(path: string): Promise<PictureFacts> {
  const image = sharp(path, { limitInputPixels: mostPixels });
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
  const grey = await sharp(path, { limitInputPixels: mostPixels })
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

/** Pixels of one picture; as many are decoded at once in this process, one after another. */
const mostPixels = 60_000_000;
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
  const row = { file, facts: null, print: null, trouble: 'cannot be read' };
  const [known] = await db.select({ trouble: picture.trouble }).from(picture).where(eq(picture.link, link));
  if (!known?.trouble) await keepFound(link, row);
}

/** Writes down what was found of a picture, and has the listings that show it counted with it. */
const keepFound = (
  link: string,
  found: Pick<typeof picture.$inferInsert, 'file' | 'facts' | 'print' | 'trouble'>,
): Promise<void> =>
  db.transaction(async (tx) => {
    const row = { ...found, revision: null };
    await tx
      .insert(picture)
      .values({ link: link.slice(0, 700), ...row })
      .onDuplicateKeyUpdate({ set: row });
    await wantMeasured(tx);
  });

/** Has pictures looked at, where nobody is about to. */
async function wantMeasured(tx: Transaction): Promise<void> {
  if (!(await isWaiting(tx, 'measurePictures'))) await enqueue(tx, 'measurePictures', {});
}

/** Measures a kept file and writes down what was found under the picture's address. */
async function measureAndKeep(link: string, file: string): Promise<MeasuredPicture | undefined> {
  const path = join(pictureFolder(), file);
  const measured = await sharpTurn(() => Promise.all([measurePicture(path), printOf(path)])).catch(
    () => undefined,
  );
  if (!measured) {
    await rememberBroken(link, file);
    return undefined;
  }
  const [facts, print] = measured;
  await keepFound(link, { file, facts, print, trouble: null });
  return { link, file, facts, print, alternativeText: '' };
}

/** Small pictures already made, by file; the oldest go when they hold more than so many bytes. */
const small = new Map<string, Buffer>();
const mostSmallBytes = 64 * 1024 ** 2;
let smallBytes = 0;

/** A kept picture, at most 320 pixels wide, as JPEG; undefined where there is none of that name that can be read. */
export async function smallPicture(name: string): Promise<Buffer | undefined> {
  const file = pictureFile(name);
  if (file === undefined) return undefined;
  const known = small.get(file);
  if (known) return known;
  const made = await sharpTurn(() =>
    sharp(join(pictureFolder(), file), { limitInputPixels: mostPixels })
      .resize(320, 320, { fit: 'inside', withoutEnlargement: true })
      .jpeg({ quality: 80 })
      .toBuffer(),
  ).catch(() => undefined);
  if (!made) return undefined;
  small.set(file, made);
  smallBytes += made.length;
  for (const [oldest, bytes] of small) {
    if (smallBytes <= mostSmallBytes) break;
    small.delete(oldest);
    smallBytes -= bytes.length;
  }
  return made;
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
      if (row?.trouble) return { link, file: undefined, facts: undefined, print: undefined, alternativeText };
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

/** Has the items counted anew that show pictures of which something was found that they do not know of yet. */
async function announce(shown: ReadonlyMap<string, readonly Holder[]>): Promise<void> {
  const links = [...shown.keys()];
  if (links.length === 0) return;
  await db.transaction(async (tx) => {
    const fresh = await tx
      .select({ link: picture.link })
      .from(picture)
      .where(
        and(
          inArray(picture.link, links),
          isNull(picture.revision),
          or(isNotNull(picture.print), isNotNull(picture.trouble)),
        ),
      );
    if (fresh.length === 0) return;
    const revision = await raiseRevision(tx);
    const found = fresh.map(({ link }) => link);
    await tx.update(picture).set({ revision }).where(inArray(picture.link, found));
    const holders = found.flatMap((link) => shown.get(link) ?? []);
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

/** Measures every picture of the catalog that has not been measured. @returns how many were */
export async function measureAll(): Promise<number> {
  let count = 0;
  for await (const shown of allShown()) {
    const some = [...shown.keys()];
    const known = await db
      .select({ link: picture.link })
      .from(picture)
      .where(and(inArray(picture.link, some), or(isNotNull(picture.print), isNotNull(picture.trouble))));
    const done = new Set(known.map(({ link }) => link));
    // A few at a time: each is decoded whole.
    const open = some.filter((link) => !done.has(link));
    for (let n = 0; n < open.length; n += 4) {
      const measured = await picturesOf(open.slice(n, n + 4));
      count += measured.filter(({ facts }) => facts).length;
    }
    await announce(shown);
  }
  return count;
}

/** Prints of the same picture, scaled or saved anew, differ in this many of their 64 bits at most. */
const nearBits = 3;

/** Items whose main picture is nearly the same as this one. */
export const nearDuplicates = asked('nearDuplicates', alikeTo);
async function alikeTo(sku: string, main: MeasuredPicture): Promise<string[]> {
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

const mostBytes = 25 * 1024 * 1024;
const kinds = { jpeg: 'jpg', png: 'png', gif: 'gif', webp: 'webp', tiff: 'tif' } as const;

/** A body's bytes, counted as they come. @throws InputError where they are too many; no more are read then */
async function gather(body: AsyncIterable<Uint8Array>): Promise<Buffer> {
  const chunks: Uint8Array[] = [];
  let bytes = 0;
  for await (const chunk of body) {
    bytes += chunk.length;
    if (bytes > mostBytes) throw new InputError('pictureTooLarge');
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

/** Keeps bytes that are a picture. @returns its file @throws InputError where they are none */
async function keepPicture(bytes: Buffer, name: string): Promise<string> {
  const found = await sharp(bytes, { limitInputPixels: mostPixels })
    .metadata()
    .catch(() => undefined);
  if (found && (found.width ?? 0) * (found.height ?? 0) > mostPixels)
    throw new InputError('tooManyPixels', {
      name,
      width: found.width,
      height: found.height,
      most: mostPixels / 1e6,
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
    const answer = await fetchOutside(address, { seconds: 30, bytes: mostBytes }).catch((error: unknown) => {
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
  const person = await whoAsks();
  const alternativeText = words.trim() || null;
  await db
    .insert(picture)
    .values({ link, alternativeText })
    .onDuplicateKeyUpdate({ set: { alternativeText } });
  await record(person, 'described a picture', link);
}
