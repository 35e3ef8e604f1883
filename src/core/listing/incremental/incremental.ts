import { type Row, sameValue, type Value } from '../../catalog/value';
import { isCompared } from '../../checks/comparing';
import type { FieldChecks } from '../../checks/compileChecks';
import { type Issue, issueOf, type Report } from '../../checks/issue';
import type { CompiledRule } from '../../rules/rule';
import type { CompiledPlan } from '../compiling/compiledPlan';
import {
  type CatalogRows,
  evaluate,
  evaluatingAll,
  fillValues,
  isOutside,
  type Listing,
  type ListingState,
  onlyAsked,
  watchEvery,
} from '../evaluate';
import { Listings, ListingsEdit } from '../listings';
import { atOnce, BATCH_ROWS, type Steps } from '../steps';
import { foreseen, lookedAt } from './foreseen';
import { type Recheck, recheck, recheckingListings } from './incrementalChecks';
import { comparingIncrementally } from './incrementalComparisons';
import { type Touched, touchedBy } from './touched';

export interface IncrementalEvaluation {
  readonly listings: Listings;
  /** Undefined where everything was computed. */
  readonly touched: Touched | undefined;
  /** Positions of the fields whose coverage may differ; undefined where that of any may, though not of every listing. */
  readonly counted: ReadonlySet<number> | undefined;
}

/** Checks of a field of which none is left. */
const noChecks = (at: number): FieldChecks => ({
  at,
  reads: new Set([at]),
  run: () => undefined,
  onListing: [],
  fillings: '',
});

/**
 * A catalog through a plan that differs a little from one it has been through, step by step.
 * @param base the listings under `before`, of the same rows in the same order
 */
