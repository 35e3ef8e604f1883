import { open } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import yauzl from 'yauzl';
import { InputError } from '../../core/errors/inputError';
import { isArchive } from '../../core/import/encoding/decode';
import { RepeatCounter } from '../repeats';

/** Unpacked, a workbook may be this large, and this many times its packed size; more is an attack, not a price list. */
const MAX_UNPACKED = 2 * 1024 ** 3;
const MAX_RATIO = 150;
const MAX_SHARED = 192 * 1024 ** 2;
const freeUnpacked = 32 * 1024 ** 2;
const MAX_PARTS = 5000;

type Refusal = (why: string) => InputError;
const workbookRefused: Refusal = (why) => new InputError('workbookRefused', { why });
const archiveRefused: Refusal = (why) => new InputError('archiveRefused', { why });

/** Opens an archive for as long as something is done with it. */
async function withArchive<T>(
  path: string,
  refusal: Refusal,
  work: (zip: yauzl.ZipFile) => Promise<T>,
): Promise<T> {
  const zip = await new Promise<yauzl.ZipFile>((resolve, reject) =>
    yauzl.open(path, { lazyEntries: true, autoClose: false }, (error, opened) =>
      opened ? resolve(opened) : reject(refusal(`is not a readable archive: ${error?.message ?? ''}`)),
    ),
  );
  try {
    return await work(zip);
  } finally {
    zip.close();
  }
}

/** Goes through the parts of an archive. @param look goes on with `next`, or gives up with an error */
const eachPart = (
  zip: yauzl.ZipFile,
  refusal: Refusal,
  look: (part: yauzl.Entry, next: (error?: InputError) => void) => void,
): Promise<void> =>
  new Promise((resolve, reject) => {
    let parts = 0;
    zip.on('error', (error) => reject(refusal(`is not a readable archive: ${error.message}`)));
    zip.on('end', () => resolve());
    zip.on('entry', (entry: yauzl.Entry) => {
      if (++parts > MAX_PARTS) return reject(refusal('holds more than 5,000 parts'));
      look(entry, (error) => (error ? reject(error) : zip.readEntry()));
    });
    zip.readEntry();
  });

/** The end of a sheet's part, in bytes, in which its merged cells are looked for: they stand behind its rows. */
const MERGES_IN = 1024 ** 2;
const sheetPart = /^xl\/worksheets\/sheet(\d+)\.xml$/;

/** Cells merged down a column: the first and the last row, 1 being the first, and the column, 0 being the first. */
export interface MergedDown {
  readonly from: number;
  readonly to: number;
  readonly column: number;
}

/** The merged cells that reach over several rows, in the end of a sheet's part. */
function mergedIn(tail: string): MergedDown[] {
  return [...tail.matchAll(/<mergeCell ref="([A-Z]{1,3})(\d{1,7}):[A-Z]{1,3}(\d{1,7})"/g)].flatMap(
    ([, letters = '', from, to]) => {
      const column = [...letters].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0) - 1;
      return Number(to) > Number(from) ? [{ from: Number(from), to: Number(to), column }] : [];
    },
  );
}

/**
 * Unpacks a workbook once without keeping anything, so that nothing reads an archive that blows up.
 * Sizes are counted, not believed.
 * @returns the names of its parts, how many bytes they are unpacked, and the cells merged down by the number of their sheet
 * @throws InputError
 */
export const partsOfWorkbook = (
  path: string,
): Promise<{
  readonly parts: readonly string[];
  readonly unpacked: number;
  readonly merged: ReadonlyMap<string, readonly MergedDown[]>;
}> =>
  withArchive(path, workbookRefused, async (zip) => {
    let unpacked = 0;
    let packed = 0;
    const names: string[] = [];
    const merged = new Map<string, readonly MergedDown[]>();
    await eachPart(zip, workbookRefused, (entry, next) => {
      names.push(entry.fileName);
      packed += entry.compressedSize;
      if (entry.fileName.endsWith('/')) return next();
      let own = 0;
      zip.openReadStream(entry, (error, stream) => {
        if (error || !stream) return next(workbookRefused(`cannot be unpacked: ${error?.message ?? ''}`));
        const giveUp = (why: string) => {
          stream.destroy();
          next(workbookRefused(why));
        };
        const sheet = sheetPart.exec(entry.fileName)?.[1];
        let tail = '';
        const repeats = entry.fileName === 'content.xml' ? new RepeatCounter() : undefined;
        stream.on('data', (chunk: Buffer) => {
          // Tags are ASCII, whatever stands between them.
          repeats?.push(chunk.toString('latin1'));
          if (sheet !== undefined)
            tail = (tail + chunk.toString('latin1')).slice(tail.length > 2 * MERGES_IN ? -MERGES_IN : 0);
          unpacked += chunk.length;
          own += chunk.length;
          // The words that cells share are held in memory while the rows are read.
          if (own > MAX_SHARED && entry.fileName === 'xl/sharedStrings.xml')
            giveUp('shares more than 192 MB of words between its cells; split it, or save it as CSV');
          else if (unpacked > MAX_UNPACKED || (unpacked > freeUnpacked && unpacked > packed * MAX_RATIO))
            giveUp(
              `unpacks to more than ${MAX_RATIO} times its size, as only a file made to fill a machine does; save it anew and bring it in again`,
            );
        });
        stream.on('error', (bad) => next(workbookRefused(`cannot be unpacked: ${bad.message}`)));
        stream.on('end', () => {
          const down = mergedIn(tail.slice(-MERGES_IN));
          if (sheet !== undefined && down.length > 0) merged.set(sheet, down);
          const trouble = repeats?.trouble();
          next(trouble === undefined ? undefined : workbookRefused(trouble));
        });
      });
    });
    return { parts: names, unpacked, merged };
  });

