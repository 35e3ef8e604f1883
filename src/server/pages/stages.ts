import type { Impact } from '../../core/listing/impact';
import { differencesPage } from '../evaluation/differences';
import { type DrilldownKind, drilldownKinds, drilldownOf } from '../evaluation/drilldown';
import { expectedOf, presentFigures } from '../evaluation/expectations';
import {
  type FailedFeed,
  type FeedContext,
  loadFeedContext,
  type StageView,
  tryFeed,
} from '../evaluation/feedContext';
import type { FeedHead } from '../plans/drafts';
import { feedName } from '../plans/feedName';
import { procedure } from '../rpc/rpc';
import { scheduleView } from '../schedules/schedules';
import { categoriesStage } from '../stages/categories';
import { checksStage } from '../stages/checks';
import { familiesStage } from '../stages/families';
import { fieldsStage } from '../stages/fields';
import { matchingStage } from '../stages/matching';
import { rulesStage } from '../stages/rules';
import { sendStage } from '../stages/send';
import { merchantConditions, settingsStage } from '../stages/settings';
import { stageViews } from '../stages/steps';
import { titlesStage } from '../stages/titles';
import { firstItemWith, valuesStage } from '../stages/values';
import { createTempDownload } from '../storage/files';
import { wholeFile } from '../submissions/feedFile';
import { destinationView } from '../transports/destinations';
import { listingPage } from './listing';
import { listingLines } from './listingList';
import {
  firstItemOf,
  pinnedSkus,
  representativeItems,
  type SampleView,
  sampleView,
} from './representativeItems';

/** What the address of a feed's page asks for. */
export interface FeedQuery {
  readonly sample?: string | undefined;
  readonly field?: string | undefined;
  readonly [name: string]: string | undefined;
}

/** One page of a feed: what stands in it, and which item and field the tray beside it shows where the address names none. */
interface PageMaker<B> {
  body(work: FeedContext, query: FeedQuery): B | Promise<B>;
  traySample?(work: FeedContext, body: Awaited<B>, query: FeedQuery): string | undefined;
  trayField?(work: FeedContext, body: Awaited<B>, query: FeedQuery): string | undefined;
  /** Whether there is a tray; there is where left out. */
  tray?(query: FeedQuery): boolean;
}

const maker = <B>(one: PageMaker<B>): PageMaker<B> => one;
const none = () => false;
const firstSample = async ({ sample }: FeedQuery): Promise<string | undefined> =>
  sample ?? (await pinnedSkus())[0];

const makers = {
  behind: maker({
    body: (work, query) =>
      drilldownOf(
        work,
        query.field ?? '',
        drilldownKinds.find((kind) => kind === query.is) ?? ('filled' as DrilldownKind),
      ),
    tray: none,
  }),
  categories: maker({
    body: categoriesStage,
    traySample: (work, { current }) => firstItemOf(work, current),
    trayField: ({ sheet }) => sheet.fields.find(({ kind }) => kind === 'category')?.code,
  }),
  checks: maker({
    body: async (work, query) => ({ stage: await checksStage(work, query) }),
    traySample: (_work, { stage }, query) => (query.fix ? stage.listings[0]?.sku : undefined),
    trayField: (_work, _body, query) => query.fix?.split(':')[1],
  }),
  differences: maker({
    body: differencesPage,
    traySample: ({ found }) => found()[0]?.sku,
    trayField: ({ found, sheet }, _body, query) =>
      query.only ?? sheet.fields[found()[0]?.fields[0] ?? -1]?.code,
  }),
  families: maker({
    body: familiesStage,
    traySample: (_work, { current }) => current?.down[0]?.cells[0]?.[0]?.sku,
    trayField: ({ sheet }) => sheet.fields.find(({ role }) => role === 'group')?.code,
    tray: ({ sample }) => sample !== undefined,
  }),
  fields: maker({ body: async (work, query) => fieldsStage(work, await firstSample(query)) }),
  history: maker({
    body: async (work) => ({
      expected: await expectedOf(work),
      present: presentFigures(work),
    }),
    tray: none,
  }),
  joining: maker({ body: matchingStage, tray: none }),
  listings: maker({
    body: async (work, query) => {
      const listing = await listingPage(work, query);
      return listing ? { listing } : { list: listingLines(work, { find: query.find }), unknown: query.item };
    },
    tray: none,
  }),
  rules: maker({ body: (work, query) => rulesStage(work, query.rule) }),
  send: maker({
    body: (work, { submission, show, find }) =>
      sendStage(work, { submission: Number(submission) || undefined, show, find }),
    tray: ({ sample }) => sample !== undefined,
  }),
  settings: maker({
    body: async (work) => ({
      stage: await settingsStage(work),
      to: await destinationView(work.plans.head),
      transport: work.sheet.delivery.manner,
      hour: await scheduleView(work.plans.head),
    }),
    tray: none,
  }),
  unknown: maker({ body: () => ({}), tray: none }),
  titles: maker({
    body: async (work, query) => titlesStage(work, await firstSample(query), query.find ?? '', query.branch),
  }),
  values: maker({
    body: (work, query) => valuesStage(work, query.field),
    trayField: (_work, { current }) => current,
    traySample: firstItemWith,
  }),
};

