import { createHash } from 'node:crypto';
import type { Channel } from '../../core/channels/bundle';
import { evaluateAgain, evaluateRows } from '../../core/listing/again';
import { type CompiledPlan, compile } from '../../core/listing/compile';
import { type Coverage, coverageAgain, coverageOf } from '../../core/listing/coverage';
import { evaluateAll, type Listing } from '../../core/listing/evaluate';
import type { Plan } from '../../core/listing/plan';
import type { Snapshot } from '../catalog/snapshot';
import { valuesDigest } from './digest';
import { patience } from './patience';

/** A whole catalog seen through one plan. */
export interface Evaluation {
  readonly compiled: CompiledPlan;
  readonly listings: readonly Listing[];
  readonly coverage: readonly Coverage[];
  /** The catalog it was made of. */
  readonly snapshot: Snapshot;
}

/** A plan that could not be evaluated; said as long as plan and catalog stay as they are, instead of trying again. */
export class EvaluationFailed extends Error {}

const { begin, watch } = patience();

const failures = new Map<string, EvaluationFailed>();
const kept = new Map<string, Evaluation>();
const mostKept = 24;

const identities = new WeakMap<Channel, number>();
let nextIdentity = 1;

/** A number for each channel as read: the versions of a sheet are told apart by it. */
function identityOf(channel: Channel): number {
  const known = identities.get(channel) ?? nextIdentity++;
  identities.set(channel, known);
  return known;
}

/**
 * Evaluates a plan over a snapshot. The last few results are kept, since most pages ask for the same ones, and a plan that
 * differs a little from one of them is evaluated from there.
 * @throws EvaluationFailed with words for the person, where the plan cannot be evaluated
 */
export function evaluationOf(plan: Plan, channel: Channel, snapshot: Snapshot): Evaluation {
  const digest = createHash('md5').update(JSON.stringify(plan)).digest('hex');
  const family = `${identityOf(channel)}:${snapshot.revision}:${JSON.stringify(plan.market)}:`;
  const key = family + digest;
  const known = kept.get(key);
  if (known) {
    kept.delete(key);
    kept.set(key, known);
    return known;
  }
  const failed = failures.get(key);
  if (failed) throw failed;
  try {
    return evaluated(plan, channel, snapshot, { family, digest, key });
  } catch (error) {
    const words = error instanceof Error ? error.message : String(error);
    const failure = new EvaluationFailed(words, { cause: error });
    if (failures.size >= mostKept) failures.clear();
    failures.set(key, failure);
    throw failure;
  }
}

function evaluated(
  plan: Plan,
  channel: Channel,
  snapshot: Snapshot,
  { family, digest, key }: { family: string; digest: string; key: string },
): Evaluation {
  begin();
  const earlier = [...kept].findLast(
    ([other, { snapshot: before }]) =>
      other.startsWith(`${identityOf(channel)}:`) &&
      other.endsWith(`:${digest}`) &&
      before.index === snapshot.index &&
      before.brokenPictures === snapshot.brokenPictures,
  )?.[1];
  const compiled =
    earlier?.compiled ??
    compile(plan, channel.sheet, channel.tree, snapshot.index, {
      brokenPictures: snapshot.brokenPictures,
      watch,
    });
  const near = [...kept].findLast(
    ([other, { compiled: before }]) => other.startsWith(family) && before.index === snapshot.index,
  )?.[1];
  const evaluation = earlier
    ? ofRows(earlier, snapshot)
    : near
      ? from(near, compiled, snapshot)
      : inFull(compiled, snapshot);
  kept.set(key, evaluation);
  for (const oldest of kept.keys()) {
    if (kept.size <= mostKept) break;
    kept.delete(oldest);
  }
  return evaluation;
}

function inFull(compiled: CompiledPlan, snapshot: Snapshot): Evaluation {
  const listings = evaluateAll(compiled, snapshot);
  return { compiled, listings, coverage: coverageOf(listings, compiled.sheet.fields), snapshot };
}

/** The same plan after a change of the catalog: only rows that changed are evaluated. */
function ofRows({ compiled, listings: base, snapshot: before }: Evaluation, snapshot: Snapshot): Evaluation {
  const listings = evaluateRows(base, before, compiled, snapshot);
  return { compiled, listings, coverage: coverageOf(listings, compiled.sheet.fields), snapshot };
}

function from(near: Evaluation, compiled: CompiledPlan, snapshot: Snapshot): Evaluation {
  const { fields } = compiled.sheet;
  const { listings, counted } = evaluateAgain(near.compiled, near.listings, compiled, snapshot);
  const coverage = counted
    ? coverageAgain(near.coverage, listings, fields, counted)
    : coverageOf(listings, fields);
  return { compiled, listings, coverage, snapshot };
}

const digests = new WeakMap<Listing, string>();

/** A digest of a listing's values: what is compared to know whether the channel has the latest. Made once for each. */
export function digestOf(listing: Listing): string {
  const known = digests.get(listing);
  if (known) return known;
  const digest = valuesDigest(listing.values);
  digests.set(listing, digest);
  return digest;
}
