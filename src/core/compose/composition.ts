import { z } from 'zod';
import { asText, attributeReader, codeInLanguage, cutText, type Row, type Value } from '../catalog/value';
import { memoizedByText } from '../text/remembering';
import {
  compileStep,
  looksAtItem,
  noRow,
  type Step,
  type StepContext,
  type StepFunction,
  stepSchema,
  stepWords,
} from './steps';

/** No composition of use has more parts, steps or alternatives. */
const MAX_STEPS = 50;

/**
 * How a value is made. One concept for import mapping, field mapping, titles and rules:
 * alternatives are tried in order until one gives a value, then the steps run on it.
 */
export const partSchema = z
  .union([
    z.strictObject({
      attribute: z.string().min(1),
      glue: z
        .string()
        .max(200)
        .default(' ')
        .meta({ description: 'stands before the part unless it comes first' }),
      steps: z.array(stepSchema).max(MAX_STEPS).default([]),
    }),
    z.strictObject({
      text: z.string().max(20_000),
      glue: z.string().max(200).default(' '),
    }),
  ])
  .meta({ id: 'Part' });
export type Part = z.infer<typeof partSchema>;
export type AttributePart = Extract<Part, { attribute: string }>;

const alternativeSchema = z.strictObject({
  parts: z.array(partSchema).min(1).max(MAX_STEPS),
  steps: z.array(stepSchema).max(MAX_STEPS).default([]),
});
export type Alternative = z.infer<typeof alternativeSchema>;

export const compositionSchema = z
  .strictObject({
    alternatives: z.array(alternativeSchema).min(1).max(MAX_STEPS),
    steps: z.array(stepSchema).max(MAX_STEPS).default([]),
  })
  .meta({ id: 'Composition' });
export type Composition = z.infer<typeof compositionSchema>;

/** One knot of the lineage thread: what was done, and the value after it. */
export interface LineageStep {
  readonly kind:
    | 'attribute'
    | 'text'
    | 'joined'
    | 'step'
    | 'fallback'
    | 'rule'
    | 'place'
    | 'family'
    | 'byHand'
    | 'dropped'
    | 'shortened'
    | 'abbreviated'
    | 'searchWords'
    | 'cleaned';
  /** The attribute's code, the step in words, the rule's name … */
  readonly what: string;
  readonly value: Value | undefined;
}

export interface CompiledComposition {
  run(row: Row): Value | undefined;
  /** The same computation, telling each knot as it is tied. */
  trace(row: Row, tie: (knot: LineageStep) => void): Value | undefined;
}

/** A composition of a single attribute, the commonest kind. */
export const fromAttribute = (attribute: string, steps: Composition['steps'] = []): Composition => ({
  alternatives: [{ parts: [{ attribute, glue: ' ', steps }], steps: [] }],
  steps: [],
});

/** A composition of a fixed text. */
export const fixedText = (text: string): Composition => ({
  alternatives: [{ parts: [{ text, glue: ' ' }], steps: [] }],
  steps: [],
});

/**
 * For each part the index of the attribute part whose absence takes it along: itself for an attribute;
 * for a text the attribute before it, or where there is none the one after it; -1 for a text among texts only.
 */
export function leaders(parts: readonly Part[]): number[] {
  const attributes = parts.flatMap((part, i) => ('attribute' in part ? [i] : []));
  return parts.map((part, i) =>
    'attribute' in part ? i : (attributes.findLast((at) => at < i) ?? attributes.find((at) => at > i) ?? -1),
  );
}

/** The value tables that steps look words up in. */
export const tablesOf = (steps: readonly Step[]): string[] =>
  steps.flatMap((step) => (step.step === 'lookUp' ? [step.table] : []));

/** The value tables that a composition looks words up in. */
export function tablesIn({ alternatives, steps }: Composition): string[] {
  return [
    ...tablesOf(steps),
    ...alternatives.flatMap((one) => [
      ...tablesOf(one.steps),
      ...one.parts.flatMap((part) => ('attribute' in part ? tablesOf(part.steps) : [])),
    ]),
  ];
}

/** The attributes that parts take. */
export const attributesOfParts = (parts: readonly Part[]): string[] =>
  parts.flatMap((part) => ('attribute' in part ? [part.attribute] : []));

/** The attributes that a composition takes, in its order. */
export const attributesOf = ({ alternatives }: Composition): string[] =>
  alternatives.flatMap(({ parts }) => attributesOfParts(parts));

/** Under which a title's part stands for the term that is searched most and the name does not say. */
export const topTermCode = '#term';

type ReadPart = (row: Row) => Value | undefined;

const inRow = (functions: readonly StepFunction[]): StepFunction | undefined => {
  const [first, second] = functions;
  if (first === undefined) return undefined;
  if (second === undefined) return first;
  return (value, row) => {
    let current: Value | undefined = value;
    for (const run of functions) {
      if (current === undefined) return undefined;
      current = run(current, row);
    }
    return current;
  };
};

