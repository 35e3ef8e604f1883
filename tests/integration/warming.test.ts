import { eq } from 'drizzle-orm';
import { db } from '@/server/db/connection';
import { draftStep } from '@/server/db/schema';
import '@/server/pages/procedures';
import { loadFeedContext } from '@/server/evaluation/feedContext';
import { prewarmPages } from '@/server/pages/prewarm';
import { editDraft, feedPlans, publishDraft } from '@/server/plans/drafts';
import { createFeed } from '@/server/plans/feeds';
import { settings } from '@/server/runtime/settings';
import { closeDatabase, freshDemo } from '../support/stack';

/** What an evaluator makes ready after its start is what pages are made of afterwards. */
const codes: string[] = ['lanternry-de'];
beforeAll(async () => {
  await freshDemo();
  for (const channel of ['orrin-bazaar', 'tessel-boards']) codes.push(await createFeed(channel, 'DE', 'de'));
});
afterAll(closeDatabase);

const edit = async (code: string) =>
  editDraft(code, (await feedPlans(code))?.revision ?? 0, { edit: 'met', what: `${Date.now()}`, on: true });
/** The number of the evaluation that a page of a feed is made of, a later one higher. */
const madeOf = async (code: string) => (await loadFeedContext(code))?.draft.made ?? 0;

test('the feed that was worked on last is made ready first, and each page waits until nobody is answered', async () => {
  const [demo = '', published = '', edited = ''] = codes;
  await edit(published);
  await publishDraft(published, (await feedPlans(published))?.revision ?? 0, 'a trial');
  expect(await db.select().from(draftStep).where(eq(draftStep.feed, published))).toEqual([]);
  await edit(edited);
  await edit(demo);
  await edit(edited);
  let pages = 0;
  let open: (() => void) | undefined;
  const closed = new Promise<void>((resolve) => {
    open = resolve;
  });
  const warming = prewarmPages(() => (++pages === 1 ? closed : Promise.resolve()));
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(pages).toBe(1);
  open?.();
  await warming;
  expect(pages).toBe(18);
  const made = [];
  for (const code of [edited, demo, published]) made.push(await madeOf(code));
  expect(made[0]).toBeGreaterThan(0);
  expect(made).toEqual([...made].sort((a, b) => a - b));
  // All of it was there: nothing was evaluated for those who asked now.
  await edit(demo);
  expect(await madeOf(demo)).toBe((made[2] ?? 0) + 1);
});

test('where no room is left for more, no further feed is made ready', async () => {
  const here = settings as { evaluationBytes: number };
  const before = here.evaluationBytes;
  here.evaluationBytes = 1;
  let pages = 0;
  try {
    await prewarmPages(async () => {
      pages++;
    });
  } finally {
    here.evaluationBytes = before;
  }
  expect(pages).toBe(6);
});
