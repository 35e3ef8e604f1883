import {
  bigint,
  boolean,
  char,
  customType,
  datetime,
  double,
  index,
  int,
  mysqlTable,
  primaryKey,
  text,
  uniqueIndex,
  varchar,
} from 'drizzle-orm/mysql-core';
import type { Values } from '../../core/catalog/item';
import type { ImportMapping } from '../../core/intake/mapping';
import type { Repair } from '../../core/intake/repairs';
import type { Plan } from '../../core/listing/plan';

/**
 * JSON columns. MariaDB keeps JSON as checked text and its driver gives text back, so the column parses itself.
 */
const json = <T>(name: string) =>
  customType<{ data: T; driverData: string }>({
    dataType: () => 'json',
    toDriver: (value) => JSON.stringify(value),
    fromDriver: (value) => (typeof value === 'string' ? JSON.parse(value) : value) as T,
  })(name);

const code = (name: string) => varchar(name, { length: 190 });
/** Times are UTC, to the millisecond. */
const time = (name: string) => datetime(name, { mode: 'date', fsp: 3 });

/** One row: the catalog's revision, raised with every change, and the merchant's name. */
export const workspace = mysqlTable('workspace', {
  id: int('id').primaryKey(),
  name: varchar('name', { length: 200 }).notNull(),
  catalogRevision: bigint('catalog_revision', { mode: 'number' }).notNull(),
});

export const attribute = mysqlTable('attribute', {
  code: code('code').primaryKey(),
  label: varchar('label', { length: 200 }).notNull(),
  kind: varchar('kind', { length: 20 }).notNull(),
  unit: varchar('unit', { length: 20 }),
  synonyms: json<string[]>('synonyms').notNull(),
  position: int('position').notNull(),
});

export const family = mysqlTable('family', {
  code: code('code').primaryKey(),
  variesBy: json<string[]>('varies_by').notNull(),
  values: json<Values>('own_values').notNull(),
  revision: bigint('revision', { mode: 'number' }).notNull(),
});

/** Where a value was read: the file, its row and column, and what stood in the cell. */
export interface Origin {
  file: string;
  row: number;
  column: string;
  cell: string;
}

/** The sellable unit. `sku` compares letter for letter; name, brand, gtin and category repeat the JSON for search and sorting. */
export const item = mysqlTable(
  'item',
  {
    id: int('id').autoincrement().primaryKey(),
    sku: code('sku').notNull(),
    family: code('family'),
    values: json<Values>('own_values').notNull(),
    origins: json<Record<string, Origin>>('origins').notNull(),
    name: varchar('name', { length: 500 }),
    brand: code('brand'),
    gtin: code('gtin'),
    category: code('category'),
    revision: bigint('revision', { mode: 'number' }).notNull(),
  },
  (table) => [
    uniqueIndex('item_sku').on(table.sku),
    index('item_family').on(table.family),
    index('item_category').on(table.category),
    index('item_gtin').on(table.gtin),
    index('item_brand').on(table.brand),
    index('item_revision').on(table.revision),
  ],
);

export interface PictureFacts {
  width: number;
  height: number;
  format: string;
  bytes: number;
  /** Share of the outermost pixels that are pure white, 0 to 1. */
  whiteBorder: number;
}

export const picture = mysqlTable('picture', {
  link: varchar('link', { length: 700 }).primaryKey(),
  file: varchar('file', { length: 200 }),
  facts: json<PictureFacts | null>('facts'),
});

export const source = mysqlTable('source', {
  id: int('id').autoincrement().primaryKey(),
  name: varchar('name', { length: 200 }).notNull(),
  mapping: json<ImportMapping | null>('mapping'),
  createdAt: time('created_at').notNull(),
});

export interface RunCounts {
  rows: number;
  new: number;
  changed: number;
  unchanged: number;
  rejected: number;
}

export interface RunExample {
  sku: string;
  row: number;
  /** Attribute, before, after. */
  changes: [string, string, string][];
}

/** One pass of a file: first checked (nothing changes), then applied. `rowsDone` lets a run go on where it stopped. */
export const run = mysqlTable('run', {
  id: int('id').autoincrement().primaryKey(),
  sourceId: int('source_id').notNull(),
  fileName: varchar('file_name', { length: 300 }).notNull(),
  path: varchar('path', { length: 500 }).notNull(),
  bytes: bigint('bytes', { mode: 'number' }).notNull(),
  mapping: json<ImportMapping>('mapping').notNull(),
  state: varchar('state', { length: 20 })
    .notNull()
    .$type<'uploaded' | 'checking' | 'checked' | 'applying' | 'done' | 'failed'>(),
  counts: json<RunCounts>('counts').notNull(),
  examples: json<RunExample[]>('examples').notNull(),
  repairs: json<Repair[]>('repairs'),
  bytesDone: bigint('bytes_done', { mode: 'number' }).notNull(),
  rowsDone: int('rows_done').notNull(),
  error: text('error'),
  createdAt: time('created_at').notNull(),
  finishedAt: time('finished_at'),
});

