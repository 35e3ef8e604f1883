import type { Row, Value } from '../catalog/value';
import { fieldsIn } from '../conditions/conditions';
import type { CompiledPlan } from './compiling/compiledPlan';
import { fillFields, fillingOnly } from './evaluate';

/** What a place in the tree asks of a group of items, for one field. */
export interface CategoryRequirement {
  readonly field: string;
  readonly need: 'must' | 'should';
  /** Whether the field was not a must for any of these items before. */
  readonly newly: boolean;
  readonly items: number;
  readonly lacking: number;
}

/**
 * What a category would newly require of items: fields that are a must there under a condition, with how many lack them.
 * @param before the plan as it is; @param after the same plan with the placement in question
 */
export function categoryRequirements(
  before: CompiledPlan,
  after: CompiledPlan,
  rows: readonly Row[],
): CategoryRequirement[] {
  const { sheet } = after;
  const counts = sheet.fields.map(() => ({ items: 0, lacking: 0, before: 0 }));
  const wanted = sheet.fields.flatMap(({ code, mustWhen }) =>
    mustWhen === undefined ? [] : [code, ...fieldsIn(mustWhen)],
  );
  const [filledBefore, filledAfter] = [fillingOnly(before, wanted), fillingOnly(after, wanted)];
  const blank = (): (Value | undefined)[] => new Array(sheet.fields.length).fill(undefined);
  for (const row of rows) {
    const [was, will] = [blank(), blank()];
    fillFields(filledBefore, row, was);
    fillFields(filledAfter, row, will);
    sheet.fields.forEach((_field, at) => {
      const here = after.mustHere[at];
      const count = counts[at];
      if (!here || !count) return;
      if (before.mustHere[at]?.(row, was)) count.before++;
      if (!here(row, will)) return;
      count.items++;
      if (will[at] === undefined) count.lacking++;
    });
  }
  return sheet.fields.flatMap((field, at) => {
    const count = counts[at];
    return count && count.items > 0
      ? [
          {
            field: field.code,
            need: 'must' as const,
            newly: count.before === 0,
            items: count.items,
            lacking: count.lacking,
          },
        ]
      : [];
  });
}
