import { z } from 'zod';
import { asList, asText, type Row, type Value } from '../catalog/value';
import {
  attributesOf,
  compileComposition,
  compileSteps,
  compositionSchema,
  fixedText,
  tablesIn,
  tablesOf,
} from '../compose/composition';
import { type StepContext, stepSchema, stepWords, valueTableSchema } from '../compose/steps';
import type { ConditionScope } from '../conditions/conditions';
import { counted } from '../formatting/formatting';
import { fold } from '../text/folding';

/** What a field action makes of a field: its new value; undefined empties it. */
export type FieldChange = (
  row: Row,
  value: Value | undefined,
  values: readonly (Value | undefined)[],
) => Value | undefined;

/** Names for the words of an action. */
export interface ActionLabels {
  labelOf(field: string): string;
  attributeLabel(attribute: string): string;
}

/** A text that a person types for an action. */
export interface ActionInput {
  /** The property of the action. */
  readonly name: string;
  readonly label: string;
  /** Whether nothing is done without it. */
  readonly needed: boolean;
}

/**
 * What a rule can do: an entry of {@link actionKinds} holds all there is to know of it. Schema, labels of the form, words and compiling
 * are derived from it.
 */
interface ActionKind<S extends z.ZodObject> {
  readonly schema: S;
  /** In the form of a rule. */
  readonly label: string;
  /** What the form begins with, where another kind was chosen before. */
  begin(given: { readonly field: string; readonly text: string }): z.infer<S>;
  /** The action in words. */
  words(action: z.infer<S>, labels: ActionLabels): string;
  /** What it makes of its field; left out where it has none. */
  compile?(action: z.infer<S>, scope: ConditionScope, context: StepContext): FieldChange;
  /** Whether it lacks what it writes: it has no effect until somebody fills it. */
  isUnfilled?(action: z.infer<S>): boolean;
  /** Fields it reads beside its own. */
  reads?(action: z.infer<S>): readonly string[];
  /** Value mappings it looks words up in. */
  tables?(action: z.infer<S>): readonly string[];
  /** Whether it writes its field anew, whatever was there. */
  readonly replaces?: boolean;
  readonly inputs?: readonly ActionInput[];
}

const define = <S extends z.ZodObject>(kind: ActionKind<S>): ActionKind<S> => kind;
const toField = { field: z.string() };
const text: ActionInput = { name: 'text', label: 'text', needed: false };
const reason: ActionInput = { name: 'reason', label: 'reason', needed: true };

/** A change of a text, of each text of a list. */
const ofTexts =
  (change: (text: string | undefined) => string | undefined): FieldChange =>
  (_row, value) =>
    typeof value === 'object'
      ? value.map((entry) => change(entry) ?? '').filter((entry) => entry !== '')
      : change(value === undefined ? undefined : asText(value)) || undefined;

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

