import { inArray } from 'drizzle-orm';
import { asText } from '../../core/catalog/value';
import { formatFacts } from '../../core/channels/formats';
import { merchantNeedsIn } from '../../core/channels/sheet';
import { formatNumber } from '../../core/formatting/formatting';
import { type Due, type Problem, toPut } from '../../core/ledger/ledger';
import { alarmText, reviewReasonText } from '../../core/ledger/messages';
import { type RejectedValue, rejectedBefore } from '../../core/ledger/rejectedBefore';
import { planOn } from '../../core/plans/plan';
import { durationText } from '../../core/schedule/duration';
import { db } from '../db/connection';
import { batch, type EntryAnswer } from '../db/schema';
import type { FeedContext } from '../evaluation/feedContext';
import { today } from '../runtime/calendarDay';
import { memoFor } from '../runtime/memo';
import { settings } from '../runtime/settings';
import { type ComparisonView, comparisonView } from '../submissions/channelRecords';
import {
  alarmsOn,
  changedListings,
  dueOn,
  type FeedDue,
  listingsForReview,
  titleOf,
  toSendCount,
  valuesByField,
} from '../submissions/due';
import { type FileView, fileView } from '../submissions/feedFile';
import { usualAnswer } from '../submissions/list';
import { listSubmissions, rejectedLately, submissionEntries } from '../submissions/submissions';
import type { SubmissionRow } from '../submissions/transition';
import { transportOf } from '../transports';
import {
  type DestinationView,
  destinationOf,
  destinationView,
  goesBySelf,
  rateKey,
} from '../transports/destinations';
import { rateOf } from '../transports/rateLimiter';
import { type ChangeLine, figuresOf, linesOf, tabsOf } from './sendChanges';

export interface SentEntry {
  readonly sku: string;
  readonly title: string;
  readonly answer: EntryAnswer;
  /** Whether it is the lead of a family, which is no item. */
  readonly lead: boolean;
  readonly problems: readonly (Problem & { label: string })[];
}

/** A submission with how far it is: shares of its files, 0 to 1. */
export interface SubmissionCard extends SubmissionRow {
  readonly files: number;
  readonly filesSent: number;
  readonly steps: {
    readonly made: number;
    readonly checked: number;
    readonly sent: number;
    readonly answered: number;
  };
  readonly remarks: number;
}

export interface SendStage {
  readonly published: boolean;
  readonly ready: number;
  readonly blocked: number;
  readonly leftOut: number;
  /** Ready listings that are sold out: they stay, and say so. */
  readonly soldOut: number;
  readonly draftDiffers: boolean;
  readonly bySelf: boolean;
  /** What the channel wants of the merchant before it takes anything. */
  readonly wanted: readonly string[];
  readonly toSend: number;
  /** Whether the channel keeps drafts, which are saved there now, and how many of what is there may be sent for review. */
  readonly takesDrafts: boolean;
  readonly drafts: number;
  readonly figures: readonly { code: string; words: string; more: string; count: number }[];
  readonly alarms: readonly string[];
  /** Listings that are held for review by themselves, and why; the rest is sent. */
  readonly doubtful: { readonly count: number; readonly reasons: readonly string[] };
  readonly tabs: readonly { code: string; label: string; count: number }[];
  readonly tab: string;
  readonly lines: readonly ChangeLine[];
  readonly matching: number;
  readonly how: readonly { label: string; words: string }[];
  readonly file: FileView;
  readonly submissions: readonly SubmissionCard[];
  readonly current: SubmissionCard | undefined;
  readonly entries: readonly SentEntry[];
  readonly byProblem: readonly { text: string; field: string; code: string; count: number }[];
  readonly destination: DestinationView;
  readonly feed: string;
  /** Values that are to be sent and that the channel rejected on another listing. */
  readonly rejected: readonly (RejectedValue & { readonly label: string })[];
  /** How the channel's own list compares with our records; undefined where it has none. */
  readonly records: ComparisonView | undefined;
  /** Labels of the fields that are compared. */
  readonly recordLabels: Readonly<Record<string, string>>;
}

/** Values rejected before that a page shows. */
const MAX_REJECTED = 5;

/** Lines and entries that a page shows. */
const MAX_COUNT = 300;

function goesTo({ testing, testAddress, address }: DestinationView, route: boolean): string {
  if (testing) return `the test account${testAddress ? ` at ${testAddress}` : ' of the simulated channel'}`;
  return address || (route ? 'the simulated channel' : 'not sent automatically');
}

