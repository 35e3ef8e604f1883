import { count, eq, inArray } from 'drizzle-orm';
import type { SuggestedFix } from '../../core/fixes/suggestion';
import { db } from '../db/connection';
import { item, source } from '../db/schema';
import type { FeedContext } from '../evaluation/feedContext';
import { otherFeeds } from '../evaluation/otherFeeds';
import { memoFor } from '../runtime/memo';
import { type Effect, sureEffect } from './effects';
import { suggestedFixOf } from './fixes';
import { attributeOf } from './lines';
import { sharingOf } from './valueChoices';

/** The other feeds that a proposal is taken in as well, if wished: those that take the same choices, and those of the same channel. */
async function sharedWith(work: FeedContext, { field, way }: SuggestedFix): Promise<{ name: string }[]> {
  const own = work.sheet.fields.find(({ code }) => code === field);
  if (way.by === 'words') return own ? sharingOf(work.plans.head.code, own) : [];
  if (way.by === 'items' || way.by === 'numbers') return [];
  return (await otherFeeds(work.plans.head.code)).filter(
    ({ head }) => head.channel === work.plans.head.channel,
  );
}

/** A proposal as a page shows it. */
export interface SuggestedFixView {
  readonly proposal: SuggestedFix;
  readonly effect: Effect;
  /** What the values are of, in words: the attribute's or the field's name. */
  readonly about: string;
  /** Lines beyond those that are shown; what is sure among them is taken with the others. */
  readonly more: number;
  readonly moreSure: number;
  readonly sharing: readonly { readonly name: string }[];
  /** Who may know what nobody here does: the sources of the items whose value is not found, the most of them first. */
  readonly askers: readonly { readonly id: number; readonly name: string; readonly items: number }[];
}

/** Items whose source is looked for. */
const MAX_ASKED = 5000;

/** The sources of items whose value could not be worked out. */
async function sourcesOf({ way, lines }: SuggestedFix): Promise<SuggestedFixView['askers']> {
  const skus =
    way.by === 'items' ? lines.flatMap(({ key, sure }) => (sure ? [] : [key])).slice(0, MAX_ASKED) : [];
  if (skus.length === 0) return [];
  const rows = await db
    .select({ id: source.id, name: source.name, items: count() })
    .from(item)
    .innerJoin(source, eq(source.id, item.sourceId))
    .where(inArray(item.sku, skus))
    .groupBy(source.id, source.name);
  return rows.sort((a, b) => b.items - a.items);
}

/** Lines a page shows. */
const MAX_LINES = 60;

export async function suggestedFixView(
  work: FeedContext,
  cause: string,
): Promise<SuggestedFixView | undefined> {
  const proposal = await suggestedFixOf(work, cause);
  if (!proposal) return undefined;
  const { way, lines } = proposal;
  const attribute = way.by === 'items' ? way.attribute : undefined;
  const rest = lines.slice(MAX_LINES);
  return {
    proposal: { ...proposal, lines: lines.slice(0, MAX_LINES) },
    effect: await sureEffect(work, proposal),
    about: attributeOf(work, attribute)?.label ?? work.labelOf(proposal.field),
    more: rest.length,
    moreSure: rest.filter(({ sure }) => sure).length,
    sharing: (await sharedWith(work, proposal)).map(({ name }) => ({ name })),
    askers: await memoFor(proposal, 'sources', () => sourcesOf(proposal)),
  };
}
