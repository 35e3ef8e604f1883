import { createHash } from 'node:crypto';
import { type CompiledPlan, compile } from '../../core/listing/compile';
import { evaluateAll, type Listing } from '../../core/listing/evaluate';
import type { Plan } from '../../core/listing/plan';
import type { Snapshot } from '../catalog/snapshot';
import { bundledChannel } from '../channels/files';

/** A whole catalog seen through one plan. */
export interface Evaluation {
  readonly compiled: CompiledPlan;
  readonly listings: readonly Listing[];
}

const kept = new Map<string, Evaluation>();
const mostKept = 24;

/** Evaluates a plan over a snapshot; the last few results are kept, since most pages ask for the same ones. */
export function evaluationOf(plan: Plan, snapshot: Snapshot): Evaluation {
  const key = `${snapshot.revision}:${createHash('md5').update(JSON.stringify(plan)).digest('hex')}`;
  const known = kept.get(key);
  if (known) {
    kept.delete(key);
    kept.set(key, known);
    return known;
  }
  const { sheet, tree } = bundledChannel(plan.channel);
  const compiled = compile(plan, sheet, tree, snapshot.index);
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
