import { type Composition, fixedText } from '../compose/composition';
import type { PlanEdit } from '../plans/edit';
import type { CategoryMapping, Plan } from '../plans/plan';

/**
 * The change that would clear a cause, worked out as far as it can be: lines, each with what it would be, and where nobody but a
 * person knows, with nothing yet. What is taken of it becomes edits of the plan or values of items.
 */

export type FixTarget =
  /** What words mean, by word. */
  | { readonly by: 'words' }
  /** Where categories go, by category; single items by their SKU with what it means before it. */
  | { readonly by: 'places' }
  /** What fills the field, by its attribute; one line. */
  | { readonly by: 'field'; readonly composition: Composition }
  /** A change of the plan that was tried and clears it: a step on what fills the field, an option of the title; one line. */
  | { readonly by: 'change'; readonly edits: readonly PlanEdit[] }
  /** One text for the field in each merchant category, by category. */
  | { readonly by: 'text'; readonly everywhere: boolean }
  /** Values of items, by SKU. */
  | { readonly by: 'items'; readonly attribute: string }
  /** The next free of the bought numbers, by SKU. */
  | { readonly by: 'numbers' };

export interface SuggestedLine {
  readonly key: string;
  /** What it is about, in words; for an item its name. */
  readonly what: string;
  /** Listings it is about. */
  readonly count: number;
  /** What stands there now; empty where nothing does. */
  readonly now: string;
  /** What it would be; empty where nothing could be worked out. */
  readonly to: string;
  /** What `to` is called. */
  readonly shown: string;
  /** Taken unless a person says otherwise. */
  readonly sure: boolean;
  readonly why: string;
}

export interface SuggestedFix {
  /** `check:field` */
  readonly cause: string;
  readonly field: string;
  readonly way: FixTarget;
  readonly lines: readonly SuggestedLine[];
  /** What may be chosen, where not anything can be said. */
  readonly options: readonly { readonly code: string; readonly label: string }[];
}

/** Before a SKU among places: where the item goes, and which of the merchant's categories it is of. */
export const itemPlaced = '#';
export const itemOfCategory = '=';

/** What is taken of a proposal: a value for each line's key; `*` is for every line that has no other and is not sure. */
export type Picks = Readonly<Record<string, string>>;
export const forAllOthers = '*';

/** The values that count, by line: what was picked, else what is sure; an empty pick leaves a line out. */
export function acceptedLines(
  { lines }: Pick<SuggestedFix, 'lines'>,
  picks: Picks = {},
): Map<string, string> {
  const result = new Map<string, string>();
  for (const { key, to, sure } of lines) {
    const value = Object.hasOwn(picks, key)
      ? picks[key]
      : sure
        ? to
        : Object.hasOwn(picks, forAllOthers)
          ? picks[forAllOthers]
          : undefined;
    if (value !== undefined && value.trim() !== '') result.set(key, value.trim());
  }
  return result;
}

/** Whether all of it is worked out. */
export const isComputed = ({ lines }: SuggestedFix): boolean =>
  lines.length > 0 && lines.every(({ sure }) => sure);

export interface Changes {
  readonly edits: readonly PlanEdit[];
  readonly words: Readonly<Record<string, string>>;
  readonly cells: readonly { readonly sku: string; readonly attribute: string; readonly text: string }[];
  readonly numbers: readonly string[];
}

/** What taking a proposal changes. Words go the way of value tables, which tells other feeds; they are not among the edits. */
export function changesOf(proposal: SuggestedFix, plan: Plan, picks?: Picks): Changes {
  const { field, way } = proposal;
  const values = acceptedLines(proposal, picks);
  const none: Changes = { edits: [], words: {}, cells: [], numbers: [] };
  if (values.size === 0) return none;
  switch (way.by) {
    case 'words':
      return { ...none, words: Object.fromEntries(values) };
    case 'places': {
      const placements: Record<string, CategoryMapping> = {};
      const exceptions: Record<string, CategoryMapping> = {};
      const cells: { sku: string; attribute: string; text: string }[] = [];
      for (const [key, value] of values) {
        const sku = key.slice(1);
        if (key.startsWith(itemPlaced)) exceptions[sku] = { category: value };
        else if (key.startsWith(itemOfCategory)) cells.push({ sku, attribute: 'category', text: value });
        else placements[key] = { category: value };
      }
      const edits: PlanEdit[] = [];
      if (Object.keys(placements).length > 0) edits.push({ edit: 'place', placements });
      if (Object.keys(exceptions).length > 0) edits.push({ edit: 'exceptions', exceptions });
      return { ...none, edits, cells };
    }
    case 'field':
      return { ...none, edits: [{ edit: 'fields', fields: { [field]: way.composition } }] };
    case 'change':
      return { ...none, edits: way.edits };
    case 'text': {
      const texts = new Set(values.values());
      const [only = ''] = texts;
      if (way.everywhere && texts.size === 1 && values.size === proposal.lines.length)
        return { ...none, edits: [{ edit: 'fields', fields: { [field]: fixedText(only) } }] };
      const variants = [...texts].map((text) => ({
        categories: [...values].flatMap(([category, one]) => (one === text ? [category] : [])),
        composition: fixedText(text),
      }));
      return {
        ...none,
        edits: [{ edit: 'perCategory', field, variants: [...(plan.perCategory[field] ?? []), ...variants] }],
      };
    }
    case 'items':
      return {
        ...none,
        cells: [...values].map(([sku, text]) => ({ sku, attribute: way.attribute, text })),
      };
    case 'numbers':
      return { ...none, numbers: [...values.keys()] };
  }
}