/** Steps one after another; those up to the first that looks at the item itself are taken once for a text that comes again. */
function chain(steps: readonly Step[], context: StepContext): StepFunction | undefined {
  const functions = steps.map((step) => compileStep(step, context));
  const looking = steps.findIndex(looksAtItem);
  const ofValue = inRow(looking < 0 ? functions : functions.slice(0, looking));
  if (ofValue === undefined) return inRow(functions);
  const known = memoizedByText((text) => ofValue(text, noRow));
  const run: StepFunction = (value, row) => (typeof value === 'string' ? known(value) : ofValue(value, row));
  return looking < 0 ? run : inRow([run, ...functions.slice(looking)]);
}

/** Compiles one part to a reader; a text part reads as its text. */
export function compilePart(part: Part, context: StepContext): ReadPart {
  if ('text' in part) {
    const text = part.text === '' ? undefined : part.text;
    return () => text;
  }
  const read =
    part.attribute === topTermCode
      ? context.topTerm
      : attributeReader(context.index, part.attribute, context);
  if (read === undefined) return () => undefined;
  const run = chain(part.steps, context);
  if (run === undefined) return read;
  return (row) => {
    const value = read(row);
    return value === undefined ? undefined : run(value, row);
  };
}

function compileAlternative({ parts, steps }: Alternative, context: StepContext): ReadPart {
  const readers = parts.map((part) => compilePart(part, context));
  const [only] = readers;
  const after = chain(steps, context);
  const joined: ReadPart =
    parts.length === 1 && only !== undefined
      ? only
      : joinParts(
          readers,
          parts.map((part) => part.glue),
          leaders(parts),
        );
  if (after === undefined) return joined;
  return (row) => {
    const value = joined(row);
    return value === undefined ? undefined : after(value, row);
  };
}

function joinParts(readers: readonly ReadPart[], glue: readonly string[], lead: readonly number[]): ReadPart {
  return (row) => {
    let text = '';
    for (let i = 0; i < readers.length; i++) {
      const value = (readers[i] as ReadPart)(row);
      if (value === undefined) continue;
      const leader = lead[i] as number;
      if (leader !== i && leader >= 0 && (readers[leader] as ReadPart)(row) === undefined) continue;
      text = text === '' ? asText(value) : text + (glue[i] as string) + asText(value);
    }
    return text === '' ? undefined : cutText(text);
  };
}

/** Compiles steps that run one after another; a value that becomes empty stays so. */
export function compileSteps(steps: readonly Step[], context: StepContext): StepFunction {
  return chain(steps, context) ?? ((value) => value);
}

/** Compiles a composition for one feed. */
export function compileComposition(composition: Composition, context: StepContext): CompiledComposition {
  const alternatives = composition.alternatives.map((alternative) =>
    compileAlternative(alternative, context),
  );
  const after = chain(composition.steps, context);
  const [only] = alternatives;
  const pick: ReadPart =
    alternatives.length === 1 && only !== undefined
      ? only
      : (row) => {
          for (const read of alternatives) {
            const value = read(row);
            if (value !== undefined) return value;
          }
          return undefined;
        };
  const run: ReadPart =
    after === undefined
      ? pick
      : (row) => {
          const value = pick(row);
          return value === undefined ? undefined : after(value, row);
        };
  return { run, trace: (row, tie) => traceComposition(composition, context, row, tie) };
}

function traceComposition(
  composition: Composition,
  context: StepContext,
  row: Row,
  tie: (knot: LineageStep) => void,
): Value | undefined {
  const through = (value: Value | undefined, steps: Composition['steps']): Value | undefined => {
    let current = value;
    for (const step of steps) {
      if (current === undefined) return undefined;
      current = compileStep(step, context)(current, row);
      tie({ kind: 'step', what: stepWords(step), value: current });
    }
    return current;
  };
  let value: Value | undefined;
  for (const [n, { parts, steps }] of composition.alternatives.entries()) {
    if (n > 0) tie({ kind: 'fallback', what: String(n + 1), value: undefined });
    const lead = leaders(parts);
    const read = parts.map((part) => {
      if ('text' in part) return part.text === '' ? undefined : part.text;
      const found = attributeReader(context.index, part.attribute, context)?.(row);
      const own = codeInLanguage(part.attribute, context.language);
      const translated = row[context.index.slotOf(own) ?? -1] !== undefined;
      tie({ kind: 'attribute', what: translated ? own : part.attribute, value: found });
      return through(found, part.steps);
    });
    const stored = parts.flatMap((part, i) => {
      const leader = lead[i] as number;
      return read[i] !== undefined && (leader < 0 || read[leader] !== undefined)
        ? [{ glue: part.glue, value: read[i] as Value }]
        : [];
    });
    for (const part of parts)
      if ('text' in part && parts.length === 1) tie({ kind: 'text', what: part.text, value: part.text });
    if (parts.length === 1) value = read[0];
    else if (stored.length > 0) {
      value = cutText(stored.map((part, i) => (i === 0 ? '' : part.glue) + asText(part.value)).join(''));
      tie({ kind: 'joined', what: String(stored.length), value });
    } else value = undefined;
    value = through(value, steps);
    if (value !== undefined) break;
  }
  return through(value, composition.steps);
}
