/**
 * Writing feeds: each format against the same bytes written with the format's library alone, and its memory at ten times the
 * listings; then finding what changed among all of them.
 */
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Writable } from 'node:stream';
import { stringify } from 'csv-stringify/sync';
import ExcelJS from 'exceljs';
import { asList, asText, type Value } from '../src/core/catalog/value';
import { readChannel } from '../src/core/channels/bundle';
import { type FeedFormat, formatFacts } from '../src/core/channels/formats';
import type { Sheet } from '../src/core/channels/sheet';
import { changesBetween, dueOf, emptyEntry, type LedgerEntry } from '../src/core/ledger/ledger';
import { feedPieces } from '../src/files/formats';
import { valuesDigest } from '../src/server/listings/digest';
import { valuesByField } from '../src/server/submissions/due';

const channel = join(process.cwd(), 'src/channels/lanternry');
const read = (name: string) => readFileSync(join(channel, name), 'utf8');
const { sheet: base } = readChannel(read('requirements.json'), read('taxonomy.csv'));
const sheetOf = (format: FeedFormat): Sheet => ({ ...base, delivery: { ...base.delivery, format } });

const about =
  'A hand-glazed stoneware pot with fine horizontal ridges. The drip tray catches what the soil cannot hold, & felt feet keep the sill free of <scratches>.';
/** A listing as Lanternry has them, a dozen of its fields filled. */
function rowOf(i: number): { values: (Value | undefined)[] } {
  const by: Record<string, Value> = {
    ref: `B-${i}`,
    headline: `Ridge pot number ${i}, moss, ${i % 30} cm`,
    about: `${about} Number ${i}.`,
    page: `https://quillmoss.example/ridge-pot-${i}`,
    picture: `https://quillmoss.example/pictures/${i}-1.jpg`,
    more_pictures: [
      `https://quillmoss.example/pictures/${i}-2.jpg`,
      `https://quillmoss.example/pictures/${i}-3.jpg`,
    ],
    price: `${(i % 90) + 9}.90 EUR`,
    stock: 'available',
    place: '7302',
    barcode: '9520000030353',
    brand: 'Quillmoss',
    family: `F-${Math.floor(i / 6)}`,
    condition: 'new',
  };
  return { values: base.fields.map(({ code }) => by[code]) };
}
function* rows(count: number) {
  for (let i = 0; i < count; i++) yield rowOf(i);
}
const head = { id: 'urn:bench', title: 'Bench', author: 'Bench', updated: '2026-01-01T00:00:00Z' };

async function ours(format: FeedFormat, count: number): Promise<number> {
  let bytes = 0;
  for await (const piece of feedPieces(sheetOf(format), head, rows(count))) bytes += piece.length;
  return bytes;
}

const escaped = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/** The same listings by the library alone, or for XML by hand with the least that makes it right; in pieces of 200. */
async function library(format: FeedFormat, count: number): Promise<number> {
  let bytes = 0;
  const encoder = new TextEncoder();
  const take = (text: string) => {
    bytes += encoder.encode(text).length;
  };
  const names = base.fields.map(({ code }) => code);
  const cells = (values: readonly (Value | undefined)[]) => values.map((value) => asList(value).join('|'));
  if (format === 'xlsx') {
    const sink = new Writable({
      write(chunk, _encoding, done) {
        bytes += chunk.length;
        done();
      },
    });
    const book = new ExcelJS.stream.xlsx.WorkbookWriter({ stream: sink, useSharedStrings: false });
    const page = book.addWorksheet('Bench');
    page.addRow(names).commit();
    for (const { values } of rows(count)) page.addRow(cells(values)).commit();
    await book.commit();
    return bytes;
  }
  let waiting: string[][] = [];
  for (const { values } of rows(count)) {
    if (format === 'csv' || format === 'tsv') {
      waiting.push(cells(values));
      if (waiting.length === 200) {
        take(stringify(waiting, { delimiter: format === 'csv' ? ',' : '\t', record_delimiter: '\r\n' }));
        waiting = [];
      }
    } else if (format === 'json' || format === 'ndjson' || format === 'jsonLd') {
      take(
        `${JSON.stringify(Object.fromEntries(names.flatMap((name, at) => (values[at] === undefined ? [] : [[name, values[at]]]))))}\n`,
      );
    } else {
      let entry = '<entry>';
      for (const [at, name] of names.entries())
        for (const one of asList(values[at])) entry += `<c:${name}>${escaped(one)}</c:${name}>`;
      take(`${entry}</entry>\n`);
    }
  }
  return bytes;
}