/** Parts that make an archive a document, not a parcel of files. */
const ofDocuments: ReadonlySet<string> = new Set([
  '[Content_Types].xml',
  'mimetype',
  'xl/workbook.xml',
  'xl/workbook.bin',
]);
/** What items come in; and what may be that, or a word that goes with them. */
const dataFile = /\.(?:csv|tsv|tab|xml|json|ndjson|jsonl|jsonld|xlsx|xlsb|xls|ods)(?:\.gz)?$/i;
const perhapsData = /\.(?:txt|html?|dat|asc)(?:\.gz)?$/i;

/** Names as one may say them: of an archive made for this, they could be anything. */
const saidAs = (names: readonly string[]): string => {
  const some = names.slice(0, 5).map((name) => `“${name.slice(-60)}”`);
  return some.join(', ') + (names.length > some.length ? ` and ${names.length - some.length} others` : '');
};

/**
 * Does something with the one file in an archive that items can be in; pictures, notes and the like beside it do not matter.
 * @param work told the bytes of that file; not called where there is no archive, or it is a document itself, such as a workbook
 * @returns undefined where it was not called
 * @throws InputError where there is no such file, more than one, or the archive is broken or locked
 */
export async function withPacked<T>(
  path: string,
  work: (bytes: AsyncIterable<Uint8Array>) => Promise<T>,
): Promise<T | undefined> {
  if (!isArchive(await beginningOf(path))) return undefined;
  return withArchive(path, archiveRefused, async (zip) => {
    const files: yauzl.Entry[] = [];
    let document = false;
    await eachPart(zip, archiveRefused, (entry, next) => {
      const name = entry.fileName;
      if (ofDocuments.has(name)) document = true;
      const own = name.split('/').at(-1) ?? '';
      if (own !== '' && !own.startsWith('.') && !name.startsWith('__MACOSX/')) files.push(entry);
      next();
    });
    if (document) return undefined;
    const named = (pattern: RegExp) => files.filter(({ fileName }) => pattern.test(fileName));
    const [sure, perhaps] = [named(dataFile), named(perhapsData)];
    const meant = sure.length > 0 ? sure : perhaps.length > 0 ? perhaps : files.length === 1 ? files : [];
    const [only] = meant;
    if (!only)
      throw archiveRefused(
        files.length === 0
          ? 'is empty'
          : `holds no file that items could be in, but ${saidAs(files.map(({ fileName }) => fileName))}`,
      );
    if (meant.length > 1)
      throw archiveRefused(
        `holds ${meant.length} files that could be meant: ${saidAs(meant.map(({ fileName }) => fileName))}. Unpack it and bring them in one by one`,
      );
    if (only.isEncrypted()) throw archiveRefused('is locked with a password; pack it without one');
    const stream = await new Promise<Readable>((resolve, reject) =>
      zip.openReadStream(only, (error, opened) =>
        opened ? resolve(opened) : reject(archiveRefused(`cannot be unpacked: ${error?.message ?? ''}`)),
      ),
    );
    async function* bytes() {
      try {
        yield* stream as AsyncIterable<Uint8Array>;
      } catch (error) {
        throw archiveRefused(`cannot be unpacked: ${(error as Error).message}. Copy or download it again`);
      }
    }
    try {
      return await work(bytes());
    } finally {
      stream.destroy();
    }
  });
}

/** The first eight bytes of a file: enough to know what it is packed as. */
export async function beginningOf(path: string): Promise<Uint8Array> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(new Uint8Array(4096), 0, 4096, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}