/** Every action of a rule, in the order in which the form offers them. A new one is an entry here, and its test. */
export const actionKinds = {
  set: define({
    schema: z.strictObject({ do: z.literal('set'), ...toField, text: z.string() }),
    label: 'set',
    begin: ({ field, text: given }) => ({ do: 'set' as const, field, text: given }),
    inputs: [text],
    replaces: true,
    isUnfilled: (action) => action.text === '',
    compile: (action) => () => action.text,
    words: (action, { labelOf }) => `set ${labelOf(action.field)} to “${action.text}”`,
  }),
  compose: define({
    schema: z.strictObject({ do: z.literal('compose'), ...toField, composition: compositionSchema }).meta({
      description: 'sets the field to what a composition makes of the item; what it leaves empty stays',
    }),
    label: 'make of parts',
    begin: ({ field, text: given }) => ({ do: 'compose' as const, field, composition: fixedText(given) }),
    replaces: true,
    tables: (action) => tablesIn(action.composition),
    compile(action, _scope, context) {
      const { run } = compileComposition(action.composition, context);
      return (row, value) => run(row) ?? value;
    },
    words: (action, { labelOf, attributeLabel }) =>
      `fill ${labelOf(action.field)} with ${[...new Set(attributesOf(action.composition))].map(attributeLabel).join(', ') || 'fixed text'}`,
  }),
  steps: define({
    schema: z
      .strictObject({ do: z.literal('steps'), ...toField, steps: z.array(stepSchema).min(1) })
      .meta({ description: 'runs steps over the value of the field' }),
    label: 'run steps on',
    begin: ({ field }) => ({ do: 'steps' as const, field, steps: [{ step: 'trim' as const }] }),
    tables: (action) => tablesOf(action.steps),
    compile(action, _scope, context) {
      const run = compileSteps(action.steps, context);
      return (row, value) => (value === undefined ? undefined : run(value, row));
    },
    words: (action, { labelOf }) => `in ${labelOf(action.field)}: ${action.steps.map(stepWords).join(', ')}`,
  }),
  before: define({
    schema: z.strictObject({ do: z.literal('before'), ...toField, text: z.string() }),
    label: 'put before',
    begin: ({ field, text: given }) => ({ do: 'before' as const, field, text: given }),
    inputs: [text],
    isUnfilled: (action) => action.text === '',
    compile: (action) => ofTexts((value) => (value === undefined ? action.text.trim() : action.text + value)),
    words: (action, { labelOf }) => `put “${action.text}” before ${labelOf(action.field)}`,
  }),
  after: define({
    schema: z.strictObject({ do: z.literal('after'), ...toField, text: z.string() }),
    label: 'put after',
    begin: ({ field, text: given }) => ({ do: 'after' as const, field, text: given }),
    inputs: [text],
    isUnfilled: (action) => action.text === '',
    compile: (action) => ofTexts((value) => (value === undefined ? action.text.trim() : value + action.text)),
    words: (action, { labelOf }) => `put “${action.text}” after ${labelOf(action.field)}`,
  }),
  replace: define({
    schema: z.strictObject({ do: z.literal('replace'), ...toField, find: z.string(), with: z.string() }),
    label: 'replace in',
    begin: ({ field }) => ({ do: 'replace' as const, field, find: '', with: '' }),
    inputs: [
      { name: 'find', label: 'find', needed: true },
      { name: 'with', label: 'with', needed: false },
    ],
    isUnfilled: (action) => action.find === '',
    compile: (action) => ofTexts((value) => value?.split(action.find).join(action.with)),
    words: (action, { labelOf }) =>
      `in ${labelOf(action.field)} replace “${action.find}” with “${action.with}”`,
  }),
  copyWord: define({
    schema: z
      .strictObject({ do: z.literal('copyWord'), ...toField, from: z.string(), words: valueTableSchema })
      .meta({
        description:
          'looks for words in another field and writes what stands beside the first; where none is found the field is emptied',
      }),
    label: 'copy a value into',
    begin: ({ field }) => ({ do: 'copyWord' as const, field, from: field, words: {} }),
    replaces: true,
    reads: (action) => [action.from],
    isUnfilled: (action) => Object.keys(action.words).length === 0,
    compile(action, scope) {
      const from = scope.fieldAt(action.from);
      const words = Object.entries(action.words)
        .map(([word, becomes]) => [` ${fold(word)} `, becomes] as const)
        .filter(([word]) => word.trim() !== '');
      return (_row, _value, values) => {
        const found = from === undefined ? '' : ` ${asList(values[from]).map(fold).join(' ')} `;
        return firstWord(found, words);
      };
    },
    words(action, { labelOf }) {
      const count = Object.keys(action.words).length;
      return `set ${labelOf(action.field)} to the first of ${counted(count, 'word')} in ${labelOf(action.from)}`;
    },
  }),
  clear: define({
    schema: z.strictObject({ do: z.literal('clear'), ...toField }),
    label: 'empty',
    begin: ({ field }) => ({ do: 'clear' as const, field }),
    replaces: true,
    compile: () => () => undefined,
    words: (action, { labelOf }) => `empty ${labelOf(action.field)}`,
  }),
  leaveOut: define({
    schema: z.strictObject({ do: z.literal('leaveOut'), reason: z.string().min(1) }),
    label: 'exclude the item',
    begin: () => ({ do: 'leaveOut' as const, reason: 'not sold here' }),
    inputs: [reason],
    words: (action) => `exclude the item: ${action.reason}`,
  }),
  review: define({
    schema: z
      .strictObject({ do: z.literal('review'), reason: z.string().min(1).max(300) })
      .meta({ description: 'holds the listing until a person has reviewed it' }),
    label: 'hold for review',
    begin: () => ({ do: 'review' as const, reason: 'review first' }),
    inputs: [reason],
    words: (action) => `hold the listing for review: ${action.reason}`,
  }),
  keep: define({
    schema: z
      .strictObject({ do: z.literal('keep') })
      .meta({ description: 'includes an item that an earlier rule or its category excluded' }),
    label: 'include the item again',
    begin: () => ({ do: 'keep' as const }),
    words: () => 'include the item again',
  }),
};

type Kinds = typeof actionKinds;
export type ActionName = keyof Kinds;
/** When … then …: changes one field of the listing, leaves the item out with a reason, or takes it in again. */
export type Action = z.infer<Kinds[ActionName]['schema']>;

const schemas = Object.values(actionKinds).map(({ schema }) => schema);
export const actionSchema = z
  .discriminatedUnion('do', schemas as [(typeof schemas)[number], ...typeof schemas])
  .meta({ id: 'Action' }) as unknown as z.ZodType<Action>;

/** All there is to know of the kind of an action. */
export const kindOf = (action: Action): ActionKind<z.ZodObject> =>
  actionKinds[action.do] as unknown as ActionKind<z.ZodObject>;
