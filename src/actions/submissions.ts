'use server';
import { z } from 'zod';
import { limitNames } from '@/core/ledger/review';
import { scheduleSchema } from '@/core/schedule/schedule';
import { editSchedule } from '@/server/schedules/schedules';
import { askChannelNow, takeListOver } from '@/server/submissions/channelRecords';
import { stopSubmission } from '@/server/submissions/delivery';
import { answersFromFile, answersOfAll } from '@/server/submissions/manual';
import { restoreEarlier } from '@/server/submissions/planning/restoring';
import {
  dropSubmission,
  pauseSubmission,
  releaseSubmission,
  resumeSubmission,
  sendFeed,
  sendHeldListings,
} from '@/server/submissions/submissions';
import { editDestination } from '@/server/transports/destinations';
import { action, done } from './action';
import { code, id, longText, revision } from './inputs';

export const send = action(
  'send',
  'sent listings',
  z.tuple([
    code,
    z.union([
      z.enum(['due', 'everything', 'asDrafts', 'drafts']),
      z.strictObject({ only: z.array(code).min(1).max(1000) }),
    ]),
  ]),
  (feed, what) => sendFeed(feed, what),
);

export const release = action(
  'send',
  'released a submission',
  z.tuple([id, z.string().trim().min(1).max(300)]),
  (submission, words) => done(releaseSubmission(submission, words)),
);

export const sendHeld = action(
  'send',
  'sent listings held for review',
  z.tuple([code, z.string().trim().min(1).max(300)]),
  (feed, words) => sendHeldListings(feed, words),
);

const one = z.tuple([id]);
export const drop = action('send', 'discarded a submission', one, (submission) =>
  done(dropSubmission(submission)),
);
export const pause = action('send', 'paused a submission', one, (submission) =>
  done(pauseSubmission(submission)),
);
export const resume = action('send', 'resumed a submission', one, (submission) =>
  done(resumeSubmission(submission)),
);
export const stop = action('send', 'stopped a submission', one, (submission) =>
  done(stopSubmission(submission)),
);

const limit = z.enum(limitNames);
export const changeDestination = action(
  'send',
  'changed the destination of a feed',
  z.tuple([
    code,
    revision,
    z.discriminatedUnion('set', [
      z.strictObject({ set: z.enum(['address', 'testAddress']), address: z.string().trim().max(700) }),
      z.strictObject({
        set: z.enum(['credential', 'testCredential']),
        credential: z.string().trim().max(500),
      }),
      z.strictObject({ set: z.literal('testing'), on: z.boolean() }),
      z.strictObject({ set: z.literal('ofBlocked'), ofBlocked: z.enum(['leave', 'withdraw']) }),
      z.strictObject({ set: z.literal('limit'), limit, value: z.number().min(0).max(100_000) }),
      z.strictObject({ set: z.literal('hold'), hold: z.enum(['listings', 'all']) }),
      z.strictObject({ set: z.literal('token') }),
    ]),
  ]),
  async (feed, at, edit) => ({ ok: true as const, revision: await editDestination(feed, at, edit) }),
);

export const goBack = action(
  'send',
  'restored a channel',
  z.tuple([code, id, z.string().trim().min(1).max(300)]),
  (feed, submission, words) => restoreEarlier(feed, submission, words),
);

export const changeSchedule = action(
  'send',
  'changed the schedule of a feed',
  z.tuple([
    code,
    revision,
    z.discriminatedUnion('set', [
      z.strictObject({ set: z.literal('schedule'), schedule: scheduleSchema.nullable() }),
      z.strictObject({ set: z.literal('paused'), on: z.boolean() }),
      z.strictObject({ set: z.literal('quick'), on: z.boolean() }),
    ]),
  ]),
  async (feed, at, edit) => ({ ok: true as const, revision: await editSchedule(feed, at, edit) }),
);

/** The channel's answer to a file that was uploaded by hand: the same for all that have none, or as a file says it. */
export const answerAll = action(
  'send',
  'entered results by hand',
  z.tuple([id, z.enum(['accepted', 'refused'])]),
  async (submission, result) => ({ ok: true as const, rest: await answersOfAll(submission, result) }),
);
export const answerWithFile = action(
  'send',
  'imported a result file',
  z.tuple([id, longText]),
  async (submission, file) => ({ ok: true as const, ...(await answersFromFile(submission, file)) }),
);

export const askChannelAgain = action('send', 'requested a channel’s list', z.tuple([code]), (feed) =>
  done(askChannelNow(feed)),
);
export const takeChannelList = action('send', 'accepted a channel’s list', z.tuple([code]), (feed) =>
  done(takeListOver(feed)),
);
