import { changedCode } from '../../core/catalog/item';
import type { Value } from '../../core/catalog/value';
import { pathName, pathOf } from '../../core/categories/tree';
import {
  type Condition,
  compileCondition,
  fieldsIn,
  groupOf,
  type Predicate,
} from '../../core/conditions/conditions';
import { fillFields, fillingOnly, isOutside } from '../../core/listing/evaluate';
import { BATCH_ROWS, type Steps } from '../../core/listing/steps';
import { asDay } from '../../core/plans/plan';
import { today } from '../runtime/calendarDay';
import { memoFor } from '../runtime/memo';
import { inSlices } from '../runtime/timeBudget';
import type { FeedContext } from './feedContext';
import { titleMakerCount } from './titles';

interface Named {
  readonly code: string;
  readonly label: string;
}

/** What a condition of a feed can look at. */
export interface ConditionPreview {
  readonly attributes: readonly Named[];
  readonly fields: readonly Named[];
  /** Branches of the channel's tree that it may ask for. */
  readonly branches: readonly Named[];
}

const MAX_BRANCHES = 400;

export function conditionPreviewOf(work: FeedContext): ConditionPreview {
  const { snapshot, sheet } = work;
  return {
    attributes: [
      { code: 'sku', label: 'SKU' },
      { code: 'family', label: 'Family' },
      { code: changedCode, label: 'Last changed' },
      ...snapshot.attributes.filter(({ code }) => code !== 'sku').map(({ code, label }) => ({ code, label })),
    ],
    fields: sheet.fields.map(({ code, label }) => ({ code, label })),
    branches: branchesOf(work),
  };
}

/** Branches that hold others, as many as a list takes; those near the root first. */
function branchesOf({ draft, plans }: FeedContext): Named[] {
  const { tree } = draft.compiled;
  return [...tree.byCode.values()]
    .filter(({ children }) => children.length > 0)
    .map(({ code }) => ({ code, depth: pathOf(tree, code).length }))
    .sort((a, b) => a.depth - b.depth)
    .slice(0, MAX_BRANCHES)
    .map(({ code }) => ({ code, label: pathName(tree, code, plans.head.language) }))
    .sort((a, b) => a.label.localeCompare(b.label));
}

/** How many items meet each part of a condition, by where it stands: "", "0", "0.1". */
export const metBy = (work: FeedContext, when: Condition): Promise<Record<string, number>> =>
  memoFor(
    work.draft,
    'condition previews',
    () => inSlices(countingConditions(work, when)),
    JSON.stringify(when),
  );

function* countingConditions(work: FeedContext, when: Condition): Steps<Record<string, number>> {
  const { draft, snapshot, sheet } = work;
  const compiled = { ...draft.compiled, title: titleMakerCount(work) };
  const day = today();
  const parts: { path: string; holds: Predicate; met: number }[] = [];
  const walk = (condition: Condition, path: string): void => {
    parts.push({ path, holds: compileCondition(asDay(condition, day), compiled.scope), met: 0 });
    groupOf(condition)?.of.forEach((one, i) => {
      walk(one, path === '' ? String(i) : `${path}.${i}`);
    });
  };
  walk(when, '');
  const filled = fillingOnly(compiled, fieldsIn(when));
  for (const [at, row] of snapshot.rows.entries()) {
    if (at % BATCH_ROWS === 0) yield;
    if (isOutside(draft.listings.reasonAt(at))) continue;
    // As a rule meets it: what the rules write is not there yet.
    const values: (Value | undefined)[] = new Array(sheet.fields.length).fill(undefined);
    fillFields(filled, row, values);
    for (const part of parts) if (part.holds(row, values)) part.met++;
  }
  return Object.fromEntries(parts.map(({ path, met }) => [path, met]));
}