const seconds = (begun: bigint) => Number(process.hrtime.bigint() - begun) / 1e9;

/** One measurement in a process of its own, so that its memory is its own. */
async function one(who: 'ours' | 'library', format: FeedFormat, count: number): Promise<void> {
  const write = who === 'ours' ? ours : library;
  await write(format, Math.min(count, 5000));
  let peak = 0;
  const watch = setInterval(() => {
    peak = Math.max(peak, process.memoryUsage().rss);
  }, 50);
  const begun = process.hrtime.bigint();
  const bytes = await write(format, count);
  const time = seconds(begun);
  clearInterval(watch);
  peak = Math.max(peak, process.memoryUsage().rss);
  process.stdout.write(JSON.stringify({ bytes, time, peak }));
}

function measured(who: 'ours' | 'library', format: FeedFormat, count: number) {
  const { stdout, stderr, status } = spawnSync(
    process.execPath,
    [process.argv[1] ?? '', '--one', who, format, String(count)],
    { encoding: 'utf8' },
  );
  if (status !== 0) throw new Error(stderr);
  return JSON.parse(stdout) as { bytes: number; time: number; peak: number };
}

/** Among so many listings, what is new, changed, refused and gone, and the values that differ. */
function changes(count: number): void {
  const listings = [...rows(count)].map(({ values }) => ({ values, digest: valuesDigest(values) }));
  const ledger = new Map<string, LedgerEntry>();
  for (const [i, { digest }] of listings.entries())
    if (i % 50 !== 0)
      ledger.set(`B-${i}`, {
        ...emptyEntry,
        held: { digest: i % 20 === 1 ? 'other' : digest, submission: 1 },
      });
  const begun = process.hrtime.bigint();
  const found = listings.flatMap(({ values, digest }, i) => {
    const due = dueOf(ledger.get(asText(values[0])), { state: 'ready', digest }, 'leave');
    return due === 'unchanged' ? [] : [{ due, i }];
  });
  const compared = seconds(begun);
  const differing = found.filter(({ due }) => due === 'changed');
  const looked = process.hrtime.bigint();
  let values = 0;
  for (const { i } of differing)
    values += changesBetween(
      { ...valuesByField(base, listings[i]?.values ?? []), price: '1.00 EUR' },
      valuesByField(base, listings[i]?.values ?? []),
    ).length;
  const told = seconds(looked);
  const again = process.hrtime.bigint();
  for (const { values } of listings) valuesDigest(values);
  console.log(
    `What changed among ${count.toLocaleString('en')}: ${found.length.toLocaleString('en')} found in ${compared.toFixed(2)} s, the ${values.toLocaleString('en')} values that differ in ${told.toFixed(2)} s more (2 s wanted); digests of all of them, made once after an evaluation, ${seconds(again).toFixed(2)} s`,
  );
}

const [, , flag, who, format, given] = process.argv;
if (flag === '--one') await one(who as 'ours', format as FeedFormat, Number(given));
else if (flag === 'changes') changes(Number(who ?? 500_000));
else {
  const count = Number(flag ?? 500_000);
  console.log(
    `Writing ${count.toLocaleString('en')} listings; speed as a share of the library alone (0.3 wanted)`,
  );
  for (const code of Object.keys(formatFacts) as FeedFormat[]) {
    const [few, many, alone] = [
      measured('ours', code, count / 10),
      measured('ours', code, count),
      measured('library', code, count),
    ];
    const speed = (all: { bytes: number; time: number }) => all.bytes / all.time / 1e6;
    console.log(
      `  ${formatFacts[code].label.padEnd(18)} ${speed(many).toFixed(0).padStart(4)} MB/s, ${(speed(many) / speed(alone)).toFixed(2)} of the library; peak memory ${(many.peak / 1e6).toFixed(0)} MB, ${(many.peak / few.peak).toFixed(2)} times that of a tenth`,
    );
  }
  changes(count);
}
