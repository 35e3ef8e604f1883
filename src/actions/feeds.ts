'use server';
import { z } from 'zod';
import { InputError } from '@/core/errors/inputError';
import { planEditSchema } from '@/core/listing/edit';
import { discardDraft, editDraft, publishDraft, restoreVersion, undoDraft } from '@/server/feeds/drafts';
import { createFeed, duplicateFeed, previewDuplicate } from '@/server/feeds/feeds';
import { pinItem, pinTellingItems } from '@/server/feeds/samples';
import { saveWords } from '@/server/feeds/valuesStage';
import { type FeedWork, loadFeed } from '@/server/feeds/work';
import { action, done } from './action';
import { code, revision } from './inputs';

async function feedAt(feed: string): Promise<FeedWork> {
  const work = await loadFeed(feed);
  if (!work) throw new InputError('noFeed');
  return work;
}

export const saveEdit = action(
  'change',
  'changed a draft',
  z.tuple([code, revision, planEditSchema]),
  (feed, at, edit) => editDraft(feed, at, edit),
);

export const saveWordsOf = action(
  'change',
  'changed a value table',
  z.tuple([code, revision, code, z.record(z.string().max(1000), z.string().max(1000)), z.boolean()]),
  async (feed, at, field, words, share) => saveWords(await feedAt(feed), at, field, words, share),
);

export const undoEdit = action('change', 'took an edit back', z.tuple([code, revision]), (feed, at) =>
  undoDraft(feed, at),
);

export const publish = action('change', 'published a draft', z.tuple([code, revision]), async (feed, at) => {
  const work = await feedAt(feed);
  return publishDraft(feed, at, `${work.changes} changes, ${work.impact.changed} listings`);
});

export const discard = action('change', 'discarded a draft', z.tuple([code, revision]), (feed, at) =>
  discardDraft(feed, at),
);

export const restore = action(
  'change',
  'brought a version back',
  z.tuple([code, z.number().int(), revision]),
  (feed, version, at) => restoreVersion(feed, version, at),
);

export const pin = action('change', 'pinned an item', z.tuple([code, z.boolean()]), (sku, on) =>
  done(pinItem(sku, on)),
);

export const pinTelling = action('change', 'pinned telling items', z.tuple([code]), async (feed) =>
  done(pinTellingItems(await feedAt(feed))),
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
export const lookAtCopy = action(
  'look',
  'looked at a copy',
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
