import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  char,
  customType,
  date,
  datetime,
  double,
  index,
  int,
  longtext,
  mediumtext,
  mysqlTable,
  primaryKey,
  text,
  uniqueIndex,
  varchar,
} from 'drizzle-orm/mysql-core';
import type { Misfit } from '../../core/catalog/grouping';
import { readValues, type Values } from '../../core/catalog/item';
import type { Term } from '../../core/catalog/terms';
import { readSheet } from '../../core/channels/bundle';
import type { ComparedCheck } from '../../core/checks/comparing';
import type { CatalogHints } from '../../core/checks/externalFacts';
import type { Issue } from '../../core/checks/issue';
import { retentionSchema } from '../../core/forms/retention';
import { shopVisitsSchema } from '../../core/forms/shopVisits';
import { type ImportAlarm, importLimitsSchema } from '../../core/import/importReview';
import { type ImportMapping, importMappingSchema } from '../../core/import/mapping/importMapping';
import type { Repair } from '../../core/import/mapping/repairs';
import { MAX_TERM } from '../../core/keywords/keyword';
import type { RejectionCause } from '../../core/ledger/causes';
import type { ListDifference } from '../../core/ledger/comparison';
import type { FoundEntry } from '../../core/ledger/entries';
import type { Due, OfBlocked, Problem } from '../../core/ledger/ledger';
import { type Alarm, limitsSchema } from '../../core/ledger/review';
import type { ListingState } from '../../core/listing/evaluate';
import { expectationSchema } from '../../core/listing/expectations';
import { type FeedFigures, MAX_CAUSES } from '../../core/listing/figures';
import { rangeMappingSchema } from '../../core/matching/supplierRange';
import type { NotificationFacts, NotificationKind } from '../../core/notifications/notifications';
import type { Overlay } from '../../core/pictures/overlay';
import { storedPlan } from '../../core/plans/plan';
import { readSchedule, type Schedule } from '../../core/schedule/schedule';
import type { PageFacts } from '../../core/shop/page';

/** JSON as the driver gives it: parsed where the database says that it is JSON, as text where it does not. */
const storedJson = <T>(value: unknown): T => (typeof value === 'string' ? JSON.parse(value) : value) as T;

/**
 * JSON columns. MariaDB keeps JSON as checked text and its driver gives text back, so the column parses itself.
 * @param read checks what was stored, perhaps by an earlier version, and makes it what it is today; left out where rows come
 *   by the hundred thousand and were checked as they were written
 */
const json = <T>(name: string, read?: (stored: unknown) => T) =>
  customType<{ data: T; driverData: string }>({
    dataType: () => 'json',
    toDriver: (value) => JSON.stringify(value),
    fromDriver: (value) => (read ? read(storedJson(value)) : storedJson<T>(value)),
  })(name);

const bytes = (name: string, most: number) =>
  customType<{ data: Uint8Array; driverData: Buffer }>({
    dataType: () => `varbinary(${most})`,
    toDriver: (value) => Buffer.from(value),
    fromDriver: (value) => new Uint8Array(value),
  })(name);

/**
 * A short digest that the database keeps of a long text, to look up many by; see `hasDigestOf` of `bulk.ts`.
 */
const digestOf = (text: string) =>
  customType<{ data: Uint8Array; driverData: Buffer }>({ dataType: () => 'binary(8)' })(
    `${text}_digest`,
  ).generatedAlwaysAs(sql`left(unhex(md5(${sql.identifier(text)})), 8)`, { mode: 'stored' });

const keptSchedule = (stored: unknown): Schedule | null => (stored === null ? null : readSchedule(stored));

const readMapping = (stored: unknown): ImportMapping => importMappingSchema.parse(stored);

const code = (name: string) => varchar(name, { length: 190 });
/** Times are UTC, to the millisecond. */
const time = (name: string) => datetime(name, { mode: 'date', fsp: 3 });

/** One row: the catalog's revision, raised with every change, and the merchant's name. */
export const workspace = mysqlTable('workspace', {
  id: int('id').primaryKey(),
  name: varchar('name', { length: 200 }).notNull(),
  catalogRevision: bigint('catalog_revision', { mode: 'number' }).notNull(),
  /** The last revision at which an item went away; who read the catalog before it must read it whole. */
  reloadRevision: bigint('reload_revision', { mode: 'number' }).notNull().default(0),
  /** Where pictures that are uploaded here can be fetched from, with a slash behind it. */
  pictureBase: varchar('picture_base', { length: 300 }).notNull().default(''),
  /** The currency of amounts that name none, on items that name none; ISO 4217. Empty where nobody has said. */
  currency: char('currency', { length: 3 }).notNull().default(''),
  /** The merchant's IANA time zone, and how pages write numbers and dates: language and region, BCP 47. */
  zone: varchar('zone', { length: 60 }).notNull().default('UTC'),
  locale: varchar('locale', { length: 20 }).notNull().default('en-GB'),
  /** The language that texts are in where an attribute says no other; BCP 47 primary subtag. */
  language: varchar('language', { length: 3 }).notNull().default('en'),
  /** Digest of the programs by which listings were last counted whole: others may come to other results. */
  countedBy: char('counted_by', { length: 64 }).notNull().default(''),
  /** The catalog's revision at which keywords changed last. */
  keywordsRevision: bigint('keywords_revision', { mode: 'number' }).notNull().default(0),
  /** How the shop's pages are visited; not at all where it is null. */
  shopVisits: json('shop_visits', (stored) => (stored === null ? null : shopVisitsSchema.parse(stored))),
  /** The catalog's revision up to which the pages of items are known, and to which items were held against each other. */
  pagesRevision: bigint('pages_revision', { mode: 'number' }).notNull().default(-1),
  remarksRevision: bigint('remarks_revision', { mode: 'number' }).notNull().default(-1),
  /** Digest of the brands that names were searched for. */
  remarkedBrands: char('remarked_brands', { length: 32 }).notNull().default(''),
  /** How long things are kept that pile up; the usual where it is null. */
  retention: json('retention', (stored) => (stored === null ? null : retentionSchema.parse(stored))),
});

