import { waitsForCode } from '../catalog/item';
import { type AttributeIndex, asList, asText, ownEntry, type Row, type Value } from '../catalog/value';
import { type CategoryTree, isUnder, pathOf } from '../categories/tree';
import { type Field, fieldWithRole, type Sheet } from '../channels/sheet';
import type { Filling } from '../checks/check';
import { type Comparison, comparisonsOf } from '../checks/comparing';
import { compileChecks, type FieldChecks } from '../checks/compileChecks';
import { type ExternalFacts, noExternalFacts } from '../checks/externalFacts';
import type { Report } from '../checks/issue';
import { compileSeverities, type SeverityResolver } from '../checks/severityOverrides';
import {
  attributesOf,
  type CompiledComposition,
  type Composition,
  compileComposition,
} from '../compose/composition';
import type { StepContext } from '../compose/steps';
import {
  type ConditionFact,
  type ConditionScope,
  compileCondition,
  type Predicate,
  type Reader,
} from '../conditions/conditions';
import { groupCode, shownOf } from '../families/shape';
import type { KeywordLists } from '../keywords/keyword';
import { compileSearchWords, type Terms, termsOf, topTermReader } from '../keywords/searchWords';
import { safeMarkup } from '../markup/safeMarkup';
import {
  branchesOf,
  type CategoryMapping,
  type CategoryVariant,
  categoryMappingFor,
  type Plan,
} from '../plans/plan';
import { type CompiledRule, compileRule, reviewsOf } from '../rules/rule';
import { memoizedByText } from '../text/remembering';
import {
  byBranch,
  type CompiledTitle,
  compileTitle,
  type TitleLimit,
  withHandTitles,
} from '../titles/pattern';

/** A plan and a sheet, compiled once: flat arrays over attribute slots, nothing to look up inside the loop. */
export interface CompiledPlan {
  readonly plan: Plan;
  readonly sheet: Sheet;
  readonly tree: CategoryTree;
  readonly index: AttributeIndex;
  readonly watch: CompileOptions['watch'];
  /** What names in conditions and compositions stand for. */
  readonly scope: ConditionScope;
  readonly context: StepContext;
  /** By field position; undefined where nothing fills the field. */
  readonly compositions: readonly (CompiledComposition | undefined)[];
  readonly mapped: readonly { readonly at: number; run(row: Row): Value | undefined }[];
  readonly title: CompiledTitle | undefined;
  /** What shoppers type; undefined where no list of the market's language was brought in. */
  readonly terms: Terms | undefined;
  readonly titleAt: number;
  readonly categoryAt: number;
  readonly rules: readonly CompiledRule[];
  readonly inScope: Predicate | undefined;
  /** Whether an item does not join the feed yet. */
  waits(row: Row): boolean;
  /** Where each field is a must; undefined where it is everywhere or nowhere under a condition. */
  readonly mustHere: readonly (Predicate | undefined)[];
  readonly checks: readonly FieldChecks[];
  /** What the merchant says of checks; undefined where the channel's own severities count. */
  readonly judge: SeverityResolver | undefined;
  /** By what listings are compared with each other. */
  readonly compared: readonly Comparison[];
  /** Fields that take markup, with what cleans it: nothing else leaves. */
  readonly markup: readonly { readonly at: number; clean(value: Value): Value | undefined }[];
  placementOf(row: Row): { placement: CategoryMapping; from: string } | undefined;
  /** Where items may join what the channel has already; undefined where they may not. */
  readonly joins: Joins | undefined;
}

/** A listing whose field for it is filled joins an entry that the channel has, and is asked for little. */
export interface Joins {
  /** Where the entry's number stands. */
  readonly at: number;
  readonly skuSlot: number;
  /** By SKU: the entry that an item was said to join. */
  readonly entries: ReadonlyMap<string, string>;
  /** Positions of what is asked then, its own key and the entry's number among them. */
  readonly asked: ReadonlySet<number>;
}

