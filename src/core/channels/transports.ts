/** What is to be known of a way in which listings reach a channel, whatever channel it is. */
interface TransportFacts {
  /** What people call it. */
  readonly label: string;
  /** Whether listings leave by themselves; else a person uploads a file and brings the answer in. */
  readonly automatic: boolean;
  /** Whether the channel fetches a file that is published for it, so that nothing is addressed to its server but a word of it. */
  readonly published: boolean;
  /** Whether a test account can be tried, beside the live one. */
  readonly testable: boolean;
}

/**
 * Every way out that a sheet may name, by the code it names; what each does is in `server/transports/`. A new one is an entry here, its
 * file and its entry there, and its test.
 */
export const transportFacts = {
  fetched: { label: 'file fetched by the channel', automatic: true, published: true, testable: false },
  sent: { label: 'files are sent', automatic: true, published: false, testable: true },
  calls: { label: 'sent in calls', automatic: true, published: false, testable: true },
  paced: { label: 'one listing at a time', automatic: true, published: false, testable: true },
  byHand: { label: 'file uploaded by hand', automatic: false, published: false, testable: false },
} as const satisfies Readonly<Record<string, TransportFacts>>;

export type TransportKind = keyof typeof transportFacts;
type Facts = typeof transportFacts;
/** Those that leave by themselves. */
export type AutomaticTransport = {
  [K in TransportKind]: Facts[K]['automatic'] extends true ? K : never;
}[TransportKind];

export const transportKinds = Object.keys(transportFacts) as [TransportKind, ...TransportKind[]];
export const isAutomatic = (kind: TransportKind): kind is AutomaticTransport =>
  transportFacts[kind].automatic;
