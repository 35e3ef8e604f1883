import { createHash } from 'node:crypto';
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { asList } from '../../core/catalog/value';
import { InputError } from '../../core/errors/inputError';
import { fold } from '../../core/text/folding';
import { currentUser, recordActivity } from '../auth/authorize';
import { type EditDone, editCatalog } from '../catalog/editing';
import { db } from '../db/connection';
import { picture, workspace } from '../db/schema';
import { fetchOutside } from '../net/fetching';
import { type Holder, MAX_PIXELS, measureAndKeep, pictureFolder, picturesOf } from './pictures';

/** Puts pictures in an order, the first being the main one; those left out are taken off. */
export async function orderPictures(holder: Holder, links: readonly string[]): Promise<EditDone> {
  return setPictures(holder, () => links, 'reordered the pictures');
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
