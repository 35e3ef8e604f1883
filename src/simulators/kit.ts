import { createHash, randomUUID } from 'node:crypto';
import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** What the simulated channels have in common: how they are asked, what they keep, and how they can be made to fail. */
export interface Call {
  readonly method: string;
  /** Below the service's own path. */
  readonly path: string;
  readonly query: URLSearchParams;
  header(name: string): string;
  readonly body: Buffer;
}

export interface Answer {
  readonly status: number;
  readonly body?: unknown;
  readonly headers?: Record<string, string>;
  /** A page instead of JSON. */
  readonly html?: string;
}

export interface Problem {
  readonly code: string;
  readonly field: string | null;
  readonly text: string;
}

/** One listing as a channel received it: texts by name, lists by several. */
export type Row = Readonly<Record<string, readonly string[]>>;
export const one = (row: Row, name: string): string => row[name]?.[0]?.trim() ?? '';

export interface Listing {
  readonly number: string;
  readonly row: Row;
  /** Of a channel that has people look first. */
  review?: 'waiting' | 'done';
}

interface AcceptedRequest {
  readonly key: string;
  readonly at: number;
  readonly ready: number;
  /** What it answers, each in the channel's own shape; made when it was taken. */
  readonly answers: unknown[];
  readonly count: number;
  readonly refused: number;
}

/** Everything a channel keeps over a restart. */
export interface StoredEntry {
  listings: Record<string, Listing>;
  /** Saved by the merchant and seen by nobody, by the same keys; when each was saved, in ms. */
  drafts: Record<string, Listing & { readonly savedAt: number }>;
  taken: Record<string, AcceptedRequest>;
  byKey: Record<string, string>;
  /** When something was sent, in ms; as many as the watch page shows. */
  arrivals: number[];
  tooFast: number;
  /** The last refusals, newest first. */
  refused: { key: string; problems: Problem[]; at: number }[];
  /** How often one and the same file was worked on more than once. */
  doubles: number;
  digests: string[];
  nextNumber: number;
  /** What the channel knows of the merchant. */
  merchant: Record<string, string>;
  /** By country; `receipt` is that of what it was told of last. */
  feeds: Record<string, { address: string; etag: string; fetchedAt: number; receipt?: string }>;
  /** Codes of rules that it has given up. */
  givenUp: string[];
  /** Pages that somebody looked at, the latest last; the shop counts them. */
  visits: { path: string; at: number; agent: string }[];
}

const empty = (): StoredEntry => ({
  listings: {},
  drafts: {},
  taken: {},
  byKey: {},
  arrivals: [],
  tooFast: 0,
  refused: [],
  doubles: 0,
  digests: [],
  nextNumber: 1,
  merchant: {},
  feeds: {},
  givenUp: [],
  visits: [],
});

export const faults = {
  slow: 'answers only after seconds',
  busy: '429 without Retry-After',
  busyUntil: '429 with Retry-After',
  stumbles: '500',
  drops: 'hangs up while it listens',
  dropsAfter: 'accepts it and hangs up without an answer',
  twice: 'answers twice for each listing',
  reordered: 'answers in another order',
  partial: 'leaves a third out of its report, the first time',
  late: 'its report is not there, the first time',
  lost: 'loses its report for good',
  suspended: 'suspends the account for being too fast',
  expired: 'does not know the credentials',
  restarts: 'restarts in the middle',
} as const;
export type Fault = keyof typeof faults;
/** Faults of taking something in; the others are those of answering. */
const accepting: ReadonlySet<Fault> = new Set([
  'slow',
  'busy',
  'busyUntil',
  'stumbles',
  'drops',
  'dropsAfter',
  'suspended',
  'expired',
  'restarts',
]);

/** What it needs of the world around. */
export interface World {
  /** How long a channel works on a file, in ms. */
  readonly workTime: number;
  /** How long a minute of its rules lasts, in ms. */
  readonly minute: number;
  /** Where things are kept over a restart; nowhere where left out. */
  readonly folder: string | undefined;
  /** A page of the shop by its address; undefined where there is none. */
  page(address: string): ShopPage | undefined;
}

