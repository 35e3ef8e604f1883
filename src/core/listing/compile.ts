import { type AttributeIndex, ownEntry } from '../catalog/value';
import { type CategoryTree, isUnder } from '../categories/tree';
import { fieldWithRole, type Sheet } from '../channels/sheet';
import { comparisonsOf } from '../checks/comparing';
import { compileChecks } from '../checks/compileChecks';
import { noExternalFacts } from '../checks/externalFacts';
import { compileSeverities } from '../checks/severityOverrides';
import { compileComposition } from '../compose/composition';
import type { StepContext } from '../compose/steps';
import { type ConditionScope, compileCondition } from '../conditions/conditions';
import type { KeywordLists } from '../keywords/keyword';
import { compileSearchWords, type Terms, termsOf, topTermReader } from '../keywords/searchWords';
import { branchesOf, type CategoryMapping, categoryMappingFor, type Plan } from '../plans/plan';
import { compileRule, reviewsOf } from '../rules/rule';
import {
  byBranch,
  type CompiledTitle,
  compileTitle,
  type TitleLimit,
  withHandTitles,
} from '../titles/pattern';
import type { CompiledPlan, CompileOptions } from './compiling/compiledPlan';
import { channelStatusReader, factReader, joinsOf, waitsFor } from './compiling/facts';
import {
  asChosen,
  branchesAbove,
  byCategory,
  cleaner,
  filledFrom,
  ofVariants,
  onBackOrder,
} from './compiling/fields';

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
