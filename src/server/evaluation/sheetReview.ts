import type { Sheet } from '../../core/channels/sheet';
import { changeWords, compareChannels, type SheetChange } from '../../core/channels/versions';
import { issueWords } from '../../core/checks/messages';
import { type ListingEffect, versionEffect } from '../../core/listing/versionEffect';
import { currentSnapshot } from '../catalog/snapshot';
import { channelVersion, feedsOf, findChannel } from '../channels/channels';
import { feedPlans } from '../plans/drafts';
import { feedName } from '../plans/feedName';
import { procedure } from '../rpc/rpc';
import { evaluationOf } from './evaluation';

export interface EffectLine {
  readonly sku: string;
  readonly words: readonly string[];
}

/** What another version would do to one feed. */
export interface FeedEffect {
  readonly feed: string;
  readonly name: string;
  readonly broken: readonly EffectLine[];
  readonly worse: readonly EffectLine[];
  readonly mended: readonly string[];
  readonly total: number;
}

export interface VersionReview {
  readonly version: number;
  readonly effective: string;
  /** The version it would follow; undefined where it is the first. */
  readonly follows: number | undefined;
  readonly changes: readonly { readonly kind: SheetChange['change']; readonly words: string }[];
  readonly feeds: readonly FeedEffect[];
}

/** A field's label in the newer sheet, in the older where it is gone. */
const labels = (before: Sheet | undefined, after: Sheet) => {
  const known = new Map(
    [...(before?.fields ?? []), ...after.fields].map(({ code, label }) => [code, label] as const),
  );
  return (code: string) => known.get(code) ?? code;
};

/**
 * What a version of a channel changes, and what it does to the listings of each of its feeds as they are published (as
 * they are drafted where nothing is). Compared with the version that counts.
 */
export const reviewVersion = procedure('versionReview', reviewOf);
async function reviewOf(code: string, version: number): Promise<VersionReview | undefined> {
  const [before, after, snapshot] = await Promise.all([
    findChannel(code),
    channelVersion(code, version),
    currentSnapshot(),
  ]);
  if (!after) return undefined;
  const labelOf = labels(before?.sheet, after.sheet);
  const line = ({ sku, appeared }: ListingEffect): EffectLine => ({
    sku,
    words: appeared.map((issue) => issueWords(issue, labelOf)),
  });
  const feeds: FeedEffect[] = [];
  if (before)
    for (const feed of await feedsOf(code)) {
      const plans = await feedPlans(feed);
      if (!plans) continue;
      const plan = plans.published ?? plans.draft;
      const effect = versionEffect(
        (await evaluationOf(plan, before, snapshot)).listings,
        (await evaluationOf(plan, after, snapshot)).listings,
      );
      feeds.push({
        feed,
        name: await feedName(plans.head),
        broken: effect.broken.map(line),
        worse: effect.worse.map(line),
        mended: effect.mended,
        total: effect.total,
      });
    }
  return {
    version,
    effective: after.sheet.effective,
    follows: before?.sheet.version,
    changes: before
      ? compareChannels(before, after).map((change) => ({
          kind: change.change,
          words: changeWords(change, labelOf),
        }))
      : [],
    feeds,
  };
}