export type FeedPageName = keyof typeof makers;
export type FeedBody<P extends FeedPageName> = Awaited<ReturnType<(typeof makers)[P]['body']>>;

/** What every page of a feed stands in. */
export interface FeedFrameView {
  readonly head: FeedHead;
  readonly name: string;
  readonly revision: number;
  readonly version: number;
  readonly undoWords: string | undefined;
  /** How many settings the draft changes, and what that does to the listings. */
  readonly changes: number;
  readonly impact: Impact;
  readonly stages: readonly StageView[];
  /** What is expected of the feed and does not hold in the draft. */
  readonly broken: readonly string[];
  /** Conditions of the channel that are still to meet. */
  readonly wanting: number;
}

export interface FeedAnswer<B> {
  readonly frame: FeedFrameView;
  readonly sample: SampleView | undefined;
  readonly body: B;
}

type Answer<B> = FeedAnswer<B> | { readonly failed: FailedFeed } | undefined;

async function answered(feed: string, name: FeedPageName, query: FeedQuery): Promise<Answer<unknown>> {
  const { work, failed } = await tryFeed(feed);
  if (failed) return { failed };
  if (!work) return undefined;
  const make = makers[name] as PageMaker<unknown>;
  const { plans, impact, changes } = work;
  const [expected, stages, name_, body] = await Promise.all([
    expectedOf(work),
    stageViews(work),
    feedName(plans.head),
    make.body(work, query),
  ]);
  const sample =
    (make.tray?.(query) ?? true)
      ? await sampleView(
          work,
          query.sample ?? make.traySample?.(work, body, query),
          query.field ?? make.trayField?.(work, body, query),
        )
      : undefined;
  return {
    frame: {
      head: plans.head,
      name: name_,
      revision: plans.revision,
      version: plans.version,
      undoWords: plans.undoWords,
      changes,
      impact,
      broken: expected.flatMap(({ holds, words, instead }) => (holds ? [] : [`${words}; ${instead}`])),
      stages,
      wanting: merchantConditions(work).filter(({ met }) => !met).length,
    },
    sample,
    body,
  };
}

const pageProcedure = procedure('feedPage', answered);

/** A page of a feed, computed where the catalog is; undefined where there is no such feed. */
export const feedPageOf = <P extends FeedPageName>(
  feed: string,
  name: P,
  query: FeedQuery,
): Promise<Answer<FeedBody<P>>> => pageProcedure(feed, name, query) as Promise<Answer<FeedBody<P>>>;

/** How much a draft changes: settings, and listings. Undefined where there is no such feed. */
export const draftChanges = procedure('draftChanges', async (feed: string) => {
  const work = await loadFeedContext(feed);
  return work && { settings: work.changes, listings: work.impact.changed };
});

/** Items that tell much of a feed. */
export const representativeItemsOf = procedure(
  'representativeItems',
  async (feed: string): Promise<string[]> => {
    const work = await loadFeedContext(feed);
    return work ? representativeItems(work) : [];
  },
);

/** The file of a feed as it would leave now, made to be fetched. */
export const feedFile = procedure('feedFile', async (feed: string) => {
  const { work, failed } = await tryFeed(feed);
  if (failed) return { failed: failed.words };
  if (!work) return undefined;
  const { mediaType, name, pieces } = await wholeFile(work);
  return { mediaType, name, file: await createTempDownload(pieces) };
});
