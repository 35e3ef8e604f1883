import type { Row } from '../../catalog/value';
import { branchesIn, type Condition, fieldsIn } from '../../conditions/conditions';
import { type CategoryMapping, categoryMappingFor, type Plan } from '../../plans/plan';
import { type CompiledRule, readsOf, writesOf } from '../../rules/rule';
import type { CompiledPlan } from '../compiling/compiledPlan';
import type { CatalogRows, Listing } from '../evaluate';
import { differing, same, settings } from './touched';

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
export interface Foreseen {
  /** Positions of all that it can touch; undefined where any may be. */
  readonly among?: readonly number[];
  /**
   * Tells that a listing stays as it is. Not of one that joins an entry of the channel: it kept nothing of what rules ask for.
   */
  readonly stays?: (row: Row, values: Listing['values']) => boolean;
}

/** Where places alone differ it is listings that go elsewhere, where rules do, those that one of them applies to. */
export function foreseen(before: CompiledPlan, after: CompiledPlan, catalog: CatalogRows): Foreseen {
  const names = Object.keys(settings) as (keyof Plan)[];
  const others = names.filter((name) => !same(before.plan[name], after.plan[name]));
  if (others.every((name) => name === 'placements' || name === 'exceptions'))
    return { among: movedBetween(before, after, catalog) };
  const rules = others.every((name) => name === 'rules') ? foreseeable(before, after) : undefined;
  return rules ? { stays: (row, values) => !rules.some(({ applies }) => applies(row, values)) } : {};
}

/** Positions of what rules, and the joining of entries, may ask for. */
export const lookedAt = (
  { sheet, categoryAt, joins }: CompiledPlan,
  rules: readonly CompiledRule[],
): number[] => {
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
