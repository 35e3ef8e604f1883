import { InputError } from '../core/errors/inputError';
import { deleteOldRequests } from '../server/auth/requestOnce';
import { downloadDictionaries } from '../server/catalog/dictionaries';
import { compareSimilarItems, requestComparison } from '../server/catalog/hints';
import { closePools, db } from '../server/db/connection';
import { errorWords } from '../server/db/statement';
import { applyRun } from '../server/import/applying';
import { checkRun } from '../server/import/checking';
import { enqueueDue, failFetch, fetchSource, importUnattended } from '../server/import/fetching';
import { failRun } from '../server/import/runs';
import { undoRun } from '../server/import/undoing';
import { type JobKind, jobKinds, type Payload, type Queue, queues } from '../server/jobs/kinds';
import {
  clearOldJobs,
  dueQueue,
  finishJob,
  JobLost,
  leaseSeconds,
  postpone,
  renewLease,
  runAgain,
  type TakenJob,
  takeJob,
  type Work,
  workOn,
} from '../server/jobs/queue';
import { countOnNewDay, evaluateFeeds } from '../server/listings/refreshJob';
import { log, observe } from '../server/monitoring/monitoring';
import { notify } from '../server/notifications/notifications';
import { callHook } from '../server/notifications/webhooks';
import { measureAll } from '../server/pictures/duplicates';
import { listFeeds } from '../server/plans/drafts';
import { today } from '../server/runtime/calendarDay';
import { settings } from '../server/runtime/settings';
import { dropOld } from '../server/schedules/retention';
import { enqueueSchedules, requestQuickSend } from '../server/schedules/schedules';
import { requestVisits, visitShop } from '../server/shop/visits';
import { askChannel, requestLaterReports } from '../server/submissions/channelRecords';
import { abandonSearch, searchChannel } from '../server/submissions/channelSearch';
import { collectReport, FinalRefusal, failSubmission, sendSubmission } from '../server/submissions/delivery';
import { resumePlanning } from '../server/submissions/planning/writing';
import { sendQuick, sendScheduled } from '../server/submissions/scheduled';

/** The job runner. Any number may run beside each other; each has one job of a lane at a time. */
const POLL_MS = 50;
/** How often addresses that are due are looked for, and old jobs cleared, in ms. */
const STEADY_MS = 5000;
const CLEAR_MS = 3600_000;
/** How often channels are looked for that are due to be asked, in ms. */
const ASK_MS = 60_000;
let stopping = false;

interface Handler<K extends JobKind> {
  /** @returns in how many ms it is to run again, where it is not done yet */
  run(payload: Payload<K>, work: Work): Promise<number | undefined>;
  giveUp(payload: Payload<K>, error: string): Promise<void>;
}

const ofRun = (
  run: (id: number, work: Work) => Promise<void>,
): Handler<'checkRun'> & Handler<'applyRun'> & Handler<'undoRun'> => ({
  run: async ({ run: id }, work) => {
    await run(id, work);
    return undefined;
  },
  giveUp: ({ run: id }, error) => failRun(id, error),
});

const handlers: { readonly [K in JobKind]: Handler<K> } = {
  checkRun: ofRun(async (id, work) => {
    await checkRun(id, work);
    await importUnattended(id);
  }),
  applyRun: ofRun(applyRun),
  undoRun: ofRun(undoRun),
  measurePictures: {
    run: async () => {
      await measureAll();
      return undefined;
    },
    giveUp: async (_payload, error) => log.warn(error),
  },
  evaluateFeeds: {
    run: async (_payload, taken) => {
      await evaluateFeeds(taken);
      await requestQuickSend((await listFeeds()).map(({ code }) => code));
      return undefined;
    },
    giveUp: async (_payload, error) => log.warn(error),
  },
  fetchSource: {
    run: async ({ source }) => {
      await fetchSource(source);
      return undefined;
    },
    giveUp: ({ source }, error) => failFetch(source, error),
  },
  fetchWords: {
    run: async (_payload, { progress }) => {
      await downloadDictionaries(progress);
      return undefined;
    },
    giveUp: async (_payload, error) => log.warn(error),
  },
  sendScheduled: {
    run: async ({ feed }) => {
      await sendScheduled(feed);
      return undefined;
    },
    giveUp: ({ feed }, error) => db.transaction((tx) => notify(tx, 'notSent', feed, { words: error })),
  },
  sendQuick: {
    run: ({ feed }) => sendQuick(feed),
    giveUp: ({ feed }, error) => db.transaction((tx) => notify(tx, 'notSent', feed, { words: error })),
  },
  visitShop: {
    run: (_payload, work) => visitShop(work),
    giveUp: async (_payload, error) => log.warn(error),
  },
  searchChannel: {
    run: ({ feed }, work) => searchChannel(feed, work),
    giveUp: ({ feed }, error) => abandonSearch(feed, error),
  },
  askChannel: {
    run: async ({ feed }, work) => {
      await askChannel(feed, work);
      return undefined;
    },
    giveUp: async (_payload, error) => log.warn(error),
  },
  compareLikes: {
    run: async (_payload, work) => {
      await compareSimilarItems(work);
      return undefined;
    },
    giveUp: async (_payload, error) => log.warn(error),
  },
  callHook: {
    run: ({ delivery }) => callHook(delivery),
    giveUp: async (_payload, error) => log.warn(error),
  },
  sendSubmission: {
    run: ({ submission }, work) => sendSubmission(submission, work),
    giveUp: ({ submission }, error) => failSubmission(submission, error),
  },
  resumePlanning: {
    run: ({ submission }) => resumePlanning(submission),
    giveUp: async (_payload, error) => log.warn(error),
  },
  collectReport: {
    run: ({ submission }, work) => collectReport(submission, work),
    giveUp: ({ submission }, error) => failSubmission(submission, error),
  },
};

