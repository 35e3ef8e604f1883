import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { inArray } from 'drizzle-orm';
import sharp from 'sharp';
import { db } from '../db/connection';
import { type PictureFacts, picture } from '../db/schema';
import { settings } from '../settings';

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

export interface MeasuredPicture {
  readonly link: string;
  readonly file: string | undefined;
  readonly facts: PictureFacts | undefined;
}

/** Facts of pictures by address; what has not been measured yet is measured now and kept. */
export async function picturesOf(links: readonly string[]): Promise<MeasuredPicture[]> {
  if (links.length === 0) return [];
  const known = new Map(
    (
      await db
        .select()
        .from(picture)
        .where(inArray(picture.link, [...links]))
    ).map((row) => [row.link, row]),
  );
  return Promise.all(
    links.map(async (link) => {
      const row = known.get(link);
      if (row) return { link, file: row.file ?? undefined, facts: row.facts ?? undefined };
      const file = pictureFile(link);
      const facts = file
        ? await measurePicture(join(pictureFolder(), file)).catch(() => undefined)
        : undefined;
      if (facts && file) {
        await db
          .insert(picture)
          .ignore()
          .values({ link: link.slice(0, 700), file, facts });
        return { link, file, facts };
      }
      return { link, file: undefined, facts: undefined };
    }),
  );
}
