import { asText, type Value } from '../../core/catalog/value';
import { isUnder } from '../../core/categories/tree';
import { compileCondition } from '../../core/conditions/conditions';
import { fillFields } from '../../core/listing/evaluate';
import { rowsAStep, type Steps } from '../../core/listing/steps';
import type { Rule } from '../../core/rules/rule';
import { compileRule } from '../../core/rules/rule';
import { keptFor } from '../evaluating/keptFor';
import { inSlices } from '../listings/patience';
import type { FeedWork } from './work';

export interface RuleView {
  readonly rule: Rule;
  /** Items the condition holds for, at the rule's place in the order. */
  readonly matches: number;
  /** Listings whose values it changes or that it leaves out. */
  readonly changes: number;
  readonly examples: readonly { sku: string; field: string; before: string; after: string }[];
  readonly state: 'same' | 'new' | 'changed';
}

export interface RulesStage {
  readonly rules: readonly RuleView[];
  readonly attributes: readonly { code: string; label: string }[];
  readonly fields: readonly { code: string; label: string }[];
}

const mostExamples = 4;

/** What a rule does to the catalog, while it is counted. */
interface Counting {
  readonly holds: ReturnType<typeof compileCondition>;
  readonly trial: ReturnType<typeof compileRule>;
  matches: number;
  changes: number;
  readonly examples: RuleView['examples'][number][];
}

/** Every rule over every row, in one pass, each over what the rules before it made. */
function* countingRules(
  { draft: { compiled }, snapshot, sheet, labelOf }: FeedWork,
  rules: readonly Rule[],
  counts: readonly Counting[],
): Steps<void> {
  for (const [at, row] of snapshot.rows.entries()) {
    if (at % rowsAStep === 0) yield;
    const values: (Value | undefined)[] = new Array(sheet.fields.length).fill(undefined);
    let reason = fillFields(compiled, row, values);
    if (reason !== undefined || (compiled.inScope && !compiled.inScope(row, values))) continue;
    for (const [n, count] of counts.entries()) {
      if (!count.holds(row, values)) continue;
      count.matches++;
      const after = [...values];
      const leaves = count.trial.apply(after);
      const changed = after.findIndex((value, position) => asText(value) !== asText(values[position]));
      if (changed >= 0 || leaves !== undefined) {
        count.changes++;
        if (count.examples.length < mostExamples)
          count.examples.push({
            sku: snapshot.skus[at] ?? '',
            field: changed < 0 ? 'Listing' : labelOf(sheet.fields[changed]?.code ?? ''),
            before: changed < 0 ? '' : asText(values[changed]),
            after: changed < 0 ? `left out: ${leaves}` : asText(after[changed]),
          });
      }
      if (!rules[n]?.on) continue;
      for (const [position, value] of after.entries()) values[position] = value;
      reason = leaves;
      if (reason !== undefined) break;
    }
  }
}

/** The Rules stage: each rule with what it does to the whole catalog at its place in the order. */
export async function rulesStage(work: FeedWork): Promise<RulesStage> {
  const { plans, sheet, snapshot, draft } = work;
  const { rules } = plans.draft;
  const { tree } = draft.compiled;
  const positions = new Map(sheet.fields.map(({ code }, at) => [code, at]));
  const categoryField = sheet.fields.findIndex(({ kind }) => kind === 'category');
  const scope = {
    index: snapshot.index,
    fieldAt: (code: string) => positions.get(code),
    isUnder: (category: string, branch: string) => isUnder(tree, category, branch),
    categoryField: categoryField < 0 ? undefined : categoryField,
    country: plans.head.country,
  };
  const counts = await keptFor(draft, 'rules', async () => {
    const made = rules.map(
      (rule): Counting => ({
        holds: compileCondition(rule.when, scope),
        trial: compileRule({ ...rule, on: true }, scope),
        matches: 0,
        changes: 0,
        examples: [],
      }),
    );
    if (rules.length > 0) await inSlices(countingRules(work, rules, made));
    return made;
  });
  const published = new Map((plans.published?.rules ?? []).map((rule) => [rule.id, JSON.stringify(rule)]));
  const views = rules.map((rule, n): RuleView => {
    const known = published.get(rule.id);
    const { matches = 0, changes = 0, examples = [] } = counts[n] ?? {};
    return {
      rule,
      matches,
      changes,
      examples,
      state: known === undefined ? 'new' : known === JSON.stringify(rule) ? 'same' : 'changed',
    };
  });
  return {
    rules: views,
    attributes: [
      { code: 'sku', label: 'SKU' },
      { code: 'family', label: 'Family' },
      ...snapshot.attributes.filter(({ code }) => code !== 'sku').map(({ code, label }) => ({ code, label })),
    ],
    fields: sheet.fields.map(({ code, label }) => ({ code, label })),
  };
}
