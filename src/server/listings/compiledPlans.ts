import { eq, max } from 'drizzle-orm';
import type { AttributeIndex } from '../../core/catalog/value';
import type { KeywordLists } from '../../core/keywords/keyword';
import { compile } from '../../core/listing/compile';
import type { CompiledPlan } from '../../core/listing/compiling/compiledPlan';
import { planOn } from '../../core/plans/plan';
import { languageDetector } from '../../files/languageDetector';
import { StoredFacts } from '../catalog/externalFacts';
import { keywordLists } from '../catalog/keywords';
import { catalogCurrency, indexOfAttributes, loadAttributes } from '../catalog/snapshot';
import { channelOf } from '../channels/channels';
import { db } from '../db/connection';
import { draft, planVersion, workspace } from '../db/schema';
import { type FeedHead, feedPlans } from '../plans/drafts';
import { setDayZone, today } from '../runtime/calendarDay';
import { md5 } from '../runtime/md5';
import { Memo } from '../runtime/memo';
import { patience } from '../runtime/timeBudget';

/** The plans that feeds are counted by, compiled; kept as long as nothing they are made of changes. */

/** With a plan that is compiled, and with each chunk of items. */
export const counting = patience();

export interface Counted {
  readonly code: string;
  readonly compiled: CompiledPlan;
  /** What was found of the items that are being counted. */
  readonly seen: StoredFacts;
  readonly plan: string;
  /** By which it is known whether all of this is still so. */
  readonly key: string;
}

const compiledPlans = new Memo<Counted>({ owner: 'compiled plans', maxEntries: 200 });
/** What the listings of all feeds are made of, besides items and plans; read once for all of them. */
export interface Surroundings {
  readonly revision: number;
  /** The revision at which items last went away. */
  readonly reload: number;
  readonly index: AttributeIndex;
  readonly keywords: KeywordLists;
  readonly merchant: string;
  readonly digest: string;
}

export async function surroundings(): Promise<Surroundings> {
  // First of all: what changes from here on asks for another count.
  const [space] = await db
    .select({
      revision: workspace.catalogRevision,
      zone: workspace.zone,
      reload: workspace.reloadRevision,
      keywords: workspace.keywordsRevision,
      merchant: workspace.name,
    })
    .from(workspace);
  setDayZone(space?.zone ?? 'UTC');
  const keywordsAt = space?.keywords ?? 0;
  const [attributes, currency, keywords] = await Promise.all([
    loadAttributes(),
    catalogCurrency(),
    keywordLists(keywordsAt),
  ]);
  const index = indexOfAttributes(attributes, currency);
  return {
    revision: space?.revision ?? 0,
    reload: space?.reload ?? 0,
    index,
    keywords,
    merchant: space?.merchant ?? '',
    digest: md5(JSON.stringify([index.codes, currency, keywordsAt, space?.merchant, today()])),
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
    today(),
  ]);
  const known = compiledPlans.get(code);
  if (known?.key === key) return known;
  const plans = await feedPlans(code);
  if (!plans) return undefined;
  const plan = planOn(plans.published ?? plans.draft, today());
  const languageOf = await languageDetector();
  counting.begin();
  const seen = new StoredFacts();
  const compiled = compile(plan, channel.sheet, channel.tree, around.index, {
    seen,
    keywords: around.keywords,
    merchant: around.merchant,
    day: today(),
    languageOf,
    watch: counting.watch,
  });
  const digest = md5(JSON.stringify([plan, channel.sheet.version, around.digest]));
  const counted = { code, compiled, seen, plan: digest, key };
  compiledPlans.set(code, counted);
  return counted;
}
