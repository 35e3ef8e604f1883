import { AsyncLocalStorage } from 'node:async_hooks';
import { hostname } from 'node:os';
import { sql } from 'drizzle-orm';
import pino from 'pino';
import { collectDefaultMetrics, Histogram, Registry } from 'prom-client';
import { db, transactionsRetried } from '../db/connection';
import { inWords, loggedError } from '../db/statement';
import type { MemoFigures } from '../runtime/memo';

/** What a line of the log belongs to: the request or the job, by its number. */
const subjects = new AsyncLocalStorage<Readonly<Record<string, string | number>>>();

/** Names under which secrets go. */
const secretNames = [
  'credential',
  'testCredential',
  'password',
  'secret',
  'token',
  'authorization',
  'cookie',
  'apiKey',
];

/** The log of this process; each line names the request or the job it belongs to. Nothing secret is handed to it. */
export const log = pino({
  name: `lively ${hostname()}:${process.pid}`,
  level: process.env.LIVELY_LOG ?? 'warn',
  mixin: () => ({ ...subjects.getStore() }),
  serializers: { err: loggedError },
  hooks: { logMethod: inWords },
  // A second net: nothing secret is handed to the log, and what goes by such a name is not written.
  redact: { paths: secretNames.flatMap((name) => [name, `*.${name}`, `*.*.${name}`]), censor: '[redacted]' },
});

const shared = globalThis as typeof globalThis & {
  livelyMetrics?: { registry: Registry; seconds: Histogram<'what'> };
};

function startMetrics() {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const seconds = new Histogram({
    name: 'lively_seconds',
    help: 'time from being asked to the answer, by what was asked',
    labelNames: ['what'],
    buckets: [0.01, 0.03, 0.1, 0.3, 1, 3, 10],
    registers: [registry],
  });
  return { registry, seconds };
}

/** One registry a process, kept across reloads while developing. */
shared.livelyMetrics ??= startMetrics();
const { registry, seconds } = shared.livelyMetrics;

/** Runs work under a subject of the log, and measures it under a name. */
export async function observe<T>(
  what: string,
  subject: Readonly<Record<string, string | number>>,
  work: () => Promise<T>,
): Promise<T> {
  const end = seconds.startTimer({ what });
  return subjects.run(subject, async () => {
    try {
      return await work();
    } finally {
      const took = end();
      log.debug({ what, seconds: Number(took.toFixed(3)) }, 'done');
    }
  });
}

/** Lines of one metric in the text form that scrapers read. */
const metricLines = (
  name: string,
  type: 'counter' | 'gauge',
  help: string,
  values: readonly (readonly [labels: Readonly<Record<string, string>>, value: number])[],
): string =>
  [
    `# HELP ${name} ${help}`,
    `# TYPE ${name} ${type}`,
    ...values.map(([labels, value]) => {
      const named = Object.entries(labels).map(([label, text]) => `${label}=${JSON.stringify(text)}`);
      return `${name}{${named.join()}} ${value}`;
    }),
    '',
  ].join('\n');

const memoMetrics = [
  ['hits', 'lively_memo_hits_total', 'counter', 'derived values that were found in memory'],
  ['misses', 'lively_memo_misses_total', 'counter', 'derived values that were made'],
  ['evictions', 'lively_memo_evictions_total', 'counter', 'derived values that went for others'],
  ['entries', 'lively_memo_entries', 'gauge', 'derived values in memory'],
  ['bytes', 'lively_memo_bytes', 'gauge', 'estimated size of derived values in memory'],
] as const;

/**
 * Counters and timings of this process, how many jobs are in which state, and what the memo did, in the text form that scrapers read.
 * @param memo figures by process
 */
export async function metricsText(
  memo: readonly { readonly process: string; readonly figures: readonly MemoFigures[] }[],
): Promise<string> {
  const [rows] = (await db.execute(
    sql`select state, count(*) as count from job group by state`,
  )) as unknown as [{ state: string; count: number }[]];
  return [
    await registry.metrics(),
    metricLines(
      'lively_transactions_retried_total',
      'counter',
      'transactions that the database gave up and that were run again',
      Object.entries(transactionsRetried).map(([reason, count]) => [{ reason }, count]),
    ),
    metricLines(
      'lively_jobs',
      'gauge',
      'jobs by state',
      rows.map(({ state, count }) => [{ state }, Number(count)]),
    ),
    ...memoMetrics.map(([figure, name, type, help]) =>
      metricLines(
        name,
        type,
        help,
        memo.flatMap(({ process, figures }) =>
          figures.map((one) => [{ process, owner: one.owner }, one[figure]] as const),
        ),
      ),
    ),
  ].join('');
}

interface Health {
  readonly ok: boolean;
  readonly database: 'answers' | 'away';
  readonly evaluator: 'answers' | 'away';
  readonly uptime: number;
}

/** Whether this process can do its work. @param evaluatorAnswers asked of the evaluator */
export async function health(evaluatorAnswers: () => Promise<boolean>): Promise<Health> {
  const database = await db.execute(sql`select 1`).then(
    () => 'answers' as const,
    () => 'away' as const,
  );
  const evaluator = (await evaluatorAnswers()) ? 'answers' : 'away';
  return {
    ok: database === 'answers' && evaluator === 'answers',
    database,
    evaluator,
    uptime: Math.round(process.uptime()),
  };
}
