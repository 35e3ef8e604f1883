/** Something that happened which a person wants to hear of, as facts; words are made of them where they are shown. */
import { counted } from '../formatting/formatting';
export interface NotificationFacts {
  /** Every listing of a submission has its answer. */
  readonly finished: {
    readonly submission: number;
    readonly accepted: number;
    readonly refused: number;
    readonly withdrawn: number;
  };
  /** More were refused than the feed's limit allows without a word. */
  readonly refusedMany: { readonly submission: number; readonly refused: number; readonly of: number };
  /** The channel decided otherwise after its first answer. */
  readonly laterResults: { readonly submission: number; readonly accepted: number; readonly refused: number };
  /** The channel's own list and our records differ. */
  readonly recordsDiffer: { readonly count: number; readonly channel: string };
  /** It looks wrong and waits for a person. */
  readonly heldBack: {
    readonly submission: number;
    readonly reasons: readonly string[];
    readonly cause: string;
  };
  /** Single listings look wrong and wait for a person; the rest is sent. */
  readonly listingsHeld: {
    readonly count: number;
    readonly reasons: readonly string[];
    readonly cause: string;
    /** Digest of which they are: of the same ones it is told once. */
    readonly which: string;
  };
  /** Nothing of it left, or the channel never answered. */
  readonly failing: { readonly submission: number; readonly words: string };
  readonly sourceFailed: { readonly source: number; readonly name: string; readonly words: string };
  /** An automatic import is far outside the usual and waits for a person. */
  readonly importHeld: {
    readonly source: number;
    readonly run: number;
    readonly name: string;
    readonly reasons: readonly string[];
  };
  /** Its hour passed while nothing ran; it was made up for once. */
  readonly scheduleMissed: { readonly due: string; readonly late: number };
  /** The shop's pages say other prices or stock than the catalog. */
  readonly shopDiffers: { readonly items: number; readonly example: string; readonly fetched: number };
  /** Its hour came and nothing could be sent. */
  readonly notSent: { readonly words: string };
}
export type NotificationKind = keyof NotificationFacts;
export const notificationKinds = [
  'finished',
  'refusedMany',
  'laterResults',
  'recordsDiffer',
  'heldBack',
  'listingsHeld',
  'failing',
  'sourceFailed',
  'importHeld',
  'scheduleMissed',
  'notSent',
  'shopDiffers',
] as const satisfies readonly NotificationKind[];

/** What each kind is called where one chooses among them. */
export const notificationLabels: Readonly<Record<NotificationKind, string>> = {
  finished: 'a submission has results',
  refusedMany: 'many listings are rejected',
  laterResults: 'a channel changes a result later',
  recordsDiffer: 'a channel’s list differs from our records',
  heldBack: 'a submission is held for review',
  listingsHeld: 'listings are held for review',
  failing: 'a channel does not accept a submission',
  sourceFailed: 'a source cannot be fetched',
  importHeld: 'an import is held for review',
  scheduleMissed: 'a scheduled time was missed',
  notSent: 'a scheduled sending failed',
  shopDiffers: 'the shop’s pages differ',
};

/** Kinds that want something done, not only known. */
export const urgentKinds: ReadonlySet<NotificationKind> = new Set([
  'refusedMany',
  'recordsDiffer',
  'heldBack',
  'listingsHeld',
  'failing',
  'sourceFailed',
  'importHeld',
  'notSent',
]);

const listings = (count: number) => `${counted(count, 'listing')}`;

const words: { readonly [K in NotificationKind]: (facts: NotificationFacts[K]) => string } = {
  finished: ({ accepted, refused, withdrawn }) =>
    [
      `${listings(accepted)} accepted`,
      ...(refused > 0 ? [`${refused} rejected`] : []),
      ...(withdrawn > 0 ? [`${withdrawn} withdrawn`] : []),
    ].join(', '),
  refusedMany: ({ refused, of }) => `${refused} of ${listings(of)} rejected`,
  laterResults: ({ accepted, refused }) =>
    [
      ...(accepted > 0 ? [`${listings(accepted)} accepted later`] : []),
      ...(refused > 0 ? [`${listings(refused)} rejected later`] : []),
    ].join(', '),
  recordsDiffer: ({ count, channel }) =>
    `${channel}’s own list and our records differ in ${counted(count, 'value')}; see Send`,
  heldBack: ({ reasons }) => `held for review: ${reasons.join('; ')}`,
  listingsHeld: ({ count, reasons }) =>
    `${listings(count)} held for review, the rest is sent: ${reasons.join('; ')}`,
  failing: (facts) => facts.words,
  sourceFailed: (facts) => `${facts.name} could not be fetched: ${facts.words}`,
  importHeld: ({ name, reasons }) =>
    `an import of ${name} is held for review; nothing was changed. ${reasons.join('. ')}.`,
  scheduleMissed: ({ late }) =>
    `its scheduled time passed ${minutes(late)} ago while the application was not running; it was sent now`,
  notSent: (facts) => facts.words,
  shopDiffers: ({ items, example, fetched }) =>
    `the shop’s pages show another price or stock than the catalog for ${counted(items, 'item')}, such as ${example}${
      fetched > 0 ? `; fetching ${counted(fetched, 'source')} again` : ''
    }`,
};

const minutes = (count: number): string =>
  count < 120
    ? `${count} minutes`
    : count < 2880
      ? `${Math.round(count / 60)} hours`
      : `${Math.round(count / 1440)} days`;

/** A notice in words, without the feed's name. */
export const notificationText = <K extends NotificationKind>(kind: K, facts: NotificationFacts[K]): string =>
  words[kind](facts);