export const attribute = mysqlTable('attribute', {
  code: code('code').primaryKey(),
  label: varchar('label', { length: 200 }).notNull(),
  kind: varchar('kind', { length: 20 }).notNull(),
  unit: varchar('unit', { length: 20 }),
  synonyms: json<string[]>('synonyms').notNull(),
  position: int('position').notNull(),
  /** The terms of a choice, in their order. */
  terms: json<Term[] | null>('terms'),
  /** Whether it holds a list of texts; pictures always do. */
  list: boolean('is_list').notNull().default(false),
  /** Code of the only family that has this attribute; null where all items have it. */
  family: code('family'),
  /** Languages it is written in beside the main one. */
  languages: json<string[] | null>('languages'),
});

/** What shoppers type. */
export const keyword = mysqlTable(
  'keyword',
  {
    /** BCP 47 primary subtag. */
    language: varchar('language', { length: 3 }).notNull(),
    /** The merchant's category; empty for any. */
    category: code('category').notNull(),
    term: varchar('term', { length: MAX_TERM }).notNull(),
    volume: int('volume').notNull(),
  },
  (table) => [primaryKey({ columns: [table.language, table.category, table.term] })],
);

/** Numbers of goods that were bought together. */
export const gtinBlock = mysqlTable('gtin_block', {
  id: int('id').autoincrement().primaryKey(),
  /** The first of them without its check digit. */
  firstNumber: varchar('first_number', { length: 13 }).notNull(),
  count: int('count').notNull(),
});

/** Which of them was given to which item: no number is given again to another. */
export const gtinAssignment = mysqlTable(
  'gtin_assignment',
  {
    gtin: varchar('gtin', { length: 14 }).primaryKey(),
    sku: code('sku').notNull(),
    at: time('at').notNull(),
  },
  (table) => [index('gtin_assignment_sku').on(table.sku)],
);

/** What another makes or ships. */
export const supplierRange = mysqlTable('supplier_range', {
  code: code('code').primaryKey(),
  name: varchar('name', { length: 200 }).notNull(),
  /** Which attribute each column of its file is. */
  mapping: json('mapping', (stored) => rangeMappingSchema.parse(stored)).notNull(),
  importedAt: time('imported_at').notNull(),
});

/** A variant under the partner's own code. */
export const supplierVariant = mysqlTable(
  'supplier_variant',
  {
    range: code('range_code').notNull(),
    code: code('code').notNull(),
    values: json('own_values', readValues).notNull(),
    position: int('position').notNull(),
  },
  (table) => [primaryKey({ columns: [table.range, table.code] })],
);

/** Whether an item is a partner's variant, as it was settled. */
export const supplierMatch = mysqlTable(
  'supplier_match',
  {
    range: code('range_code').notNull(),
    sku: code('sku').notNull(),
    variant: code('variant').notNull(),
    same: boolean('same').notNull(),
    /** By a person, and not since it was sure. */
    byHand: boolean('by_hand').notNull(),
  },
  (table) => [primaryKey({ columns: [table.range, table.sku, table.variant] })],
);

export const family = mysqlTable('family', {
  code: code('code').primaryKey(),
  variesBy: json<string[]>('varies_by').notNull(),
  values: json('own_values', readValues).notNull(),
  revision: bigint('revision', { mode: 'number' }).notNull(),
});

/** Where a value was read: the file, its row and column, and what stood in the cell. A person's own hand has no file. */
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
    values: json('own_values', readValues).notNull(),
    origins: json<Record<string, Origin>>('origins').notNull(),
    name: varchar('name', { length: 500 }),
    brand: code('brand'),
    gtin: code('gtin'),
    category: code('category'),
    mpn: code('mpn'),
    /** The source that brought the item last. */
    sourceId: int('source_id'),
    archived: boolean('archived').notNull().default(false),
    /** The day of the last change; null where it was before days were written down. */
    changedOn: date('changed_on', { mode: 'string' }),
    revision: bigint('revision', { mode: 'number' }).notNull(),
  },
  (table) => [
    uniqueIndex('item_sku').on(table.sku),
    index('item_family').on(table.family),
    index('item_category').on(table.category),
    index('item_gtin').on(table.gtin),
    index('item_brand').on(table.brand),
    index('item_mpn').on(table.mpn),
    index('item_source').on(table.sourceId),
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
  /** What was put on it beside the thing it shows; left out where nothing was. */
  beside?: Overlay[];
}