export function* evaluatingIncrementally(
  before: CompiledPlan,
  base: Listings,
  after: CompiledPlan,
  catalog: CatalogRows,
): Steps<IncrementalEvaluation> {
  const touched = touchedBy(before, after);
  if (!touched || base.length !== catalog.rows.length) {
    const listings = new Listings(yield* evaluatingAll(after, catalog), after.sheet.fields);
    return { listings, touched: undefined, counted: undefined };
  }
  const { fields, reasons } = touched;
  const positions = [...fields];
  const compositions = positions.map((at) => after.compositions[at]);
  const rules = after.rules.filter((_rule, i) => touched.rules.has(i));
  const { rechecked } = touched;
  const present = new Set(after.checks.map(({ at }) => at));
  const checks = [
    ...after.checks.filter((check) => touched.issues.has(check.at)),
    ...[...rechecked].filter((at) => !present.has(at)).map(noChecks),
  ];
  const compared = after.compared.some(({ at }) => fields.has(at));
  let flipped = false;
  // Of what stays only that is looked at which rules, or the joining of entries, may ask for; and then, which checks read.
  const untouched = (at: number) => !fields.has(at);
  const copied = lookedAt(after, rules).filter(untouched);
  const checked = [...new Set(checks.flatMap(({ reads }) => [...reads]))].filter(untouched);

  const { among, stays } = foreseen(before, after, catalog);
  let sku = '';
  /** What is found of a listing, and how much of it: one list, filled anew for each. */
  const found: Issue[] = [];
  let many = 0;
  const report: Report = (check, given, field, facts) => {
    const severity = after.judge ? after.judge(sku, check, field, given) : given;
    if (severity !== undefined) found[many++] = issueOf(check, severity, field, facts);
  };
  const looked = among?.length ?? base.length;
  // Of few listings values are read one by one; of many it is worth to have them in a row, here and after the next edit.
  if (looked > base.length / 8) for (const at of [...positions, ...copied, ...checked]) base.column(at);
  base.parted();
  const listings = new ListingsEdit(base, positions);
  const rerun = checks.map((check) => ({ check, said: recheck(listings, check.at) }));
  const besides = recheckingListings(checks, fields, base);
  let otherwise: readonly boolean[] | undefined;
  const values: (Value | undefined)[] = new Array(after.sheet.fields.length).fill(undefined);
  const placeTouched = after.categoryAt >= 0 && fields.has(after.categoryAt);
  const title = fields.has(after.titleAt) ? after.title : undefined;
  const markup = after.markup.filter(({ at }) => fields.has(at));
  const { joins } = after;
  const joinedAt = (i: number) => joins !== undefined && base.valueAt(i, joins.at) !== undefined;

  /** Says what is found of a listing that is in now but was left out, or that joins an entry: all of it, anew. */
  const replace = (i: number, row: Row, all: Listing['values'], stored?: ReadonlySet<number>): void => {
    many = 0;
    for (const check of after.checks) if (!stored || stored.has(check.at)) check.run(row, all, report);
    const issues = [...found.slice(0, many), ...base.issuesAt(i).filter(({ check }) => isCompared(check))];
    listings.replace(i, { sku, state: stateOf(issues), reason: undefined, values: all, issues });
  };
  const leaveOut = (i: number, reason: string, all: Listing['values']): void => {
    flipped ||= !base.isLeftOut(i);
    listings.replace(i, { sku, state: 'leftOut', reason, values: all, issues: nothing });
  };
  /** One that joins an entry, through everything: of what its rules may ask for it kept nothing. */
  const joinAgain = (i: number, row: Row): void => {
    const all: (Value | undefined)[] = new Array(values.length).fill(undefined);
    const reason = fillValues(after, row, all);
    const stored = joins && onlyAsked(joins, row, all);
    if (
      rechecked.size === 0 &&
      reason === base.reasonAt(i) &&
      all.every((value, at) => sameValue(base.valueAt(i, at), value))
    )
      return;
    sku = catalog.skus[i] as string;
    flipped ||= base.isLeftOut(i);
    if (reason !== undefined) leaveOut(i, reason, all);
    else replace(i, row, all, stored);
  };
  /** Any other: the edited fields, the rules that meet them, and the checks that read them. */
  const again = (i: number, k: number, row: Row): void => {
    for (let n = 0; n < copied.length; n++) {
      const at = copied[n] as number;
      values[at] = base.valueAt(i, at);
    }
    for (let n = 0; n < positions.length; n++) values[positions[n] as number] = created[n]?.[k];
    const wasOut = base.isLeftOut(i);
    const reasonThen = wasOut ? base.reasonAt(i) : undefined;
    let reason = reasons ? undefined : reasonThen;
    if (after.categoryAt >= 0 && (reasons || placeTouched)) {
      const placement = after.placementOf(row)?.placement;
      if (placeTouched)
        values[after.categoryAt] = placement && 'category' in placement ? placement.category : undefined;
      if (reasons && placement && 'leaveOut' in placement) reason = placement.leaveOut;
    }
    if (title) values[after.titleAt] = title.run(row);
    // The scope is the same in both, and looks at nothing that is touched.
    if (isOutside(reasonThen)) reason = reasonThen;
    else
      for (let n = 0; n < rules.length; n++) {
        const rule = rules[n] as CompiledRule;
        if (!rule.applies(row, values)) continue;
        const given = rule.apply(row, values);
        if (reasons) reason = given ?? reason;
      }
    reason ||= undefined;
    for (let n = 0; n < markup.length; n++) {
      const { at, clean } = markup[n] as (typeof markup)[number];
      const value = values[at];
      if (value !== undefined) values[at] = clean(value);
    }
    const stored = joins && onlyAsked(joins, row, values);

    let changed = reason !== reasonThen;
    for (let n = 0; !changed && n < positions.length; n++)
      changed = !sameValue(base.valueAt(i, positions[n] as number), values[positions[n] as number]);
    if (!changed && (rechecked.size === 0 || wasOut)) return;
    if (wasOut && reason === reasonThen) {
      listings.put(i, values);
      return;
    }
    sku = catalog.skus[i] as string;
    if (wasOut || reason !== undefined) {
      const all = base.valuesAt(i).slice();
      for (const at of positions) all[at] = values[at];
      if (reason !== undefined) leaveOut(i, reason, all);
      else {
        flipped = true;
        replace(i, row, all, stored);
      }
      return;
    }
    for (let n = 0; n < checked.length; n++) {
      const at = checked[n] as number;
      values[at] = base.valueAt(i, at);
    }
    if (changed) {
      listings.put(i, values);
      if (besides) otherwise = besides(row, values, i);
    }
    for (let n = 0; n < rerun.length; n++) {
      const { check, said } = rerun[n] as Recheck;
      if (rechecked.has(check.at)) {
        // Asked of every listing.
      } else if (!changed) continue;
      else if (otherwise && !fields.has(check.at) && !otherwise[n]) continue;
      many = 0;
      if (!stored || stored.has(check.at)) check.run(row, values, report);
      listings.say(i, check.at, said(i, found, many));
    }
  };

  // Some listings at a time: what a field is made of is read in a row, instead of by turns with all else that a listing needs.
  const todo = new Int32Array(BATCH_ROWS);
  const created = positions.map((): (Value | undefined)[] => new Array(BATCH_ROWS).fill(undefined));
  for (let from = 0; from < looked; from += BATCH_ROWS) {
    yield;
    let count = 0;
    for (let turn = from; turn < Math.min(from + BATCH_ROWS, looked); turn++) {
      const i = among ? (among[turn] as number) : turn;
      if (after.watch && turn % watchEvery === 0) after.watch(turn);
      if (joinedAt(i)) joinAgain(i, catalog.rows[i] as Row);
      else if (!stays?.(catalog.rows[i] as Row, base.valuesAt(i))) todo[count++] = i;
    }
    for (let n = 0; n < positions.length; n++) {
      const composition = compositions[n];
      const own = created[n] as (Value | undefined)[];
      for (let k = 0; composition && k < count; k++) {
        if (after.watch && k % watchEvery === 0) after.watch(from + k);
        own[k] = composition.run(catalog.rows[todo[k] as number] as Row);
      }
    }
    for (let k = 0; k < count; k++) again(todo[k] as number, k, catalog.rows[todo[k] as number] as Row);
  }
  const counted = new Set([...fields, ...touched.issues]);
  if (!compared && !flipped) return { listings, touched, counted };
  for (const { at } of after.compared) counted.add(at);
  const changed = listings.positions((i) => !listings.same(base, i));
  yield* comparingIncrementally(after, { listings: base, ...catalog }, { listings, ...catalog }, changed);
  return { listings, touched, counted: flipped ? undefined : counted };
}

