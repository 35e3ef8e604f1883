import { and, count, eq, inArray, sql } from 'drizzle-orm';
import { rowOf } from '../../core/catalog/item';
import type { Row } from '../../core/catalog/value';
import { evaluate } from '../../core/listing/evaluate';
import { currentSnapshot } from '../catalog/snapshot';
import { channelOf } from '../channels/channels';
import { db } from '../db/connection';
import { run, runItem, source } from '../db/schema';
import { evaluationOf } from '../evaluation/evaluation';
import { stagedChunks } from '../import/staging';
import { EvaluationFailed } from '../monitoring/failure';
import { feedPlans, listFeeds } from '../plans/drafts';
import { feedName } from '../plans/feedName';
import { procedure } from '../rpc/rpc';
import { memoFor } from '../runtime/memo';

/** What a checked import adds to one feed, as it is published (as it is drafted where nothing is). */
export interface ImportEffect {
  readonly feed: string;
  readonly name: string;
  /** Whether new items of the source wait until a person lets them join. */
  readonly waits: boolean;
  /** New items that the feed takes; of these so many are ready, the others blocked. */
  readonly joins: number;
  readonly ready: number;
  /** Blocked listings of the feed now, and with the import: what listings say of each other is not counted. */
  readonly blockedNow: number;
  readonly blockedThen: number;
  /** Why the feed could not be computed. */
  readonly failed: string | undefined;
}

export interface ImportEffects {
  readonly feeds: readonly ImportEffect[];
  /** Rows that were tried, of how many. */
  readonly tried: number;
  readonly of: number;
}

/** At most so many rows are tried: beyond that the page says how many were. */
const MAX_ROWS = 5000;
const CHUNK_ROWS = 250;

/** Computes what a checked import would do to every feed if it were applied now. Undefined where there is no such import. */
export const importEffects = procedure('importEffects', effectsOf);
async function effectsOf(id: number): Promise<ImportEffects | undefined> {
  const wanted = and(eq(runItem.chosen, true), inArray(runItem.kind, ['new', 'changed']));
  const [[found], [chosen]] = await Promise.all([
    db
      .select({ counts: run.counts, finishedAt: run.finishedAt, waits: source.waitsFor })
      .from(run)
      .innerJoin(source, eq(source.id, run.sourceId))
      .where(eq(run.id, id)),
    db
      .select({ count: count(), sum: sql<string>`coalesce(sum(${runItem.row}), 0)` })
      .from(runItem)
      .where(and(eq(runItem.runId, id), wanted)),
  ]);
  if (!found) return undefined;
  const snapshot = await currentSnapshot();
  const feeds = (await Promise.all((await listFeeds()).map(({ code }) => feedTried(code)))).filter(
    (feed) => feed !== undefined,
  );
  // The page is drawn again with every press on it: nothing is computed twice for the same rows, catalog and plans.
  const key = [
    id,
    found.finishedAt?.getTime(),
    chosen?.count,
    chosen?.sum,
    ...feeds.map(({ evaluation }) => evaluation),
  ];
  const { tried, effects } = await memoFor(
    snapshot,
    'import effects',
    async () => {
      let tried = 0;
      for await (const rows of stagedChunks(id, wanted, CHUNK_ROWS)) {
        for (const { sku, kind, family, values } of rows) {
          const at = kind === 'changed' ? snapshot.positionOf(sku) : undefined;
          const known = at === undefined ? undefined : snapshot.items[at];
          const code = family ?? known?.family;
          const row = rowOf(
            { sku, values: { ...known?.values, ...values }, ...(code ? { family: code } : {}) },
            code ? snapshot.families.get(code) : undefined,
            snapshot.index,
          );
          for (const feed of feeds) feed.takes(sku, row, at);
        }
        tried += rows.length;
        if (tried >= MAX_ROWS) break;
      }
      return { tried, effects: feeds.map((feed) => feed.effect()) };
    },
    key.join(),
  );
  const waits = new Set(found.waits ?? []);
  return {
    feeds: effects.map((effect) => ({ ...effect, waits: waits.has(effect.feed) })),
    tried,
    of: chosen?.count ?? 0,
  };
}

/** A feed that rows of an import are tried on, one after another. */
interface Tried {
  /** Number of the evaluation that it is tried on; undefined where the feed could not be evaluated. */
  readonly evaluation: number | undefined;
  takes(sku: string, row: Row, at: number | undefined): void;
  effect(): Omit<ImportEffect, 'waits'>;
}

async function feedTried(code: string): Promise<Tried | undefined> {
  const plans = await feedPlans(code);
  if (!plans) return undefined;
  const name = await feedName(plans.head);
  const counts = { joins: 0, ready: 0, blockedNow: 0, blockedThen: 0 };
  try {
    const evaluation = await evaluationOf(
      plans.published ?? plans.draft,
      await channelOf(plans.head.channel),
      await currentSnapshot(),
    );
    const { compiled, listings } = evaluation;
    counts.blockedNow = listings.positions((at) => listings.stateAt(at) === 'blocked').length;
    counts.blockedThen = counts.blockedNow;
    return {
      evaluation: evaluation.made,
      takes(sku, row, at) {
        const { state } = evaluate(compiled, sku, row);
        const before = at === undefined ? undefined : listings.stateAt(at);
        if (before === undefined && state !== 'leftOut') counts.joins++;
        if (before === undefined && state === 'ready') counts.ready++;
        if (before === 'blocked') counts.blockedThen--;
        if (state === 'blocked') counts.blockedThen++;
      },
      effect: () => ({ feed: code, name, ...counts, failed: undefined }),
    };
  } catch (error) {
    if (!(error instanceof EvaluationFailed)) throw error;
    return {
      evaluation: undefined,
      takes: () => undefined,
      effect: () => ({ feed: code, name, ...counts, failed: error.message }),
    };
  }
}
