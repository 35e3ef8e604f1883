import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { pictureFile, pictureFolder } from '@/server/catalog/pictures';

const small = new Map<string, Buffer>();

/** A kept picture, at most 320 pixels wide: the pages show nothing larger. */
export async function GET(_request: Request, { params }: { params: Promise<{ file: string }> }) {
  const { file } = await params;
  const name = pictureFile(file);
  if (!name) return new Response(null, { status: 404 });
  try {
    const known = small.get(name);
    const bytes =
      known ??
      (await sharp(await readFile(join(pictureFolder(), name)))
        .resize(320, 320, { fit: 'inside', withoutEnlargement: true })
        .jpeg({ quality: 80 })
        .toBuffer());
    if (!known && small.size < 2000) small.set(name, bytes);
    return new Response(new Uint8Array(bytes), {
      headers: { 'content-type': 'image/jpeg', 'cache-control': 'private, max-age=3600' },
    });
  } catch {
    return new Response(null, { status: 404 });
  }
}