/** The same at once. */
export const evaluateIncrementally = (
  ...given: Parameters<typeof evaluatingIncrementally>
): IncrementalEvaluation => atOnce(evaluatingIncrementally(...given));

const nothing: readonly Issue[] = [];

const stateOf = (issues: readonly Issue[]): ListingState =>
  issues.some(({ severity }) => severity === 'blocker') ? 'blocked' : 'ready';

/**
 * The same plan over a catalog of which some rows changed: only those are evaluated, rows that are the same object as
 * before keep their listing. Checks that compare listings run over those that share something with a changed one, before or
 * after. Always equal to {@link evaluateAll}.
 */
export function* evaluatingRows(
  base: Listings,
  before: CatalogRows,
  compiled: CompiledPlan,
  catalog: CatalogRows,
): Steps<Listings> {
  const { rows, skus } = catalog;
  const changed: number[] = [];
  for (let i = 0; i < rows.length; i++)
    if (i >= base.length || before.rows[i] !== rows[i] || before.skus[i] !== skus[i]) changed.push(i);
  yield;
  const listings = new ListingsEdit(base, [], rows.length);
  for (const [n, i] of changed.entries()) {
    if (n % BATCH_ROWS === 0) yield;
    listings.replace(i, evaluate(compiled, skus[i] as string, rows[i] as Row));
  }
  const { rows: rowsBefore, skus: skusBefore } = before;
  yield* comparingIncrementally(
    compiled,
    { listings: base, rows: rowsBefore, skus: skusBefore },
    { listings, rows, skus },
    changed,
  );
  return listings;
}

/** The same at once. */
export const evaluateRows = (...given: Parameters<typeof evaluatingRows>): Listings =>
  atOnce(evaluatingRows(...given));