export const picture = mysqlTable(
  'picture',
  {
    link: varchar('link', { length: 700 }).primaryKey(),
    digest: digestOf('link'),
    file: varchar('file', { length: 200 }),
    facts: json<PictureFacts | null>('facts'),
    /** Why it could not be read, where it was looked at and could not. */
    trouble: varchar('trouble', { length: 200 }),
    /** The catalog's revision as of which the items that show it were counted with what was found; null until they were. */
    revision: bigint('revision', { mode: 'number' }),
    /** Difference hash of what it looks like; pictures that are nearly the same have nearly the same one. */
    perceptualHash: char('perceptual_hash', { length: 14 }),
    /** What it looks like from afar (`core/pictures/thumbnail.ts`). */
    thumbnail: bytes('thumbnail', 768),
    /** The picture that was there before and is the same, scaled or saved anew; null where it is the first of its kind. */
    same: varchar('same', { length: 700 }),
    alternativeText: varchar('alternative_text', { length: 500 }),
  },
  (table) => [
    index('picture_digest').on(table.digest),
    index('picture_revision').on(table.revision),
    index('picture_perceptual_hash').on(table.perceptualHash),
    index('picture_same').on(table.same),
  ],
);

/** A page of the shop: what it said when it was last visited, and when it is to be visited again. */
export const shopPage = mysqlTable(
  'shop_page',
  {
    address: varchar('address', { length: 700 }).primaryKey(),
    digest: digestOf('address'),
    /** Null until it was visited. */
    seen: json<PageFacts | null>('seen'),
    /** The catalog's revision as of which its items were counted with it. */
    revision: bigint('revision', { mode: 'number' }).notNull().default(0),
    visitedAt: time('visited_at'),
    nextAt: time('next_at').notNull(),
    /** Visits in a row to which no answer came that counts, and what the last of them met. */
    failures: int('failures').notNull().default(0),
    trouble: varchar('trouble', { length: 300 }),
  },
  (table) => [
    index('shop_page_digest').on(table.digest),
    index('shop_page_next').on(table.nextAt),
    index('shop_page_revision').on(table.revision),
  ],
);

/** Which items have which page. */
export const shopPageItem = mysqlTable(
  'shop_page_item',
  { sku: code('sku').primaryKey(), address: varchar('address', { length: 700 }).notNull() },
  (table) => [index('shop_page_item_address').on(table.address)],
);

/** What a shop says of visitors, `/robots.txt`, as it was read last. */
export const shopRules = mysqlTable('shop_rules', {
  origin: varchar('origin', { length: 300 }).primaryKey(),
  status: int('status').notNull(),
  rules: mediumtext('rules'),
  readAt: time('read_at').notNull(),
});

/** What the rest of the catalog tells of an item; null where it told something once and does no more. */
export const itemHint = mysqlTable(
  'item_hint',
  {
    sku: code('sku').primaryKey(),
    hints: json<CatalogHints | null>('hints'),
    revision: bigint('revision', { mode: 'number' }).notNull(),
  },
  (table) => [index('item_hint_revision').on(table.revision)],
);

/** How many items each category had when its items were last held against each other; "" for those without one. */
export const comparedCategory = mysqlTable('compared_category', {
  category: code('category').primaryKey(),
  items: int('items').notNull(),
});

/** A file or an address that items come from. Its mapping is that of its last run that was brought in. */
export const source = mysqlTable('source', {
  id: int('id').autoincrement().primaryKey(),
  name: varchar('name', { length: 200 }).notNull(),
  mapping: json<ImportMapping | null>('mapping', readMapping),
  address: varchar('address', { length: 700 }),
  schedule: json('schedule', keptSchedule),
  /** Whether a fetched file is brought in without being asked, once it is checked. */
  automatic: boolean('automatic').notNull().default(false),
  /** From where on an automatic import is held for review; the usual limits where it is null. */
  limits: json('import_limits', (stored) => (stored === null ? null : importLimitsSchema.parse(stored))),
  /** Codes of the feeds that its new items do not join until a person lets them. */
  waitsFor: json<string[] | null>('waits_for'),
  etag: varchar('etag', { length: 200 }),
  fetchedAt: time('fetched_at'),
  fetchAt: time('fetch_at'),
  fetchWords: varchar('fetch_words', { length: 300 }),
  createdAt: time('created_at').notNull(),
});

export interface RunCounts {
  rows: number;
  new: number;
  changed: number;
  unchanged: number;
  missing: number;
  rejected: number;
}

export type RunState =
  | 'uploaded'
  | 'checking'
  | 'checked'
  | 'applying'
  | 'done'
  | 'undoing'
  | 'undone'
  | 'failed';

