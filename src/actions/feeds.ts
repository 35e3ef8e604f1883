'use server';
import { z } from 'zod';
import { InputError } from '@/core/errors/inputError';
import { expectationSchema } from '@/core/listing/expectations';
import { planEditSchema } from '@/core/plans/edit';
import { addExpectation, expectPresentValue, removeExpectation } from '@/server/evaluation/expectations';
import { applyFixes } from '@/server/fixes/applying';
import { pinItem, pinItems } from '@/server/pages/representativeItems';
import { draftChanges, representativeItemsOf } from '@/server/pages/stages';
import { copyRule } from '@/server/plans/copyRule';
import { removeFeed } from '@/server/plans/deleting';
import {
  discardDraft,
  editDraft,
  plannedFeed,
  publishDraft,
  restoreVersion,
  resumeDraft,
  saveDraft,
  undoDraft,
} from '@/server/plans/drafts';
import { createFeed, duplicateFeed, previewDuplicate } from '@/server/plans/feeds';
import { refuseEntry } from '@/server/stages/matching';
import { saveWords } from '@/server/stages/values';
import { requestChannelSearch } from '@/server/submissions/channelSearch';
import { action, done } from './action';
import { code, revision } from './inputs';

/** The number of a press, by which it is carried out once however often it arrives. */
const request = z.uuid();

export const saveEdit = action(
  'change',
  'changed a draft',
  z.tuple([code, revision, planEditSchema, request]),
  (feed, at, edit, press) => editDraft(feed, at, edit, press),
);

export const saveValueMapping = action(
  'change',
  'changed a value mapping',
  z.tuple([code, revision, code, z.record(z.string().max(1000), z.string().max(1000)), z.boolean(), request]),
  async (feed, at, field, words, share, press) =>
    saveWords(await plannedFeed(feed), at, field, words, share, press),
);

export const applySuggestedFixes = action(
  'change',
  'applied suggested fixes',
  z.tuple([
    code,
    revision,
    z
      .array(
        z.object({
          cause: z.string().max(400),
          picks: z.record(z.string().max(1000), z.string().max(50_000)).optional(),
        }),
      )
      .min(1)
      .max(100),
    z.boolean(),
    request,
  ]),
  (feed, at, wanted, share, press) => applyFixes(feed, at, wanted, share, press),
);

export const searchEntries = action(
  'change',
  'searched a channel for entries',
  z.tuple([code]),
  async (feed) => ({ ok: true as const, count: await requestChannelSearch(feed) }),
);

export const refuseEntryOf = action(
  'change',
  'dismissed a channel entry',
  z.tuple([code, code, z.string().min(1).max(100), z.boolean()]),
  (feed, sku, entry, not) => done(refuseEntry(feed, sku, entry, not)),
);

export const copyRuleTo = action(
  'change',
  'copied a rule',
  z.tuple([code, z.string().min(1).max(200), z.array(code).min(1).max(200)]),
  async (feed, rule, targets) => ({ ok: true as const, ...(await copyRule(feed, rule, targets)) }),
);

export const undoEdit = action('change', 'undid an edit', z.tuple([code, revision]), (feed, at) =>
  undoDraft(feed, at),
);

/** Publishes with how much it changes, and a note where one is given. */
export const publish = action(
  'change',
  'published a draft',
  z.tuple([code, revision, z.string().max(200)]),
  async (feed, at, note) => {
    const changes = await draftChanges(feed);
    if (!changes) throw new InputError('noFeed');
    const figures = `${changes.settings} changes, ${changes.listings} listings`;
    return publishDraft(feed, at, note.trim() === '' ? figures : `${note.trim()} (${figures})`);
  },
);

export const storeDraft = action(
  'change',
  'stored a draft',
  z.tuple([code, revision, z.string().max(80)]),
  saveDraft,
);

export const resumeStoredDraft = action(
  'change',
  'resumed a draft',
  z.tuple([code, revision, z.string().max(80)]),
  resumeDraft,
);

export const createExpectation = action(
  'change',
  'added an expectation',
  z.tuple([code, expectationSchema]),
  (feed, expectation) => done(addExpectation(feed, expectation)),
);

export const createValueExpectation = action(
  'change',
  'added an expectation',
  z.tuple([code, code, code]),
  (feed, sku, field) => done(expectPresentValue(feed, sku, field)),
);

export const deleteExpectation = action(
  'change',
  'deleted an expectation',
  z.tuple([code, z.number().int()]),
  (feed, id) => done(removeExpectation(feed, id)),
);

export const discard = action('change', 'discarded a draft', z.tuple([code, revision]), (feed, at) =>
  discardDraft(feed, at),
);

export const restore = action(
  'change',
  'restored a version',
  z.tuple([code, z.number().int(), revision]),
  (feed, version, at) => restoreVersion(feed, version, at),
);

export const pin = action('change', 'pinned an item', z.tuple([code, z.boolean()]), (sku, on) =>
  done(pinItem(sku, on)),
);

export const pinRepresentative = action(
  'change',
  'pinned representative items',
  z.tuple([code]),
  async (feed) => done(pinItems(await representativeItemsOf(feed))),
);

const market = z.strictObject({ channel: code, country: z.string().length(2), language: code });

export const addFeed = action(
  'change',
  'added a feed',
  z.tuple([market]),
  async ({ channel, country, language }) => ({
    ok: true as const,
    feed: await createFeed(channel, country, language),
  }),
);

/** What would go along to another market or channel. */
export const previewCopy = action(
  'look',
  'previewed a copy',
  z.tuple([code, market]),
  async (feed, { channel, country, language }) => {
    const { carried, left } = await previewDuplicate(feed, channel, country, language);
    return { ok: true as const, carried, left };
  },
);

export const copyFeed = action(
  'change',
  'copied a feed',
  z.tuple([code, market]),
  async (feed, { channel, country, language }) => ({
    ok: true as const,
    feed: await duplicateFeed(feed, channel, country, language),
  }),
);

export const deleteFeed = action('send', 'deleted a feed', z.tuple([code]), (feed) => done(removeFeed(feed)));