export const rejection = mysqlTable(
  'rejection',
  {
    runId: int('run_id').notNull(),
    row: int('row_number').notNull(),
    reason: varchar('reason', { length: 500 }).notNull(),
    record: json<string[]>('record').notNull(),
  },
  (table) => [primaryKey({ columns: [table.runId, table.row] })],
);

/** One channel in one market. */
export const feed = mysqlTable('feed', {
  code: code('code').primaryKey(),
  channel: code('channel').notNull(),
  country: char('country', { length: 2 }).notNull(),
  language: varchar('language', { length: 20 }).notNull(),
  currency: char('currency', { length: 3 }).notNull(),
  position: int('position').notNull(),
});

/** The one draft of a feed. `revision` is the optimistic lock; `changes` counts edits since the last publish. */
export const draft = mysqlTable('draft', {
  feed: code('feed').primaryKey(),
  plan: json<Plan>('plan').notNull(),
  revision: int('revision').notNull(),
});

/** Plans as they were before each edit of the draft, for undo. */
export const draftStep = mysqlTable(
  'draft_step',
  {
    id: int('id').autoincrement().primaryKey(),
    feed: code('feed').notNull(),
    words: varchar('words', { length: 300 }).notNull(),
    plan: json<Plan>('plan').notNull(),
    at: time('at').notNull(),
  },
  (table) => [index('draft_step_feed').on(table.feed)],
);

export const planVersion = mysqlTable(
  'plan_version',
  {
    feed: code('feed').notNull(),
    version: int('version').notNull(),
    plan: json<Plan>('plan').notNull(),
    publishedAt: time('published_at').notNull(),
    words: varchar('words', { length: 300 }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.feed, table.version] })],
);

export interface ChannelProblem {
  code: string;
  field: string | null;
  text: string;
}

/** What a feed's channel knows of an item: what was last sent, what it last accepted, what it last said. */
export const listing = mysqlTable(
  'listing',
  {
    feed: code('feed').notNull(),
    sku: code('sku').notNull(),
    sentDigest: char('sent_digest', { length: 32 }),
    acceptedDigest: char('accepted_digest', { length: 32 }),
    answer: varchar('answer', { length: 20 }).notNull().$type<'waiting' | 'accepted' | 'refused'>(),
    problems: json<ChannelProblem[]>('problems').notNull(),
    submissionId: int('submission_id').notNull(),
  },
  (table) => [primaryKey({ columns: [table.feed, table.sku] })],
);

export const submission = mysqlTable(
  'submission',
  {
    id: int('id').autoincrement().primaryKey(),
    feed: code('feed').notNull(),
    version: int('version').notNull(),
    state: varchar('state', { length: 20 })
      .notNull()
      .$type<'queued' | 'sending' | 'waiting' | 'answered' | 'failed'>(),
    key: char('idempotency_key', { length: 36 }).notNull(),
    remoteId: varchar('remote_id', { length: 100 }),
    total: int('total').notNull(),
    accepted: int('accepted').notNull(),
    refused: int('refused').notNull(),
    error: text('error'),
    createdAt: time('created_at').notNull(),
    sentAt: time('sent_at'),
    answeredAt: time('answered_at'),
  },
  (table) => [index('submission_feed').on(table.feed)],
);

export const submissionEntry = mysqlTable(
  'submission_entry',
  {
    submissionId: int('submission_id').notNull(),
    sku: code('sku').notNull(),
    digest: char('digest', { length: 32 }).notNull(),
    values: json<Values>('sent_values').notNull(),
    answer: varchar('answer', { length: 20 }).notNull().$type<'waiting' | 'accepted' | 'refused'>(),
    problems: json<ChannelProblem[]>('problems').notNull(),
  },
  (table) => [primaryKey({ columns: [table.submissionId, table.sku] })],
);

/** Background work. Taken with `FOR UPDATE SKIP LOCKED`; a lease that runs out gives the job back. */
export const job = mysqlTable(
  'job',
  {
    id: int('id').autoincrement().primaryKey(),
    kind: varchar('kind', { length: 40 }).notNull(),
    payload: json<Record<string, number>>('payload').notNull(),
    state: varchar('state', { length: 20 }).notNull().$type<'queued' | 'running' | 'done' | 'failed'>(),
    attempts: int('attempts').notNull(),
    runAt: time('run_at').notNull(),
    leasedUntil: time('leased_until'),
    progress: double('progress').notNull(),
    stopAsked: boolean('stop_asked').notNull(),
    error: text('error'),
  },
  (table) => [
    index('job_ready').on(table.state, table.runAt),
    index('job_leased').on(table.state, table.leasedUntil),
  ],
);

/** Items pinned to the sample tray, in order. */
export const sample = mysqlTable('sample', {
  sku: code('sku').primaryKey(),
  position: int('position').notNull(),
});

export const activity = mysqlTable('activity', {
  id: int('id').autoincrement().primaryKey(),
  at: time('at').notNull(),
  who: varchar('who', { length: 100 }).notNull(),
  what: varchar('what', { length: 300 }).notNull(),
  subject: varchar('subject', { length: 300 }).notNull(),
});
