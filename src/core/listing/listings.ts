import { sameValue, type Value } from '../catalog/value';
import { isCompared } from '../checks/comparing';
import type { Issue } from '../checks/issue';
import { IssueListPool } from '../checks/issueLists';
import type { Listing, ListingState } from './evaluate';
import { BATCH_ROWS, type Steps } from './steps';

type Column = (Value | undefined)[];

const states: readonly ListingState[] = ['ready', 'blocked', 'leftOut'];
const codeOf = { ready: 0, blocked: 1, leftOut: 2 } as const satisfies Record<ListingState, number>;

/** Every evaluation in full and every edit has a number of its own, by which listings are told to be the same. */
let lastMade = 0;

/** A copy of a list, with room for so many. */
function fitted<T>(list: readonly T[], length: number): T[] {
  if (list.length >= length) return list.slice(0, length);
  const copy: T[] = new Array(length);
  for (let i = 0; i < list.length; i++) copy[i] = list[i] as T;
  return copy;
}

/** Fills an array with as much of another as there is room for. */
function sized<A extends Uint8Array | Uint32Array>(of: A, array: A): A {
  array.set(of.subarray(0, array.length));
  return array;
}

/**
 * What is said of listings, in slots: one for each field of the sheet, and behind these another for each, in which stands what is said of
 * it by comparing listings. In the order of slots issues stand in a listing.
 */
interface IssueColumns {
  readonly lists: IssueListPool;
  /** By slot, then by listing: the number of a list. */
  readonly columns: (Uint32Array | undefined)[];
  /** By listing: of how many slots the list holds a blocker. */
  readonly blocked: Uint8Array;
}

/** What of a listing stands in columns, in place of what the list has: bits. */
const [ISSUES_EDITED, VALUES_EDITED] = [1, 2];

/**
 * The listings of a feed over a whole catalog, in its order. They stand in a list as they were evaluated in full; how each stands, what is
 * said of each field, and the values of fields that edits are about, stand in columns. So an edit that changes a hundred thousand listings
 * makes none of them anew, and what goes over all of them goes along the columns of what was edited: a listing that was edited is put
 * together when somebody asks for it whole, each time again.
 */
export class Listings implements Iterable<Listing> {
  /** As evaluated in full. Of a listing that was edited its SKU, its reason and its other values are read here. */
  protected list: readonly Listing[];
  /** By listing: the number of what made it as it is. To compare these is to touch no listing. */
  protected made: Uint32Array;
  /** By listing: 0 where it is as it stands in the list, else {@link ISSUES_EDITED} and {@link VALUES_EDITED}. */
  protected edited: Uint8Array;
  protected states: Uint8Array;
  /** By field position, where there is one: the values of all listings. */
  protected values: (Column | undefined)[];
  /** Parted when it is first asked for. */
  protected said: IssueColumns | undefined;
  /** Positions of fields. */
  protected readonly places: Map<string, number>;

  /**
   * @param given a list, which nobody changes afterwards; or others, whose columns are shared
   * @param fields of the sheet, in its order
   */
  constructor(given: Listings);
  constructor(given: readonly Listing[], fields: readonly { code: string }[]);
  constructor(given: readonly Listing[] | Listings, fields: readonly { code: string }[] = []) {
    if (given instanceof Listings) {
      this.list = given.list;
      this.made = given.made;
      this.edited = given.edited;
      this.states = given.states;
      this.values = given.values.slice();
      this.said = given.said && { ...given.said, columns: given.said.columns.slice() };
      this.places = given.places;
      return;
    }
    const { length } = given;
    this.list = given;
    this.made = new Uint32Array(length).fill(++lastMade);
    this.edited = new Uint8Array(length);
    this.states = new Uint8Array(length);
    this.values = new Array(given[0]?.values.length ?? 0).fill(undefined);
    this.places = new Map(fields.map(({ code }, at) => [code, at]));
    for (let i = 0; i < length; i++) this.states[i] = codeOf[(given[i] as Listing).state];
  }

  get length(): number {
    return this.made.length;
  }

  /** The values of a field by listing: to be read. It is made when it is first asked for, and kept. @param field its position */
  column(field: number): readonly (Value | undefined)[] {
    let column = this.values[field];
    if (column === undefined) {
      column = new Array(this.length) as Column;
      for (let i = 0; i < column.length; i++) column[i] = this.list[i]?.values[field];
      this.values[field] = column;
    }
    return column;
  }

