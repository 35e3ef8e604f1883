import { eq, max } from 'drizzle-orm';
import type { AttributeIndex } from '../../core/catalog/value';
import { EvaluationStopped } from '../../core/errors/evaluationStopped';
import { type CompiledPlan, compile } from '../../core/listing/compile';
import { brokenPictureLinks, catalogCurrency, indexOfAttributes, loadAttributes } from '../catalog/snapshot';
import { channelOf } from '../channels/channels';
import { db } from '../db/connection';
import { draft, planVersion, workspace } from '../db/schema';
import { type FeedHead, feedPlans } from '../feeds/drafts';
import { md5 } from './digest';

/** The plans that feeds are counted by, compiled; kept as long as nothing they are made of changes. */

/** A chunk may take this long, and this long for each row it has done, before its plan is given up. In ms. */
const patience = { atLeast: 4000, row: 0.5 };

export interface Counted {
  readonly code: string;
  readonly compiled: CompiledPlan;
  readonly plan: string;
  /** By which it is known whether all of this is still so. */
  readonly key: string;
}

const compiledPlans = new Map<string, Counted>();
let begun = 0;

/** From here on the patience with a plan is measured. */
export const beginWatch = (): void => {
  begun = Date.now();
};

export function watch(rows = 0): void {
  if (Date.now() - begun > patience.atLeast + rows * patience.row) throw new EvaluationStopped();
}

/** What the listings of all feeds are made of, besides items and plans; read once for all of them. */
export interface Surroundings {
  readonly revision: number;
  readonly index: AttributeIndex;
  readonly broken: readonly string[];
  readonly digest: string;
}

export async function surroundings(): Promise<Surroundings> {
  // First of all: what changes from here on asks for another count.
  const [space] = await db.select({ revision: workspace.catalogRevision }).from(workspace);
  const [attributes, currency, broken] = await Promise.all([
    loadAttributes(),
    catalogCurrency(),
    brokenPictureLinks(),
  ]);
  const index = indexOfAttributes(attributes, currency);
  return {
    revision: space?.revision ?? 0,
    index,
    broken,
    digest: md5(JSON.stringify([index.codes, currency, broken])),
  };
}

/** A feed's plan, compiled, and a digest of everything but the items that its listings are made of. */
export async function planOf(head: FeedHead, around: Surroundings): Promise<Counted | undefined> {
  const { code } = head;
  const [channel, [latest], [own]] = await Promise.all([
    channelOf(head.channel),
    db
      .select({ version: max(planVersion.version) })
      .from(planVersion)
      .where(eq(planVersion.feed, code)),
    db.select({ revision: draft.revision }).from(draft).where(eq(draft.feed, code)),
  ]);
  const key = JSON.stringify([
    latest?.version ?? `draft ${own?.revision}`,
    channel.sheet.version,
    around.digest,
  ]);
  const known = compiledPlans.get(code);
  if (known?.key === key) return known;
  const plans = await feedPlans(code);
  if (!plans) return undefined;
  const plan = plans.published ?? plans.draft;
  beginWatch();
  const compiled = compile(plan, channel.sheet, channel.tree, around.index, {
    brokenPictures: new Set(around.broken),
    watch,
  });
  const digest = md5(JSON.stringify([plan, channel.sheet.version, around.digest]));
  const counted = { code, compiled, plan: digest, key };
  compiledPlans.set(code, counted);
  return counted;
}
