import type { Value } from '../catalog/value';
import type { Issue } from '../checks/issue';
import type { Listing, ListingState } from './evaluate';
import { rowsAStep, type Steps } from './steps';

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

/**
 * The listings of a feed over a whole catalog, in its order. They stand in a list as they were evaluated in full; how each stands and
 * what is said of it, and the values of fields that edits are about, stand in columns. So an edit that changes a hundred thousand
 * listings makes none of them anew, and what goes over all of them goes along columns: a listing that was edited is put together when
 * somebody asks for it whole, each time again.
 */
export class Listings implements Iterable<Listing> {
  /** As evaluated in full. Of a listing that was edited its SKU, its reason and its other values are read here. */
  protected list: readonly Listing[];
  /** By listing: the number of what made it as it is. To compare these is to touch no listing. */
  protected made: Uint32Array;
  /** By listing: 1 where it is not as it stands in the list, but has other values in some columns. */
  protected edited: Uint8Array;
  protected states: Uint8Array;
  protected issues: (readonly Issue[])[];
  /** By field position, where there is one: the values of all listings. */
  protected values: (Column | undefined)[];

  /** @param given a list, which nobody changes afterwards; or others, whose columns are shared */
  constructor(given: readonly Listing[] | Listings) {
    if (given instanceof Listings) {
      this.list = given.list;
      this.made = given.made;
      this.edited = given.edited;
      this.states = given.states;
      this.issues = given.issues;
      this.values = given.values.slice();
      return;
    }
    const { length } = given;
    this.list = given;
    this.made = new Uint32Array(length).fill(++lastMade);
    this.edited = new Uint8Array(length);
    this.states = new Uint8Array(length);
    this.issues = new Array(length);
    this.values = new Array(given[0]?.values.length ?? 0).fill(undefined);
    for (let i = 0; i < length; i++) {
      const { state, issues } = given[i] as Listing;
      this.states[i] = codeOf[state];
      this.issues[i] = issues;
    }
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

  isLeftOut(i: number): boolean {
    return this.states[i] === codeOf.leftOut;
  }

  reasonAt(i: number): string | undefined {
    return this.isLeftOut(i) ? (this.list[i] as Listing).reason : undefined;
  }

  issuesAt(i: number): readonly Issue[] {
    return this.issues[i] as readonly Issue[];
  }

  /** @param field its position */
  valueAt(i: number, field: number): Value | undefined {
    const column = this.values[field];
    return column === undefined ? (this.list[i] as Listing).values[field] : column[i];
  }

  /** All values of a listing: to be read. */
  valuesAt(i: number): readonly (Value | undefined)[] {
    const { values } = this.list[i] as Listing;
    if (this.edited[i] === 0) return values;
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
    if (!this.edited.includes(1)) return;
    const list: Listing[] = new Array(this.length);
    for (let i = 0; i < list.length; i++) {
      if (i % rowsAStep === 0) yield;
      list[i] = this.at(i) as Listing;
    }
    this.list = list;
    this.edited = new Uint8Array(list.length);
  }
}

/** Listings that an edit is changing. Whoever has them afterwards has them as {@link Listings}. */
export class ListingsEdit extends Listings {
  private readonly edit = ++lastMade;
  /** Columns of the fields that are edited, each its own. */
  private readonly fields: readonly { readonly at: number; readonly column: Column }[];
  /** The list and all columns, once they are others than those of the listings before. */
  private own: Listing[] | undefined;

  /**
   * @param before which stay as they are
   * @param fields positions of those whose values may change
   * @param length how many there will be: further ones are put in place in their order
   */
  constructor(before: Listings, fields: Iterable<number>, length = before.length) {
    for (const at of fields) before.column(at);
    super(before);
    const { made, edited, states } = this;
    this.made = new Uint32Array(length);
    this.made.set(made.subarray(0, length));
    this.edited = new Uint8Array(length);
    this.edited.set(edited.subarray(0, length));
    this.states = new Uint8Array(length);
    this.states.set(states.subarray(0, length));
    this.issues = fitted(this.issues, length);
    this.fields = [...fields].map((at) => {
      const column = fitted(this.values[at] ?? [], length);
      this.values[at] = column;
      return { at, column };
    });
    if (length !== before.length) this.owned();
  }

  /** Listings that are in the making: what is said of them is put into the list that is given. */
  static of(list: Listing[]): ListingsEdit {
    const edit = new ListingsEdit(new Listings(list), []);
    edit.own = list;
    return edit;
  }

  /** Gives a listing other values in the fields of the edit, and says other things of it. @param values by field position */
  put(
    i: number,
    values: readonly (Value | undefined)[],
    issues: readonly Issue[],
    state: ListingState,
  ): void {
    for (let n = 0; n < this.fields.length; n++) {
      const { at, column } = this.fields[n] as { at: number; column: Column };
      column[i] = values[at];
    }
    this.edited[i] = 1;
    this.made[i] = this.edit;
    this.issues[i] = issues;
    this.states[i] = codeOf[state];
  }

  /** Says other things of a listing. */
  say(i: number, issues: readonly Issue[], state: ListingState): void {
    if (this.own && this.edited[i] === 0) this.own[i] = { ...(this.own[i] as Listing), state, issues };
    else this.edited[i] = 1;
    this.made[i] = this.edit;
    this.issues[i] = issues;
    this.states[i] = codeOf[state];
  }

  /** Puts another listing in the place of one, or behind the last. */
  replace(i: number, listing: Listing): void {
    this.owned()[i] = listing;
    for (let field = 0; field < this.values.length; field++) {
      const column = this.values[field];
      if (column !== undefined) column[i] = listing.values[field];
    }
    this.edited[i] = 0;
    this.made[i] = this.edit;
    this.issues[i] = listing.issues;
    this.states[i] = codeOf[listing.state];
  }

  private owned(): Listing[] {
    if (!this.own) {
      this.own = this.list.slice(0, this.length);
      this.list = this.own;
      for (let field = 0; field < this.values.length; field++) {
        const column = this.values[field];
        if (column && !this.fields.some(({ at }) => at === field))
          this.values[field] = fitted(column, this.length);
      }
    }
    return this.own;
  }
}
