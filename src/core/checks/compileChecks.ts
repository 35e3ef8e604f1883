import type { Row, Value } from '../catalog/value';
import type { Field } from '../channels/sheet';
import { memoizedByText } from '../text/remembering';
import type { CheckContext, CheckModule, Report, ReportOf, ValueCheck } from './check';
import { checkModules, type Facts } from './registry';

/** The modules as what they have in common: each reports some of all the facts. */
const modules: readonly CheckModule<Facts>[] =
  checkModules as readonly unknown[] as readonly CheckModule<Facts>[];

/** All checks that report on one field, and the fields they read: where none of those changed, neither do their issues. */
export interface FieldChecks {
  readonly at: number;
  readonly reads: ReadonlySet<number>;
  run: CheckRun;
  /** Equal for two plans under which the checks that depend on what fills the field report alike. */
  readonly fillings: string;
  /** Those among them that look at several fields, or at the item, each with what it reads. */
  readonly onListing: readonly { readonly reads: ReadonlySet<number>; readonly run: CheckRun }[];
}

type CheckRun = (row: Row, values: readonly (Value | undefined)[], report: Report<Facts>) => void;

/** Compiles all checks of a sheet for one feed, gathered by the field they report on, in the sheet's order. */
export function compileChecks(context: CheckContext): FieldChecks[] {
  const { sheet } = context;
  const placeAt = sheet.fields.findIndex(({ kind }) => kind === 'category');
  const onListings = modules.flatMap((module) => module.onListing?.(context) ?? []);
  return sheet.fields.flatMap((field, at): FieldChecks[] => {
    const listing = onListings.filter((check) => check.field === field.code);
    const value = onValue(field, context);
    if (listing.length === 0 && !value) return [];
    const onListing = listing.map(({ run, reads, readsPlace }) => ({
      run,
      reads: new Set([
        ...reads.map(context.fieldAt).filter((read) => read !== undefined),
        ...(readsPlace && placeAt >= 0 ? [placeAt] : []),
      ]),
    }));
    const reads = new Set([at, ...onListing.flatMap((check) => [...check.reads])]);
    return [
      {
        at,
        reads,
        run: together(at, onListing, value),
        fillings: listing.flatMap(({ filling }) => filling ?? []).join('\n'),
        onListing,
      },
    ];
  });
}

/**
 * All checks on the value of one field. What they say of a text is remembered while it comes again, but for checks that ask
 * what was seen by looking: that changes.
 */
function onValue(field: Field, context: CheckContext): ValueCheck<Facts> | undefined {
  let requested = false;
  const watched = Object.defineProperty({ ...context }, 'seen', {
    get: () => {
      requested = true;
      return context.seen;
    },
  });
  let looks = false;
  const checks = modules.flatMap(({ onValue: make }) => {
    requested = false;
    const check = make?.(field, watched);
    if (check && requested) looks = true;
    return check ?? [];
  });
  if (checks.length === 0) return undefined;
  const each: ValueCheck<Facts> = (value, report) => {
    for (let i = 0; i < checks.length; i++) (checks[i] as ValueCheck<Facts>)(value, report);
  };
  if (looks) return each;
  const stated = memoizedByText((text): readonly Reported[] => {
    const found: Reported[] = [];
    each(text, (...issue) => found.push(issue));
    return found.length === 0 ? nothingReported : found;
  });
  return (value, report) => {
    if (typeof value !== 'string') return each(value, report);
    const found = stated(value);
    for (let i = 0; i < found.length; i++) report(...(found[i] as Reported));
  };
}

/** What a check reports, as it reports it. */
type Reported = ReportOf<Facts>;
const nothingReported: readonly Reported[] = [];

/** Checks on a listing and on the value of one field as one function. */
function together(
  at: number,
  listing: readonly { readonly run: CheckRun }[],
  value: ValueCheck<Facts> | undefined,
): CheckRun {
  const onListing = listing.map(({ run }) => run);
  const [first] = onListing;
  const ofValue: CheckRun = (_row, found, report) => {
    const own = found[at];
    if (own !== undefined && value) value(own, report);
  };
  if (first === undefined) return ofValue;
  if (onListing.length === 1)
    return (row, found, report) => {
      first(row, found, report);
      ofValue(row, found, report);
    };
  return (row, found, report) => {
    for (const run of onListing) run(row, found, report);
    ofValue(row, found, report);
  };
}
