import type { Row } from '../catalog/value';
import type { Field } from '../channels/sheet';
import type { CompiledPlan } from './compiling/compiledPlan';
import type { Listing } from './evaluate';
import type { Listings } from './listings';
import { BATCH_ROWS, type Steps } from './steps';

/**
 * How much of what helps a listing is there, beyond what stops it: what must be filled, here or everywhere, weighs three, what
 * should be filled two; what may be filled does not count. A value that is refused is not there.
 */
export const needWeights = { must: 3, should: 2 } as const;

export interface Completeness {
  /** Weight of what is there, and of what could be. */
  readonly completed: number;
  readonly total: number;
}

/** What of a compiled plan tells what counts; where items may join entries, those that do are asked for little. */
type Counted = Pick<CompiledPlan, 'sheet' | 'mustHere' | 'joins'>;

export const shareOf = ({ completed, total }: Completeness): number => (total === 0 ? 1 : completed / total);

/**
 * Goes through the fields that count for a listing.
 * @param tell the field's position, what it weighs, and whether it is there
 */
function eachCounted(
  { sheet, mustHere, joins }: Counted,
  { values, issues }: Pick<Listing, 'values' | 'issues'>,
  row: Row,
  tell: (at: number, weight: number, there: boolean) => void,
): void {
  const joined = joins !== undefined && values[joins.at] !== undefined;
  const { fields } = sheet;
  for (let at = 0; at < fields.length; at++) {
    if (joined && !joins.asked.has(at)) continue;
    const { code, need } = fields[at] as Field;
    const weight =
      need === 'must' || mustHere[at]?.(row, values)
        ? needWeights.must
        : need === 'should'
          ? needWeights.should
          : 0;
    if (weight === 0) continue;
    const refused = issues.some(({ severity, field }) => severity === 'blocker' && field === code);
    tell(at, weight, values[at] !== undefined && !refused);
  }
}

/** How complete a listing is. */
export function weighed(
  compiled: Counted,
  listing: Pick<Listing, 'values' | 'issues'>,
  row: Row,
): Completeness {
  let [completed, total] = [0, 0];
  eachCounted(compiled, listing, row, (_at, weight, there) => {
    total += weight;
    if (there) completed += weight;
  });
  return { completed, total };
}

/** How complete a listing is, and the fields that would raise it, those that weigh most first. */
export function completenessOf(
  compiled: Counted,
  listing: Pick<Listing, 'values' | 'issues'>,
  row: Row,
): Completeness & { readonly lacking: readonly string[] } {
  let [completed, total] = [0, 0];
  const lacking: { code: string; weight: number }[] = [];
  eachCounted(compiled, listing, row, (at, weight, there) => {
    total += weight;
    if (there) completed += weight;
    else lacking.push({ code: compiled.sheet.fields[at]?.code ?? '', weight });
  });
  return { completed, total, lacking: lacking.sort((a, b) => b.weight - a.weight).map(({ code }) => code) };
}

export interface FeedCompleteness extends Completeness {
  /** By the merchant's category. */
  readonly categories: ReadonlyMap<string, Completeness>;
  /** What each field would add were it filled everywhere it counts, the most first. */
  readonly fields: readonly { readonly code: string; readonly lacking: number; readonly gain: number }[];
}

/** How complete a feed is, step by step. Listings that are left out do not count. @param categoryOf of a row */
export function* completing(
  compiled: Counted,
  listings: Listings,
  rows: readonly Row[],
  categoryOf: (row: Row) => string,
): Steps<FeedCompleteness> {
  const complete = { completed: 0, total: 0 };
  const categories = new Map<string, { completed: number; total: number }>();
  const lacking = compiled.sheet.fields.map(() => ({ listings: 0, weight: 0 }));
  for (let i = 0; i < listings.length; i++) {
    if (i % BATCH_ROWS === 0) yield;
    const row = rows[i] ?? [];
    if (listings.stateAt(i) === 'leftOut') continue;
    const listing = { values: listings.valuesAt(i), issues: listings.issuesAt(i) };
    const name = categoryOf(row);
    const group = categories.get(name) ?? { completed: 0, total: 0 };
    categories.set(name, group);
    eachCounted(compiled, listing, row, (at, weight, there) => {
      for (const sum of [complete, group]) {
        sum.total += weight;
        if (there) sum.completed += weight;
      }
      const own = lacking[at];
      if (there || !own) return;
      own.listings++;
      own.weight += weight;
    });
  }
  return {
    ...complete,
    categories,
    fields: compiled.sheet.fields
      .map(({ code }, at) => ({
        code,
        lacking: lacking[at]?.listings ?? 0,
        gain: complete.total === 0 ? 0 : (lacking[at]?.weight ?? 0) / complete.total,
      }))
      .filter(({ lacking: count }) => count > 0)
      .sort((a, b) => b.gain - a.gain),
  };
}
