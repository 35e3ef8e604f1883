import { type AttributeIndex, asText, ownEntry, type Row, type Value } from '../../catalog/value';
import { type CategoryTree, pathOf } from '../../categories/tree';
import type { Field } from '../../channels/sheet';
import type { Filling } from '../../checks/check';
import {
  attributesOf,
  type CompiledComposition,
  type Composition,
  compileComposition,
} from '../../compose/composition';
import type { StepContext } from '../../compose/steps';
import { groupCode, shownOf } from '../../families/shape';
import { safeMarkup } from '../../markup/safeMarkup';
import { branchesOf, type CategoryVariant, type Plan } from '../../plans/plan';
import { memoizedByText } from '../../text/remembering';
import type { CompiledPlan } from './compiledPlan';

/** The fields that a plan fills from an attribute, in its order, each with the items on which it does. */
export function filledFrom(plan: Plan, index: AttributeIndex): (attribute: string) => readonly Filling[] {
  const found = new Map<string, Filling[]>();
  for (const code of new Set([...Object.keys(plan.fields), ...Object.keys(plan.perCategory)])) {
    const usual = ownEntry(plan.fields, code);
    const variants = ownEntry(plan.perCategory, code) ?? [];
    const compositions = [...(usual ? [usual] : []), ...variants.map(({ composition }) => composition)];
    for (const attribute of new Set(compositions.flatMap(attributesOf))) {
      const filling = fillingOf(code, attribute, usual, variants, index);
      const known = found.get(attribute);
      if (known) known.push(filling);
      else found.set(attribute, [filling]);
    }
  }
  return (attribute) => found.get(attribute) ?? [];
}

/** How a field is filled from an attribute that some of its compositions read. */
function fillingOf(
  field: string,
  attribute: string,
  usual: Composition | undefined,
  variants: readonly CategoryVariant[],
  index: AttributeIndex,
): Filling {
  const reads = (composition: Composition | undefined) =>
    composition !== undefined && attributesOf(composition).includes(attribute);
  const otherwise = reads(usual);
  const byCategory = new Map<string, boolean>();
  for (const { categories, composition } of variants)
    for (const category of categories)
      if (!byCategory.has(category)) byCategory.set(category, reads(composition));
  const everywhere = otherwise && [...byCategory.values()].every((one) => one);
  const key = everywhere ? '' : JSON.stringify([otherwise, [...byCategory].sort()]);
  if (everywhere) return { field, on: undefined, key };
  const slot = index.slotOf('category');
  const known = new Map<string, boolean>();
  const on = (row: Row): boolean => {
    const category = slot === undefined ? undefined : row[slot];
    if (typeof category !== 'string') return otherwise;
    let found = known.get(category);
    if (found === undefined) {
      const from = branchesOf(category).find((one) => byCategory.has(one));
      found = from === undefined ? otherwise : byCategory.get(from) === true;
      known.set(category, found);
    }
    return found;
  };
  return { field, on, key };
}

/** The place of an item and the branches above it, nearest first; none where it has no place. */
export function branchesAbove(
  tree: CategoryTree,
  placementOf: CompiledPlan['placementOf'],
): (row: Row) => readonly string[] {
  const known = new Map<string, readonly string[]>();
  return (row) => {
    const placement = placementOf(row)?.placement;
    if (!placement || !('category' in placement)) return [];
    const { category } = placement;
    const found = known.get(category) ?? pathOf(tree, category).reverse();
    known.set(category, found);
    return found;
  };
}

/** Cleans markup by a field's allow-list; catalogs repeat texts over variants, so each is cleaned once. */
export function cleaner(tags: readonly string[] | undefined): (value: Value) => Value | undefined {
  const clean = memoizedByText((text) => safeMarkup(text, tags));
  return (value) => {
    if (typeof value === 'string') return value.includes('<') ? clean(value).trim() || undefined : value;
    const list = value.map(clean).filter((entry) => entry.trim() !== '');
    return list.length > 0 ? list : undefined;
  };
}

