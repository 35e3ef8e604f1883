import { AsyncLocalStorage } from 'node:async_hooks';
import { Agent, request } from 'node:http';
import { deserialize, serialize } from 'node:v8';
import { type ErrorCode, InputError } from '../../core/errors/inputError';
import { isInTransaction } from '../db/connection';
import { EvaluationFailed } from '../monitoring/failure';
import { md5 } from '../runtime/md5';
import { type MemoFigures, memoFigures } from '../runtime/memo';
import { settings } from '../runtime/settings';
import { progressHere, type WorkInProgress } from './progress';

/**
 * Questions over the whole catalog. A process that is told of evaluators holds no catalog: what is made with {@link procedure}
 * goes to one of them with its arguments and comes back with its answer. Where there is none (the terminal, tests, an
 * evaluator itself) the same function answers in place. Callers see no difference.
 */

type Procedure = (...given: never[]) => Promise<unknown>;

const shared = globalThis as typeof globalThis & {
  livelyQuestions?: Map<string, Procedure>;
  livelyEvaluator?: Agent;
};
shared.livelyQuestions ??= new Map();
const procedures = shared.livelyQuestions;

/** What is found once for each question, however many of its parts ask. */
const findings = new AsyncLocalStorage<Map<unknown, Map<string, unknown>>>();

/** What an evaluator says of itself. Programs ask for it again and again, so it tells of nobody who waits. */
export const ofItself: ReadonlyMap<string, () => unknown> = new Map<string, () => unknown>([
  ['alive', () => true],
  ['underWay', progressHere],
  ['memo', memoFigures],
]);

/** Answers a question in this process. @throws Error where there is none of that name */
export async function dispatch(name: string, given: readonly unknown[]): Promise<unknown> {
  const own = ofItself.get(name);
  if (own) return own();
  const question = procedures.get(name);
  if (!question) throw new Error(`There is no procedure “${name}”.`);
  return findings.run(new Map(), () => question(...(given as never[])));
}

/** Makes a function of one text that is answered once for each question. */
export function memoPerRequest<T>(find: (code: string) => T): (code: string) => T {
  return (code) => {
    const known = findings.getStore();
    if (!known) return find(code);
    const found = known.get(find) ?? new Map<string, unknown>();
    known.set(find, found);
    if (!found.has(code)) found.set(code, find(code));
    return found.get(code) as T;
  };
}

/** The evaluator does not answer, and was waited for. */
export class EvaluatorUnavailable extends Error {
  constructor(options?: ErrorOptions) {
    super(
      'The evaluator is restarting, so figures over all items are not available. What you saved is kept. Try again in a moment.',
      options,
    );
  }
}

/** What an evaluator says: an answer, or what went wrong, so that it can be thrown again as what it was. */
export type Reply =
  | { readonly ok: unknown }
  | { readonly input: { readonly code: ErrorCode; readonly facts: unknown } }
  | { readonly failed: string }
  | { readonly error: string };

export const packed = (value: unknown): Buffer => serialize(value);

/** How long a question waits for an evaluator that is away, and between two tries, in ms. */
const patience = 15_000;
const pause = 150;
/** What takes longer than this is not waited for, in ms; an evaluation that would is stopped before. */
const MAX_LENGTH = 180_000;

/** Codes of connections that never reached it: nothing was asked yet. */
const unreached = new Set(['ECONNREFUSED', 'ENOENT', 'EAGAIN']);

function post(evaluator: string, name: string, given: readonly unknown[]): Promise<Reply> {
  shared.livelyEvaluator ??= new Agent({ keepAlive: true, maxSockets: 64 });
  const body = serialize(given);
  return new Promise((resolve, reject) => {
    const asking = request(
      {
        socketPath: evaluator,
        agent: shared.livelyEvaluator,
        method: 'POST',
        path: `/${encodeURIComponent(name)}`,
        headers: { 'content-length': body.length },
      },
      (response) => {
        const pieces: Buffer[] = [];
        response.on('data', (piece: Buffer) => pieces.push(piece));
        response.on('error', reject);
        response.on('end', () => {
          if (!response.complete) reject(new Error('The answer ended early.'));
          else resolve(deserialize(Buffer.concat(pieces)) as Reply);
        });
      },
    );
    asking.on('error', reject);
    asking.setTimeout(MAX_LENGTH, () => asking.destroy(new Error('The evaluator does not answer.')));
    asking.end(body);
  });
}

