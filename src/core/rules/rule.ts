import { z } from 'zod';
import { asList, asText, type Row, type Value } from '../catalog/value';
import {
  attributesOf,
  compileComposition,
  compileSteps,
  compositionSchema,
  tablesIn,
  tablesOf,
} from '../compose/composition';
import { type StepContext, stepSchema, stepWords, valueTableSchema } from '../compose/steps';
import {
  type Condition,
  type ConditionScope,
  compileCondition,
  conditionSchema,
  fieldsIn,
} from '../conditions/conditions';
import { fold } from '../text/folding';

const toField = { field: z.string() };

/** When … then …: changes one field of the listing, leaves the item out with a reason, or takes it in again. */
const actionSchema = z
  .discriminatedUnion('do', [
    z.strictObject({ do: z.literal('set'), ...toField, text: z.string() }),
    z.strictObject({ do: z.literal('compose'), ...toField, composition: compositionSchema }).meta({
      description: 'sets the field to what a composition makes of the item; what it leaves empty stays',
    }),
    z
      .strictObject({ do: z.literal('steps'), ...toField, steps: z.array(stepSchema).min(1) })
      .meta({ description: 'runs steps over what stands in the field' }),
    z.strictObject({ do: z.literal('before'), ...toField, text: z.string() }),
    z.strictObject({ do: z.literal('after'), ...toField, text: z.string() }),
    z.strictObject({ do: z.literal('replace'), ...toField, find: z.string(), with: z.string() }),
    z
      .strictObject({ do: z.literal('copyWord'), ...toField, from: z.string(), words: valueTableSchema })
      .meta({
        description:
          'looks for words in another field and writes what stands beside the first; where none is found the field is emptied',
      }),
    z.strictObject({ do: z.literal('clear'), ...toField }),
    z.strictObject({ do: z.literal('leaveOut'), reason: z.string().min(1) }),
    z
      .strictObject({ do: z.literal('review'), reason: z.string().min(1).max(300) })
      .meta({ description: 'holds the listing back until a person has looked at it' }),
    z
      .strictObject({ do: z.literal('keep') })
      .meta({ description: 'takes an item in again that an earlier rule or its place left out' }),
  ])
  .meta({ id: 'Action' });
export type Action = z.infer<typeof actionSchema>;

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

/** Whether an action still lacks what it writes: it has no effect until somebody fills it. */
function isUnfilled(action: Action): boolean {
  switch (action.do) {
    case 'set':
    case 'before':
    case 'after':
      return action.text === '';
    case 'replace':
      return action.find === '';
    case 'copyWord':
      return Object.keys(action.words).length === 0;
    default:
      return false;
  }
}

function compileAction(action: Action, scope: ConditionScope, context: StepContext): Change {
  if (action.do === 'leaveOut') return () => action.reason;
  if (action.do === 'keep') return () => kept;
  // It is said as an issue, when all rules are done.
  if (action.do === 'review') return () => undefined;
  const at = scope.fieldAt(action.field);
  if (at === undefined || isUnfilled(action)) return () => undefined;
  const put =
    (
      change: (
        row: Row,
        value: Value | undefined,
        values: readonly (Value | undefined)[],
      ) => Value | undefined,
    ): Change =>
    (row, values) => {
      values[at] = change(row, values[at], values);
      return undefined;
    };
  switch (action.do) {
    case 'set':
      return put(() => action.text);
    case 'clear':
      return put(() => undefined);
    case 'compose': {
      const { run } = compileComposition(action.composition, context);
      return put((row, value) => run(row) ?? value);
    }
    case 'steps': {
      const run = compileSteps(action.steps, context);
      return put((row, value) => (value === undefined ? undefined : run(value, row)));
    }
    case 'copyWord': {
      const from = scope.fieldAt(action.from);
      const words = Object.entries(action.words)
        .map(([word, becomes]) => [` ${fold(word)} `, becomes] as const)
        .filter(([word]) => word.trim() !== '');
      return put((_row, _value, values) => {
        const text = from === undefined ? '' : ` ${asList(values[from]).map(fold).join(' ')} `;
        return firstWord(text, words);
      });
    }
    default: {
      const change = textChange(action);
      return put((_row, value) =>
        typeof value === 'object'
          ? value.map((entry) => change(entry) ?? '').filter((entry) => entry !== '')
          : change(value === undefined ? undefined : asText(value)) || undefined,
      );
    }
  }
}

/** What stands beside the word that comes first in a text; of several that begin at one place the longest. */
function firstWord(
  text: string,
  words: readonly (readonly [word: string, becomes: string])[],
): string | undefined {
  let best: { at: number; length: number; becomes: string } | undefined;
  for (const [word, becomes] of words) {
    const at = text.indexOf(word);
    if (at < 0) continue;
    if (!best || at < best.at || (at === best.at && word.length > best.length))
      best = { at, length: word.length, becomes };
  }
  return best?.becomes || undefined;
}

function textChange(
  action: Extract<Action, { do: 'before' | 'after' | 'replace' }>,
): (text: string | undefined) => string | undefined {
  switch (action.do) {
    case 'before':
      return (text) => (text === undefined ? action.text.trim() : action.text + text);
    case 'after':
      return (text) => (text === undefined ? action.text.trim() : text + action.text);
    case 'replace':
      return (text) => text?.split(action.find).join(action.with);
  }
}

/** The fields a rule writes. */
export const writesOf = ({ then }: Rule): string[] =>
  then.flatMap((action) => ('field' in action ? [action.field] : []));

/** The fields a rule looks at: those of its condition, and those it copies from. */
export const readsOf = ({ when, then }: Rule): string[] => [
  ...fieldsIn(when),
  ...then.flatMap((action) => (action.do === 'copyWord' ? [action.from] : [])),
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

/** The value tables that a rule looks words up in. */
export const tablesOfRule = ({ then }: Rule): string[] =>
  then.flatMap((action) =>
    action.do === 'compose'
      ? tablesIn(action.composition)
      : action.do === 'steps'
        ? tablesOf(action.steps)
        : [],
  );

/** Whether an action writes its field anew, whatever stood there. */
export const writesWhole = (action: Action): boolean =>
  action.do === 'set' || action.do === 'clear' || action.do === 'compose' || action.do === 'copyWord';

/** An action in words, with labels where they are given. */
export function actionWords(
  action: Action,
  labelOf: (field: string) => string = (field) => field,
  attributeLabel: (attribute: string) => string = (attribute) => attribute,
): string {
  switch (action.do) {
    case 'set':
      return `set ${labelOf(action.field)} to “${action.text}”`;
    case 'compose':
      return `make ${labelOf(action.field)} of ${[...new Set(attributesOf(action.composition))].map(attributeLabel).join(', ') || 'fixed text'}`;
    case 'steps':
      return `in ${labelOf(action.field)}: ${action.steps.map(stepWords).join(', ')}`;
    case 'before':
      return `put “${action.text}” before ${labelOf(action.field)}`;
    case 'after':
      return `put “${action.text}” after ${labelOf(action.field)}`;
    case 'replace':
      return `in ${labelOf(action.field)} replace “${action.find}” with “${action.with}”`;
    case 'copyWord': {
      const count = Object.keys(action.words).length;
      return `set ${labelOf(action.field)} to the first of ${count} ${count === 1 ? 'word' : 'words'} in ${labelOf(action.from)}`;
    }
    case 'clear':
      return `empty ${labelOf(action.field)}`;
    case 'leaveOut':
      return `leave the item out: ${action.reason}`;
    case 'keep':
      return 'take the item in again';
    case 'review':
      return `hold the listing back to be looked at: ${action.reason}`;
  }
}
