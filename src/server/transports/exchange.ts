import { text } from 'node:stream/consumers';
import { reportSchema } from '../../core/channels/delivery';
import type { Sheet } from '../../core/channels/sheet';
import { InputError } from '../../core/errors/inputError';
import { at, readReport } from '../../core/ledger/report';
import { formats } from '../../files/formats';
import { type FetchLimits, fetchOutside, retryAfter } from '../net/fetching';
import { openStored } from '../storage/files';
import type { Destination, OutBatch, ReportAnswer, SendAnswer } from './transport';

/** How long a channel may take for one exchange that sends little, its last byte included, in s. */
const usualSeconds = 20;
/** No line is slower than this, in bytes a second. */
const slowest = 256 * 1024;

/** How long a channel may take for one exchange, its last byte included, in s. @param bytes that are sent */
export const exchangeSeconds = (bytes = 0): number => usualSeconds + Math.ceil(bytes / slowest);
const MAX_ANSWER = 64 * 1024 * 1024;
/** Of what a channel says, in a message. */
const MAX_WORDS = 300;

interface Ask {
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE';
  readonly body?: FetchLimits['body'];
  readonly headers?: Readonly<Record<string, string>>;
}

type Exchanged =
  | {
      readonly said: 'ok';
      readonly status: number;
      readonly body: unknown;
      readonly wait: number | undefined;
    }
  | Exclude<SendAnswer, { handed: 'taken' }>
  | { readonly said: 'gone'; readonly words: string };

/** A path of the sheet at a destination, with what stands for the market, a receipt and a listing. */
export const addressAt = (
  to: Destination,
  path: string,
  { number = '', key = '' }: { number?: string; key?: string } = {},
): string =>
  to.address +
  path
    .replaceAll('{country}', encodeURIComponent(to.country))
    .replaceAll('{number}', encodeURIComponent(number))
    .replaceAll('{key}', encodeURIComponent(key));

/** One question to a channel, and what kind of answer came. */
async function exchange(address: string, to: Destination, ask: Ask): Promise<Exchanged> {
  let begun = false;
  try {
    const answer = await fetchOutside(address, {
      seconds: exchangeSeconds(ask.body ? ('read' in ask.body ? ask.body.bytes : ask.body.length) : 0),
      bytes: MAX_ANSWER,
      redirects: 0,
      method: ask.method,
      ...(ask.body ? { body: ask.body } : {}),
      headers: { ...ask.headers, ...(to.credential ? { authorization: `Bearer ${to.credential}` } : {}) },
    });
    begun = true;
    const text = (await answer.bytes()).toString('utf8');
    const requested = answer.header('retry-after');
    const wait = requested === undefined ? undefined : retryAfter(requested);
    const words = `The channel answered ${answer.status}${text === '' ? '' : `: ${wordsIn(text)}`}`.slice(
      0,
      MAX_WORDS,
    );
    if (answer.ok) {
      try {
        return { said: 'ok', status: answer.status, body: text === '' ? null : JSON.parse(text), wait };
      } catch {
        // It said yes in a language nobody reads.
        return { handed: 'unknown', words: 'The channel’s answer is not JSON.' };
      }
    }
    if (answer.status === 404 || answer.status === 410) return { said: 'gone', words };
    if (answer.status === 401 || (answer.status === 403 && wait === undefined))
      return { handed: 'credentials', words };
    if (answer.status === 408 || answer.status === 429 || answer.status >= 500 || wait !== undefined)
      return { handed: 'later', wait, words };
    return { handed: 'refused', words };
  } catch (error) {
    // It was sent and may have been taken: only the answer is more than is read.
    if (error instanceof InputError && error.code === 'answerTooLarge' && begun)
      return { handed: 'unknown', words: error.message };
    if (error instanceof InputError && error.code !== 'tooSlow')
      return { handed: 'refused', words: error.message };
    const words = error instanceof Error ? error.message : String(error);
    // Nothing listens there, so nothing arrived.
    return /ECONNREFUSED|ENOTFOUND|EHOSTUNREACH/.test(words) && !begun
      ? { handed: 'later', wait: undefined, words: 'The channel cannot be reached.' }
      : {
          handed: 'unknown',
          words: `The connection broke before the answer: ${words}`.slice(0, MAX_WORDS),
        };
  }
}