  /** The listing at a position, whole; undefined where there is none. */
  at(i: number): Listing | undefined {
    const listing = this.list[i];
    if (listing === undefined || this.edited[i] === 0) return listing;
    return {
      sku: listing.sku,
      state: this.stateAt(i),
      reason: listing.reason,
      values: this.valuesAt(i),
      issues: this.issuesAt(i),
    };
  }

  /** The rest are read of positions that there are. */
  skuAt(i: number): string {
    return (this.list[i] as Listing).sku;
  }

  stateAt(i: number): ListingState {
    return states[this.states[i] as number] as ListingState;
  }

  /** Whether a listing is of the state in which it stands in others. */
  alike(others: Listings, i: number): boolean {
    return this.states[i] === others.states[i];
  }

  isLeftOut(i: number): boolean {
    return this.states[i] === codeOf.leftOut;
  }

  reasonAt(i: number): string | undefined {
    return this.isLeftOut(i) ? (this.list[i] as Listing).reason : undefined;
  }

  issuesAt(i: number): readonly Issue[] {
    if (((this.edited[i] as number) & ISSUES_EDITED) === 0) return (this.list[i] as Listing).issues;
    const found: Issue[] = [];
    const { lists, columns } = this.parted();
    for (let slot = 0; slot < columns.length; slot++) {
      const stated = lists.list(columns[slot]?.[i] ?? 0);
      for (let n = 0; n < stated.length; n++) found.push(stated[n] as Issue);
    }
    return found;
  }

  /** What is said of a field of a listing by comparing it with others. @param field its position */
  sharedAt(i: number, field: number): readonly Issue[] {
    return this.lists.list(this.sharedOf(field)?.[i] ?? 0);
  }

  /** All lists of issues, by number. */
  get lists(): IssueListPool {
    return this.parted().lists;
  }

  /** The slots in which listings are told something. */
  get told(): readonly number[] {
    return this.parted().columns.flatMap((column, slot) => (column ? [slot] : []));
  }

  /** What is said in a slot, by listing: numbers of lists; undefined where nothing is said of any. */
  saidIn(slot: number): Uint32Array | undefined {
    return this.parted().columns[slot];
  }

  /** The slots in which listings of these and others may be told different things. */
  slotsBetween(others: Listings): readonly number[] {
    const slots = [...new Set([...this.told, ...others.told])];
    return slots.filter((slot) => this.lists !== others.lists || this.saidIn(slot) !== others.saidIn(slot));
  }

  /** What is said of a field by itself, see {@link saidIn}. @param field its position */
  saidOf(field: number): Uint32Array | undefined {
    return this.saidIn(field);
  }

  /** What is said of a field by comparing listings, see {@link saidIn}. @param field its position */
  sharedOf(field: number): Uint32Array | undefined {
    return this.saidIn(this.places.size + field);
  }

  /** What is said, by slot; parted when it is first asked for, and kept. What goes on from here has it under the same numbers then. */
  parted(): IssueColumns {
    this.said ??= this.part();
    return this.said;
  }

  private part(): IssueColumns {
    const { length } = this;
    const lists = new IssueListPool();
    const columns: IssueColumns['columns'] = new Array(this.places.size * 2).fill(undefined);
    const stated = { lists, columns, blocked: new Uint8Array(length) };
    // Lists that say the same are mostly one: each is parted once.
    const known = new Map<readonly Issue[], Map<number, number>>();
    for (let i = 0; i < length; i++) {
      const { issues } = this.list[i] as Listing;
      if (issues.length === 0) continue;
      const parts = known.get(issues) ?? this.partsOf(issues, lists);
      known.set(issues, parts);
      for (const [slot, number] of parts) setIssues(stated, slot, i, number);
    }
    return stated;
  }

  /** A list of issues by slot, each with the number of what is said there. */
  protected partsOf(issues: readonly Issue[], lists: IssueListPool): Map<number, number> {
    const parts = new Map<number, number>();
    for (let from = 0; from < issues.length; ) {
      const slot = this.slotOf(issues[from] as Issue);
      let to = from + 1;
      while (to < issues.length && this.slotOf(issues[to] as Issue) === slot) to++;
      const before = parts.get(slot);
      parts.set(
        slot,
        before === undefined
          ? lists.numberOf(issues, from, to)
          : lists.numberOf([...lists.list(before), ...issues.slice(from, to)]),
      );
      from = to;
    }
    return parts;
  }