async function howOf(work: FeedContext, count: number, destination: DestinationView) {
  const { delivery } = work.sheet;
  const { rate, waits } = delivery;
  const route = transportOf(work.sheet);
  const size = route?.most(work.sheet) ?? Number.POSITIVE_INFINITY;
  const files = Number.isFinite(size) ? Math.ceil(count / size) : Math.min(count, 1);
  const pace = route
    ? await rateOf(rateKey(await destinationOf(work.plans.head, destination.testing ? 'test' : 'live')))
    : undefined;
  const rest = pace?.closedUntil && pace.closedUntil > new Date() ? pace.words : undefined;
  const kind = formatFacts[delivery.format].label;
  const usual = await usualAnswer(work.plans.head.code);
  const span = rate && files > 1 ? Math.ceil(files / rate.count - 1) * rate.seconds : 0;
  return [
    {
      label: 'File',
      words: !route
        ? `${kind}, uploaded by hand`
        : route.whole
          ? `${kind}, fetched by the channel`
          : size === 1
            ? `${kind}, one listing at a time`
            : `${kind}, ${files > 1 ? `${files} parts of up to ${formatNumber(size)}` : 'one part'}`,
    },
    ...(rate
      ? [
          {
            label: 'Rate',
            words: `${rate.count} in ${durationText(rate.seconds)} at most${span > 0 ? `; about ${durationText(span / settings.haste)} for all` : ''}`,
          },
        ]
      : []),
    ...(usual !== undefined
      ? [{ label: 'Result', words: `usually after ${durationText(usual)}` }]
      : waits
        ? [{ label: 'Result', words: `within ${durationText(waits)}, according to the channel` }]
        : []),
    { label: 'Destination', words: goesTo(destination, route !== undefined) },
    ...(delivery.quick ? [{ label: 'Prices', words: 'prices and stock are sent on their own' }] : []),
    ...(delivery.families === 'leads' ? [{ label: 'Families', words: 'a parent with its variants' }] : []),
    ...(rest ? [{ label: 'Now', words: rest }] : []),
  ];
}

async function cardsOf(submissions: readonly SubmissionRow[]): Promise<SubmissionCard[]> {
  if (submissions.length === 0) return [];
  const rows = await db
    .select({ submissionId: batch.submissionId, state: batch.state })
    .from(batch)
    .where(
      inArray(
        batch.submissionId,
        submissions.map(({ id }) => id),
      ),
    );
  return submissions.map((one): SubmissionCard => {
    const states = rows.filter(({ submissionId }) => submissionId === one.id).map(({ state }) => state);
    const share = (...wanted: string[]) =>
      states.length === 0 ? 0 : states.filter((state) => wanted.includes(state)).length / states.length;
    const done = one.state === 'answered';
    const ended = ['answered', 'lost', 'failed'];
    return {
      ...one,
      // Submissions from before files were stored: the file is rebuilt from the listings.
      files: states.length === 0 && one.sentAt ? 1 : states.length,
      filesSent: states.filter((state) => state === 'sent' || ended.includes(state)).length,
      steps: {
        made: states.length > 0 || done ? 1 : 0,
        checked: states.length > 0 || done ? 1 : 0,
        sent: done ? 1 : share('sent', ...ended),
        answered: done ? 1 : share(...ended),
      },
      remarks: 0,
    };
  });
}

export interface SendQuery {
  readonly submission: number | undefined;
  readonly show: string | undefined;
  readonly find: string | undefined;
}

/** How many of a feed's listings stand how, and how many of those that are ready are sold out. */
function standingOf({ published, snapshot }: FeedContext) {
  const stock = snapshot.index.slotOf('availability') ?? -1;
  const counts = { ready: 0, blocked: 0, leftOut: 0, soldOut: 0 };
  for (let at = 0; at < published.listings.length; at++) {
    const state = published.listings.stateAt(at);
    counts[state]++;
    if (state === 'ready' && asText(snapshot.rows[at]?.[stock]) === 'OutOfStock') counts.soldOut++;
  }
  return counts;
}

/** What of all that is due is held for review: the whole, or single listings. */
function reviewOf(due: FeedDue): Pick<SendStage, 'alarms' | 'doubtful'> {
  const changed = changedListings(due);
  const doubts = listingsForReview(due, changed);
  return {
    alarms: alarmsOn(
      due,
      changed.filter(({ sku }) => !doubts.has(sku)),
    ).map(alarmText),
    doubtful: { count: doubts.size, reasons: reviewReasonText(doubts, due.limits) },
  };
}

/** Listings of which something is due, with their values by field. */
function* valuesOf({ listings, sheet }: FeedDue, wanted: (due: Due) => boolean) {
  for (const { sku, due, out } of listings)
    if (out && wanted(due)) yield { sku, values: valuesByField(sheet, out.values) };
}

