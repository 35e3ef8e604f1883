'use client';
import { createContext, useContext, useMemo } from 'react';
import { attributeIndex, type Row, type Value } from '@/core/catalog/value';
import { type Alternative, compileComposition } from '@/core/compose/composition';
import { compileStep, type Step, type StepContext, type ValueTable } from '@/core/compose/steps';

/** The item at hand, for showing what each step makes of it. */
export interface SampleAtHand {
  readonly values: Readonly<Record<string, Value>>;
  readonly language: string;
  readonly currency: string;
  readonly tables: Readonly<Record<string, ValueTable>>;
}

export const SampleContext = createContext<SampleAtHand | undefined>(undefined);

/** Runs parts and steps on the item at hand; gives nothing where there is none. */
export function useSample() {
  const sample = useContext(SampleContext);
  return useMemo(() => {
    if (!sample) return undefined;
    const codes = Object.keys(sample.values);
    const index = attributeIndex(codes);
    const row: Row = codes.map((code) => sample.values[code]);
    const context: StepContext = { ...sample, index };
    return {
      attribute: (code: string): Value | undefined => sample.values[code],
      /** The first alternative that gives a value, with its own steps. */
      made: (alternatives: readonly Alternative[]): Value | undefined =>
        compileComposition({ alternatives: [...alternatives], steps: [] }, context).run(row),
      step: (step: Step, value: Value | undefined): Value | undefined =>
        value === undefined ? undefined : compileStep(step, context)(value, row),
    };
  }, [sample]);
}