export interface ShopPage {
  readonly html: string;
  readonly price: string;
  readonly availability: string;
}

export abstract class Service {
  readonly kept: StoredEntry;
  /** Faults that come next, in their order. */
  readonly waiting: Fault[] = [];
  private readonly lostReports = new Set<string>();

  constructor(
    readonly code: string,
    readonly name: string,
    protected readonly world: World,
    /** So many in so many minutes. */
    readonly rate: { readonly count: number; readonly minutes: number },
  ) {
    this.kept = empty();
    try {
      if (world.folder)
        Object.assign(this.kept, JSON.parse(readFileSync(join(world.folder, `${code}.json`), 'utf8')));
    } catch {
      // Nothing was kept yet.
    }
  }

  /** Writes down what is kept, whole or not at all. */
  save(): void {
    const { folder } = this.world;
    if (!folder) return;
    mkdirSync(folder, { recursive: true });
    const path = join(folder, `${this.code}.json`);
    writeFileSync(`${path}.new`, JSON.stringify(this.kept));
    renameSync(`${path}.new`, path);
  }

  /** Begins anew, as if nothing had ever come; what it knows of the merchant stays. */
  forget(): void {
    const { merchant } = this.kept;
    Object.assign(this.kept, empty(), { merchant });
    this.waiting.length = 0;
    this.save();
  }

  /** A fault of this kind, where one is to come. */
  fault(kind: 'taking' | 'answering'): Fault | undefined {
    const [next] = this.waiting;
    if (next === undefined || accepting.has(next) !== (kind === 'taking')) return undefined;
    this.waiting.shift();
    return next;
  }

  /** Looks again at what it fetches by itself, where it does. */
  async lookAgain(): Promise<void> {
    // Most are sent to.
  }

  /** Answers a question below the service's path. */
  abstract answer(call: Call): Answer | Promise<Answer>;

  protected number(prefix: string): string {
    return `${prefix}-${String(this.kept.nextNumber++).padStart(6, '0')}`;
  }

  /** Whether something may come in now: an answer that says no, or undefined. Counts what comes too fast. */
  protected tooFast(now: number): Answer | undefined {
    const { kept, rate } = this;
    const span = rate.minutes * this.world.minute;
    const recent = kept.arrivals.filter((at) => now - at < span);
    if (recent.length >= rate.count) {
      kept.tooFast++;
      this.save();
      return {
        status: 429,
        body: { error: `No more than ${rate.count} in ${rate.minutes} min.` },
        headers: {
          'retry-after': String(Math.max(1, Math.ceil(((recent[0] ?? now) + span - now) / 1000))),
        },
      };
    }
    return undefined;
  }

  /**
   * Takes something in once, however often it comes with the same key. @param work judges it and answers listing by listing
   * @returns the number of its receipt
   */
  protected once(
    call: Call,
    work: () => { answers: unknown[]; refused: number } | Promise<{ answers: unknown[]; refused: number }>,
  ): Answer | Promise<Answer> {
    const now = Date.now();
    const key = call.header('idempotency-key');
    const known = this.kept.byKey[key];
    if (known) return this.receipt(known);
    const refused = this.tooFast(now);
    if (refused) return refused;
    const digest = createHash('sha256').update(call.method).update(call.path).update(call.body).digest('hex');
    return (async () => {
      const { answers, refused: count } = await work();
      if (this.kept.digests.includes(digest)) this.kept.doubles++;
      this.kept.digests = [digest, ...this.kept.digests].slice(0, 500);
      this.kept.arrivals = [...this.kept.arrivals, now].slice(-500);
      const id = randomUUID();
      this.kept.taken[id] = {
        key,
        at: now,
        ready: now + this.world.workTime,
        answers,
        count: answers.length,
        refused: count,
      };
      if (key) this.kept.byKey[key] = id;
      this.save();
      return this.receipt(id);
    })();
  }