/** One pass of a file: first checked (nothing changes), then applied. `itemsDone` counts what has been written. */
export const run = mysqlTable(
  'run',
  {
    id: int('id').autoincrement().primaryKey(),
    sourceId: int('source_id')
      .notNull()
      .references(() => source.id, { onDelete: 'cascade' }),
    fileName: varchar('file_name', { length: 300 }).notNull(),
    path: varchar('path', { length: 500 }).notNull(),
    bytes: bigint('bytes', { mode: 'number' }).notNull(),
    mapping: json('mapping', readMapping).notNull(),
    state: varchar('state', { length: 20 }).notNull().$type<RunState>(),
    counts: json<RunCounts>('counts').notNull(),
    repairs: json<Repair[]>('repairs'),
    /** How many values, by attribute, a person has mended by hand and the file says otherwise: they stay. */
    held: json<Record<string, number> | null>('held'),
    /** What looked wrong when it was checked: an automatic import waits for a person then. */
    alarms: json<ImportAlarm[] | null>('alarms'),
    bytesDone: bigint('bytes_done', { mode: 'number' }).notNull(),
    rowsDone: int('rows_done').notNull(),
    error: text('error'),
    createdAt: time('created_at').notNull(),
    finishedAt: time('finished_at'),
  },
  (table) => [index('run_source').on(table.sourceId)],
);

/** All that makes up an item besides its SKU. */
export interface ItemState {
  readonly family: string | null;
  readonly values: Values;
  readonly origins: Record<string, Origin>;
  readonly archived: boolean;
  readonly sourceId: number | null;
}

export type RunItemKind = 'new' | 'changed' | 'unchanged' | 'missing' | 'parent';

/** What a run found for each item: staged while checking, written while applying, kept to be undone. */
export const runItem = mysqlTable(
  'run_item',
  {
    runId: int('run_id')
      .notNull()
      .references(() => run.id, { onDelete: 'cascade' }),
    /** Row in the file; below 0 for items that are missing from it. */
    row: int('row_number').notNull(),
    itemKey: code('item_key').notNull(),
    sku: code('sku').notNull(),
    kind: varchar('kind', { length: 12 }).notNull().$type<RunItemKind>(),
    /** What the rows of one family share; null where nothing is to be grouped. */
    groupKey: code('group_key'),
    family: code('family'),
    values: json('read_values', readValues).notNull(),
    /** What stood in the file, where it is not what was read of it. */
    cells: json<Record<string, string>>('cells').notNull(),
    /** Attribute, before, after; empty for new items, whose values are all new. */
    changes: json<[string, string, string][]>('changes').notNull(),
    misfit: varchar('misfit', { length: 20 }).$type<Misfit>(),
    chosen: boolean('chosen').notNull().default(true),
    applied: boolean('applied').notNull().default(false),
    /** The item as it stood; null where there was none. */
    before: json<ItemState | null>('state_before'),
    /** Attributes that were changed since and so not undone. */
    kept: json<string[] | null>('kept'),
  },
  (table) => [
    primaryKey({ columns: [table.runId, table.row] }),
    uniqueIndex('run_item_key').on(table.runId, table.itemKey),
    index('run_item_sku').on(table.runId, table.sku),
    index('run_item_group').on(table.runId, table.groupKey),
    index('run_item_kind').on(table.runId, table.kind, table.row),
  ],
);

export interface FamilyState {
  readonly variesBy: string[];
  readonly values: Values;
}

/** Families that a run would make or has made or changed. */
export const runFamily = mysqlTable(
  'run_family',
  {
    runId: int('run_id')
      .notNull()
      .references(() => run.id, { onDelete: 'cascade' }),
    code: code('code').notNull(),
    name: varchar('name', { length: 500 }).notNull(),
    items: int('items').notNull(),
    axes: json<string[]>('axes').notNull(),
    shared: json<Values | null>('shared'),
    written: boolean('written').notNull().default(false),
    before: json<FamilyState | null>('state_before'),
    after: json<FamilyState | null>('state_after'),
  },
  (table) => [primaryKey({ columns: [table.runId, table.code] })],
);

/** One change a person made to the catalog by hand, kept so that it can be taken back. */
export const catalogEdit = mysqlTable('catalog_edit', {
  id: int('id').autoincrement().primaryKey(),
  at: time('at').notNull(),
  who: varchar('who', { length: 100 }).notNull(),
  words: varchar('words', { length: 300 }).notNull(),
  undone: boolean('undone').notNull().default(false),
  /** Equal for all that one press changed: undone together. */
  joint: char('joint', { length: 36 }),
});

export const catalogEditItem = mysqlTable(
  'catalog_edit_item',
  {
    editId: int('edit_id').notNull(),
    sku: code('sku').notNull(),
    before: json<ItemState | null>('state_before'),
    after: json<ItemState | null>('state_after'),
  },
  (table) => [primaryKey({ columns: [table.editId, table.sku] })],
);

export const catalogEditFamily = mysqlTable(
  'catalog_edit_family',
  {
    editId: int('edit_id').notNull(),
    code: code('code').notNull(),
    before: json<FamilyState | null>('state_before'),
    after: json<FamilyState | null>('state_after'),
  },
  (table) => [primaryKey({ columns: [table.editId, table.code] })],
);

/** How a person likes to see the items: the address the grid had. */
export const savedView = mysqlTable('saved_view', {
  id: int('id').autoincrement().primaryKey(),
  name: varchar('name', { length: 100 }).notNull(),
  query: varchar('query', { length: 3000 }).notNull(),
});

export const rejection = mysqlTable(
  'rejection',
  {
    runId: int('run_id')
      .notNull()
      .references(() => run.id, { onDelete: 'cascade' }),
    row: int('row_number').notNull(),
    reason: varchar('reason', { length: 500 }).notNull(),
    record: json<string[]>('record').notNull(),
  },
  (table) => [primaryKey({ columns: [table.runId, table.row] })],
);

