import { hostname } from 'node:os';
import pino from 'pino';
import { InputError } from '../core/formats/inputError';
import { measureAll } from '../server/catalog/pictures';
import { pool } from '../server/db/connection';
import { beat, finishJob, leaseSeconds, postpone, type TakenJob, takeJob } from '../server/jobs/queue';
import { applyRun } from '../server/sources/applying';
import { type Beat, checkRun } from '../server/sources/checking';
import { bringInUnasked, enqueueDue, failFetch, fetchSource } from '../server/sources/fetching';
import { failRun } from '../server/sources/sources';
import { undoRun } from '../server/sources/undoing';
import { collectReport, FinalRefusal, failSubmission, sendSubmission } from '../server/submissions/delivery';

/** The job runner. Any number may run beside each other; each job has one at a time. */
const log = pino({ name: `worker ${hostname()}:${process.pid}`, level: process.env.LIVELY_LOG ?? 'warn' });
const idle = 250;
/** How often addresses that are due are looked for. */
const lookEvery = 5000;
let stopping = false;

interface Handler {
  /** @returns false where the handler itself put the job back */
  run(job: TakenJob): Promise<boolean>;
  giveUp(job: TakenJob, error: string): Promise<void>;
}

const running = (work: (id: number, beat: Beat) => Promise<void>): Handler => ({
  run: async (job) => {
    await work(job.payload.run ?? 0, (progress) => beat(job.id, progress));
    return true;
  },
  giveUp: (job, error) => failRun(job.payload.run ?? 0, error),
});

const handlers: Record<string, Handler> = {
  checkRun: running(async (id, tell) => {
    await checkRun(id, tell);
    await bringInUnasked(id);
  }),
  applyRun: running(applyRun),
  undoRun: running(undoRun),
  measurePictures: {
    run: async () => {
      await measureAll();
      return true;
    },
    giveUp: async (_job, error) => log.warn(error),
  },
  fetchSource: {
    run: async (job) => {
      await fetchSource(job.payload.source ?? 0);
      return true;
    },
    giveUp: (job, error) => failFetch(job.payload.source ?? 0, error),
  },
  sendSubmission: {
    run: async (job) => {
      await sendSubmission(job.payload.submission ?? 0);
      return true;
    },
    giveUp: (job, error) => failSubmission(job.payload.submission ?? 0, error),
  },
  collectReport: {
    run: (job) => collectReport(job.payload.submission ?? 0, job.id),
    giveUp: (job, error) => failSubmission(job.payload.submission ?? 0, error),
  },
};

async function work(job: TakenJob): Promise<void> {
  const handler = handlers[job.kind];
  const keepLease = setInterval(
    () => void beat(job.id).catch((error) => log.warn(error)),
    (leaseSeconds * 1000) / 4,
  );
  try {
    if (!handler) throw new FinalRefusal(`No worker knows how to do “${job.kind}”.`);
    if (await handler.run(job)) await finishJob(job.id);
  } catch (error) {
    const words = error instanceof Error ? error.message : String(error);
    log.warn({ job: job.id, kind: job.kind, attempt: job.attempts }, words);
    // Trying again helps against a silent channel, not against a file that cannot be read.
    const final = error instanceof InputError || error instanceof FinalRefusal;
    if (final) await finishJob(job.id);
    if (final || !(await postpone(job, words, Math.random))) await handler?.giveUp(job, words);
  } finally {
    clearInterval(keepLease);
  }
}

async function loop(): Promise<void> {
  let looked = 0;
  while (!stopping) {
    try {
      if (Date.now() - looked > lookEvery) {
        looked = Date.now();
        await enqueueDue(new Date());
      }
      const job = await takeJob();
      if (job) await work(job);
      else await new Promise((resolve) => setTimeout(resolve, idle));
    } catch (error) {
      log.error(error);
      await new Promise((resolve) => setTimeout(resolve, 1000));
    }
  }
  await pool.end();
}

const stop = () => {
  stopping = true;
};
process.on('SIGTERM', stop).on('SIGINT', stop);
// Without the process that started it a worker has no one to be stopped by.
process.on('disconnect', () => process.exit(0));
process.send?.('ready');
void loop().then(() => process.exit(0));
