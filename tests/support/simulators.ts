import { type ChildProcess, spawn } from 'node:child_process';
import { createServer, type Server } from 'node:http';
import { Readable } from 'node:stream';

/** The simulator channels as the start command runs them, started again where they end; and an address at which they fetch. */
export interface Channels {
  /** What they keep, by the channel's code. */
  state(): Promise<Record<string, ChannelState>>;
  /** Makes the next thing that comes to a channel fail in this way. */
  fault(service: string, fault: string): Promise<void>;
  /** Lets a channel no longer refuse for a reason. */
  giveUp(service: string, code: string): Promise<void>;
  /** Lets those that fetch do it again now. */
  lookAgain(): Promise<void>;
  /** Forgets everything. */
  forget(): Promise<void>;
  stop(): Promise<void>;
}

export interface ChannelState {
  readonly listings: Record<string, { number: string; row: Record<string, string[]> }>;
  readonly drafts: Record<string, object>;
  readonly arrivals: number[];
  readonly tooFast: number;
  readonly doubles: number;
  readonly merchant: Record<string, string>;
  /** What it took in, with its answers in its own shape. */
  readonly taken: Record<string, { answers: unknown[] }>;
}

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/**
 * @param folder where they keep what they hold
 * @param seconds how long they work on a file @param minute how long a minute of their rules lasts, in s
 */
export async function startChannels(folder: string, seconds = 0.05, minute = 1): Promise<Channels> {
  const { settings } = await import('@/server/runtime/settings');
  const { answerFetch } = await import('@/server/transports/publicationFile');
  settings.haste = 60 / minute;
  let child: ChildProcess | undefined;
  let wanted = true;
  const begin = () =>
    new Promise<void>((resolve) => {
      const one = spawn(process.execPath, ['dist/simulators.js'], {
        env: {
          ...process.env,
          LIVELY_SIMULATOR_SECONDS: String(seconds),
          LIVELY_MINUTE: String(minute),
          LIVELY_SIMULATORS_FOLDER: folder,
        },
        stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      });
      child = one;
      one.once('message', () => resolve());
      one.once('exit', () => {
        if (wanted && child === one) void begin().then(resolve);
      });
    });
  await begin();
  // Where they fetch feeds: the application's own answer, without its pages.
  const server: Server = createServer((request, response) => {
    const [, , , feed = '', token = ''] = (request.url ?? '').split('/');
    const headers = new Headers(
      Object.entries(request.headers).flatMap(([name, value]) =>
        typeof value === 'string' ? [[name, value] as [string, string]] : [],
      ),
    );
    answerFetch(feed, token, new Request(`http://here${request.url}`, { headers }))
      .then((answer) => {
        response.writeHead(answer.status, Object.fromEntries(answer.headers));
        if (answer.body) Readable.fromWeb(answer.body as never).pipe(response);
        else response.end();
      })
      // A channel that looks again by itself may come while the database is made anew.
      .catch(() => response.writeHead(503).end());
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  settings.address = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  const ask = async (path: string, init?: RequestInit): Promise<Response> => {
    for (let tried = 0; ; tried++)
      try {
        return await fetch(`${settings.simulators}${path}`, init);
      } catch (error) {
        if (tried > 100) throw error;
        await wait(50);
      }
  };
  return {
    state: async () => (await ask('/state')).json() as Promise<Record<string, ChannelState>>,
    fault: async (service, fault) => {
      const answer = await ask('/faults', {
        method: 'POST',
        body: new URLSearchParams({ service, fault }),
        redirect: 'manual',
      });
      if (answer.status !== 303) throw new Error(await answer.text());
    },
    giveUp: async (service, code) => {
      await ask('/givenUp', { method: 'POST', body: new URLSearchParams({ service, code }) });
    },
    lookAgain: async () => {
      await ask('/look', { method: 'POST' });
    },
    forget: async () => {
      await ask('/forget', { method: 'POST' });
    },
    stop: async () => {
      wanted = false;
      child?.kill('SIGTERM');
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}

/** Does what the worker would, until a submission has its answer or wants a person. */
export async function untilAnswered(id: number): Promise<void> {
  const { sendSubmission, collectReport } = await import('@/server/submissions/delivery');
  const { findSubmission } = await import('@/server/submissions/submissions');
  for (let rounds = 0; rounds < 2000; rounds++) {
    const found = await findSubmission(id);
    if (found?.state === 'queued' || found?.state === 'sending') {
      const after = await sendSubmission(id);
      if (after !== undefined) await wait(Math.min(after, 2000));
    } else if (found?.state === 'waiting') {
      const after = await collectReport(id);
      if (after !== undefined) await wait(Math.min(after, 400));
      else if ((await findSubmission(id))?.state === 'waiting') return;
    } else return;
  }
  throw new Error(`Submission ${id} comes to no end.`);
}