/**
 * Every version of every channel's sheet. The newest that was taken on counts; at most one is open, and only that one
 * can be changed. Bundled channels come in from their files at the start.
 */
export const sheetVersion = mysqlTable(
  'sheet_version',
  {
    channel: code('channel').notNull(),
    version: int('version').notNull(),
    sheet: json('sheet', readSheet).notNull(),
    /** The category tree as delimited text. */
    taxonomy: longtext('taxonomy').notNull(),
    bundled: boolean('bundled').notNull(),
    revision: int('revision').notNull(),
    /** Null while it is open. */
    takenOnAt: time('taken_on_at'),
    createdAt: time('created_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.channel, table.version] })],
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

/**
 * The feed that a row is part of: it goes with it. Tables with a row for each listing have no such key, which would be looked up
 * with every row that is written; `server/plans/deleting.ts` empties them.
 */
const ofFeed = () => code('feed').references(() => feed.code, { onDelete: 'cascade', onUpdate: 'cascade' });

/** The one draft of a feed. `revision` is the optimistic lock; `changes` counts edits since the last publish. */
export const draft = mysqlTable('draft', {
  feed: ofFeed().primaryKey(),
  plan: json('plan', storedPlan).notNull(),
  revision: int('revision').notNull(),
});

/** Plans as they were before each edit of the draft, for undo. */
export const draftStep = mysqlTable(
  'draft_step',
  {
    id: int('id').autoincrement().primaryKey(),
    feed: ofFeed().notNull(),
    words: varchar('words', { length: 300 }).notNull(),
    plan: json('plan', storedPlan).notNull(),
    at: time('at').notNull(),
    /** Equal for all that one press changed, in drafts and in the catalog: undone together. */
    joint: char('joint', { length: 36 }),
  },
  (table) => [index('draft_step_feed').on(table.feed), index('draft_step_joint').on(table.joint)],
);

export const planVersion = mysqlTable(
  'plan_version',
  {
    feed: ofFeed().notNull(),
    version: int('version').notNull(),
    plan: json('plan', storedPlan).notNull(),
    publishedAt: time('published_at').notNull(),
    words: varchar('words', { length: 300 }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.feed, table.version] })],
);

/** Issues as they are kept: by the million, so without the names of what each of them has. */
export const packIssues = (issues: readonly Issue[]): string =>
  JSON.stringify(issues.map(({ check, severity, field, facts }) => [check, severity, field, facts]));
const issuesColumn = (name: string) =>
  customType<{ data: Issue[]; driverData: string }>({
    dataType: () => 'json',
    toDriver: packIssues,
    fromDriver: (value) =>
      storedJson<readonly unknown[][]>(value).map(
        ([check, severity, field, facts]) => ({ check, severity, field, facts }) as Issue,
      ),
  })(name);

/** What a listing may have in common with others: the check and the field, the digest in `feed_value`, what is told of it, its part. */
export type ValueShared = readonly [
  check: ComparedCheck,
  field: string,
  digest: string,
  value: string,
  part: string,
];

/**
 * What is true of each item in each feed, by the plan that counts: written as items, plan or sheet change, so that pages need not
 * compute it. With whom a listing shares what is told by `feed_value`.
 */
export const feedListing = mysqlTable(
  'feed_listing',
  {
    feed: code('feed').notNull(),
    sku: code('sku').notNull(),
    state: varchar('state', { length: 8 }).notNull().$type<ListingState>(),
    /** As the item alone would have it, before it is compared with others. */
    own: varchar('own_state', { length: 8 }).notNull().$type<ListingState>(),
    /** Why it is left out. */
    reason: varchar('reason', { length: 300 }),
    /** Of the values, in the order of the sheet's fields. */
    digest: char('digest', { length: 32 }).notNull(),
    /** The merchant's category. */
    category: code('category').notNull(),
    place: code('place'),
    /** What blocks it, each `check:field` once, in order, a line each; what the item alone has, and with what is shared. */
    ownCauses: varchar('own_causes', { length: MAX_CAUSES }).notNull(),
    causes: varchar('causes', { length: MAX_CAUSES }).notNull(),
    issues: issuesColumn('issues').notNull(),
    /** What it is compared with others by. */
    shared: json<ValueShared[]>('shared').notNull(),
    /** How complete it is: the weight of what is there, and of what could be. */
    completed: int('completed').notNull().default(0),
    total: int('total').notNull().default(0),
  },
  (table) => [
    primaryKey({ columns: [table.feed, table.sku] }),
    index('feed_listing_state').on(table.feed, table.category, table.state),
  ],
);

/** What a merchant expects of a feed, whatever is changed in it. */
export const feedExpectation = mysqlTable(
  'feed_expectation',
  {
    id: int('id').autoincrement().primaryKey(),
    feed: ofFeed().notNull(),
    expectation: json('expectation', (stored) => expectationSchema.parse(stored)).notNull(),
  },
  (table) => [index('feed_expectation_feed').on(table.feed)],
);

/** Drafts that were left under a name, to be taken up again. */
export const savedDraft = mysqlTable(
  'saved_draft',
  {
    feed: ofFeed().notNull(),
    name: varchar('name', { length: 80 }).notNull(),
    plan: json('plan', storedPlan).notNull(),
    at: time('saved_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.feed, table.name] })],
);

/**
 * What listings of a feed may have in common, by a digest of field and value: who has it is told from its key alone. What is behind a
 * digest stands with the listing; here are tens of millions of rows.
 */
export const feedValue = mysqlTable(
  'feed_value',
  {
    feed: code('feed').notNull(),
    digest: varchar('digest', { length: 16 }).notNull(),
    sku: code('sku').notNull(),
    /** Those of one part may share it; nothing where the item stands for itself. */
    part: code('part').notNull(),
    /** Whether another listing of the feed has it too; kept of what blocks then, and of nothing else. */
    alike: boolean('alike').notNull().default(false),
  },
  (table) => [primaryKey({ columns: [table.feed, table.digest, table.sku] })],
);

/** The figures of a feed, as of a revision of the catalog and a plan; and how far they are being counted anew. */
export const feedSummary = mysqlTable('feed_summary', {
  feed: ofFeed().primaryKey(),
  /** Digest of everything but the items that its listings are made of. */
  plan: char('plan', { length: 32 }).notNull(),
  /** The catalog's revision that the listings are of. */
  revision: bigint('revision', { mode: 'number' }).notNull(),
  /** While it is being counted: the revision that is counted to, the items changed since which are looked at, and the last done. */
  target: bigint('target', { mode: 'number' }),
  since: bigint('since', { mode: 'number' }).notNull(),
  upTo: int('up_to').notNull(),
  figures: json<FeedFigures>('figures').notNull(),
  /** Why it cannot be computed. */
  failed: varchar('failed', { length: 500 }),
  at: time('at').notNull(),
});

/** What a feed's channel has of each item, as it has told; `core/ledger` says how it changes. A lead of a family has a row too. */
export const ledger = mysqlTable(
  'ledger',
  {
    feed: code('feed').notNull(),
    sku: code('sku').notNull(),
    acceptedDigest: char('accepted_digest', { length: 32 }),
    acceptedSubmission: int('accepted_submission'),
    /** The values it last accepted, by field. */
    acceptedValues: json<Values | null>('accepted_values'),
    pendingSubmission: int('pending_submission'),
    /** Null where what is on its way is a removal. */
    pendingDigest: char('pending_digest', { length: 32 }),
    rejectedDigest: char('rejected_digest', { length: 32 }),
    rejectedSubmission: int('rejected_submission'),
    draftDigest: char('draft_digest', { length: 32 }),
    draftSubmission: int('draft_submission'),
    problems: json<Problem[]>('problems').notNull(),
    unsure: boolean('unsure').notNull().default(false),
    inReview: boolean('in_review').notNull().default(false),
    withdrawn: boolean('withdrawn').notNull().default(false),
    /** The channel's own number. */
    number: varchar('number', { length: 100 }),
    changedAt: time('changed_at').notNull(),
    /** The revision of the feed's ledger at which it was written. */
    revision: bigint('revision', { mode: 'number' }).notNull().default(0),
  },
  (table) => [
    primaryKey({ columns: [table.feed, table.sku] }),
    index('ledger_revision').on(table.feed, table.revision),
  ],
);

/** How often a feed's ledger was written: raised first, so that transactions on one ledger follow each other. */
export const ledgerRevision = mysqlTable('ledger_revision', {
  feed: ofFeed().primaryKey(),
  revision: bigint('revision', { mode: 'number' }).notNull(),
});

/** What a feed's channel was found to have for an item that might join it. */
export const channelEntry = mysqlTable(
  'channel_entry',
  {
    feed: ofFeed().notNull(),
    sku: code('sku').notNull(),
    entries: json<FoundEntry[]>('entries').notNull(),
    /** Null while it is still to be asked for. */
    askedAt: time('asked_at'),
    /** Why it could not be asked for. */
    trouble: varchar('trouble', { length: 300 }),
  },
  (table) => [
    primaryKey({ columns: [table.feed, table.sku] }),
    index('channel_entry_asked').on(table.feed, table.askedAt),
  ],
);

/** What a channel said beside its first answers: when it was asked, and how the list of what it has and our records compare. */
export const channelComparison = mysqlTable('channel_comparison', {
  feed: ofFeed().primaryKey(),
  askedAt: time('asked_at'),
  /** Null where the list is to be compared the next time. */
  comparedAt: time('compared_at'),
  ours: int('ours').notNull(),
  theirs: int('theirs').notNull(),
  differing: int('differing').notNull(),
  /** The first of them. */
  differences: json<ListDifference[]>('differences').notNull(),
  /** Why it could not be asked for. */
  trouble: varchar('trouble', { length: 300 }),
});

/** Entries of a channel that a person said are not what an item is. */
export const channelEntryNot = mysqlTable(
  'channel_entry_not',
  {
    feed: ofFeed().notNull(),
    sku: code('sku').notNull(),
    entry: varchar('entry', { length: 100 }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.feed, table.sku, table.entry] })],
);

export type SubmissionState =
  /** Looks wrong; waits for a person's word. */
  'planning' | 'held' | 'queued' | 'sending' | 'paused' | 'waiting' | 'answered' | 'failed' | 'stopped';

export type SubmissionCause = 'hand' | 'schedule' | 'quick' | 'back' | 'test' | 'draft';

export const submission = mysqlTable(
  'submission',
  {
    id: int('id').autoincrement().primaryKey(),
    feed: code('feed').notNull(),
    version: int('version').notNull(),
    /** Of the channel's sheet; what leaves is made with it, whatever the sheet says later. */
    sheetVersion: int('sheet_version').notNull().default(0),
    state: varchar('state', { length: 20 }).notNull().$type<SubmissionState>(),
    total: int('total').notNull(),
    accepted: int('accepted').notNull(),
    refused: int('refused').notNull(),
    withdrawn: int('withdrawn').notNull().default(0),
    inReview: int('in_review').notNull().default(0),
    silent: int('silent').notNull().default(0),
    /** Why it was held back. */
    alarms: json<Alarm[] | null>('alarms'),
    releasedBy: varchar('released_by', { length: 100 }),
    releaseWords: varchar('release_words', { length: 300 }),
    /** What made it: a person, the feed's hour, changed prices and stock, going back to what was sent earlier, a trial at the test account, or saving drafts. */
    cause: varchar('cause', { length: 10 }).notNull().default('hand').$type<SubmissionCause>(),
    /** Refusals that an issue of our own on the same field had foreseen. */
    foreseen: int('foreseen').notNull().default(0),
    /** Why listings were refused; kept when the listings themselves are not any more. */
    causes: json<RejectionCause[] | null>('causes'),
    error: text('error'),
    createdAt: time('created_at').notNull(),
    /** While it is being planned: the last sign of life of whoever plans it. */
    plannedAt: time('planned_at'),
    sentAt: time('sent_at'),
    answeredAt: time('answered_at'),
  },
  (table) => [index('submission_feed').on(table.feed), index('submission_answered').on(table.answeredAt)],
);

export type BatchState = 'made' | 'checked' | 'sent' | 'answered' | 'failed' | 'lost';

/** One file or call of a submission, with a life of its own. */
export const batch = mysqlTable(
  'batch',
  {
    submissionId: int('submission_id')
      .notNull()
      .references(() => submission.id, { onDelete: 'cascade' }),
    position: int('position').notNull(),
    state: varchar('state', { length: 12 }).notNull().$type<BatchState>(),
    count: int('count').notNull(),
    /** Whether it holds only the fields that may be sent by themselves. */
    quick: boolean('quick').notNull().default(false),
    /** What is sent, by its content: equal files are one. SHA-256, in hexadecimal digits. */
    file: char('file', { length: 64 }).notNull(),
    bytes: bigint('bytes', { mode: 'number' }).notNull(),
    /** Whether its file was kept as long as it was to be, and is gone. */
    fileDropped: boolean('file_dropped').notNull().default(false),
    key: char('idempotency_key', { length: 36 }).notNull(),
    /** The number on the channel's receipt. */
    receipt: varchar('receipt', { length: 200 }),
    /** How often it was tried without an answer of any kind. */
    tries: int('tries').notNull().default(0),
    error: varchar('error', { length: 500 }),
    /** When it left; until then when it was made, or sending it was begun anew. */
    sentAt: time('sent_at'),
    answeredAt: time('answered_at'),
  },
  (table) => [
    primaryKey({ columns: [table.submissionId, table.position] }),
    uniqueIndex('batch_key').on(table.key),
    index('batch_file').on(table.file),
  ],
);

export type EntryAnswer =
  | 'waiting'
  | 'accepted'
  | 'drafted'
  | 'refused'
  | 'inReview'
  | 'withdrawn'
  | 'silent'
  | 'failed';

/** One listing of a submission, as it was meant to leave. */
export const submissionEntry = mysqlTable(
  'submission_entry',
  {
    submissionId: int('submission_id').notNull(),
    sku: code('sku').notNull(),
    /** Place among all of the submission; batches are cut by it. */
    position: int('position').notNull().default(0),
    batch: int('batch').notNull().default(0),
    /** What the channel knows it by. */
    ref: code('ref').notNull().default(''),
    due: varchar('due', { length: 12 }).notNull().default('new').$type<Due>(),
    relation: varchar('relation', { length: 8 }).$type<'lead' | 'member'>(),
    /** Whether only the fields that may be sent by themselves have changed. */
    quick: boolean('quick').notNull().default(false),
    /** Null where it is taken back. */
    digest: char('digest', { length: 32 }),
    values: json('sent_values', readValues).notNull(),
    answer: varchar('answer', { length: 20 }).notNull().$type<EntryAnswer>(),
    problems: json<Problem[]>('problems').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.submissionId, table.sku] }),
    index('submission_entry_ref').on(table.submissionId, table.ref),
    index('submission_entry_answer').on(table.submissionId, table.answer),
    index('submission_entry_batch').on(table.submissionId, table.batch, table.position),
  ],
);

