import { asList, type Row, type Value } from '../catalog/value';
import { type Composition, compileComposition, tablesIn } from '../compose/composition';
import type { Step, StepContext } from '../compose/steps';

const without = (steps: readonly Step[]): Step[] => steps.filter(({ step }) => step !== 'lookUp');

/** A composition as it is before any of its words is looked up. */
export function beforeLookUp(composition: Composition): Composition {
  return {
    steps: without(composition.steps),
    alternatives: composition.alternatives.map(({ parts, steps }) => ({
      steps: without(steps),
      parts: parts.map((part) => ('attribute' in part ? { ...part, steps: without(part.steps) } : part)),
    })),
  };
}

/** The table that a field's words are looked up in; its own code names one that is still to be made. */
export const valueMappingOf = (field: string, composition: Composition | undefined): string =>
  (composition && tablesIn(composition)[0]) ?? field;

export interface WordUse {
  /** As the catalog has it. */
  readonly word: string;
  readonly count: number;
  /** What the field shows for it; undefined where it shows nothing. */
  readonly becomes: string | undefined;
}

/**
 * The distinct words that a field is filled from, with how often each stands in the catalog and what becomes of it; the
 * most frequent first.
 * @param values what the field of each row shows now, in the rows' order
 */
export function wordsOfField(
  composition: Composition,
  context: StepContext,
  rows: readonly Row[],
  values: readonly (Value | undefined)[],
): WordUse[] {
  const { run } = compileComposition(beforeLookUp(composition), context);
  const found = new Map<string, { count: number; becomes: string | undefined }>();
  rows.forEach((row, i) => {
    const words = asList(run(row));
    const shown = asList(values[i]);
    words.forEach((word, at) => {
      const known = found.get(word);
      if (known) known.count++;
      else found.set(word, { count: 1, becomes: words.length === shown.length ? shown[at] : undefined });
    });
  });
  return [...found]
    .map(([word, use]) => ({ word, ...use }))
    .sort((a, b) => b.count - a.count || a.word.localeCompare(b.word));
}