/** The words in an answer: of an object its error or message, else the text. */
function wordsIn(text: string): string {
  try {
    const body = JSON.parse(text);
    const stated = body?.error ?? body?.message;
    if (typeof stated === 'string') return stated;
  } catch {
    // No JSON: the text itself.
  }
  return text
    .replace(/<[^>]*>/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
}

/** A kept file as it is read: it is opened when the first of it is wanted, and closed when no more is. */
async function* piecesOf(hash: string): AsyncGenerator<Uint8Array> {
  yield* openStored(hash);
}

const shapeOf = (sheet: Sheet) => sheet.delivery.report ?? reportSchema.parse({});

/** What stands in the answer to something that was sent: a receipt, and the report where the channel answers at once. */
function takenOf(body: unknown, sheet: Sheet): SendAnswer {
  const shape = shapeOf(sheet);
  const receipt = at(body, shape.number);
  const named = typeof receipt === 'string' || typeof receipt === 'number' ? String(receipt) : undefined;
  try {
    if (shape.path === undefined)
      return { handed: 'taken', receipt: named, report: readReport(body, shape, sheet.answers) };
  } catch (error) {
    return { handed: 'unknown', words: error instanceof Error ? error.message : String(error) };
  }
  // Some answer at once where they can, and are asked for the rest.
  const report = Array.isArray(at(body, shape.entries)) ? readReport(body, shape, sheet.answers) : undefined;
  return named === undefined
    ? { handed: 'unknown', words: `The channel’s receipt has no ID at “${shape.number}”.` }
    : { handed: 'taken', receipt: named, report };
}

const handedOf = (exchanged: Exchanged, sheet: Sheet): SendAnswer => {
  if ('handed' in exchanged) return exchanged;
  return exchanged.said === 'gone'
    ? { handed: 'refused', words: exchanged.words }
    : takenOf(exchanged.body, sheet);
};

/** Posts a batch's file to the path of the sheet. */
export async function post(batch: OutBatch, sheet: Sheet, to: Destination): Promise<SendAnswer> {
  const { format, quick, drafts } = sheet.delivery;
  const path = batch.draft && drafts ? drafts.path : batch.quick && quick ? quick.path : sheet.delivery.path;
  const named = sheet.delivery.method === 'put' ? `${path}/${batch.key}.${formats[format].ending}` : path;
  const address = addressAt(to, named.includes('{country}') ? named : `${named}?country={country}`);
  return handedOf(
    await exchange(address, to, {
      method: sheet.delivery.method === 'put' ? 'PUT' : 'POST',
      body: { read: piecesOf(batch.file), bytes: batch.bytes },
      headers: {
        'content-type': formats[format].mediaType,
        'idempotency-key': batch.key,
        'x-listings': String(batch.count),
      },
    }),
    sheet,
  );
}

/** Posts something small, such as an address to fetch from. */
export async function tell(address: string, body: object, key: string, sheet: Sheet, to: Destination) {
  return handedOf(
    await exchange(address, to, {
      method: 'POST',
      body: Buffer.from(JSON.stringify(body)),
      headers: { 'content-type': 'application/json', 'idempotency-key': key },
    }),
    sheet,
  );
}

/** Takes one listing back by a call. One that is not there any more counts as taken back. */
export async function takeBack(batch: OutBatch, sheet: Sheet, to: Destination): Promise<SendAnswer> {
  const key = await text(openStored(batch.file));
  const path = sheet.delivery.path.split('?')[0];
  const done = await exchange(addressAt(to, `${path}/{key}?country={country}`, { key }), to, {
    method: 'DELETE',
    headers: { 'idempotency-key': batch.key },
  });
  if ('handed' in done) return done;
  const answer = { key, result: 'accepted' as const, problems: [], number: undefined };
  return { handed: 'taken', receipt: undefined, report: { ready: true, answers: [answer], unread: 0 } };
}

/** Asks a channel for what it has, at a path of the sheet. */
export async function searchFor(
  path: string,
  given: { readonly number?: string; readonly key?: string },
  to: Destination,
): Promise<
  | { readonly found: unknown }
  | {
      readonly failed: 'later' | 'credentials' | 'refused';
      readonly wait?: number | undefined;
      readonly words: string;
    }
> {
  const answer = await exchange(addressAt(to, path, given), to, { method: 'GET' });
  if ('handed' in answer)
    return answer.handed === 'credentials'
      ? { failed: 'credentials', words: answer.words }
      : answer.handed === 'refused'
        ? { failed: 'refused', words: answer.words }
        : { failed: 'later', wait: answer.handed === 'later' ? answer.wait : undefined, words: answer.words };
  // It has nothing of the kind.
  if (answer.said === 'gone') return { found: undefined };
  return { found: answer.body };
}

/** Asks what came of something, at the path of the sheet. */
export async function askFor(receipt: string, sheet: Sheet, to: Destination): Promise<ReportAnswer> {
  const shape = shapeOf(sheet);
  if (shape.path === undefined) return { asked: 'gone', words: 'The channel has no address for requests.' };
  const answer = await exchange(addressAt(to, shape.path, { number: receipt }), to, { method: 'GET' });
  if ('handed' in answer)
    return answer.handed === 'credentials'
      ? { asked: 'credentials', words: answer.words }
      : { asked: 'later', wait: answer.handed === 'later' ? answer.wait : undefined, words: answer.words };
  if (answer.said === 'gone') return { asked: 'gone', words: answer.words };
  if (answer.status === 202) return { asked: 'report', report: { ready: false }, wait: answer.wait };
  try {
    return { asked: 'report', report: readReport(answer.body, shape, sheet.answers), wait: answer.wait };
  } catch (error) {
    return {
      asked: 'later',
      wait: undefined,
      words: error instanceof Error ? error.message : String(error),
    };
  }
}
