import type { Row } from '../../core/catalog/value';
import type { Channel } from '../../core/channels/bundle';
import { compile } from '../../core/listing/compile';
import type { CompiledPlan } from '../../core/listing/compiling/compiledPlan';
import { type Coverage, coverageIncrementally, coverageOf } from '../../core/listing/coverage';
import { type CatalogRows, evaluatingAll, evaluatingAlone, type Listing } from '../../core/listing/evaluate';
import { evaluatingIncrementally, evaluatingRows } from '../../core/listing/incremental/incremental';
import { touchedBy } from '../../core/listing/incremental/touched';
import { Listings } from '../../core/listing/listings';
import { asksChannelStatus, type Plan, planOn } from '../../core/plans/plan';
import { languageDetector } from '../../files/languageDetector';
import type { Snapshot } from '../catalog/snapshot';
import { ledgerOf } from '../ledger/ledger';
import { valuesDigest } from '../listings/digest';
import { type EvaluationFailed, failureOf } from '../monitoring/failure';
import { withProgress } from '../rpc/progress';
import { today } from '../runtime/calendarDay';
import { md5 } from '../runtime/md5';
import { identityOf, Memo, memoBytes, setMemoBudget, WeakMemo } from '../runtime/memo';
import { settings } from '../runtime/settings';
import { inSlices, type Patience, patience } from '../runtime/timeBudget';

/** A whole catalog seen through one plan. */
export interface Evaluation {
  readonly compiled: CompiledPlan;
  readonly listings: Listings;
  readonly coverage: readonly Coverage[];
  /** The catalog it was made of. */
  readonly snapshot: Snapshot;
  /** What stops it where it makes too much of the catalog. */
  readonly patience: Patience;
  /** The later it was made, the higher. */
  readonly made: number;
}
let lastMade = 0;

const failures = new Memo<EvaluationFailed>({ owner: 'failed evaluations', maxEntries: 24 });
/** An estimate of what a listing of an evaluation takes, since unchanged listings are shared between evaluations. */
const BYTES_OF_LISTING = 1200;
/** Few are always kept: an edit is counted from the one before it. */
const evaluations = new Memo<Evaluation>({
  owner: 'evaluations',
  minEntries: 3,
  bytesOf: ({ listings }) => listings.length * BYTES_OF_LISTING,
});
setMemoBudget(settings.evaluationBytes);
/** Evaluations that are being made: whoever asks meanwhile waits for the same one. */
const underWay = new Map<string, Promise<Evaluation>>();

/**
 * Evaluates a plan over a snapshot. Results are kept as long as there is room, since most pages ask for the same ones, and a
 * plan that differs a little from one of them is evaluated from there. Meanwhile this process answers others.
 * @throws EvaluationFailed with words for the person, where the plan cannot be evaluated
 */
export async function evaluationOf(given: Plan, channel: Channel, snapshot: Snapshot): Promise<Evaluation> {
  const day = today();
  const plan = planOn(given, day);
  const digest = md5(JSON.stringify([plan, day]));
  // What checks say of days is of the day: yesterday's evaluation is none to go on from.
  const family = `${identityOf(channel)}:${snapshot.revision}:${day}:${JSON.stringify(plan.market)}:`;
  const key = family + digest;
  const known = evaluations.get(key);
  if (known) return known;
  const failed = failures.get(key);
  if (failed) throw failed;
  const begun = underWay.get(key);
  if (begun) return begun;
  const evaluating = evaluated(plan, channel, snapshot, { family, digest, key, day })
    .catch((error: unknown) => {
      const failure = failureOf(error);
      // What the plan itself brings about comes again; what nobody expected is tried again.
      if (failure.expected) failures.set(key, failure);
      throw failure;
    })
    .finally(() => underWay.delete(key));
  underWay.set(key, evaluating);
  return evaluating;
}

/** Looks up how listings stand at the channel, where a plan asks for it. */
async function lookUpChannelStatus(plan: Plan, { seen }: Snapshot): Promise<void> {
  const { feed } = plan;
  if (feed !== undefined && asksChannelStatus(plan)) seen.takeLedger(feed, await ledgerOf(feed));
}

/** A plan made ready for a catalog. @param by what stops it where it makes too much of the catalog */
async function compiledFor(
  plan: Plan,
  channel: Channel,
  { index, seen, keywords, merchant }: Snapshot,
  day: string,
  by: Patience,
): Promise<CompiledPlan> {
  // Its tables are loaded once; that is no time that a plan takes.
  const languageOf = await languageDetector();
  by.begin();
  const { watch } = by;
  return compile(plan, channel.sheet, channel.tree, index, {
    seen,
    keywords,
    merchant,
    day,
    languageOf,
    watch,
  });
}

/**
 * Some items through a plan that is only tried: nothing is kept, and nothing is compared with others.
 * @param items their SKUs and values
 * @throws EvaluationFailed where the plan cannot be evaluated
 */
export async function triedOn(
  plan: Plan,
  channel: Channel,
  snapshot: Snapshot,
  items: CatalogRows,
): Promise<Listing[]> {
  const day = today();
  const by = patience();
  try {
    await lookUpChannelStatus(plan, snapshot);
    const compiled = await compiledFor(planOn(plan, day), channel, snapshot, day, by);
    return await inSlices(evaluatingAlone(compiled, items), by);
  } catch (error) {
    throw failureOf(error);
  }
}

