import { Agent, fetch as send } from 'undici';
import { InputError } from '../../core/errors/inputError';
import { type GuardedAddress, guardAddress } from './address';

/** What comes from outside: its head at once, its body as it arrives, bounded in time and bytes. */
export interface Fetched {
  readonly status: number;
  readonly ok: boolean;
  header(name: string): string | undefined;
  readonly body: AsyncIterable<Uint8Array>;
  /** The whole body; for short ones. */
  bytes(): Promise<Buffer>;
  /** The address the answer came from, after redirects. */
  readonly url: URL;
}

export interface FetchLimits {
  /** Time for everything, the last byte included. */
  readonly seconds: number;
  readonly bytes: number;
  readonly headers?: Readonly<Record<string, string>>;
  /** GET where left out. */
  readonly method?: 'GET' | 'POST' | 'PUT' | 'DELETE';
  /** What is sent: as it is, or as it is read, with its length. */
  readonly body?: Uint8Array | { readonly read: AsyncIterable<Uint8Array>; readonly bytes: number };
  /** Redirects that are followed, five where left out; each target is looked at as the first was. `told` answers them as they are. */
  readonly redirects?: number | 'told';
  /** Looks names up; for tests of names that change. */
  readonly find?: Parameters<typeof guardAddress>[1];
}

/**
 * Connects to the address that was looked at, whatever the name says by the time of connecting. The agent keeps no time of
 * its own: one clock, the caller's, ends everything, so that what ends it is always told in the same words.
 */
function pinned({ host, family }: GuardedAddress): Agent {
  return new Agent({
    connect: {
      timeout: 0,
      lookup: (_name, options, done) =>
        options.all
          ? done(null, [{ address: host, family }])
          : (done as (error: null, address: string, family: number) => void)(null, host, family),
    },
    headersTimeout: 0,
    bodyTimeout: 0,
  });
}

const size = (bytes: number): string =>
  bytes >= 1024 ** 2 ? `${Math.round(bytes / 1024 ** 2)} MB` : `${Math.round(bytes / 1024)} KB`;

/**
 * Fetches an address that somebody typed. Addresses inside this machine's network are refused, on every redirect too; time
 * and bytes are counted until the body's end.
 * @throws InputError in words for the person where the address, its redirects or its size are refused
 */
export async function fetchOutside(address: string, limits: FetchLimits): Promise<Fetched> {
  const until = Date.now() + limits.seconds * 1000;
  let target = address;
  for (let hop = 0; ; hop++) {
    const guarded = await guardAddress(target, limits.find);
    const agent = pinned(guarded);
    const stop = new AbortController();
    const late = setTimeout(
      () => stop.abort(new InputError('tooSlow', { host: guarded.url.host, seconds: limits.seconds })),
      Math.max(0, until - Date.now()),
    );
    const end = () => {
      clearTimeout(late);
      void agent.destroy();
    };
    const { body: given, headers = {} } = limits;
    const complete = given instanceof Uint8Array || given === undefined;
    try {
      const answer = await send(guarded.url, {
        dispatcher: agent,
        redirect: 'manual',
        signal: stop.signal,
        headers: complete ? headers : { ...headers, 'content-length': String(given.bytes) },
        method: limits.method ?? 'GET',
        ...(complete ? (given ? { body: given } : {}) : { body: given.read, duplex: 'half' }),
      });
      const next = answer.headers.get('location');
      const redirects = limits.redirects ?? 5;
      if (
        redirects !== 'told' &&
        answer.status >= 300 &&
        answer.status < 400 &&
        answer.status !== 304 &&
        next !== null
      ) {
        end();
        if (hop >= redirects) throw new InputError('tooManyRedirects', { address, most: redirects });
        target = URL.canParse(next, guarded.url) ? new URL(next, guarded.url).href : next;
        continue;
      }
      const body = bounded(answer.body, limits, stop.signal, end);
      return {
        status: answer.status,
        ok: answer.ok,
        header: (name) => answer.headers.get(name) ?? undefined,
        url: guarded.url,
        body,
        bytes: async () => {
          const chunks: Uint8Array[] = [];
          for await (const chunk of body) chunks.push(chunk);
          return Buffer.concat(chunks);
        },
      };
    } catch (error) {
      end();
      throw reported(error, stop.signal);
    }
  }
}

/** What a connection's end says of itself, or that time was up. */
function reported(error: unknown, signal: AbortSignal): unknown {
  if (signal.aborted && signal.reason instanceof InputError) return signal.reason;
  if (error instanceof Error && error.cause instanceof Error) return new Error(error.cause.message);
  return error;
}

async function* bounded(
  body: AsyncIterable<Uint8Array> | null,
  { bytes: most }: FetchLimits,
  signal: AbortSignal,
  end: () => void,
): AsyncGenerator<Uint8Array> {
  let bytes = 0;
  try {
    // Decompressed bytes are counted: what unpacks to more than it may be is refused too.
    for await (const chunk of body ?? []) {
      bytes += chunk.length;
      if (bytes > most) throw new InputError('answerTooLarge', { most: size(most) });
      yield chunk;
    }
  } catch (error) {
    throw reported(error, signal);
  } finally {
    end();
  }
}

const MIN_LENGTH = 500;
const MAX_LENGTH = 600_000;

/**
 * The wait that a Retry-After header asks for, in ms: seconds or an HTTP date (RFC 9110, 10.2.3), within half a second and
 * ten minutes.
 * @param now in ms since the epoch
 */
export function retryAfter(header: string | null | undefined, now = Date.now()): number {
  const text = header?.trim() ?? '';
  const seconds = /^\d{1,9}$/.test(text) ? Number(text) : (Date.parse(text) - now) / 1000;
  return Number.isFinite(seconds) ? Math.min(MAX_LENGTH, Math.max(MIN_LENGTH, seconds * 1000)) : 1000;
}
