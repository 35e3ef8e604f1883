import type { Demand } from '../../channels/sheet';
import { type CheckContext, type CheckModule, type ListingCheck, readsOf } from '../check';

interface Facts {
  missing: { need: 'must' | 'should'; because?: string };
  oneOfSets: { sets: readonly (readonly string[])[]; words: string };
}

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  const checks: ListingCheck<Facts>[] = [];
  context.sheet.fields.forEach((field, at) => {
    const { code, because } = field;
    const missing = { need: 'must' as const, ...(because ? { because } : {}) };
    const conditional = readsOf(field.mustWhen);
    const base = { field: code, reads: [code, ...conditional.reads], readsPlace: conditional.readsPlace };
    if (field.need === 'must')
      checks.push({
        ...base,
        run: (_row, values, report) => {
          if (values[at] === undefined) report('missing', 'blocker', code, { need: 'must' });
        },
      });
    else if (field.mustWhen) {
      const here = context.predicate(field.mustWhen);
      const should = field.need === 'should';
      checks.push({
        ...base,
        run: (row, values, report) => {
          if (values[at] !== undefined) return;
          if (here(row, values)) report('missing', 'blocker', code, missing);
          else if (should) report('missing', 'tip', code, { need: 'should' });
        },
      });
    } else if (field.need === 'should')
      checks.push({
        ...base,
        run: (_row, values, report) => {
          if (values[at] === undefined) report('missing', 'tip', code, { need: 'should' });
        },
      });
  });
  for (const demand of context.sheet.demands)
    if (demand.demand === 'oneOfSets') checks.push(oneOfSets(demand, context));
  return checks;
}

function oneOfSets(
  demand: Extract<Demand, { demand: 'oneOfSets' }>,
  context: CheckContext,
): ListingCheck<Facts> {
  const sets = demand.sets.map((set) =>
    set.map((code) => context.fieldAt(code)).filter((at) => at !== undefined),
  );
  const here = demand.when ? context.predicate(demand.when) : undefined;
  const field = demand.sets[0]?.[0] ?? '';
  const facts = { sets: demand.sets, words: demand.words };
  const { reads, readsPlace } = readsOf(demand.when);
  return {
    field,
    reads: [...demand.sets.flat(), ...reads],
    readsPlace,
    run: (row, values, report) => {
      for (const set of sets) {
        let complete = true;
        for (const at of set) if (values[at] === undefined) complete = false;
        if (complete) return;
      }
      if (here === undefined || here(row, values)) report('oneOfSets', demand.severity, field, facts);
    },
  };
}

/** What must be there and is not, by need and condition; and demands that one of several sets of fields be complete. */
export const needs: CheckModule<Facts> = {
  issues: {
    missing: {
      about: 'A required or recommended field is empty.',
      severity: ['blocker', 'tip'],
      on: 'required and recommended fields',
      source: 'RFC 2119 for must and should',
      example: { need: 'must', because: 'clothing' },
      title: (label) => `${label} is missing`,
      words: ({ need, because }, label) =>
        need === 'must'
          ? `${label} is missing${because ? ` (${because})` : ''}`
          : `${label} is recommended and empty`,
    },
    oneOfSets: {
      about: 'One of several sets of fields is required in full, such as GTIN, or brand and part number.',
      severity: 'the sheet’s',
      on: 'the listing',
      example: {
        sets: [['gtin'], ['brand', 'mpn']],
        words: 'A barcode, or brand and part number, is needed',
      },
      title: () => 'No barcode, and not both brand and part number',
      words: ({ words }) => words,
    },
  },
  onListing,
};
