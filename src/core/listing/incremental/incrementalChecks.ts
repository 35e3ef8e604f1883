import type { Row, Value } from '../../catalog/value';
import type { FieldChecks } from '../../checks/compileChecks';
import { type Issue, issueOf, type Report } from '../../checks/issue';
import type { Listings } from '../listings';

/** Checks of single listings that an edit has made again. */

/** Checks of a field that are made again, and what gives the number of what they say now. */
export interface Recheck {
  readonly check: FieldChecks;
  readonly said: ReturnType<typeof recheck>;
}

/**
 * Gives the number of what is found of a field. Mostly it is what was said before, letter for letter, however the value has changed, or what
 * was found just now of another listing.
 * @param listings as they were so far @param field its position
 * @returns for a listing, and what is found, of which so many count
 */
export function recheck(listings: Listings, field: number) {
  const { lists } = listings;
  const before = listings.saidOf(field);
  let last = 0;
  return (i: number, found: readonly Issue[], many: number): number => {
    if (many === 0) return 0;
    const was = before?.[i] ?? 0;
    if (lists.saysSame(was, found, 0, many)) return was;
    if (!lists.saysSame(last, found, 0, many)) last = lists.numberOf(found, 0, many);
    return last;
  };
}

/**
 * A field that is not edited may have checks that read one that is, such as that a barcode, or brand and part number, is there: only where
 * one of these says something else than before are all of that field made again.
 * @param checks all that may have to be made again @param fields positions of the fields that are edited
 * @returns tells by check, for values as they are now, of all that is read; undefined where there is no such check
 */
export function recheckingListings(
  checks: readonly FieldChecks[],
  fields: ReadonlySet<number>,
  before: Listings,
) {
  const looking = checks.map((check) =>
    fields.has(check.at)
      ? []
      : check.onListing.filter(({ reads }) => [...reads].some((at) => fields.has(at))).map(({ run }) => run),
  );
  if (looking.every(({ length }) => length === 0)) return undefined;
  const positions = [...fields];
  const now: (Value | undefined)[] = [];
  const found: Issue[] = [];
  const ends: number[] = [];
  const otherwise: boolean[] = [];
  let many = 0;
  let differs = false;
  const saying: Report = (check, severity, field, facts) => {
    found[many++] = issueOf(check, severity, field, facts);
  };
  const comparing: Report = (check, severity, field, facts) => {
    if (found[many++] !== issueOf(check, severity, field, facts)) differs = true;
  };
  return (row: Row, values: (Value | undefined)[], i: number): readonly boolean[] => {
    const look = (n: number, report: Report) => {
      const runs = looking[n] as (typeof looking)[number];
      for (let k = 0; k < runs.length; k++) runs[k]?.(row, values, report);
    };
    many = 0;
    for (let n = 0; n < looking.length; n++) {
      look(n, saying);
      ends[n] = many;
    }
    for (let n = 0; n < positions.length; n++) {
      const at = positions[n] as number;
      now[n] = values[at];
      values[at] = before.valueAt(i, at);
    }
    for (let n = 0; n < looking.length; n++) {
      many = n === 0 ? 0 : (ends[n - 1] as number);
      differs = false;
      look(n, comparing);
      otherwise[n] = differs || many !== ends[n];
    }
    for (let n = 0; n < positions.length; n++) values[positions[n] as number] = now[n];
    return otherwise;
  };
}
