import type { Row, Value } from '../catalog/value';
import type { CategoryTree } from '../categories/tree';
import type { Field, Sheet } from '../channels/sheet';
import { branchesIn, type Condition, fieldsIn, type Predicate } from '../conditions/conditions';
import type { ExternalFacts } from './externalFacts';
import type { OwnCheck } from './ownCheck';
import type { Severity } from './severity';

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
  readonly seen: ExternalFacts;
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

/** Listings that a rule holds back until a person has looked at them. */
export interface HeldForReview {
  readonly reason: string;
  readonly when: Condition;
}

/** What is reported: the issue, how serious it is, the field, and the facts behind it. */
export type ReportOf<F> = {
  [K in keyof F]: [check: K, severity: Severity, field: string, facts: F[K]];
}[keyof F];
export type Report<F> = (...issue: ReportOf<F>) => void;

/** Looks at the value of one field; only called where there is one. */
export type ValueCheck<F> = (value: Value, report: Report<F>) => void;

/** A check on single values: compiled for each field it applies to. */
export type ValueCheckMaker<F> = (field: Field, context: CheckContext) => ValueCheck<F> | undefined;

/** A field that a feed fills from an attribute, on all items or on those of some categories. */
export interface Filling {
  readonly field: string;
  /** Tells whether the field of an item is filled from the attribute; undefined where it always is. */
  readonly on: ((row: Row) => boolean) | undefined;
  /** Equal for two plans that fill the field from the attribute on the same items. */
  readonly key: string;
}

/** Looks at a complete listing; reports on one field, and reads nothing of the listing but the fields it names. */
export interface ListingCheck<F> {
  readonly field: string;
  readonly reads: readonly string[];
  /** Whether it also reads the category of the listing. */
  readonly readsPlace: boolean;
  /** Of a check that depends on which attribute fills its field: equal for plans under which it reports alike. */
  readonly filling?: string;
  run(row: Row, values: readonly (Value | undefined)[], report: Report<F>): void;
}

/** A kind of issue: what pages, `docs/checks.md` and the terminal say of it. `label` is the field's, in the channel's words. */
export interface IssueKind<F> {
  readonly about: string;
  /** How serious it is where the merchant says nothing; by the sheet where the sheet decides. */
  readonly severity: readonly Severity[] | 'the sheet’s';
  /** What it applies to. */
  readonly on: string;
  /** The source it follows, where one is followed. */
  readonly source?: string;
  /** An issue as it is found. */
  readonly example: F;
  /** Heads the issues of one kind and field. */
  title(label: string): string;
  /** The sentence for one listing. */
  words(facts: F, label: string): string;
}

/**
 * A check: the issues it finds, each with its facts and its sentences, and how it finds them. It is complete in its file; the list
 * in `registry.ts` names it, and everything else is derived.
 */
export interface CheckModule<F> {
  readonly issues: { readonly [K in keyof F]: IssueKind<F[K]> };
  /** On the value of a field. */
  readonly onValue?: ValueCheckMaker<F>;
  /** On several fields of a listing, or on its item. */
  onListing?(context: CheckContext): ListingCheck<F>[];
}

/** What a condition reads of a listing. */
export const readsOf = (condition: Condition | undefined): { reads: string[]; readsPlace: boolean } => ({
  reads: condition ? fieldsIn(condition) : [],
  readsPlace: condition !== undefined && branchesIn(condition).length > 0,
});

/** Runs a test over a text or each text of a list. */
export const onEach =
  <F>(test: (text: string, report: Report<F>) => void): ValueCheck<F> =>
  (value, report) => {
    if (typeof value === 'string') test(value, report);
    else for (const entry of value) test(entry, report);
  };
