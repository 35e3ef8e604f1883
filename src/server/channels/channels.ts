import { and, desc, eq, isNotNull, isNull } from 'drizzle-orm';
import { type Channel, makeChannel, readSheet } from '../../core/channels/bundle';
import { codeFrom, freeName } from '../../core/channels/drafting';
import type { Sheet } from '../../core/channels/sheet';
import { InputError } from '../../core/errors/inputError';
import { currentUser, recordActivity } from '../auth/authorize';
import { db } from '../db/connection';
import { feed, sheetVersion } from '../db/schema';
import { enqueue } from '../jobs/queue';
import { Memo } from '../runtime/memo';
import { bundledText, channelCodes } from './bundled';

/** Versions already read; one that was taken on never changes. */
const known = new Memo<Channel>({ owner: 'channels', maxEntries: 60 });

type VersionRow = typeof sheetVersion.$inferSelect;

function channelFrom(row: VersionRow): Channel {
  const key = `${row.channel}@${row.version}.${row.revision} ${row.createdAt.getTime()}`;
  return known.of(key, () => makeChannel(row.sheet, row.taxonomy));
}

/** Read before the text of a version, which is long: only its place and its age. */
const keyColumns = {
  channel: sheetVersion.channel,
  version: sheetVersion.version,
  revision: sheetVersion.revision,
  createdAt: sheetVersion.createdAt,
};

const takenOn = (code: string) => and(eq(sheetVersion.channel, code), isNotNull(sheetVersion.takenOnAt));

/** A channel as it counts now; undefined where there is none, or none of its versions was taken on yet. */
export async function findChannel(code: string): Promise<Channel | undefined> {
  const [key] = await db
    .select(keyColumns)
    .from(sheetVersion)
    .where(takenOn(code))
    .orderBy(desc(sheetVersion.version))
    .limit(1);
  if (!key) return undefined;
  const read = known.get(`${key.channel}@${key.version}.${key.revision} ${key.createdAt.getTime()}`);
  if (read) return read;
  const [row] = await db
    .select()
    .from(sheetVersion)
    .where(and(eq(sheetVersion.channel, code), eq(sheetVersion.version, key.version)));
  return row && channelFrom(row);
}

/** A channel as it counts now. @throws InputError where there is none */
export async function channelOf(code: string): Promise<Channel> {
  const found = await findChannel(code);
  if (!found) throw new InputError('noChannel', { channel: code });
  return found;
}

/** A version that can still be changed, with what a page needs to change it. */
export interface OpenVersion {
  readonly channel: Channel;
  readonly taxonomy: string;
  readonly version: number;
  readonly revision: number;
}

const openOf = (code: string) => and(eq(sheetVersion.channel, code), isNull(sheetVersion.takenOnAt));

export async function openVersion(code: string): Promise<OpenVersion | undefined> {
  const [row] = await db.select().from(sheetVersion).where(openOf(code));
  return (
    row && {
      channel: channelFrom(row),
      taxonomy: row.taxonomy,
      version: row.version,
      revision: row.revision,
    }
  );
}

/** The text of the tree of one version. */
export async function taxonomyOf(code: string, version: number): Promise<string | undefined> {
  const [row] = await db
    .select({ taxonomy: sheetVersion.taxonomy })
    .from(sheetVersion)
    .where(and(eq(sheetVersion.channel, code), eq(sheetVersion.version, version)));
  return row?.taxonomy;
}

/** One version of a channel, as it was or will be. */
export async function channelVersion(code: string, version: number): Promise<Channel | undefined> {
  const [row] = await db
    .select()
    .from(sheetVersion)
    .where(and(eq(sheetVersion.channel, code), eq(sheetVersion.version, version)));
  return row && channelFrom(row);
}

export interface VersionLine {
  readonly version: number;
  readonly effective: string;
  readonly takenOnAt: Date | undefined;
}

export async function listSheetVersions(code: string): Promise<VersionLine[]> {
  const rows = await db
    .select({ version: sheetVersion.version, sheet: sheetVersion.sheet, takenOnAt: sheetVersion.takenOnAt })
    .from(sheetVersion)
    .where(eq(sheetVersion.channel, code))
    .orderBy(desc(sheetVersion.version));
  return rows.map(({ version, sheet, takenOnAt }) => ({
    version,
    effective: sheet.effective,
    takenOnAt: takenOnAt ?? undefined,
  }));
}

/**
 * Writes bundled channels into the database: new ones are taken on at once, a newer file of a known one waits as an open
 * version until someone has looked at what it does.
 */
export async function takeBundledChannels(): Promise<void> {
  const versions = await db
    .select({
      channel: sheetVersion.channel,
      version: sheetVersion.version,
      takenOnAt: sheetVersion.takenOnAt,
    })
    .from(sheetVersion);
  for (const code of channelCodes()) {
    const mine = versions.filter(({ channel }) => channel === code);
    const { requirements, taxonomy } = bundledText(code);
    const { sheet } = makeChannel(JSON.parse(requirements), taxonomy);
    const newest = Math.max(0, ...mine.map(({ version }) => version));
    if (sheet.version <= newest || mine.some((one) => one.takenOnAt === null)) continue;
    const now = new Date();
    await db.insert(sheetVersion).values({
      channel: code,
      version: sheet.version,
      sheet,
      taxonomy,
      bundled: true,
      revision: 1,
      takenOnAt: mine.length === 0 ? now : null,
      createdAt: now,
    });
  }
}

/** A code for a new channel that no other has. */
export async function freeCode(name: string): Promise<string> {
  const rows = await db.selectDistinct({ channel: sheetVersion.channel }).from(sheetVersion);
  return freeName(codeFrom(name, '-'), new Set(rows.map(({ channel }) => channel)), '-');
}

