import { type Row, sameValue, type Value } from '../../catalog/value';
import type { Sheet } from '../../channels/sheet';
import { isCompared } from '../../checks/comparing';
import type { FieldChecks } from '../../checks/compileChecks';
import { type Issue, issueOf, type Report } from '../../checks/issue';
import { tablesIn, tablesOf } from '../../compose/composition';
import { branchesIn, type Condition, factsIn, fieldsIn } from '../../conditions/conditions';
import { type CategoryMapping, categoryMappingFor, conditionsOf, type Plan } from '../../plans/plan';
import {
  type CompiledRule,
  leavesOut,
  type Rule,
  readsOf,
  reviewsOf,
  tablesOfRule,
  writesOf,
} from '../../rules/rule';
import type { CompiledPlan } from '../compile';
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
import { type Recheck, recheck, recheckingListings } from './incrementalChecks';
import { comparingIncrementally } from './incrementalComparisons';

/**
 * Evaluation after an edit. A compiled plan knows what each field, rule and check reads, so only what an edit touches is
 * computed again; every listing that stays as it was is known to be the one before. Always equal to {@link evaluateAll}.
 */

/** What an edit makes it necessary to compute again. */
export interface Touched {
  /** Positions of fields whose values are made anew. */
  readonly fields: ReadonlySet<number>;
  /** Positions, in the list of those that are on, of the rules that run again. */
  readonly rules: ReadonlySet<number>;
  /** Whether listings may be left out, or taken in, for another reason than before. */
  readonly reasons: boolean;
  /** Positions of fields whose issues may differ. */
  readonly issues: ReadonlySet<number>;
  /** Those among them whose checks themselves differ, so that issues may differ where no value does. */
  readonly rechecked: ReadonlySet<number>;
}

export interface IncrementalEvaluation {
  readonly listings: Listings;
  /** Undefined where everything was computed. */
  readonly touched: Touched | undefined;
  /** Positions of the fields whose coverage may differ; undefined where that of any may, though not of every listing. */
  readonly counted: ReadonlySet<number> | undefined;
}

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/**
 * How each setting of a plan is told apart: by what it touches, or as something that touches everything. A setting that is
 * added does not compile until it has its place here.
 */
const settings: Readonly<Record<keyof Plan, 'touches' | 'everywhere' | 'nothing'>> = {
  format: 'nothing',
  channel: 'everywhere',
  feed: 'everywhere',
  market: 'everywhere',
  scope: 'everywhere',
  met: 'everywhere',
  proofs: 'nothing',
  untranslated: 'everywhere',
  fields: 'touches',
  perCategory: 'touches',
  tables: 'touches',
  placements: 'touches',
  exceptions: 'touches',
  title: 'touches',
  titlesIn: 'touches',
  searchWords: 'touches',
  families: 'touches',
  titlesByHand: 'touches',
  joined: 'everywhere',
  checks: 'everywhere',
  rules: 'touches',
};
const everywhere = (Object.keys(settings) as (keyof Plan)[]).filter((one) => settings[one] === 'everywhere');

/** Whether any condition of a feed asks for what was found of a listing. */
const looksAtFacts = (sheet: Sheet, plan: Plan): boolean =>
  [...conditionsOf(plan), ...sheet.fields.flatMap(({ mustWhen }) => mustWhen ?? [])].some(
    (condition) => factsIn(condition).length > 0,
  );

/** The ids of rules that are not in both lists as they are; of all where those that are in both stand in another order. */
function differing(was: readonly Rule[], is: readonly Rule[]): ReadonlySet<string> {
  const [before, after] = [was, is].map((rules) => new Map(rules.map((rule) => [rule.id, rule])));
  const all = [...new Set([...was, ...is].map(({ id }) => id))];
  const inBoth = (rules: readonly Rule[]) =>
    rules.flatMap(({ id }) => (before?.has(id) && after?.has(id) ? [id] : []));
  if (!same(inBoth(was), inBoth(is))) return new Set(all);
  return new Set(all.filter((id) => !same(before?.get(id), after?.get(id))));
}