async function perform<K extends JobKind>(kind: K, taken: TakenJob & { exhausted: boolean }): Promise<void> {
  const handler: Handler<K> = handlers[kind];
  const payload = jobKinds[kind].payload.parse(taken.payload) as Payload<K>;
  if (taken.exhausted) {
    const words = `The job ended its worker ${jobKinds[kind].attempts} times, to ${jobKinds[kind].words}.`;
    await handler.giveUp(payload, words);
    return finishJob(taken, 'failed', words);
  }
  try {
    const after = await handler.run(payload, workOn(taken));
    if (typeof after === 'number') await runAgain(taken, after);
    else await finishJob(taken);
  } catch (error) {
    const words = errorWords(error);
    log.warn({ err: error, job: taken.id, kind, attempt: taken.attempts }, words);
    if (error instanceof JobLost) {
      if (error.why === 'lease') return;
      await handler.giveUp(payload, 'Stopped.');
      return finishJob(taken, 'stopped');
    }
    // Trying again helps against a silent channel, not against a file that cannot be read.
    const final = error instanceof InputError || error instanceof FinalRefusal;
    if (final) {
      await handler.giveUp(payload, words);
      await finishJob(taken, 'failed', words);
    } else if (!(await postpone(taken, words, Math.random))) await handler.giveUp(payload, words);
  }
}

async function work(taken: TakenJob & { exhausted: boolean }): Promise<void> {
  const keepLease = setInterval(
    () => void renewLease(taken).catch((error) => log.warn(error)),
    (leaseSeconds * 1000) / 4,
  );
  try {
    await observe(jobKinds[taken.kind].words, { job: taken.id, kind: taken.kind }, () =>
      perform(taken.kind, taken),
    );
  } finally {
    clearInterval(keepLease);
  }
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Lanes that wait for work, each with what tells it that there is some. */
const waiting = new Map<Queue, () => void>();

async function runQueue(lane: Queue): Promise<void> {
  while (!stopping)
    try {
      const taken = await takeJob(lane);
      if (taken) await work(taken);
      else if (!stopping) await new Promise<void>((resolve) => waiting.set(lane, resolve));
    } catch (error) {
      log.error(error);
      await pause(1000);
    }
}

/** Looks for due work in place of all lanes that wait: one question to the database, not one a lane. */
async function poll(): Promise<void> {
  while (!stopping) {
    try {
      const lane = waiting.size > 0 ? await dueQueue([...waiting.keys()]) : undefined;
      if (lane) {
        waiting.get(lane)?.();
        waiting.delete(lane);
      }
    } catch (error) {
      log.error(error);
      await pause(1000);
    }
    await pause(POLL_MS);
  }
  for (const go of waiting.values()) go();
}

/** Looks now and then for what is due. */
async function look(): Promise<void> {
  let cleared = 0;
  let askedAt = 0;
  let countedOn: string | undefined;
  while (!stopping) {
    try {
      await enqueueDue(new Date());
      await enqueueSchedules(new Date());
      // Whoever was due has read the workspace, and with it the zone of its days.
      countedOn = countedOn === undefined ? today() : await countOnNewDay(countedOn);
      await requestVisits();
      await requestComparison();
      if (Date.now() - askedAt > ASK_MS / settings.haste) {
        askedAt = Date.now();
        await requestLaterReports(new Date());
      }
      if (Date.now() - cleared > CLEAR_MS) {
        cleared = Date.now();
        await clearOldJobs();
        await dropOld(new Date());
        await deleteOldRequests(new Date());
      }
    } catch (error) {
      log.error(error);
    }
    for (let waited = 0; waited < STEADY_MS && !stopping; waited += 250) await pause(250);
  }
}

const stop = () => {
  stopping = true;
};
process.on('SIGTERM', stop).on('SIGINT', stop);
// Without the process that started it a worker has no one to be stopped by.
process.on('disconnect', () => process.exit(0));
process.send?.('ready');
void Promise.all([...queues.map(runQueue), poll(), look()])
  .then(closePools)
  .then(() => process.exit(0));
