import { z } from 'zod';

const run = z.strictObject({ run: z.number().int().positive() });
const source = z.strictObject({ source: z.number().int().positive() });
const feed = z.strictObject({ feed: z.string().min(1) });
const submission = z.strictObject({ submission: z.number().int().positive() });

/**
 * Every kind of background work: what it is told, how often it is tried (a worker that dies under it counts as a try),
 * the lane it runs in, and what it is called. Jobs of one lane wait for each other, so that what waits for somebody else's
 * server never holds up the rest. The worker holds a handler for each; one that is missing does not compile.
 */
export const jobKinds = {
  checkRun: { payload: run, attempts: 24, lane: 'work', words: 'check a file' },
  applyRun: { payload: run, attempts: 24, lane: 'work', words: 'import items' },
  undoRun: { payload: run, attempts: 24, lane: 'work', words: 'undo an import run' },
  measurePictures: { payload: z.strictObject({}), attempts: 3, lane: 'pictures', words: 'measure pictures' },
  evaluateFeeds: { payload: z.strictObject({}), attempts: 24, lane: 'listings', words: 'count listings' },
  fetchSource: { payload: source, attempts: 5, lane: 'fetch', words: 'fetch a source' },
  fetchWords: { payload: z.strictObject({}), attempts: 3, lane: 'fetch', words: 'fetch dictionaries' },
  sendSubmission: { payload: submission, attempts: 8, lane: 'channels', words: 'send listings' },
  resumePlanning: {
    payload: submission,
    attempts: 8,
    lane: 'channels',
    words: 'resume preparing a submission',
  },
  sendScheduled: { payload: feed, attempts: 8, lane: 'hours', words: 'send a feed on schedule' },
  sendQuick: { payload: feed, attempts: 8, lane: 'hours', words: 'send prices and stock' },
  callHook: {
    payload: z.strictObject({ delivery: z.number().int().positive() }),
    attempts: 24,
    lane: 'hooks',
    words: 'tell an address',
  },
  visitShop: { payload: z.strictObject({}), attempts: 24, lane: 'looking', words: 'visit the shop’s pages' },
  searchChannel: { payload: feed, attempts: 24, lane: 'looking', words: 'compare a channel’s list' },
  askChannel: { payload: feed, attempts: 5, lane: 'looking', words: 'search a channel for entries' },
  compareLikes: {
    payload: z.strictObject({}),
    attempts: 8,
    lane: 'looking',
    words: 'compare items with similar ones',
  },
  collectReport: { payload: submission, attempts: 8, lane: 'channels', words: 'collect a report' },
} as const;

export type JobKind = keyof typeof jobKinds;
export type Payload<K extends JobKind> = z.infer<(typeof jobKinds)[K]['payload']>;
export type Queue = (typeof jobKinds)[JobKind]['lane'];

/** The lanes of a worker, one loop each. */
export const queues = [
  'work',
  'listings',
  'fetch',
  'channels',
  'hours',
  'hooks',
  'looking',
  // Thousands of them take hours, for which no file should have to wait.
  'pictures',
] as const satisfies readonly Queue[];

export const isJobKind = (kind: string): kind is JobKind => Object.hasOwn(jobKinds, kind);

export const kindsIn = (lane: Queue): JobKind[] =>
  (Object.keys(jobKinds) as JobKind[]).filter((kind) => jobKinds[kind].lane === lane);
