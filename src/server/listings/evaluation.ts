import { createHash } from 'node:crypto';
import type { Channel } from '../../core/channels/bundle';
import { type CompiledPlan, compile } from '../../core/listing/compile';
import { evaluateAll, type Listing } from '../../core/listing/evaluate';
import type { Plan } from '../../core/listing/plan';
import type { Snapshot } from '../catalog/snapshot';

/** A whole catalog seen through one plan. */
export interface Evaluation {
  readonly compiled: CompiledPlan;
  readonly listings: readonly Listing[];
}

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

/** Evaluates a plan over a snapshot; the last few results are kept, since most pages ask for the same ones. */
export function evaluationOf(plan: Plan, channel: Channel, snapshot: Snapshot): Evaluation {
  const key = `${identityOf(channel)}:${snapshot.revision}:${createHash('md5').update(JSON.stringify(plan)).digest('hex')}`;
  const known = kept.get(key);
  if (known) {
    kept.delete(key);
    kept.set(key, known);
    return known;
  }
  const compiled = compile(plan, channel.sheet, channel.tree, snapshot.index);
  const evaluation = { compiled, listings: evaluateAll(compiled, snapshot) };
  kept.set(key, evaluation);
  for (const oldest of kept.keys()) {
    if (kept.size <= mostKept) break;
    kept.delete(oldest);
  }
  return evaluation;
}

/** A digest of a listing's values: what is compared to know whether the channel has the latest. */
export function digestOf(listing: Listing): string {
  return createHash('md5').update(JSON.stringify(listing.values)).digest('hex');
}