  private slotOf({ check, field }: Issue): number {
    const place = this.places.get(field);
    if (place === undefined) throw new Error(`There is an issue on ${field}, which is not a field.`);
    return isCompared(check) ? this.places.size + place : place;
  }

  /** @param field its position */
  valueAt(i: number, field: number): Value | undefined {
    const column = this.values[field];
    return column === undefined ? (this.list[i] as Listing).values[field] : column[i];
  }

  /** All values of a listing: to be read. */
  valuesAt(i: number): readonly (Value | undefined)[] {
    const { values } = this.list[i] as Listing;
    if (((this.edited[i] as number) & VALUES_EDITED) === 0) return values;
    const now = values.slice();
    for (let field = 0; field < this.values.length; field++) {
      const column = this.values[field];
      if (column !== undefined) now[field] = column[i];
    }
    return now;
  }

  /** Whether a listing is the very one that stands there in others of the same catalog: no edit lies between them. */
  same(others: Listings, i: number): boolean {
    return this.made[i] === others.made[i];
  }

  /** Positions of those that are wanted, in order. */
  positions(wanted: (i: number) => boolean): number[] {
    const found: number[] = [];
    for (let i = 0; i < this.length; i++) if (wanted(i)) found.push(i);
    return found;
  }

  /** Positions of those that are not left out. */
  taken(): number[] {
    return this.positions((i) => !this.isLeftOut(i));
  }

  /** Position of the first that is wanted; -1 where none is. */
  first(wanted: (i: number) => boolean): number {
    for (let i = 0; i < this.length; i++) if (wanted(i)) return i;
    return -1;
  }

  /** Listings of a state, whole. */
  whole(wanted: (state: ListingState) => boolean): Listing[] {
    const found: Listing[] = [];
    for (let i = 0; i < this.length; i++) if (wanted(this.stateAt(i))) found.push(this.at(i) as Listing);
    return found;
  }

  *skus(): Iterable<string> {
    for (let i = 0; i < this.length; i++) yield this.skuAt(i);
  }

  *[Symbol.iterator](): Iterator<Listing> {
    for (let i = 0; i < this.length; i++) yield this.at(i) as Listing;
  }

  /**
   * Puts together all listings that were edited, and keeps them, step by step: for those who keep something of each listing as long as
   * it is the same one. Others that go on from here have them too.
   */
  *settling(): Steps<void> {
    if (this.edited.every((edit) => edit === 0)) return;
    const list: Listing[] = new Array(this.length);
    for (let i = 0; i < list.length; i++) {
      if (i % BATCH_ROWS === 0) yield;
      list[i] = this.at(i) as Listing;
    }
    this.list = list;
    this.edited = new Uint8Array(list.length);
  }
}

/** Puts the number of a list in its place. */
function setIssues({ lists, columns, blocked }: IssueColumns, slot: number, i: number, number: number): void {
  let column = columns[slot];
  if (column === undefined) {
    if (number === 0) return;
    column = new Uint32Array(blocked.length);
    columns[slot] = column;
  }
  const before = column[i] as number;
  if (before === number) return;
  column[i] = number;
  const by = Number(lists.blocks(number)) - Number(lists.blocks(before));
  if (by !== 0) blocked[i] = (blocked[i] as number) + by;
}

/** So many lists are kept beyond one for each listing before those that nobody is told are let go. */
const MAX_LISTS = 10_000;

/** Listings that an edit is changing. Whoever has them afterwards has them as {@link Listings}. */
export class ListingsEdit extends Listings {
  private readonly edit = ++lastMade;
  /** Fields that are edited, each with its column once a value in it is another. */
  private readonly fields: { readonly at: number; column: Column | undefined }[];
  /** What is another than that of the listings before: the list, columns of values by field, and slots of what is said. */
  private own: Listing[] | undefined;
  private readonly ownColumns = new Map<number, Column>();
  private readonly ownSlots = new Set<number>();

