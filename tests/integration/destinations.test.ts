import { desc, eq } from 'drizzle-orm';
import { scheduleSchema } from '@/core/schedule/schedule';
import { db } from '@/server/db/connection';
import { activity, destination, feedSchedule } from '@/server/db/schema';
import { editDraft } from '@/server/plans/drafts';
import { createFeed } from '@/server/plans/feeds';
import { editSchedule, scheduleView } from '@/server/schedules/schedules';
import { destinationView, editDestination } from '@/server/transports/destinations';
import { plansOf } from '../support/feeds';
import { closeDatabase, freshDemo } from '../support/stack';

/** Where a feed goes, when, and that one press counts once. */
beforeEach(async () => {
  await freshDemo();
});
afterAll(closeDatabase);

const feed = 'lanternry-de';
const head = { code: feed, channel: 'lanternry' };
const lastWords = async () => {
  const [row] = await db.select().from(activity).orderBy(desc(activity.id)).limit(1);
  return row?.what ?? '';
};

test('another host drops the credential; the log names both addresses and never the credential', async () => {
  let { revision } = await destinationView(head);
  const edit = async (given: Parameters<typeof editDestination>[2]) => {
    revision = await editDestination(feed, revision, given);
  };
  await edit({ set: 'address', address: 'https://11.0.0.1/feeds' });
  await edit({ set: 'credential', credential: 'open-sesame' });
  expect(await lastWords()).toBe('changed the destination: credential set');
  await edit({ set: 'address', address: 'https://11.0.0.1/other/path' });
  expect((await destinationView(head)).hasCredential).toBe(true);
  await edit({ set: 'address', address: 'https://11.0.0.2/feeds' });
  expect((await destinationView(head)).hasCredential).toBe(false);
  expect(await lastWords()).toMatch(
    /from https:\/\/11\.0\.0\.1\/other\/path to https:\/\/11\.0\.0\.2\/feeds; the credential was removed/,
  );
  await edit({ set: 'testAddress', address: 'https://11.0.0.3/' });
  await edit({ set: 'testCredential', credential: 'open-sesame' });
  await edit({ set: 'testAddress', address: '' });
  expect((await destinationView(head)).hasTestCredential).toBe(false);
  const log = await db.select().from(activity);
  expect(JSON.stringify(log)).not.toContain('open-sesame');
});

test('reading makes nothing', async () => {
  await db.delete(destination).where(eq(destination.feed, feed));
  await db.delete(feedSchedule).where(eq(feedSchedule.feed, feed));
  await destinationView(head);
  await scheduleView(head);
  expect(await db.select().from(destination).where(eq(destination.feed, feed))).toEqual([]);
  expect(await db.select().from(feedSchedule).where(eq(feedSchedule.feed, feed))).toEqual([]);
  const code = await createFeed('lanternry', 'GB', 'en');
  const [made] = await db.select().from(destination).where(eq(destination.feed, code));
  expect(made?.token).toMatch(/^[0-9a-f]{48}$/);
});

test('hours to avoid need both ends, and a time outside', async () => {
  const { revision } = await scheduleView(head);
  const save = (schedule: object) =>
    editSchedule(feed, revision, {
      set: 'schedule',
      schedule: scheduleSchema.parse({ every: 'day', ...schedule }),
    });
  await expect(save({ busyFrom: '08:00' })).rejects.toThrow('both ends');
  await expect(save({ busyTo: '08:00' })).rejects.toThrow('both ends');
  await expect(save({ at: '23:30', busyFrom: '22:00', busyTo: '06:00' })).rejects.toThrow(
    '23:30 is in the quiet hours',
  );
  expect((await scheduleView(head)).schedule).toBeUndefined();
  expect(await save({ at: '07:00', busyFrom: '22:00', busyTo: '06:00' })).toBe(revision + 1);
});

test('an edit that arrives twice, because its answer was lost, is made once and is no conflict', async () => {
  const { revision } = await plansOf(feed);
  const request = '1b4e28ba-2fa1-41d2-883f-0016d3cca427';
  const edit = { edit: 'untranslated', to: 'nothing' } as const;
  expect(await editDraft(feed, revision, edit, request)).toMatchObject({ ok: true, revision: revision + 1 });
  expect(await editDraft(feed, revision, edit, request)).toMatchObject({ ok: true, revision: revision + 1 });
  expect((await plansOf(feed)).revision).toBe(revision + 1);
  expect(await editDraft(feed, revision, edit)).toMatchObject({ ok: false, reason: 'conflict' });
});