export interface CompileOptions {
  /** What was found by looking; nothing where left out. */
  readonly seen?: ExternalFacts;
  readonly keywords?: KeywordLists | undefined;
  /** The day it is, 2027-03-31; without it nothing is said of days that have passed. */
  readonly day?: string | undefined;
  readonly languageOf?: ((text: string) => string | undefined) | undefined;
  /** Whose shop it is. */
  readonly merchant?: string | undefined;
  /** Asked now and then during bulk work; throws where it has gone on for too long. */
  readonly watch?: ((rows?: number) => void) | undefined;
}

/**
 * Compiles a plan against its sheet and tree.
 * @param index which attribute stands in which slot of the rows to come
 */
export function compile(
  plan: Plan,
  sheet: Sheet,
  tree: CategoryTree,
  index: AttributeIndex,
  { seen = noExternalFacts, keywords, day, merchant, languageOf, watch }: CompileOptions = {},
): CompiledPlan {
  const positions = new Map(sheet.fields.map((field, at) => [field.code, at]));
  const fieldAt = (code: string) => positions.get(code);
  const categoryField = sheet.fields.findIndex((field) => field.kind === 'category');
  const scope: ConditionScope = {
    index,
    currency: plan.market.currency,
    language: plan.market.language,
    untranslated: plan.untranslated,
    fieldAt,
    isUnder: (category, branch) => isUnder(tree, category, branch),
    categoryField: categoryField < 0 ? undefined : categoryField,
    country: plan.market.country,
    factReader: (fact) =>
      fact === 'standing'
        ? channelStatusReader(plan, index, seen)
        : factReader(fact, sheet, seen, () => found),
  };
  let found: Pick<CompiledPlan, 'checks' | 'judge' | 'index'> | undefined;
  const plainContext: StepContext = {
    index,
    language: plan.market.language,
    currency: plan.market.currency,
    untranslated: plan.untranslated,
    tables: plan.tables,
    watch,
  };
  const terms = termsFor(plan, keywords);
  const context: StepContext = terms
    ? { ...plainContext, topTerm: topTermReader(terms, plainContext) }
    : plainContext;
  const titleField = fieldWithRole(sheet, 'title');
  const branches = Object.entries(plan.titlesIn ?? {});
  const titleAt = titleField && (plan.title || branches.length > 0) ? (fieldAt(titleField.code) ?? -1) : -1;
  const placementOf = categoryReader(plan, index);
  const title =
    titleAt >= 0
      ? withHandTitles(
          compileTitles({ plan, tree, context, placementOf }, titleLimit(sheet)),
          plan.titlesByHand ?? {},
          index.slotOf('sku'),
        )
      : undefined;
  const compositions = sheet.fields.map((field, at) => {
    if (at === titleAt || at === categoryField) return undefined;
    if (terms && field.code === plan.searchWords?.field)
      return compileSearchWords(field, terms, context, (row) => title?.run(row));
    const composition = ownEntry(plan.fields, field.code);
    const usual = composition && compileComposition(composition, context);
    const variants = ownEntry(plan.perCategory, field.code) ?? [];
    const created = variants.length > 0 ? byCategory(usual, variants, context) : usual;
    if (created && field.role === 'availability') return onBackOrder(created, field, index);
    if (created && field.role === 'axes') return ofVariants(created, index);
    return created && field.role === 'group' ? asChosen(created, plan, tree, index, placementOf) : created;
  });
  const compiled: CompiledPlan = {
    plan,
    sheet,
    tree,
    index,
    watch,
    scope,
    context,
    compositions,
    mapped: compositions.flatMap((composition, at) => (composition ? [{ at, run: composition.run }] : [])),
    title,
    terms,
    titleAt,
    categoryAt: categoryField,
    rules: plan.rules.filter((rule) => rule.on).map((rule) => compileRule(rule, scope, context)),
    inScope: plan.scope ? compileCondition(plan.scope, scope) : undefined,
    waits: waitsFor(plan.feed, index),
    mustHere: sheet.fields.map((field) =>
      field.mustWhen ? compileCondition(field.mustWhen, scope) : undefined,
    ),
    checks: compileChecks({
      catalogCurrency: index.currency,
      slotOf: (code) => index.slotOf(code),
      sheet,
      tree,
      currency: plan.market.currency,
      country: plan.market.country,
      met: new Set(plan.met),
      seen,
      filledFrom: filledFrom(plan, index),
      day,
      merchant,
      language: plan.market.language,
      languageOf,
      fieldAt,
      predicate: (condition) => compileCondition(condition, scope),
      own: Object.values(plan.checks?.own ?? {}),
      reviews: reviewsOf(plan.rules),
    }),
    judge: compileSeverities(plan.checks),
    compared: comparisonsOf(sheet, seen),
    markup: sheet.fields.flatMap((field, at) =>
      field.kind === 'richText' ? [{ at, clean: cleaner(field.markup) }] : [],
    ),
    placementOf,
    joins: joinsOf(plan, sheet, index),
  };
  found = compiled;
  return compiled;
}