/** What lies between two plans of one feed; undefined where it is not worth telling apart from everything. */
export function touchedBy(before: CompiledPlan, after: CompiledPlan): Touched | undefined {
  const [was, is] = [before.plan, after.plan];
  const { sheet } = after;
  if (
    before.sheet !== sheet ||
    before.tree !== after.tree ||
    before.index !== after.index ||
    everywhere.some((setting) => !same(was[setting], is[setting])) ||
    // What was found of a listing may change with any of its values.
    looksAtFacts(sheet, was) ||
    looksAtFacts(sheet, is) ||
    // What is held back changes no value, so that no value tells of whom it is said.
    !same(reviewsOf(was.rules), reviewsOf(is.rules))
  )
    return undefined;
  const positions = new Map(sheet.fields.map(({ code }, at) => [code, at]));
  const at = (codes: readonly string[]) =>
    codes.map((code) => positions.get(code)).filter((one) => one !== undefined);

  const looked = (condition: Condition) => [
    ...at(fieldsIn(condition)),
    ...(branchesIn(condition).length > 0 && after.categoryAt >= 0 ? [after.categoryAt] : []),
  ];

  const fields = new Set<number>();
  const names = new Set([...Object.keys(was.tables), ...Object.keys(is.tables)]);
  const tables = new Set([...names].filter((name) => !same(was.tables[name], is.tables[name])));
  const looksUp = (plan: Plan, code: string): boolean =>
    [plan.fields[code], ...(plan.perCategory[code] ?? []).map(({ composition }) => composition)].some(
      (one) => one !== undefined && tablesIn(one).some((name) => tables.has(name)),
    );
  sheet.fields.forEach(({ code }, position) => {
    if (
      !same(was.fields[code], is.fields[code]) ||
      !same(was.perCategory[code], is.perCategory[code]) ||
      (tables.size > 0 && looksUp(is, code))
    )
      fields.add(position);
  });
  const titleTables = [is.title, ...Object.values(is.titlesIn ?? {})].flatMap((pattern) =>
    (pattern?.parts ?? []).flatMap((part) => ('attribute' in part ? tablesOf(part.steps) : [])),
  );
  const titlesByPlace = is.titlesIn !== undefined || was.titlesIn !== undefined;
  const placed = !same(was.placements, is.placements) || !same(was.exceptions, is.exceptions);
  // A title may hold a term, and terms those that one never says.
  const termsDiffer = !same(was.searchWords, is.searchWords);
  const titlesDiffer =
    termsDiffer ||
    !same(was.title, is.title) ||
    !same(was.titlesIn, is.titlesIn) ||
    (titlesByPlace && placed) ||
    !same(was.titlesByHand, is.titlesByHand) ||
    titleTables.some((name) => tables.has(name));
  if (titlesDiffer) {
    for (const position of [before.titleAt, after.titleAt]) if (position >= 0) fields.add(position);
    for (const position of at([was, is].flatMap(({ searchWords }) => searchWords?.field ?? [])))
      fields.add(position);
  }
  let reasons = false;
  if (placed) {
    reasons = true;
    if (after.categoryAt >= 0) fields.add(after.categoryAt);
  }

  // The code of a group follows what is chosen of families, and where that is chosen by branch, the places.
  const groupAt = sheet.fields.findIndex(({ role }) => role === 'group');
  const byBranch = Object.keys(is.families?.branches ?? {}).length > 0;
  if (groupAt >= 0 && (!same(was.families, is.families) || (reasons && byBranch))) fields.add(groupAt);

  const on = (plan: Plan) => plan.rules.filter((rule) => rule.on);
  const [oldRules, newRules] = [on(was), on(is)];
  const rules = new Set<number>();
  const other = differing(oldRules, newRules);
  newRules.forEach((rule, i) => {
    if (other.has(rule.id)) rules.add(i);
  });
  for (const rule of [...oldRules, ...newRules])
    if (other.has(rule.id)) {
      for (const position of at(writesOf(rule))) fields.add(position);
      reasons ||= leavesOut(rule);
    }
  // A rule that looks words up in a table that differs runs again.
  for (const rule of newRules)
    if (tablesOfRule(rule).some((name) => tables.has(name)))
      for (const position of at(writesOf(rule))) fields.add(position);
  const written = new Set(newRules.flatMap((rule) => at(writesOf(rule))));
  // Until nothing is added: a rule that meets a touched field runs again, and what it then needs must be as it was before it.
  for (let grown = true; grown; ) {
    grown = false;
    newRules.forEach((rule, i) => {
      const [reads, writes] = [[...looked(rule.when), ...at(readsOf(rule))], at(writesOf(rule))];
      const meets = [...reads, ...writes].some((one) => fields.has(one)) || (reasons && leavesOut(rule));
      if (!rules.has(i) && !meets) return;
      const needed = [...writes, ...reads.filter((one) => written.has(one))].filter(
        (one) => !fields.has(one),
      );
      if (rules.has(i) && needed.length === 0 && (reasons || !leavesOut(rule))) return;
      rules.add(i);
      for (const one of needed) fields.add(one);
      reasons ||= leavesOut(rule);
      grown = true;
    });
  }
  // What joins an entry loses most of its fields, and has them back where it parts.
  if (after.joins && fields.has(after.joins.at)) return undefined;
  // A scope looks at fields before any rule; what a rule writes is not to be had as it was then.
  if (is.scope && looked(is.scope).some((one) => fields.has(one) || written.has(one))) return undefined;
  const rechecked = fillingsDiffer(before, after);
  const issues = new Set([
    ...after.checks.filter(({ reads }) => [...reads].some((one) => fields.has(one))).map(({ at }) => at),
    ...rechecked,
  ]);
  return { fields, rules, reasons, issues, rechecked };
}