/** Bad input as the evaluator told of it. */
const inputErrorOf = (code: ErrorCode, facts: unknown): InputError<ErrorCode> =>
  new (InputError as new (code: ErrorCode, facts: unknown) => InputError<ErrorCode>)(code, facts);

async function callEvaluator(evaluator: string, name: string, given: readonly unknown[]): Promise<unknown> {
  const until = Date.now() + patience;
  for (;;) {
    let reply: Reply;
    try {
      reply = await post(evaluator, name, given);
    } catch (error) {
      // A question changes nothing, so one that was cut off is asked again like one that never arrived.
      if (Date.now() > until) throw new EvaluatorUnavailable({ cause: error });
      const code = error instanceof Error && 'code' in error ? String(error.code) : '';
      await new Promise((resolve) => setTimeout(resolve, unreached.has(code) ? pause : pause / 3));
      continue;
    }
    if ('ok' in reply) return reply.ok;
    if ('input' in reply) throw inputErrorOf(reply.input.code, reply.input.facts);
    if ('failed' in reply) throw new EvaluationFailed(reply.failed);
    throw new Error(`The evaluator could not answer “${name}”: ${reply.error}`);
  }
}

/** What an evaluator says of itself; undefined where it does not answer now. */
const answerFrom = (evaluator: string, name: string): Promise<unknown> =>
  post(evaluator, name, []).then(
    (reply) => ('ok' in reply ? reply.ok : undefined),
    () => undefined,
  );

/** Whether every evaluator answers; true where this process needs none. */
export async function evaluatorAnswers(): Promise<boolean> {
  const late = new Promise<false>((resolve) => setTimeout(() => resolve(false), 2000).unref());
  const reported = Promise.all(settings.evaluators.map((evaluator) => answerFrom(evaluator, 'alive')));
  return Promise.race([reported.then((all) => all.every(Boolean)), late]);
}

/**
 * Which of so many evaluators is asked about something: of one feed always the same, which so keeps its evaluations for its pages.
 * @param of the feed, or another name
 */
export const placeOf = (of: string, count: number): number =>
  count < 2 ? 0 : Buffer.from(md5(of), 'hex').readUInt32LE() % count;

/**
 * Makes a question of a function over the catalog.
 * @param name by which the evaluator knows it
 * @param work answers it; takes and gives what the structured clone algorithm carries, and changes nothing. What it is about, mostly a
 *   feed, it takes first
 * @throws EvaluatorAway where none answers within a few seconds
 */
export function procedure<A extends unknown[], R>(
  name: string,
  work: (...given: A) => Promise<R>,
): (...given: A) => Promise<R> {
  procedures.set(name, work as unknown as Procedure);
  return async (...given) => {
    const { evaluators } = settings;
    const about = typeof given[0] === 'string' ? given[0] : name;
    const evaluator = evaluators[placeOf(about, evaluators.length)];
    if (evaluator === undefined) return work(...given);
    if (isInTransaction())
      throw new Error(`“${name}” is asked inside a transaction, which it would not see.`);
    return (await callEvaluator(evaluator, name, given)) as R;
  };
}

/** What is under way where the catalog is, for those who wait for what follows from it; an evaluator that is away says nothing. */
export async function workInProgress(): Promise<WorkInProgress[]> {
  const { evaluators } = settings;
  if (evaluators.length === 0) return progressHere();
  const reported = await Promise.all(evaluators.map((evaluator) => answerFrom(evaluator, 'underWay')));
  return reported.flatMap((one) => one ?? []) as WorkInProgress[];
}

/** What the memo of this process and of each evaluator did, for `/metrics`; an evaluator that is away says nothing. */
export async function memoOfProcesses(): Promise<{ process: string; figures: readonly MemoFigures[] }[]> {
  const others = await Promise.all(
    settings.evaluators.map(async (evaluator, at) => ({
      process: `evaluator ${at + 1}`,
      figures: ((await answerFrom(evaluator, 'memo')) ?? []) as MemoFigures[],
    })),
  );
  return [{ process: 'web', figures: memoFigures() }, ...others];
}
