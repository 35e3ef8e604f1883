import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { formatFacts } from '@/core/channels/formats';
import { extraOf, type FeedRow } from '@/core/formats/format';
import { trialField, trialSheet } from '../../tests/support/sheets';
import { feedPieces } from './formats';
import { readBack } from './readBack';

const folder = mkdtempSync(join(tmpdir(), 'lively-read-back-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const sheetIn = (format: string, more: object = {}) =>
  trialSheet(
    [
      trialField('key', 'text', { role: 'id' }),
      trialField('title', 'text', { role: 'title' }),
      trialField('price', 'money', { role: 'price' }),
      trialField('pictures', 'pictures', { role: 'image', values: { most: 5 } }),
      trialField('fits', 'yesNo'),
      trialField('pieces', 'number'),
    ],
    { format, ...more },
  );
const head = { id: 'urn:x', title: 'Trial', author: 'Quillmoss', updated: '2026-01-01T00:00:00Z' };
const rows: FeedRow[] = [
  { values: ['A-1', 'Pot, "moss" & <green>', '12.50 EUR', ['a.jpg', 'b.jpg'], 'true', '4'] },
  { values: ['A-2', 'Two\nlines; and\ttabs', '9.90 EUR', undefined, undefined, undefined] },
  { values: ['A-3', 'Ärger über Öl', undefined, ['c.jpg'], 'false', '0'] },
];
const formats = Object.keys(formatFacts);

async function bytesOf(sheet: ReturnType<typeof sheetIn>, given: readonly FeedRow[]): Promise<Buffer> {
  const pieces: Uint8Array[] = [];
  for await (const piece of feedPieces(sheet, head, given)) pieces.push(piece);
  return Buffer.concat(pieces);
}
let count = 0;
function saved(bytes: Uint8Array): string {
  const path = join(folder, `${count++}.file`);
  writeFileSync(path, bytes);
  return path;
}

describe.each(formats)('%s', (format) => {
  test('a file that is right reads back', async () => {
    const sheet = sheetIn(format);
    expect(await readBack(sheet, saved(await bytesOf(sheet, rows)), rows)).toBe(3);
  });

  test('with the columns that say what a row is for, and its place in a family', async () => {
    const sheet = sheetIn(format, { removal: 'row', families: 'leads', relation: 'relation' });
    const given: FeedRow[] = [
      { ...(rows[0] as FeedRow), extra: extraOf(sheet, { removal: false, relation: 'lead' }) },
      { values: ['A-9'], extra: extraOf(sheet, { removal: true }) },
    ];
    expect(await readBack(sheet, saved(await bytesOf(sheet, given)), given)).toBe(2);
  });

  test('one listing less, one more and another order are told', async () => {
    const sheet = sheetIn(format);
    const [first, second, third] = rows as [FeedRow, FeedRow, FeedRow];
    const other = async (given: FeedRow[]) => readBack(sheet, saved(await bytesOf(sheet, given)), rows);
    await expect(other([first, second])).rejects.toThrow('a listing is missing');
    await expect(other([...rows, first])).rejects.toThrow('more listings');
    await expect(other([second, first, third])).rejects.toThrow('at listing 1');
  });

  test('a file that breaks off is told', async () => {
    const sheet = sheetIn(format);
    const bytes = await bytesOf(sheet, rows);
    const half = bytes.subarray(0, Math.floor(bytes.length * 0.6));
    await expect(readBack(sheet, saved(half), rows)).rejects.toThrow('The created file is wrong');
  });
});

test.each(formats.filter((format) => format !== 'jsonLd' && format !== 'xlsx'))(
  'one letter that differs in %s is told with its column',
  async (format) => {
    const sheet = sheetIn(format);
    const text = (await bytesOf(sheet, rows)).toString().replaceAll('moss', 'mess');
    await expect(readBack(sheet, saved(Buffer.from(text)), rows)).rejects.toThrow(
      '“title” is not what was meant',
    );
  },
);

test.each(formats.filter((format) => format !== 'xlsx'))(
  'whatever stands in a listing, what is written in %s is what is read',
  async (format) => {
    const sheet = sheetIn(format);
    const text = fc.string({ unit: 'grapheme', maxLength: 30 });
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(text, fc.array(text, { maxLength: 3 })), { maxLength: 6 }),
        async (given) => {
          const created = given.map(
            ([title, pictures], at): FeedRow => ({
              values: [`K-${at}`, title || undefined, '1.00 EUR', pictures.length > 0 ? pictures : undefined],
            }),
          );
          expect(await readBack(sheet, saved(await bytesOf(sheet, created)), created)).toBe(created.length);
        },
      ),
      { numRuns: 40 },
    );
  },
);