/** Values about to be sent that the channel rejected before; computed again once a submission has other answers. */
const rejectedIn = (due: FeedDue, work: FeedContext, submissions: readonly SubmissionRow[]) =>
  memoFor(
    due.listings,
    'rejected values',
    async (): Promise<SendStage['rejected']> =>
      rejectedBefore(
        due.sheet,
        await rejectedLately(due.plans.head.code),
        valuesOf(due, (one) => toPut.has(one)),
        valuesOf(due, (one) => one === 'unchanged'),
      )
        .slice(0, MAX_REJECTED)
        .map((one) => ({ ...one, label: work.labelOf(one.field) })),
    submissions.map(({ id, refused }) => `${id} ${refused}`).join(),
  );

/** The Send stage: what would leave, held against what the channel has; what went out, and what the channel said of it. */
export async function sendStage(work: FeedContext, query: SendQuery): Promise<SendStage> {
  const { code, country } = work.plans.head;
  const { sheet, plans } = work;
  const [due, submissions, destination, records] = await Promise.all([
    dueOn(code),
    listSubmissions(code),
    destinationView(work.plans.head),
    comparisonView(code, sheet),
  ]);
  const cards = await cardsOf(submissions);
  const current = cards.find(({ id }) => id === query.submission);
  const entries = current ? await submissionEntries(current.id) : [];
  const status = memoFor(work.published.listings, 'channel statuses', () => standingOf(work));
  const byProblem = new Map<string, SendStage['byProblem'][number]>();
  for (const { problems } of entries)
    for (const { text, field } of problems) {
      const key = `${field}:${text}`;
      byProblem.set(key, {
        text,
        field: field ? work.labelOf(field) : '',
        code: field ?? '',
        count: (byProblem.get(key)?.count ?? 0) + 1,
      });
    }
  // As long as nothing changes they are the same listings.
  const lines = due
    ? memoFor(due.listings, 'lines', () => linesOf(due, work))
    : new Map<string, ChangeLine[]>();
  const tabs = due ? tabsOf(lines, sheet, work.labelOf) : [];
  const tab = tabs.find((one) => one.code === query.show)?.code ?? tabs[0]?.code ?? '';
  const wanted = query.find?.trim().toLowerCase() ?? '';
  const found = (lines.get(tab) ?? []).filter(
    ({ sku, title }) => wanted === '' || `${title} ${sku}`.toLowerCase().includes(wanted),
  );
  const met = new Set(plans.published && planOn(plans.published, today()).met);
  const order: Record<EntryAnswer, number> = {
    refused: 0,
    silent: 1,
    failed: 2,
    inReview: 3,
    waiting: 4,
    withdrawn: 5,
    drafted: 6,
    accepted: 7,
  };
  return {
    published: plans.published !== undefined,
    ...status,
    draftDiffers: work.changes > 0,
    bySelf: goesBySelf(sheet),
    wanted: merchantNeedsIn(sheet, country).flatMap((need) => (met.has(need.code) ? [] : [need.label])),
    toSend: due ? toSendCount(due) : 0,
    takesDrafts: sheet.delivery.drafts !== undefined && !destination.testing,
    drafts: due?.counts.drafted ?? 0,
    figures: due ? memoFor(due.listings, 'figures', () => figuresOf(due)) : [],
    ...(due
      ? memoFor(due.listings, 'review reasons', () => reviewOf(due), JSON.stringify(due.limits))
      : { alarms: [], doubtful: { count: 0, reasons: [] } }),
    tabs,
    tab,
    lines: found.slice(0, MAX_COUNT),
    matching: found.length,
    how: await howOf(work, due ? toSendCount(due) : 0, destination),
    file: await fileView(work),
    submissions: cards,
    current: current && {
      ...current,
      remarks: entries.filter(({ answer, problems }) => answer === 'accepted' && problems.length > 0).length,
    },
    entries: entries
      .map(
        (entry): SentEntry => ({
          sku: entry.sku,
          title: titleOf(sheet, entry.sku, entry.values),
          answer: entry.answer,
          lead: entry.relation === 'lead',
          problems: entry.problems.map((problem) => ({
            ...problem,
            label: problem.field ? work.labelOf(problem.field) : '',
          })),
        }),
      )
      .sort((a, b) => order[a.answer] - order[b.answer] || a.sku.localeCompare(b.sku))
      .slice(0, MAX_COUNT),
    byProblem: [...byProblem.values()].sort((a, b) => b.count - a.count),
    destination,
    feed: code,
    rejected: due ? await rejectedIn(due, work, submissions) : [],
    records,
    recordLabels: Object.fromEntries(
      Object.keys(sheet.delivery.list?.values ?? {}).map((field) => [field, work.labelOf(field)]),
    ),
  };
}
