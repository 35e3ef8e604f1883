import { asText } from '../../core/catalog/value';
import { itemNameIn } from '../catalog/snapshot';
import { type FeedContext, shownValue } from './feedContext';

export const drilldownKinds = ['filled', 'failing', 'missing', 'bad', 'empty'] as const;
export type DrilldownKind = (typeof drilldownKinds)[number];

export interface DrilldownLine {
  readonly sku: string;
  readonly name: string;
  readonly category: string;
  readonly value: string;
  readonly words: readonly string[];
}

export interface Drilldown {
  readonly field: string;
  readonly label: string;
  readonly is: DrilldownKind;
  readonly total: number;
  readonly counts: Readonly<Record<DrilldownKind, number>>;
  readonly lines: readonly DrilldownLine[];
}

const MAX_LINES = 500;

/** The listings behind a figure of a field's coverage: those filled, refused, missing, both of these, or empty. */
export function drilldownOf(work: FeedContext, field: string, is: DrilldownKind): Drilldown | undefined {
  const { sheet, draft, snapshot, wordsOf } = work;
  const at = sheet.fields.findIndex(({ code }) => code === field);
  const found = sheet.fields[at];
  if (!found) return undefined;
  const categorySlot = snapshot.index.slotOf('category') ?? -1;
  const nameOf = itemNameIn(snapshot);
  const counts: Record<DrilldownKind, number> = { filled: 0, failing: 0, missing: 0, bad: 0, empty: 0 };
  const lines: DrilldownLine[] = [];
  for (let i = 0; i < draft.listings.length; i++) {
    if (draft.listings.isLeftOut(i)) continue;
    const value = draft.listings.valueAt(i, at);
    const filled = value !== undefined;
    const own = draft.listings
      .issuesAt(i)
      .filter((issue) => issue.field === field && issue.severity === 'blocker');
    const kinds: Record<DrilldownKind, boolean> = {
      filled,
      failing: filled && own.length > 0,
      missing: !filled && own.length > 0,
      bad: own.length > 0,
      empty: !filled && own.length === 0,
    };
    for (const kind of drilldownKinds) if (kinds[kind]) counts[kind]++;
    if (!kinds[is] || lines.length >= MAX_LINES) continue;
    const row = snapshot.rows[i] ?? [];
    lines.push({
      sku: draft.listings.skuAt(i),
      name: nameOf(i),
      category: asText(row[categorySlot]),
      value: shownValue(value),
      words: own.map(wordsOf),
    });
  }
  return { field, label: found.label, is, total: counts[is], counts, lines };
}