  protected receipt(id: string): Answer {
    return { status: 202, body: { id } };
  }

  /**
   * The answers to something that was taken in, or that it is still being worked on.
   * @param shape puts them into the channel's own words
   */
  protected report(
    id: string,
    shape: { working: unknown; done: (answers: unknown[]) => unknown },
    more: (answers: unknown[]) => unknown[] = (answers) => answers,
  ): Answer {
    const taken = this.kept.taken[id];
    const fault = this.fault('answering');
    if (fault === 'lost') this.lostReports.add(id);
    if (!taken || fault === 'late' || this.lostReports.has(id))
      return { status: 404, body: { error: 'There is no such report.' } };
    if (Date.now() < taken.ready) {
      // It was too early for a fault of the report: it comes with the report.
      if (fault) this.waiting.unshift(fault);
      return { status: 200, body: shape.working, headers: { 'retry-after': '1' } };
    }
    let answers = more(taken.answers);
    if (fault === 'twice') answers = answers.flatMap((answer) => [answer, answer]);
    if (fault === 'reordered') answers = [...answers].reverse();
    if (fault === 'partial') answers = answers.filter((_, at) => at % 3 !== 0);
    return { status: 200, body: shape.done(answers) };
  }

  /** Keeps a listing as it was accepted. @param known its number, where it had one as a draft @returns the channel's own number */
  protected hold(key: string, row: Row, prefix: string, known?: string): string {
    const number = this.kept.listings[key]?.number ?? known ?? this.number(prefix);
    this.kept.listings[key] = { number, row };
    return number;
  }

  /** What it has of one country, for merchants that compare; nothing is left out. */
  protected list({ query }: Call): Answer {
    const country = query.get('country') ?? '';
    const listings = Object.entries(this.kept.listings).flatMap(([key, { number, row }]) =>
      key.startsWith(`${country} `)
        ? [
            {
              ...Object.fromEntries(Object.entries(row).map(([name, [first]]) => [name, first])),
              ref: key.slice(3),
              number,
            },
          ]
        : [],
    );
    return { status: 200, body: { listings } };
  }

  protected refuse(key: string, problems: Problem[]): void {
    this.kept.refused = [{ key, problems, at: Date.now() }, ...this.kept.refused].slice(0, 200);
  }
}

/** Cells of delimited text as RFC 4180 has it: a row of names, then rows. @throws where a quote never closes */
export function readTable(text: string, separator: string): Row[] {
  const rows: string[][] = [[]];
  let cell = '';
  let quoted = false;
  const clean = text.replace(/^\ufeff/, '');
  for (let i = 0; i < clean.length; i++) {
    const sign = clean[i] as string;
    if (quoted) {
      if (sign !== '"') cell += sign;
      else if (clean[i + 1] === '"') {
        cell += '"';
        i++;
      } else quoted = false;
    } else if (sign === '"' && cell === '') quoted = true;
    else if (sign === separator) {
      rows.at(-1)?.push(cell);
      cell = '';
    } else if (sign === '\n' || sign === '\r') {
      if (sign === '\r' && clean[i + 1] === '\n') i++;
      rows.at(-1)?.push(cell);
      rows.push([]);
      cell = '';
    } else cell += sign;
  }
  if (quoted) throw new Error('a quoted cell never ends');
  if (cell !== '' || rows.at(-1)?.length !== 0) rows.at(-1)?.push(cell);
  const [names = [], ...lines] = rows.filter((row) => row.some((text) => text !== ''));
  return lines.map((line) =>
    Object.fromEntries(names.map((name, at) => [name, line[at] ? [line[at] as string] : []])),
  );
}

/** Weighs the digits of a barcode alternately by one and three; a right one adds up to a multiple of ten. */
export function addsUp(barcode: string): boolean {
  if (!/^(\d{8}|\d{12,14})$/.test(barcode)) return false;
  const digits = [...barcode].reverse().map(Number);
  return digits.reduce((sum, digit, i) => sum + digit * (i % 2 === 1 ? 3 : 1), 0) % 10 === 0;
}