function joinsOf({ joined = {} }: Plan, sheet: Sheet, index: AttributeIndex): Joins | undefined {
  const { joins } = sheet.delivery;
  if (!joins) return undefined;
  const requested = new Set([joins.field, ...joins.asked]);
  return {
    at: sheet.fields.findIndex(({ code }) => code === joins.field),
    skuSlot: index.slotOf('sku') ?? -1,
    entries: new Map(Object.entries(joined).map(([sku, { entry }]) => [sku, entry])),
    asked: new Set(
      sheet.fields.flatMap(({ code, role }, at) => (role === 'id' || requested.has(code) ? [at] : [])),
    ),
  };
}

/** Whether an item still waits to join the feed. */
function waitsFor(feed: string | undefined, index: AttributeIndex): (row: Row) => boolean {
  const slot = index.slotOf(waitsForCode);
  if (feed === undefined || slot === undefined) return () => false;
  return (row) => row[slot] !== undefined && asList(row[slot]).includes(feed);
}

/** Reads how a listing stands at the channel. */
function channelStatusReader({ feed }: Plan, index: AttributeIndex, seen: ExternalFacts): Reader {
  const skuSlot = index.slotOf('sku') ?? -1;
  return (row) => {
    const found = feed === undefined ? undefined : seen.standing(feed, asText(row[skuSlot]));
    return found && [...found];
  };
}

/** Reads what was found of a listing, for conditions. @param compiled the checks of the feed, once there are any */
function factReader(
  fact: Exclude<ConditionFact, 'standing'>,
  sheet: Sheet,
  seen: ExternalFacts,
  compiled: () => Pick<CompiledPlan, 'checks' | 'judge' | 'index'> | undefined,
): Reader {
  if (fact === 'issues') return issuesReader(compiled);
  const places = sheet.fields.flatMap(({ kind }, at) => (kind === 'pictures' ? [at] : []));
  if (fact === 'pictures')
    return (_row, values) => String(places.reduce((sum, at) => sum + asList(values[at]).length, 0));
  const main = sheet.fields.findIndex(({ role }) => role === 'image');
  return (_row, values) => {
    const [link] = asList(values[main]);
    const measured = link === undefined ? undefined : seen.picture(link);
    if (measured === undefined) return undefined;
    if (fact === 'pictureReadable') return measured === 'unreadable' ? 'no' : 'yes';
    if (measured === 'unreadable') return undefined;
    switch (fact) {
      case 'pictureWidth':
        return String(measured.width);
      case 'pictureHeight':
        return String(measured.height);
      case 'pictureFormat':
        return measured.format;
      case 'pictureBorder':
        return String(Math.round(measured.whiteBorder * 1000) / 10);
    }
  };
}

