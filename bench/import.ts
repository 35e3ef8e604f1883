/**
 * Bringing in a large file, against the database's own bulk load of the same rows: the time of both, and how the worker's
 * memory stands to the size of the file. Needs the database that scripts/bench.mjs starts.
 */
import { spawn } from 'node:child_process';
import { createReadStream, createWriteStream, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { finished } from 'node:stream/promises';
import { parse } from 'csv-parse';
import { createConnection } from 'mysql2/promise';
import { checkDigit } from '../src/core/identifiers/gtin';
import { closePools } from '../src/server/db/connection';
import { findRun, startRun } from '../src/server/import/runs';
import { takeFile } from '../src/server/import/sources';
import { settings } from '../src/server/runtime/settings';
import { emptyDatabase, emptyWorkspace } from './database';

const folder = mkdtempSync(join(tmpdir(), 'lively-bench-'));
const colours = ['moss', 'chalk', 'ink', 'terracotta', 'honey', 'slate', 'plum'];
const about =
  'A hand-glazed stoneware pot with fine horizontal ridges. The drip tray catches what the soil cannot hold.';

const rowOf = (i: number): Record<string, string> => {
  const body = `952${String(i).padStart(9, '0')}`;
  return {
    sku: `B-${i}`,
    name: `Ridge pot number ${i}`,
    brand: i % 3 === 0 ? 'Tarnholt' : 'Quillmoss',
    category: i % 2 === 0 ? 'Pots, glazed' : 'Trays and saucers',
    gtin: `${body}${checkDigit(body)}`,
    price: `${(i % 90) + 9}.90`,
    availability: 'InStock',
    inventoryLevel: String(i % 50),
    color: colours[i % colours.length] ?? '',
    description: `${about} Number ${i}.`,
  };
};
const columns = Object.keys(rowOf(0));

async function writeCsv(rows: number): Promise<string> {
  const path = join(folder, `items-${rows}.csv`);
  const file = createWriteStream(path);
  file.write(`${columns.join(',')}\n`);
  for (let i = 0; i < rows; i++) {
    const row = rowOf(i);
    const line = `${columns.map((code) => `"${row[code]}"`).join(',')}\n`;
    if (!file.write(line)) await new Promise<void>((go) => file.once('drain', () => go()));
  }
  file.end();
  await finished(file);
  return path;
}

/** What a run writes for a row, as a line of the bulk load. */
function bulkLine(row: Record<string, string>, i: number): string {
  const { sku: _sku, ...values } = row;
  const origins = Object.fromEntries(
    Object.entries(values).map(([code, cell]) => [
      code,
      { file: 'items.csv', row: i + 2, column: code, cell },
    ]),
  );
  return [
    row.sku,
    JSON.stringify(values),
    JSON.stringify(origins),
    row.name,
    row.brand,
    row.gtin,
    row.category,
    '0',
    '1',
  ].join('\t');
}

/** Parsing the file, and the database's own load of the rows it holds, into a table of the same shape. @returns seconds */
async function bulk(path: string, rows: number): Promise<{ parse: number; load: number }> {
  let begun = performance.now();
  let parsed = 0;
  for await (const _record of createReadStream(path).pipe(parse({ columns: true }))) parsed++;
  if (parsed !== rows) throw new Error(`parsed ${parsed} of ${rows} rows`);
  const parseSeconds = (performance.now() - begun) / 1000;
  const file = join(folder, 'bulk.tsv');
  const out = createWriteStream(file);
  for (let i = 0; i < rows; i++)
    if (!out.write(`${bulkLine(rowOf(i), i)}\n`))
      await new Promise<void>((go) => out.once('drain', () => go()));
  out.end();
  await finished(out);
  const connection = await createConnection({ ...settings.database });
  await connection.query('drop table if exists bulk_item');
  await connection.query('create table bulk_item like item');
  begun = performance.now();
  await connection.query({
    sql: `load data local infile 'bulk.tsv' into table bulk_item character set utf8mb4 fields terminated by '\\t' escaped by '' (sku, own_values, origins, name, brand, gtin, category, archived, revision)`,
    infileStreamFactory: () => createReadStream(file),
  });
  const load = (performance.now() - begun) / 1000;
  const [[count]] = (await connection.query('select count(*) as n from bulk_item')) as unknown as [
    [{ n: number }],
  ];
  if (Number(count.n) !== rows) throw new Error(`the bulk load wrote ${count.n} of ${rows} rows`);
  await connection.end();
  return { parse: parseSeconds, load };
}

/** Checks and brings a file in with a worker of its own, run as the start command runs it. @returns seconds of each, and the worker's peak memory in MB */
async function bringIn(path: string): Promise<{ check: number; apply: number; peak: number }> {
  const id = await takeFile(`items-${Date.now()}.csv`, createReadStream(path));
  const worker = spawn(
    process.execPath,
    [...(process.env.LIVELY_WORKER_FLAGS ?? '').split(' ').filter((flag) => flag !== ''), 'dist/worker.js'],
    {
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    },
  );
  await new Promise((resolve) => worker.once('message', resolve));
  const until = async (state: string) => {
    const begun = performance.now();
    for (;;) {
      const found = await findRun(id);
      if (found?.state === state) return (performance.now() - begun) / 1000;
      if (found?.state === 'failed' || (found?.error && found.state === 'done'))
        throw new Error(found.error ?? '');
      await new Promise((resolve) => setTimeout(resolve, 25));
    }
  };
  await startRun(id, 'check');
  const check = await until('checked');
  await startRun(id, 'apply');
  const apply = await until('done');
  const status = readFileSync(`/proc/${worker.pid}/status`, 'utf8');
  const peak = Number(/VmHWM:\s+(\d+)/.exec(status)?.[1]) / 1024;
  worker.disconnect();
  await new Promise((resolve) => worker.once('exit', resolve));
  return { check, apply, peak };
}

const median = (list: number[]): number => list.sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;
const say = (words: string) => process.stdout.write(`${words}\n`);

const quick = process.argv.includes('--quick');
const rows = quick ? 20_000 : 100_000;
const path = await writeCsv(rows);
const ratios: number[] = [];
/** `--memory` leaves the times out. */
const rounds = process.argv.includes('--memory') ? 0 : quick ? 1 : 3;
for (let round = 0; round < rounds; round++) {
  await emptyDatabase();
  await emptyWorkspace();
  const base = await bulk(path, rows);
  const ours = await bringIn(path);
  const ratio = (ours.check + ours.apply) / (base.parse + base.load);
  ratios.push(ratio);
  say(
    `bringing in ${rows} rows: parsing ${base.parse.toFixed(1)} s + bulk load ${base.load.toFixed(1)} s; check ${ours.check.toFixed(1)} s + bring in ${ours.apply.toFixed(1)} s: ratio ${ratio.toFixed(2)}`,
  );
}
if (rounds > 0)
  say(`import against bulk load plus parsing, median: ${median(ratios).toFixed(2)} (5 or less wanted)`);
const peaks: number[] = [];
for (const size of [10_000, quick ? 100_000 : 500_000]) {
  await emptyDatabase();
  await emptyWorkspace();
  const { peak, check, apply } = await bringIn(await writeCsv(size));
  peaks.push(peak);
  say(`worker's peak memory for ${size} rows: ${peak.toFixed(0)} MB (${(check + apply).toFixed(0)} s)`);
}
say(`peak memory, large to small: ${((peaks[1] ?? 0) / (peaks[0] ?? 1)).toFixed(2)} (1.3 or less wanted)`);
rmSync(folder, { recursive: true, force: true });
await closePools();
