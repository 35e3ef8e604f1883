/** A database with a large catalog in the demo's feeds, programs beside it, and times as they are told. */
import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { inArray } from 'drizzle-orm';
import { asText } from '../src/core/catalog/value';
import { raiseRevision } from '../src/server/catalog/changes';
import { takeBundledChannels } from '../src/server/channels/channels';
import { insertRows } from '../src/server/db/bulk';
import { db } from '../src/server/db/connection';
import { feedSchedule, item, job } from '../src/server/db/schema';
import { loadDemo } from '../src/server/demo/load';
import { listFeeds } from '../src/server/plans/drafts';
import { largeCatalog } from './catalog';
import { emptyDatabase } from './database';

export const since = (begun: number) => performance.now() - begun;
const sorted = (list: readonly number[]) => [...list].sort((a, b) => a - b);
export const median = (list: readonly number[]) => sorted(list)[Math.floor(list.length / 2)] ?? 0;
export const ninetyFifth = (list: readonly number[]) => sorted(list)[Math.floor(list.length * 0.95)] ?? 0;

/** Empties the database and fills it. @returns how many feeds there are, and the items */
export async function fillDatabase(size: number) {
  await emptyDatabase();
  await takeBundledChannels();
  await loadDemo('demo');
  const feeds = (await listFeeds()).length;
  const { records } = largeCatalog(size);
  const rows = records.map(({ sku, ...values }) => ({
    sku: asText(sku),
    values,
    origins: {},
    name: asText(values.name),
    brand: asText(values.brand),
    category: asText(values.category),
    gtin: asText(values.gtin) || null,
  }));
  for (let at = 0; at < rows.length; at += 1000)
    await db.transaction(async (tx) => {
      const revision = await raiseRevision(tx);
      await insertRows(
        tx,
        item,
        rows.slice(at, at + 1000).map((row) => ({ ...row, revision })),
      );
    });
  // Pictures are measured another time, and nothing is sent meanwhile: a worker alone would compute in place what it asks for.
  await db.delete(job).where(inArray(job.kind, ['measurePictures', 'sendSubmission', 'collectReport']));
  await db.delete(feedSchedule);
  return { feeds, records, rows };
}

/** A program of the application, started as the start command does. */
export async function start(program: string, flags: readonly string[], env: Record<string, string> = {}) {
  const child = spawn(process.execPath, [...flags, program], {
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    env: { ...process.env, ...env },
  });
  await new Promise((resolve) => child.once('message', resolve));
  return {
    /** Its peak, in MB. */
    peak: () => Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1]) / 1024,
    end: async () => {
      child.disconnect();
      await new Promise((resolve) => child.once('exit', resolve));
    },
  };
}

const flagsIn = (variable: string) => (process.env[variable] ?? '').split(' ').filter((flag) => flag !== '');
export const workerFlags = flagsIn('LIVELY_WORKER_FLAGS');
export const evaluatorFlags = ['--max-old-space-size=8192', ...flagsIn('LIVELY_EVALUATOR_FLAGS')];

/** How long something takes, again and again: the median and the 95th percentile, in ms. */
export async function timesOf(rounds: number, work: (round: number) => Promise<unknown>): Promise<string> {
  const times: number[] = [];
  for (let round = 0; round < rounds; round++) {
    const begun = performance.now();
    await work(round);
    times.push(since(begun));
  }
  return `median ${median(times).toFixed(0)} ms, 95th percentile ${ninetyFifth(times).toFixed(0)} ms`;
}
