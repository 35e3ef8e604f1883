import type { Sheet } from '../../channels/sheet';
import { tablesIn, tablesOf } from '../../compose/composition';
import { branchesIn, type Condition, factsIn, fieldsIn } from '../../conditions/conditions';
import { conditionsOf, type Plan } from '../../plans/plan';
import { leavesOut, type Rule, readsOf, reviewsOf, tablesOfRule, writesOf } from '../../rules/rule';
import type { CompiledPlan } from '../compiling/compiledPlan';

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

export const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/**
 * How each setting of a plan is told apart: by what it touches, or as something that touches everything. A setting that is
 * added does not compile until it has its place here.
 */
export const settings: Readonly<Record<keyof Plan, 'touches' | 'everywhere' | 'nothing'>> = {
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
export function differing(was: readonly Rule[], is: readonly Rule[]): ReadonlySet<string> {
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
