import { randomBytes } from 'node:crypto';
import { eq } from 'drizzle-orm';
import type { Sheet } from '../../core/channels/sheet';
import { transportFacts } from '../../core/channels/transports';
import { InputError } from '../../core/errors/inputError';
import type { OfBlocked } from '../../core/ledger/ledger';
import { type LimitName, type Limits, limitsSchema } from '../../core/ledger/review';
import { currentUser, recordActivity } from '../auth/authorize';
import { channelOf } from '../channels/channels';
import { db, type Transaction } from '../db/connection';
import { destination, feed } from '../db/schema';
import { guardAddress } from '../net/address';
import { settings } from '../runtime/settings';
import { decrypt, encrypt } from '../storage/secrets';
import type { Destination } from './transport';

/** Where a feed goes and how carefully, as a page shows it: no credential leaves the server. */
export interface DestinationView {
  /** Empty where it is the simulator's. */
  readonly address: string;
  readonly simulator: string;
  readonly hasCredential: boolean;
  /** Whether what is sent goes to the channel's test account. */
  readonly testing: boolean;
  readonly testAddress: string;
  readonly testSimulator: string;
  readonly hasTestCredential: boolean;
  readonly fetchAt: string;
  readonly ofBlocked: OfBlocked;
  readonly limits: Limits;
  readonly revision: number;
}

const usual = { ofBlocked: 'leave' as const, limits: limitsSchema.parse({}) };

async function rowOf(code: string) {
  const [row] = await db.select().from(destination).where(eq(destination.feed, code));
  return row ?? { ...unset(code), token: null };
}

/** The destination of a feed for which nobody has set one. */
const unset = (code: string): typeof destination.$inferSelect => ({
  feed: code,
  ...usual,
  address: null,
  credential: null,
  testing: false,
  testAddress: null,
  testCredential: null,
  token: randomBytes(24).toString('hex'),
  revision: 1,
});

/** Gives a feed its destination, when it is added; one that is there stays. */
export async function addDestination(tx: Transaction, code: string): Promise<void> {
  await tx.insert(destination).ignore().values(unset(code));
}

/** Gives every feed that has none a destination; at the start, for feeds of earlier versions. */
export async function addDestinations(): Promise<void> {
  await db.transaction(async (tx) => {
    for (const { code } of await tx.select({ code: feed.code }).from(feed)) await addDestination(tx, code);
  });
}

const fetchAddress = (code: string, token: string | null): string =>
  `${settings.address}/api/fetched/${encodeURIComponent(code)}/${token ?? ''}`;

const simulatorOf = (channel: string): string => `${settings.simulators}/${channel}`;
/** The test account of a channel that ships with the application. */
const testSimulatorOf = (channel: string): string => `${simulatorOf(channel)}/test`;

/** What a page shows of a feed's destination. */
export async function destinationView(head: { code: string; channel: string }): Promise<DestinationView> {
  const row = await rowOf(head.code);
  const { address, credential, token, ofBlocked, limits, revision } = row;
  return {
    address: address ?? '',
    simulator: simulatorOf(head.channel),
    hasCredential: credential !== null,
    testing: row.testing,
    testAddress: row.testAddress ?? '',
    testSimulator: testSimulatorOf(head.channel),
    hasTestCredential: row.testCredential !== null,
    fetchAt: fetchAddress(head.code, token),
    ofBlocked,
    limits,
    revision,
  };
}

/** Whether what is sent of a feed goes to the channel's test account. */
export const isTesting = async (code: string): Promise<boolean> => (await rowOf(code)).testing;

/** A feed's destination, ready to send to. @param door the channel's test account, or the one that shoppers see */
export async function destinationOf(
  head: { code: string; channel: string; country: string },
  door: 'live' | 'test',
): Promise<Destination> {
  const row = await rowOf(head.code);
  const test = door === 'test';
  const address = test
    ? (row.testAddress ?? testSimulatorOf(head.channel))
    : (row.address ?? simulatorOf(head.channel));
  const credential = test ? row.testCredential : row.credential;
  return {
    feed: head.code,
    channel: head.channel,
    country: head.country,
    address: address.replace(/\/+$/, ''),
    credential: credential === null ? undefined : await decrypt(credential),
    fetchAt: fetchAddress(head.code, row.token),
  };
}

/** How a feed's pages are told apart by pace: feeds that go to one address share it. */
export const rateKey = (to: Destination): string => `${to.channel} ${to.address}`.slice(0, 190);

/** Whether something takes a feed's listings by itself, or can fetch them. */
export const goesBySelf = ({ delivery }: Sheet): boolean => transportFacts[delivery.manner].automatic;

