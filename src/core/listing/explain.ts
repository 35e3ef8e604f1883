import { type Row, sameValue, type Value } from '../catalog/value';
import { pathName } from '../categories/tree';
import type { LineageStep } from '../compose/composition';
import { kept } from '../rules/rule';
import type { CompiledPlan } from './compiling/compiledPlan';
import { cleanFields, fillFields } from './evaluate';

/**
 * How the value of one field came about, from the attributes read to the last rule that touched it.
 * Runs the same compiled functions as the bulk run; made on demand for one listing only.
 */
export function explain(compiled: CompiledPlan, row: Row, field: string): LineageStep[] {
  const at = compiled.sheet.fields.findIndex(({ code }) => code === field);
  const knots: LineageStep[] = [];
  if (at < 0) return knots;
  const tie = (step: LineageStep) => knots.push(step);
  if (at === compiled.categoryAt) {
    const categorySlot = compiled.index.slotOf('category');
    const category = categorySlot === undefined ? undefined : row[categorySlot];
    tie({ kind: 'attribute', what: 'category', value: category });
    const placed = compiled.placementOf(row);
    if (placed && 'category' in placed.placement) {
      const { category: code } = placed.placement;
      tie({
        kind: 'place',
        what: placed.from,
        value: `${pathName(compiled.tree, code, compiled.plan.market.language)} ${code}`,
      });
    } else if (placed && 'leaveOut' in placed.placement)
      tie({ kind: 'place', what: placed.placement.leaveOut, value: undefined });
  } else if (at === compiled.titleAt) compiled.title?.make(row, tie);
  else compiled.compositions[at]?.trace(row, tie);

  const values: (Value | undefined)[] = new Array(compiled.sheet.fields.length).fill(undefined);
  fillFields(compiled, row, values);
  // Outside the scope no rule runs.
  if (!compiled.waits(row) && (compiled.inScope?.(row, values) ?? true))
    for (const rule of compiled.rules) {
      if (!rule.applies(row, values)) continue;
      const before = values[at];
      const reason = rule.apply(row, values);
      if (!sameValue(before, values[at])) tie({ kind: 'rule', what: rule.rule.name, value: values[at] });
      else if (reason !== undefined)
        tie({
          kind: 'rule',
          what: `${rule.rule.name}: ${reason === kept ? 'taken in again' : reason}`,
          value: values[at],
        });
    }
  const before = values[at];
  cleanFields(compiled, values);
  if (!sameValue(before, values[at])) tie({ kind: 'cleaned', what: '', value: values[at] });
  return knots;
}