/** Reads the issues that a listing has as it stands, by check and by check and field. One that asks for issues itself has none. */
function issuesReader(compiled: () => Pick<CompiledPlan, 'checks' | 'judge' | 'index'> | undefined): Reader {
  let asking = false;
  return (row, values) => {
    const found = compiled();
    if (asking || !found) return undefined;
    const sku = asText(row[found.index.slotOf('sku') ?? -1]);
    const names = new Set<string>();
    const report: Report = (check, given, field) => {
      if (found.judge && found.judge(sku, check, field, given) === undefined) return;
      names.add(check).add(`${check}:${field}`);
    };
    asking = true;
    try {
      for (const check of found.checks) check.run(row, values, report);
    } finally {
      asking = false;
    }
    return names.size === 0 ? undefined : [...names];
  };
}

/** The titles that a plan's patterns make, none of them by hand: each branch of the tree may have its own. */
export function compileTitles(
  { plan, tree, context, placementOf }: Pick<CompiledPlan, 'plan' | 'tree' | 'context' | 'placementOf'>,
  limit: TitleLimit,
): CompiledTitle {
  const usual = plan.title && compileTitle(plan.title, limit, context);
  const branches = Object.entries(plan.titlesIn ?? {});
  if (usual && branches.length === 0) return usual;
  const own = new Map(
    branches.map(([branch, pattern]) => [branch, compileTitle(pattern, limit, context)] as const),
  );
  return byBranch(usual, own, branchesAbove(tree, placementOf));
}

/** The fields that a plan fills from an attribute, in its order, each with the items on which it does. */
function filledFrom(plan: Plan, index: AttributeIndex): (attribute: string) => readonly Filling[] {
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

function termsFor({ market, searchWords }: Plan, keywords: KeywordLists | undefined): Terms | undefined {
  const language = market.language.split('-')[0] ?? '';
  const list = keywords?.get(language);
  return list && list.length > 0 ? termsOf(list, language, searchWords?.never ?? [], branchesOf) : undefined;
}

/** What a sheet asks of the length of titles. */
export function titleLimit(sheet: Sheet): TitleLimit {
  const length = fieldWithRole(sheet, 'title')?.length;
  return { most: length?.most, measure: length?.measure ?? 'characters', phone: length?.phone };
}

/** The place of an item and the branches above it, nearest first; none where it has no place. */
function branchesAbove(
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
function cleaner(tags: readonly string[] | undefined): (value: Value) => Value | undefined {
  const clean = memoizedByText((text) => safeMarkup(text, tags));
  return (value) => {
    if (typeof value === 'string') return value.includes('<') ? clean(value).trim() || undefined : value;
    const list = value.map(clean).filter((entry) => entry.trim() !== '');
    return list.length > 0 ? list : undefined;
  };
}

/** Chooses among compositions by the merchant's category of the item; each category is looked up once. */
function byCategory(
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
function asChosen(
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
function ofVariants(created: CompiledComposition, index: AttributeIndex): CompiledComposition {
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
function onBackOrder(
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

function categoryReader(plan: Plan, index: AttributeIndex): CompiledPlan['placementOf'] {
  const categorySlot = index.slotOf('category');
  const skuSlot = index.slotOf('sku');
  const exceptions = new Map(Object.entries(plan.exceptions));
  const known = new Map<string, { placement: CategoryMapping; from: string } | undefined>();
  return (row) => {
    if (exceptions.size > 0 && skuSlot !== undefined) {
      const sku = row[skuSlot];
      const own = typeof sku === 'string' ? exceptions.get(sku) : undefined;
      if (own) return { placement: own, from: String(sku) };
    }
    const category = categorySlot === undefined ? undefined : row[categorySlot];
    if (typeof category !== 'string') return undefined;
    if (known.has(category)) return known.get(category);
    const found = categoryMappingFor(plan.placements, category);
    known.set(category, found);
    return found;
  };
}