/** Where a feed goes and how carefully: the feed's own, beside its plan. */
export const destination = mysqlTable('destination', {
  feed: ofFeed().primaryKey(),
  /** Null for the simulator that ships with the application. */
  address: varchar('address', { length: 700 }),
  /** Encrypted; null where none is needed. */
  credential: varchar('credential', { length: 1000 }),
  /** Whether what is sent goes to the channel's test account, and changes nothing of what the channel is known to have. */
  testing: boolean('testing').notNull().default(false),
  testAddress: varchar('test_address', { length: 700 }),
  testCredential: varchar('test_credential', { length: 1000 }),
  /** Part of the address at which the channel fetches; withdrawn by making another. */
  token: char('token', { length: 48 }),
  ofBlocked: varchar('of_blocked', { length: 10 }).notNull().$type<OfBlocked>(),
  limits: json('limits', (stored) => limitsSchema.parse(stored)).notNull(),
  revision: int('revision').notNull(),
});

/** When a feed is sent by itself. */
export const feedSchedule = mysqlTable(
  'feed_schedule',
  {
    feed: ofFeed().primaryKey(),
    schedule: json('schedule', keptSchedule),
    /** The day from which "every so many days" is counted. */
    beganAt: time('began_at').notNull(),
    /** Whether changes of prices and stock go out at once. */
    quick: boolean('quick').notNull().default(false),
    paused: boolean('paused').notNull().default(false),
    nextAt: time('next_at'),
    lastAt: time('last_at'),
    lastWords: varchar('last_words', { length: 300 }),
    revision: int('revision').notNull(),
  },
  (table) => [index('feed_schedule_next').on(table.nextAt)],
);

