import type { Demand } from '../channels/sheet';
import { type CheckContext, type ListingCheck, readsOf } from './check';

/** What must be there and is not, by need and condition; and demands that one of several sets of fields be complete. */
export function needs(context: CheckContext): ListingCheck[] {
  const checks: ListingCheck[] = [];
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

function oneOfSets(demand: Extract<Demand, { demand: 'oneOfSets' }>, context: CheckContext): ListingCheck {
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
