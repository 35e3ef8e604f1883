import { asText } from '../../core/catalog/value';
import { isUnder } from '../../core/categories/tree';
import { compileCondition } from '../../core/conditions/conditions';
import type { Rule } from '../../core/rules/rule';
import { compileRule } from '../../core/rules/rule';
import { evaluationOf } from '../listings/evaluation';
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

/** The Rules stage: each rule with what it does to the whole catalog at its place in the order. */
export function rulesStage(work: FeedWork): RulesStage {
  const { plans, sheet, snapshot, labelOf, draft } = work;
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
  // Each rule is looked at over what the rules before it made.
  let before = evaluationOf({ ...plans.draft, rules: [] }, work.channel, snapshot);
  const published = new Map((plans.published?.rules ?? []).map((rule) => [rule.id, JSON.stringify(rule)]));
  const views = rules.map((rule, i): RuleView => {
    const after = rule.on
      ? evaluationOf({ ...plans.draft, rules: rules.slice(0, i + 1) }, work.channel, snapshot)
      : before;
    const holds = compileCondition(rule.when, scope);
    const trial = compileRule({ ...rule, on: true }, scope);
    let matches = 0;
    let changes = 0;
    const examples: RuleView['examples'][number][] = [];
    snapshot.rows.forEach((row, at) => {
      const was = before.listings[at];
      if (!was || was.state === 'leftOut' || !holds(row, was.values)) return;
      matches++;
      const values = [...was.values];
      const reason = trial.apply(values);
      const changed = values.findIndex((value, position) => asText(value) !== asText(was.values[position]));
      if (changed < 0 && reason === undefined) return;
      changes++;
      if (examples.length < mostExamples)
        examples.push({
          sku: was.sku,
          field: changed < 0 ? 'Listing' : labelOf(sheet.fields[changed]?.code ?? ''),
          before: changed < 0 ? '' : asText(was.values[changed]),
          after: changed < 0 ? `left out: ${reason}` : asText(values[changed]),
        });
    });
    const known = published.get(rule.id);
    before = after;
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