/** Positions of fields with checks that depend on which attributes fill them, where these differ. */
function fillingsDiffer(before: CompiledPlan, after: CompiledPlan): ReadonlySet<number> {
  const [was, is] = [before, after].map(({ checks }) => new Map(checks.map((one) => [one.at, one.fillings])));
  const positions = [...new Set([...(was?.keys() ?? []), ...(is?.keys() ?? [])])];
  return new Set(positions.filter((at) => (was?.get(at) ?? '') !== (is?.get(at) ?? '')));
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
 * The rules that differ between two plans which differ in nothing else, where a listing as it is tells whether each of them
 * applies to it: what its condition looks at is written by no rule from its place on, and not cleaned afterwards. A listing to
 * which none of them applied, or applies, stays as it is.
 */
function foreseeable(before: CompiledPlan, after: CompiledPlan): readonly CompiledRule[] | undefined {
  const rulesOf = ({ rules }: CompiledPlan) => rules.map(({ rule }) => rule);
  const other = differing(rulesOf(before), rulesOf(after));
  const places = new Map(before.rules.map(({ rule }, at) => [rule.id, at]));
  const codeAt = (at: number) => after.sheet.fields[at]?.code;
  const cleaned = after.markup.flatMap(({ at }) => codeAt(at) ?? []);
  const place = codeAt(after.categoryAt);
  /** Whether what a condition looks at is in the end as it was before the old rules from a place on. */
  const stands = (when: Condition, from: number) => {
    const written = new Set([...cleaned, ...before.rules.slice(from).flatMap(({ rule }) => writesOf(rule))]);
    const looked = [
      ...fieldsIn(when),
      ...(place !== undefined && branchesIn(when).length > 0 ? [place] : []),
    ];
    return !looked.some((code) => written.has(code));
  };
  const found: CompiledRule[] = [];
  for (const [at, one] of before.rules.entries())
    if (other.has(one.rule.id)) {
      if (!stands(one.rule.when, at)) return undefined;
      found.push(one);
    }
  // A rule that is new stands behind the last before it that is in both.
  let from = 0;
  for (const one of after.rules)
    if (!other.has(one.rule.id)) from = (places.get(one.rule.id) ?? 0) + 1;
    else if (!stands(one.rule.when, from)) return undefined;
    else found.push(one);
  return found;
}

/** Whether two placements say the same: where a listing goes, or why it is left out. */
const saysOf = (placement: CategoryMapping): string =>
  'category' in placement ? placement.category : placement.leaveOut;
const sameCategoryMapping = (a: CategoryMapping | undefined, b: CategoryMapping | undefined): boolean =>
  a === b ||
  (a !== undefined && b !== undefined && 'category' in a === 'category' in b && saysOf(a) === saysOf(b));

/** The items of each merchant category, by their positions; found once for a catalog, in the first edit of places. */
const membersOf = new WeakMap<
  readonly Row[],
  { readonly slot: number; readonly members: ReadonlyMap<string, readonly number[]> }
>();

function membersIn(rows: readonly Row[], slot: number): ReadonlyMap<string, readonly number[]> {
  const known = membersOf.get(rows);
  if (known?.slot === slot) return known.members;
  const members = new Map<string, number[]>();
  for (let i = 0; i < rows.length; i++) {
    const category = rows[i]?.[slot];
    if (typeof category !== 'string') continue;
    const own = members.get(category);
    if (own) own.push(i);
    else members.set(category, [i]);
  }
  membersOf.set(rows, { slot, members });
  return members;
}

/** Positions of items that two plans, which differ in places alone, put in different ones. */
function movedBetween(before: CompiledPlan, after: CompiledPlan, { skus, rows }: CatalogRows): number[] {
  const [was, is] = [before.plan, after.plan];
  const moved = new Uint8Array(rows.length);
  const look = (i: number) => {
    const row = rows[i] as Row;
    if (!sameCategoryMapping(before.placementOf(row)?.placement, after.placementOf(row)?.placement))
      moved[i] = 1;
  };
  const slot = after.index.slotOf('category');
  if (slot !== undefined && !same(was.placements, is.placements))
    for (const [category, members] of membersIn(rows, slot)) {
      const [from, to] = [was, is].map(
        ({ placements }) => categoryMappingFor(placements, category)?.placement,
      );
      if (!sameCategoryMapping(from, to)) members.forEach(look);
    }
  const excepted = Object.keys({ ...was.exceptions, ...is.exceptions }).filter(
    (sku) => !same(was.exceptions[sku], is.exceptions[sku]),
  );
  if (excepted.length > 0) {
    const wanted = new Set(excepted);
    for (let i = 0; i < skus.length; i++) if (wanted.has(skus[i] as string)) look(i);
  }
  const positions: number[] = [];
  for (let i = 0; i < moved.length; i++) if (moved[i]) positions.push(i);
  return positions;
}

/** Which listings an edit can touch, where that can be told beforehand. */
interface Foreseen {
  /** Positions of all that it can touch; undefined where any may be. */
  readonly among?: readonly number[];
  /**
   * Tells that a listing stays as it is. Not of one that joins an entry of the channel: it kept nothing of what rules ask for.
   */
  readonly stays?: (row: Row, values: Listing['values']) => boolean;
}

/** Where places alone differ it is listings that go elsewhere, where rules do, those that one of them applies to. */
function foreseen(before: CompiledPlan, after: CompiledPlan, catalog: CatalogRows): Foreseen {
  const names = Object.keys(settings) as (keyof Plan)[];
  const others = names.filter((name) => !same(before.plan[name], after.plan[name]));
  if (others.every((name) => name === 'placements' || name === 'exceptions'))
    return { among: movedBetween(before, after, catalog) };
  const rules = others.every((name) => name === 'rules') ? foreseeable(before, after) : undefined;
  return rules ? { stays: (row, values) => !rules.some(({ applies }) => applies(row, values)) } : {};
}

/** Positions of what rules, and the joining of entries, may ask for. */
const lookedAt = ({ sheet, categoryAt, joins }: CompiledPlan, rules: readonly CompiledRule[]): number[] => {
  const requested = new Set(rules.flatMap(({ rule }) => readsOf(rule)));
  const places = rules.some(({ rule }) => branchesIn(rule.when).length > 0) && categoryAt >= 0;
  return [
    ...new Set([
      ...sheet.fields.flatMap(({ code }, at) => (requested.has(code) ? [at] : [])),
      ...(places ? [categoryAt] : []),
      ...(joins ? [joins.at] : []),
    ]),
  ];
};

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
