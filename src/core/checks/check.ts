import type { Row, Value } from '../catalog/value';
import type { CategoryTree } from '../categories/tree';
import type { Field, Sheet } from '../channels/sheet';
import { branchesIn, type Condition, fieldsIn, type Predicate } from '../conditions/conditions';
import type { CheckDefinition } from './definitions';
import type { CheckName, Report } from './issue';
import type { OwnCheck } from './own';
import type { HeldForReview } from './review';
import type { Seen } from './seen';

/** What a check may know of the feed when it is compiled. */
export interface CheckContext {
  readonly sheet: Sheet;
  readonly tree: CategoryTree;
  readonly currency: string;
  readonly country: string;
  /** The currency of amounts that name none; undefined where nobody has said. */
  readonly catalogCurrency: string | undefined;
  fieldAt(code: string): number | undefined;
  /** Where an attribute stands in an item's row. */
  slotOf(attribute: string): number | undefined;
  /** What the merchant has met of the channel's conditions and restricted branches. */
  readonly met: ReadonlySet<string>;
  /** What was found by looking: pictures, pages of the shop, other items. */
  readonly seen: Seen;
  predicate(condition: NonNullable<Field['mustWhen']>): Predicate;
  /** The fields that the feed fills from an attribute. */
  filledFrom(attribute: string): readonly Filling[];
  /** The day it is, 2027-03-31; where it is undefined nothing is said of days. */
  readonly day?: string | undefined;
  /** The language of the feed's market, BCP 47. */
  readonly language?: string | undefined;
  /** Tells the language of a text where that is sure; where it is undefined nothing is said of languages. */
  readonly languageOf?: ((text: string) => string | undefined) | undefined;
  /** Whose shop it is. */
  readonly merchant?: string | undefined;
  /** Which listings rules hold back to be looked at. */
  readonly reviews?: readonly HeldForReview[] | undefined;
  /** The merchant's own checks on this feed. */
  readonly own?: readonly OwnCheck[] | undefined;
}

/** Looks at the value of one field; only called where there is one. */
export type ValueCheck = (value: Value, report: Report) => void;

/** A field that a feed fills from an attribute, on all items or on those of some categories. */
export interface Filling {
  readonly field: string;
  /** Tells whether the field of an item is filled from the attribute; undefined where it always is. */
  readonly on: ((row: Row) => boolean) | undefined;
  /** Equal for two plans that fill the field from the attribute on the same items. */
  readonly key: string;
}

/** Looks at a whole listing; reports on one field, and reads nothing of the listing but the fields it names. */
export interface ListingCheck {
  readonly field: string;
  readonly reads: readonly string[];
  /** Whether it also reads the category the listing is placed in. */
  readonly readsPlace: boolean;
  /** Of a check that depends on which attribute fills its field: equal for plans under which it reports alike. */
  readonly filling?: string;
  run(row: Row, values: readonly (Value | undefined)[], report: Report): void;
}

/** A check that is whole in its file: what it is, its facts (declared there) and what it does; its words alone stand in `words.ts`. */
export interface WholeCheck<K extends CheckName> {
  readonly definition: CheckDefinition<K>;
  make(context: CheckContext): ListingCheck[];
}

/** What a condition reads of a listing. */
export const readsOf = (condition: Condition | undefined): { reads: string[]; readsPlace: boolean } => ({
  reads: condition ? fieldsIn(condition) : [],
  readsPlace: condition !== undefined && branchesIn(condition).length > 0,
});

/** A check on single values: compiled for each field it applies to. */
export type ValueCheckMaker = (field: Field, context: CheckContext) => ValueCheck | undefined;

/** Runs a test over a text or each text of a list. */
export const onEach =
  (test: (text: string, report: Report) => void): ValueCheck =>
  (value, report) => {
    if (typeof value === 'string') test(value, report);
    else for (const entry of value) test(entry, report);
  };