/**
 * Makes a channel of the merchant's own; its first version is open until it is taken on.
 * @returns its code @throws InputError where the sheet or the tree is not valid, or the code is taken
 */
export async function createChannel(given: unknown, taxonomy: string): Promise<string> {
  const person = await currentUser();
  const { sheet } = makeChannel(given, taxonomy);
  const [taken] = await db
    .select({ version: sheetVersion.version })
    .from(sheetVersion)
    .where(eq(sheetVersion.channel, sheet.code));
  if (taken) throw new InputError('channelThere', { channel: sheet.code });
  await db.insert(sheetVersion).values({
    channel: sheet.code,
    version: sheet.version,
    sheet,
    taxonomy,
    bundled: false,
    revision: 1,
    takenOnAt: null,
    createdAt: new Date(),
  });
  await recordActivity(person, 'made a channel', sheet.code);
  return sheet.code;
}

/**
 * Opens a further version of a channel: a copy of the one that counts, or what a file gives.
 * @throws InputError where one is open already, the file is of another channel, or it is not valid
 */
export async function openNextVersion(
  code: string,
  today: string,
  given?: { sheet: unknown; taxonomy: string | undefined },
): Promise<number> {
  const person = await currentUser();
  const version = await db.transaction(async (tx) => {
    const [last] = await tx
      .select()
      .from(sheetVersion)
      .where(eq(sheetVersion.channel, code))
      .orderBy(desc(sheetVersion.version))
      .limit(1)
      .for('update');
    if (!last) throw new InputError('noChannel', { channel: code });
    if (last.takenOnAt === null) throw new InputError('versionOpen', { version: last.version });
    const taxonomy = given?.taxonomy ?? last.taxonomy;
    const sheet = readSheet(given?.sheet ?? { ...last.sheet, effective: today });
    if (sheet.code !== code) throw new InputError('otherSheet', { found: sheet.code, wanted: code });
    makeChannel(sheet, taxonomy);
    const next = Math.max(last.version + 1, given ? sheet.version : 0);
    await tx.insert(sheetVersion).values({
      channel: code,
      version: next,
      sheet: { ...sheet, version: next },
      taxonomy,
      bundled: last.bundled,
      revision: 1,
      takenOnAt: null,
      createdAt: new Date(),
    });
    return next;
  });
  await recordActivity(person, `opened version ${version} of the sheet`, code);
  return version;
}

export type SheetResult = { ok: true; revision: number; sheet: Sheet } | { ok: false; words: string };

/**
 * Writes the open version. Refused where it is not valid, with the place, and where someone else saved since `revision`.
 */
export async function saveVersion(
  code: string,
  revision: number,
  given: unknown,
  taxonomy: string,
): Promise<SheetResult> {
  await currentUser();
  let channel: Channel;
  try {
    channel = makeChannel(given, taxonomy);
  } catch (error) {
    if (error instanceof InputError) return { ok: false, words: error.message };
    throw error;
  }
  return db.transaction(async (tx): Promise<SheetResult> => {
    const [row] = await tx.select(keyColumns).from(sheetVersion).where(openOf(code)).for('update');
    if (!row)
      return { ok: false, words: 'This version was accepted or deleted. Open a new version to change it.' };
    if (row.revision !== revision)
      return {
        ok: false,
        words: 'Someone else changed this version. Reload the page to see the change.',
      };
    const sheet: Sheet = { ...channel.sheet, code, version: row.version };
    await tx
      .update(sheetVersion)
      .set({ sheet, taxonomy, revision: revision + 1 })
      .where(openOf(code));
    return { ok: true, revision: revision + 1, sheet };
  });
}

/** Takes the open version on: from now on it counts for every feed of the channel. */
export async function takeOnVersion(code: string, revision: number): Promise<void> {
  const person = await currentUser();
  const version = await db.transaction(async (tx) => {
    const [row] = await tx.select(keyColumns).from(sheetVersion).where(openOf(code)).for('update');
    if (!row) throw new InputError('noOpenVersion');
    if (row.revision !== revision) throw new InputError('versionChanged');
    await tx.update(sheetVersion).set({ takenOnAt: new Date() }).where(openOf(code));
    await enqueue(tx, 'evaluateFeeds', {});
    return row.version;
  });
  await recordActivity(person, `accepted version ${version} of the sheet`, code);
}

/** Drops the open version; where it is the only one, the channel with it. */
export async function dropVersion(code: string): Promise<void> {
  const person = await currentUser();
  await db.delete(sheetVersion).where(openOf(code));
  await recordActivity(person, 'deleted the open version of the sheet', code);
}

/** The codes of a channel's feeds, in their order. */
export async function feedsOf(code: string): Promise<string[]> {
  const rows = await db
    .select({ code: feed.code })
    .from(feed)
    .where(eq(feed.channel, code))
    .orderBy(feed.position);
  return rows.map((row) => row.code);
}

/**
 * Deletes a channel that a merchant made, with all versions of its sheet.
 * @throws InputError where it ships with the application, or has feeds: they are named
 */
export async function removeChannel(code: string): Promise<void> {
  const person = await currentUser();
  const versions = await db.select().from(sheetVersion).where(eq(sheetVersion.channel, code));
  if (versions.length === 0) throw new InputError('noChannel', { channel: code });
  if (versions.some(({ bundled }) => bundled)) throw new InputError('channelStays');
  const feeds = await feedsOf(code);
  if (feeds.length > 0) throw new InputError('channelHasFeeds', { feeds: feeds.join(', ') });
  await db.delete(sheetVersion).where(eq(sheetVersion.channel, code));
  await recordActivity(person, 'deleted a channel', code);
}