/** Whether a channel may have a test account: one that fetches, or that is uploaded to, is tried by its file alone. */
const takesTests = ({ delivery: { manner } }: Sheet): boolean => transportFacts[manner].testable;

/** One change of where a feed goes, by name. */
export type DestinationEdit =
  | { readonly set: 'address' | 'testAddress'; readonly address: string }
  | { readonly set: 'credential' | 'testCredential'; readonly credential: string }
  | { readonly set: 'testing'; readonly on: boolean }
  | { readonly set: 'ofBlocked'; readonly ofBlocked: OfBlocked }
  | { readonly set: 'limit'; readonly limit: LimitName; readonly value: number }
  | { readonly set: 'hold'; readonly hold: Limits['hold'] }
  | { readonly set: 'token' };

const hostOf = (address: string | null): string => {
  try {
    return address === null ? '' : new URL(address).host;
  } catch {
    return '';
  }
};

/**
 * Changes where a feed goes. A credential belongs to the host that it was given for: another host drops it, so that nobody who
 * may change the address alone has it sent elsewhere.
 * @returns its revision then @throws InputError where the address is refused, or somebody else changed it since
 */
export async function editDestination(
  code: string,
  revision: number,
  edit: DestinationEdit,
): Promise<number> {
  const person = await currentUser();
  const [head] = await db.select().from(feed).where(eq(feed.code, code));
  if (!head) throw new InputError('noFeed');
  if ('address' in edit && edit.address !== '') await guardAddress(edit.address);
  const seal = 'credential' in edit && edit.credential !== '' ? await encrypt(edit.credential) : null;
  if (edit.set === 'testing' && edit.on && !takesTests((await channelOf(head.channel)).sheet))
    throw new InputError('noTestAccount');
  const changed = await db.transaction(async (tx) => {
    await addDestination(tx, code);
    const [row] = await tx.select().from(destination).where(eq(destination.feed, code)).for('update');
    if (!row) throw new InputError('noFeed');
    if (row.revision !== revision) throw new InputError('destinationChanged');
    const limits =
      edit.set === 'limit'
        ? limitsSchema.parse({ ...row.limits, [edit.limit]: edit.value })
        : edit.set === 'hold'
          ? { ...row.limits, hold: edit.hold }
          : row.limits;
    const keeper =
      edit.set === 'address' ? 'credential' : edit.set === 'testAddress' ? 'testCredential' : undefined;
    const moves = 'address' in edit && hostOf(row[edit.set]) !== hostOf(edit.address || null);
    const drops = keeper && moves && row[keeper] !== null ? keeper : undefined;
    await tx
      .update(destination)
      .set({
        revision: revision + 1,
        limits,
        ...('address' in edit ? { [edit.set]: edit.address || null } : {}),
        ...(drops ? { [drops]: null } : {}),
        ...('credential' in edit ? { [edit.set]: seal } : {}),
        ...(edit.set === 'testing' ? { testing: edit.on } : {}),
        ...(edit.set === 'ofBlocked' ? { ofBlocked: edit.ofBlocked } : {}),
        ...(edit.set === 'token' ? { token: randomBytes(24).toString('hex') } : {}),
      })
      .where(eq(destination.feed, code));
    return changeWords(row, edit, drops !== undefined);
  });
  await recordActivity(person, `changed the destination: ${changed}`, code);
  return revision + 1;
}

/** What was changed of a destination, before and after; of a credential no more than whether there is one. */
function changeWords(row: typeof destination.$inferSelect, edit: DestinationEdit, dropped: boolean): string {
  switch (edit.set) {
    case 'address':
    case 'testAddress':
      return `${edit.set} from ${row[edit.set] ?? 'the simulated channel'} to ${edit.address || 'the simulated channel'}${
        dropped ? '; the credential was removed because it belongs to the old host' : ''
      }`;
    case 'credential':
    case 'testCredential':
      return `${edit.set} ${edit.credential === '' ? 'removed' : row[edit.set] === null ? 'set' : 'replaced'}`;
    case 'testing':
      return `from the ${row.testing ? 'test' : 'live'} account to the ${edit.on ? 'test' : 'live'} account`;
    case 'ofBlocked':
      return `blocked listings from ${row.ofBlocked} to ${edit.ofBlocked}`;
    case 'limit':
      return `the limit ${edit.limit} from ${row.limits[edit.limit]} to ${edit.value}`;
    case 'hold':
      return `limits of the review from ${row.limits.hold} to ${edit.hold}`;
    case 'token':
      return 'another fetch address';
  }
}