/** Chooses among compositions by the merchant's category of the item; each category is looked up once. */
export function byCategory(
  usual: CompiledComposition | undefined,
  variants: readonly CategoryVariant[],
  context: StepContext,
): CompiledComposition {
  const slot = context.index.slotOf('category');
  const compiled = new Map<string, CompiledComposition>();
  for (const { categories, composition } of variants) {
    const own = compileComposition(composition, context);
    for (const category of categories) if (!compiled.has(category)) compiled.set(category, own);
  }
  const known = new Map<string, CompiledComposition | undefined>();
  const choose = (row: Row): CompiledComposition | undefined => {
    const category = slot === undefined ? undefined : row[slot];
    if (typeof category !== 'string') return usual;
    if (known.has(category)) return known.get(category);
    const from = branchesOf(category).find((one) => compiled.has(one));
    const found = from === undefined ? usual : compiled.get(from);
    known.set(category, found);
    return found;
  };
  return {
    run: (row) => choose(row)?.run(row),
    trace: (row, tie) => choose(row)?.trace(row, tie),
  };
}

/** The code of a listing's group as the merchant has chosen: taken away where members stand singly, parted by axes. */
export function asChosen(
  created: CompiledComposition,
  { families }: Plan,
  tree: CategoryTree,
  index: AttributeIndex,
  placementOf: CompiledPlan['placementOf'],
): CompiledComposition {
  if (!families) return created;
  const familySlot = index.slotOf('family');
  const apart = families.apart.flatMap((code) => index.slotOf(code) ?? []);
  const above = branchesAbove(tree, placementOf);
  const chosen = (row: Row, group: Value | undefined): Value | undefined => {
    const family = familySlot === undefined ? '' : asText(row[familySlot]);
    const { shown } = shownOf(families, family, above(row));
    return groupCode(
      group,
      shown,
      apart.map((slot) => asText(row[slot])),
    );
  };
  return {
    run: (row) => chosen(row, created.run(row)),
    trace: (row, tie) => {
      const group = created.trace(row, tie);
      const value = chosen(row, group);
      if (value !== group) tie({ kind: 'family', what: value === undefined ? 'singly' : 'apart', value });
      return value;
    },
  };
}

/** Keeps a field about variants empty for an item of no family. */
export function ofVariants(created: CompiledComposition, index: AttributeIndex): CompiledComposition {
  const slot = index.slotOf('family');
  const isVariant = (row: Row) => slot !== undefined && row[slot] !== undefined;
  return {
    run: (row) => (isVariant(row) ? created.run(row) : undefined),
    trace: (row, tie) => {
      if (isVariant(row)) return created.trace(row, tie);
      tie({ kind: 'family', what: 'alone', value: undefined });
      return undefined;
    },
  };
}

/** Sends a sold-out item that may be back-ordered as back-order, where the value mapping leads to a choice of the channel. */
export function onBackOrder(
  created: CompiledComposition,
  { choices }: Field,
  index: AttributeIndex,
): CompiledComposition {
  const [may, stock] = [index.slotOf('backOrder'), index.slotOf('availability')];
  if (may === undefined || stock === undefined) return created;
  const taken = choices && new Set(choices.map(({ code }) => code));
  const soldOut = new Set<Value | undefined>(['OutOfStock', 'SoldOut']);
  /** The row as if it said back-order; undefined where it does not apply or the channel does not take it. */
  const other = (row: Row): Row | undefined => {
    if (row[may] !== 'true' || !soldOut.has(row[stock])) return undefined;
    const changed = [...row];
    changed[stock] = 'BackOrder';
    const value = created.run(changed);
    return value !== undefined && (!taken || taken.has(asText(value))) ? changed : undefined;
  };
  return {
    run: (row) => created.run(other(row) ?? row),
    trace: (row, tie) => {
      const changed = other(row);
      if (changed) tie({ kind: 'attribute', what: 'backOrder', value: 'true' });
      return created.trace(changed ?? row, tie);
    },
  };
}