/**
 * The whole catalog through a plan, and with values of items, that are only tried: listings are compared with each other as they
 * would be, and nothing is kept.
 * @param base what is gone on from @param rows by their places, the items that would have other values
 * @throws EvaluationFailed where the plan cannot be evaluated
 */
export async function triedAll(
  base: Evaluation,
  plan: Plan,
  channel: Channel,
  rows: ReadonlyMap<number, Row>,
): Promise<Listings> {
  const { snapshot } = base;
  const day = today();
  const by = patience();
  try {
    await lookUpChannelStatus(plan, snapshot);
    const compiled = await compiledFor(planOn(plan, day), channel, snapshot, day, by);
    const { listings } = await inSlices(
      evaluatingIncrementally(base.compiled, base.listings, compiled, snapshot),
      by,
    );
    if (rows.size === 0) return listings;
    const changed = { skus: snapshot.skus, rows: snapshot.rows.map((row, at) => rows.get(at) ?? row) };
    return await inSlices(evaluatingRows(listings, snapshot, compiled, changed), by);
  } catch (error) {
    throw failureOf(error);
  }
}

async function evaluated(
  plan: Plan,
  channel: Channel,
  snapshot: Snapshot,
  { family, digest, key, day }: { family: string; digest: string; key: string; day: string },
): Promise<Evaluation> {
  const [earlierKey, earlier] =
    evaluations
      .all()
      .findLast(
        ([other, { snapshot: before }]) =>
          other.startsWith(`${identityOf(channel)}:`) &&
          other.endsWith(`:${digest}`) &&
          before.index === snapshot.index &&
          before.seen === snapshot.seen &&
          before.keywords === snapshot.keywords &&
          before.merchant === snapshot.merchant,
      ) ?? [];
  const by = earlier?.patience ?? patience();
  await lookUpChannelStatus(plan, snapshot);
  const compiled = earlier?.compiled ?? (await compiledFor(plan, channel, snapshot, day, by));
  by.begin();
  const near = nearestTo(
    compiled,
    evaluations
      .all()
      .flatMap(([other, one]) =>
        other.startsWith(family) && one.compiled.index === snapshot.index ? [one] : [],
      ),
  );
  const { fields } = compiled.sheet;
  const done = (listings: Listings, coverage?: readonly Coverage[]): Evaluation => ({
    compiled,
    listings,
    coverage: coverage ?? coverageOf(listings, fields),
    snapshot,
    patience: by,
    made: ++lastMade,
  });
  let evaluation: Evaluation;
  if (earlier) {
    // The same plan after a change of the catalog: only rows that changed are evaluated, and counted.
    const { listings: before, coverage } = earlier;
    const listings = await inSlices(evaluatingRows(before, earlier.snapshot, compiled, snapshot), by);
    const asMany = before.length === listings.length;
    evaluation = done(
      listings,
      asMany ? coverageIncrementally(coverage, before, listings, fields.keys()) : undefined,
    );
  } else if (near) {
    const { listings, touched, counted } = await inSlices(
      evaluatingIncrementally(near.compiled, near.listings, compiled, snapshot),
      by,
    );
    evaluation = done(
      listings,
      touched && coverageIncrementally(near.coverage, near.listings, listings, counted ?? fields.keys()),
    );
  } else {
    const feed = `${channel.sheet.name} ${plan.market.country}`;
    const all = withProgress(
      () => ({ what: 'evaluating', feed, done: by.rows(), of: snapshot.rows.length }),
      inSlices(evaluatingAll(compiled, snapshot), by),
    );
    evaluation = done(new Listings(await all, fields));
  }
  // Of the catalog as it was nobody asks any more, and it would keep all that was found of it.
  if (earlierKey !== undefined && earlier && earlier.snapshot.revision < snapshot.revision)
    evaluations.delete(earlierKey);
  evaluations.set(key, evaluation);
  return evaluation;
}

/**
 * The evaluation to go on from: a draft is one edit from what it was before, and may be many from what is published. Where both touch
 * as much, the one that was made last.
 * @param known in the order in which they were used
 */
function nearestTo(compiled: CompiledPlan, known: readonly Evaluation[]): Evaluation | undefined {
  const newest = known.reduce<Evaluation | undefined>(
    (latest, one) => (latest && latest.made > one.made ? latest : one),
    undefined,
  );
  const used = known.at(-1);
  if (!newest || !used || newest === used) return newest;
  const touches = ({ compiled: before }: Evaluation) =>
    touchedBy(before, compiled)?.fields.size ?? Number.POSITIVE_INFINITY;
  return touches(used) < touches(newest) ? used : newest;
}

/** Whether little of what may be kept is. */
export const hasRoom = (): boolean => memoBytes() <= settings.evaluationBytes / 4;

const digests = new WeakMemo<Listing['values'], string>('listing digests');

/** A digest of a listing's values: what is compared to know whether the channel has the latest. Made once for each. */
export function digestOf({ values }: Pick<Listing, 'values'>): string {
  const known = digests.get(values);
  if (known) return known;
  const digest = valuesDigest(values);
  digests.set(values, digest);
  return digest;
}