  /**
   * @param before which stay as they are
   * @param fields positions of those whose values may change
   * @param length how many there will be: further ones are put in place in their order
   */
  constructor(before: Listings, fields: Iterable<number>, length = before.length) {
    super(before);
    this.made = sized(this.made, new Uint32Array(length));
    this.edited = sized(this.edited, new Uint8Array(length));
    this.states = sized(this.states, new Uint8Array(length));
    if (this.said) {
      const blocked = sized(this.said.blocked, new Uint8Array(length));
      this.said = withoutUnsaid({ ...this.said, blocked });
    }
    this.fields = [...fields].map((at) => ({ at, column: undefined }));
    if (length !== before.length) {
      this.own = this.list.slice(0, length);
      this.list = this.own;
    }
    if (length < before.length) this.cut(length);
  }

  /** Gives a listing other values in the fields of the edit. @param values by field position */
  put(i: number, values: readonly (Value | undefined)[]): void {
    for (let n = 0; n < this.fields.length; n++) {
      const field = this.fields[n] as (typeof this.fields)[number];
      const value = values[field.at];
      if (field.column === undefined) {
        if (sameValue(this.valueAt(i, field.at), value)) continue;
        field.column = this.ownColumn(field.at);
      }
      field.column[i] = value;
    }
    this.edited[i] = (this.edited[i] as number) | VALUES_EDITED;
    this.made[i] = this.edit;
  }

  /** Says something else of a field of a listing. @param field its position @param number of what is said */
  say(i: number, field: number, number: number): void {
    this.sayIn(field, i, number);
  }

  /** Says something else of a field of a listing as compared with others. @param field its position @param number of what is said */
  share(i: number, field: number, number: number): void {
    this.sayIn(this.places.size + field, i, number);
  }

  /** Puts another listing in the place of one, or behind the last. */
  replace(i: number, listing: Listing): void {
    if (!this.own) {
      this.own = this.list.slice(0, this.length);
      this.list = this.own;
    }
    this.own[i] = listing;
    for (let field = 0; field < this.values.length; field++) {
      const column = this.values[field];
      if (column !== undefined && column[i] !== listing.values[field])
        this.ownColumn(field)[i] = listing.values[field];
    }
    if (this.said) {
      const parts = this.partsOf(listing.issues, this.said.lists);
      const { columns } = this.said;
      for (let slot = 0; slot < columns.length; slot++)
        if (columns[slot] || parts.has(slot)) this.sayIn(slot, i, parts.get(slot) ?? 0);
    }
    this.edited[i] = 0;
    this.made[i] = this.edit;
    this.states[i] = codeOf[listing.state];
  }

  /** Puts the number of a list in its place; a column is copied before its first number changes, most never are. */
  private sayIn(slot: number, i: number, number: number): void {
    const stated = this.parted();
    const column = stated.columns[slot];
    if ((column?.[i] ?? 0) === number) return;
    if (!this.ownSlots.has(slot)) {
      this.ownSlots.add(slot);
      if (column) stated.columns[slot] = sized(column, new Uint32Array(this.length));
    }
    setIssues(stated, slot, i, number);
    this.edited[i] = (this.edited[i] as number) | ISSUES_EDITED;
    this.made[i] = this.edit;
    if (!this.isLeftOut(i)) this.states[i] = stated.blocked[i] === 0 ? codeOf.ready : codeOf.blocked;
  }

  /** Forgets what stands in columns behind the last listing: others may come to stand there. */
  private cut(length: number): void {
    this.values = this.values.map((column) => column && fitted(column, length));
    if (!this.said) return;
    const columns = this.said.columns.map((column) => column?.slice(0, length));
    this.said = { ...this.said, columns };
  }

  private ownColumn(field: number): Column {
    let column = this.ownColumns.get(field);
    if (!column) {
      column = fitted(this.column(field), this.length);
      this.values[field] = column;
      this.ownColumns.set(field, column);
    }
    return column;
  }
}

/** The same with lists of their own, where most of those there are were said by edits that nobody has any more. */
function withoutUnsaid(stated: IssueColumns): IssueColumns {
  if (stated.lists.size <= MAX_LISTS + stated.blocked.length) return stated;
  const [lists, numbers] = [new IssueListPool(), new Map<number, number>()];
  const columns = stated.columns.map((column) =>
    column?.map((was) => {
      const number = numbers.get(was) ?? lists.numberOf(stated.lists.list(was));
      numbers.set(was, number);
      return number;
    }),
  );
  return { lists, columns, blocked: stated.blocked };
}
