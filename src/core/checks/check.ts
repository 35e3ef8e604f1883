import type { Row, Value } from '../catalog/value';
import type { CategoryTree } from '../categories/tree';
import type { Predicate } from '../channels/conditions';
import type { Field, Sheet } from '../channels/sheet';
import type { Report } from './issue';

/** What a check may know of the feed when it is compiled. */
export interface CheckContext {
  readonly sheet: Sheet;
  readonly tree: CategoryTree;
  readonly currency: string;
  readonly country: string;
  fieldAt(code: string): number | undefined;
  predicate(condition: NonNullable<Field['mustWhen']>): Predicate;
}

/** Looks at the value of one field; only called where there is one. */
export type ValueCheck = (value: Value, report: Report) => void;

/** Looks at a whole listing. */
export type ListingCheck = (row: Row, values: readonly (Value | undefined)[], report: Report) => void;

/** A check on single values: compiled for each field it applies to. */
export type ValueCheckMaker = (field: Field, context: CheckContext) => ValueCheck | undefined;

/** Runs a test over a text or each text of a list. */
export const onEach =
  (test: (text: string, report: Report) => void): ValueCheck =>
  (value, report) => {
    if (typeof value === 'string') test(value, report);
    else for (const entry of value) test(entry, report);
  };