/** What happened that a person wants to hear of. */
export const notification = mysqlTable(
  'notification',
  {
    id: int('id').autoincrement().primaryKey(),
    at: time('at').notNull(),
    kind: varchar('kind', { length: 20 }).notNull().$type<NotificationKind>(),
    feed: code('feed'),
    facts: json<NotificationFacts[NotificationKind]>('facts').notNull(),
    readAt: time('read_at'),
  },
  (table) => [index('notification_read').on(table.readAt), index('notification_at').on(table.at)],
);

/** Addresses that are called when something happens. */
export const webhook = mysqlTable('webhook', {
  id: int('id').autoincrement().primaryKey(),
  address: varchar('address', { length: 700 }).notNull(),
  /** Encrypted. */
  secret: varchar('secret', { length: 1000 }).notNull(),
  kinds: json<NotificationKind[]>('kinds').notNull(),
  on: boolean('is_on').notNull(),
  createdAt: time('created_at').notNull(),
});

/** The calls: what was told to whom, and what was answered. */
export const webhookDelivery = mysqlTable(
  'webhook_delivery',
  {
    id: int('id').autoincrement().primaryKey(),
    webhookId: int('webhook_id').notNull(),
    notificationId: int('notification_id'),
    at: time('at').notNull(),
    body: text('body').notNull(),
    state: varchar('state', { length: 10 }).notNull().$type<'queued' | 'done' | 'failed'>(),
    status: int('status'),
    words: varchar('words', { length: 300 }),
    tries: int('tries').notNull(),
  },
  (table) => [
    index('webhook_delivery_webhook').on(table.webhookId),
    index('webhook_delivery_at').on(table.at),
  ],
);

