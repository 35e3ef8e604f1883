import { asText } from '../catalog/value';
import type { Sheet } from '../channels/sheet';
import { branchesIn, type Condition, comparingOperators } from '../conditions/conditions';
import { foldAlike } from '../text/folding';
import type { Action } from './actions';
import { type Rule, tablesOfRule } from './rule';

/** A rule as another channel would have it, or what keeps it from being had there. */
export type CopiedRule = { readonly rule: Rule } | { readonly missing: readonly string[] };

/**
 * A rule of one channel on the fields of another: a field becomes the one that has its job, else the one of its code, else of its
 * name. Where there is none, or where the rule speaks of places in the channel's own tree, it is not copied.
 */
export function copiedRule(rule: Rule, from: Sheet, to: Sheet): CopiedRule {
  if (from.code === to.code) return { rule };
  const missing = new Set<string>();
  const fieldOn = (code: string): string => {
    const field = from.fields.find((one) => one.code === code);
    const like =
      to.fields.find(({ role }) => role !== undefined && role === field?.role) ??
      to.fields.find((one) => one.code === code && one.kind === field?.kind) ??
      to.fields.find(
        ({ label, kind }) => field !== undefined && kind === field.kind && foldAlike(label, field.label),
      );
    if (!like) missing.add(field?.label ?? code);
    return like?.code ?? code;
  };
  const conditionOn = (condition: Condition): Condition => {
    if ('all' in condition) return { all: condition.all.map(conditionOn) };
    if ('any' in condition) return { any: condition.any.map(conditionOn) };
    if ('not' in condition) return { not: conditionOn(condition.not) };
    if (!('field' in condition) || condition.field === undefined) return condition;
    return {
      ...condition,
      field: fieldOn(condition.field),
      ...(comparingOperators.has(condition.is) && { value: fieldOn(asText(condition.value)) }),
    };
  };
  const actionOn = (action: Action): Action => {
    if (!('field' in action)) return action;
    const on = { ...action, field: fieldOn(action.field) };
    return on.do === 'copyWord' ? { ...on, from: fieldOn(on.from) } : on;
  };
  if (branchesIn(rule.when).length > 0) missing.add('categories of the channel’s tree');
  // What a word means there is another word.
  for (const table of tablesOfRule(rule)) missing.add(`the value mapping ${table}`);
  const copied: Rule = { ...rule, when: conditionOn(rule.when), then: rule.then.map(actionOn) };
  return missing.size > 0 ? { missing: [...missing] } : { rule: copied };
}

/** The id of a new rule: one above all that were ever used in a plan, so that an id never names two rules. */
export const nextRuleId = (rules: readonly Rule[]): string =>
  `rule-${1 + Math.max(0, ...rules.map(({ id }) => Number(/^rule-(\d+)$/.exec(id)?.[1] ?? 0)))}`;
