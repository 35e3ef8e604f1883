import { z } from 'zod';
import type { Row, Value } from '../catalog/value';
import type { StepContext } from '../compose/steps';
import {
  type Condition,
  type ConditionScope,
  compileCondition,
  conditionSchema,
  fieldsIn,
} from '../conditions/conditions';
import { type Action, actionSchema, kindOf } from './actions';

export const ruleSchema = z
  .strictObject({
    id: z.string().min(1),
    name: z.string().min(1),
    on: z.boolean().default(true),
    group: z
      .string()
      .min(1)
      .max(60)
      .optional()
      .meta({ description: 'what it is shown under, with others of its kind; it changes nothing' }),
    when: conditionSchema,
    then: z.array(actionSchema).min(1),
  })
  .meta({ id: 'Rule' });
export type Rule = z.infer<typeof ruleSchema>;

/** What a rule says of an item that is to be taken in again. */
export const kept = '';

/**
 * A rule at work: changes `values` in place and gives the reason where the item is to be left out, {@link evaluations} where it is to
 * be taken in again, and undefined where it says nothing of that.
 */
export interface CompiledRule {
  readonly rule: Rule;
  applies(row: Row, values: readonly (Value | undefined)[]): boolean;
  apply(row: Row, values: (Value | undefined)[]): string | undefined;
}

type Change = (row: Row, values: (Value | undefined)[]) => string | undefined;

/** Compiles a rule for one feed; an action on a field the sheet does not have does nothing. */
export function compileRule(rule: Rule, scope: ConditionScope, context: StepContext): CompiledRule {
  const changes = rule.then.map((action) => compileAction(action, scope, context));
  return {
    rule,
    applies: compileCondition(rule.when, scope),
    apply(row, values) {
      let reason: string | undefined;
      for (const change of changes) reason = change(row, values) ?? reason;
      return reason;
    },
  };
}

function compileAction(action: Action, scope: ConditionScope, context: StepContext): Change {
  if (action.do === 'leaveOut') return () => action.reason;
  if (action.do === 'keep') return () => kept;
  const { compile, isUnfilled } = kindOf(action);
  // What is held back for review is said as an issue, when all rules are done.
  const at = 'field' in action && compile ? scope.fieldAt(action.field) : undefined;
  if (at === undefined || !compile || isUnfilled?.(action)) return () => undefined;
  const change = compile(action, scope, context);
  return (row, values) => {
    values[at] = change(row, values[at], values);
    return undefined;
  };
}

/** The fields a rule writes. */
export const writesOf = ({ then }: Rule): string[] =>
  then.flatMap((action) => ('field' in action ? [action.field] : []));

/** The fields a rule looks at: those of its condition, and those it copies from. */
export const readsOf = ({ when, then }: Rule): string[] => [
  ...fieldsIn(when),
  ...then.flatMap((action) => [...(kindOf(action).reads?.(action) ?? [])]),
];

/** Whether a rule leaves items out, or takes them in again. */
export const leavesOut = ({ then }: Rule): boolean =>
  then.some((action) => action.do === 'leaveOut' || action.do === 'keep');

/** Whether a rule holds listings back to be looked at. */
export const holdsBack = ({ then }: Rule): boolean => then.some((action) => action.do === 'review');

/** What the rules that are on hold back to be looked at. */
export const reviewsOf = (rules: readonly Rule[]): { reason: string; when: Condition }[] =>
  rules.flatMap(({ on, when, then }) =>
    on ? then.flatMap((action) => (action.do === 'review' ? [{ reason: action.reason, when }] : [])) : [],
  );

/** The value mappings that a rule looks words up in. */
export const tablesOfRule = ({ then }: Rule): string[] =>
  then.flatMap((action) => [...(kindOf(action).tables?.(action) ?? [])]);

/** Whether an action writes its field anew, whatever stood there. */
export const writesWhole = (action: Action): boolean => kindOf(action).replaces === true;

/** An action in words, with labels where they are given. */
export const actionWords = (
  action: Action,
  labelOf: (field: string) => string = (field) => field,
  attributeLabel: (attribute: string) => string = (attribute) => attribute,
): string => kindOf(action).words(action, { labelOf, attributeLabel });
