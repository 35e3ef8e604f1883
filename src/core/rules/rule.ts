import { z } from 'zod';
import { asText, type Row, type Value } from '../catalog/value';
import { type ConditionScope, compileCondition, conditionSchema } from '../conditions/conditions';

/** When … then …: changes one field of the listing, or leaves the item out with a reason. */
const actionSchema = z
  .discriminatedUnion('do', [
    z.strictObject({ do: z.literal('set'), field: z.string(), text: z.string() }),
    z.strictObject({ do: z.literal('before'), field: z.string(), text: z.string() }),
    z.strictObject({ do: z.literal('after'), field: z.string(), text: z.string() }),
    z.strictObject({
      do: z.literal('replace'),
      field: z.string(),
      find: z.string().min(1),
      with: z.string(),
    }),
    z.strictObject({ do: z.literal('clear'), field: z.string() }),
    z.strictObject({ do: z.literal('leaveOut'), reason: z.string().min(1) }),
  ])
  .meta({ id: 'Action' });
export type Action = z.infer<typeof actionSchema>;

export const ruleSchema = z
  .strictObject({
    id: z.string().min(1),
    name: z.string().min(1),
    on: z.boolean().default(true),
    when: conditionSchema,
    then: z.array(actionSchema).min(1),
  })
  .meta({ id: 'Rule' });
export type Rule = z.infer<typeof ruleSchema>;

/** A rule at work: changes `values` in place and gives the reason where the item is to be left out. */
export interface CompiledRule {
  readonly rule: Rule;
  applies(row: Row, values: readonly (Value | undefined)[]): boolean;
  apply(values: (Value | undefined)[]): string | undefined;
}

type Change = (values: (Value | undefined)[]) => string | undefined;

/** Compiles a rule for one feed; an action on a field the sheet does not have does nothing. */
export function compileRule(rule: Rule, scope: ConditionScope): CompiledRule {
  const changes = rule.then.map((action) => compileAction(action, scope));
  return {
    rule,
    applies: compileCondition(rule.when, scope),
    apply(values) {
      let reason: string | undefined;
      for (const change of changes) reason = change(values) ?? reason;
      return reason;
    },
  };
}

function compileAction(action: Action, scope: ConditionScope): Change {
  if (action.do === 'leaveOut') return () => action.reason;
  const at = scope.fieldAt(action.field);
  if (at === undefined) return () => undefined;
  const change = textChange(action);
  return (values) => {
    const value = values[at];
    values[at] =
      typeof value === 'object' && action.do !== 'set' && action.do !== 'clear'
        ? value.map((entry) => change(entry) ?? '').filter((entry) => entry !== '')
        : change(value === undefined ? undefined : asText(value)) || undefined;
    return undefined;
  };
}

function textChange(
  action: Exclude<Action, { do: 'leaveOut' }>,
): (text: string | undefined) => string | undefined {
  switch (action.do) {
    case 'set':
      return () => action.text;
    case 'clear':
      return () => undefined;
    case 'before':
      return (text) => (text === undefined ? action.text.trim() : action.text + text);
    case 'after':
      return (text) => (text === undefined ? action.text.trim() : text + action.text);
    case 'replace':
      return (text) => text?.split(action.find).join(action.with);
  }
}

/** An action in words, with the field's label where one is given. */
export function actionWords(action: Action, labelOf: (field: string) => string = (field) => field): string {
  switch (action.do) {
    case 'set':
      return `set ${labelOf(action.field)} to “${action.text}”`;
    case 'before':
      return `put “${action.text}” before ${labelOf(action.field)}`;
    case 'after':
      return `put “${action.text}” after ${labelOf(action.field)}`;
    case 'replace':
      return `in ${labelOf(action.field)} replace “${action.find}” with “${action.with}”`;
    case 'clear':
      return `empty ${labelOf(action.field)}`;
    case 'leaveOut':
      return `leave the item out: ${action.reason}`;
  }
}