/** Files that a channel fetches: the last of a feed counts, ten are kept. */
export const publication = mysqlTable(
  'publication',
  {
    feed: ofFeed().notNull(),
    number: int('number').notNull(),
    submissionId: int('submission_id').notNull(),
    file: char('file', { length: 64 }).notNull(),
    bytes: bigint('bytes', { mode: 'number' }).notNull(),
    count: int('count').notNull(),
    at: time('at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.feed, table.number] })],
);

/** One row a destination: when something went there, who is at it now, and whether it is left alone for a while. */
export const rateLimit = mysqlTable('rate_limit', {
  destination: varchar('destination', { length: 190 }).primaryKey(),
  /** When what was sent last had an answer, in ms since the epoch by the database's clock; only as many as the rate needs. */
  times: json<number[]>('times').notNull(),
  heldUntil: time('held_until'),
  holder: char('holder', { length: 36 }),
  failures: int('failures').notNull(),
  closedUntil: time('closed_until'),
  words: varchar('words', { length: 300 }),
});

/** Background work. Taken with `FOR UPDATE SKIP LOCKED`; a lease that runs out gives the job back. */
export const job = mysqlTable(
  'job',
  {
    id: int('id').autoincrement().primaryKey(),
    kind: varchar('kind', { length: 40 }).notNull(),
    payload: json<unknown>('payload').notNull(),
    state: varchar('state', { length: 20 })
      .notNull()
      .$type<'queued' | 'running' | 'done' | 'failed' | 'stopped'>(),
    attempts: int('attempts').notNull(),
    runAt: time('run_at').notNull(),
    leasedUntil: time('leased_until'),
    /** Who took it; only that one may write for it. */
    owner: char('owner', { length: 36 }),
    finishedAt: time('finished_at'),
    progress: double('progress').notNull(),
    stopAsked: boolean('stop_asked').notNull(),
    error: text('error'),
  },
  (table) => [
    index('job_ready').on(table.state, table.runAt),
    index('job_leased').on(table.state, table.leasedUntil),
  ],
);

/** Presses that were carried out, so that one whose answer was lost on its way is not carried out again. */
export const requestOnce = mysqlTable(
  'request_once',
  {
    id: char('id', { length: 36 }).primaryKey(),
    at: time('at').notNull(),
    /** Null while it is being carried out. */
    answer: json<object | null>('answer'),
  },
  (table) => [index('request_once_at').on(table.at)],
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
