import { asText } from '../../core/catalog/value';
import { type FeedWork, shownValue } from './feedContext';

export const behindKinds = ['filled', 'failing', 'missing', 'bad', 'empty'] as const;
export type BehindKind = (typeof behindKinds)[number];

export interface BehindLine {
  readonly sku: string;
  readonly name: string;
  readonly category: string;
  readonly value: string;
  readonly words: readonly string[];
}

export interface Behind {
  readonly field: string;
  readonly label: string;
  readonly is: BehindKind;
  readonly total: number;
  readonly counts: Readonly<Record<BehindKind, number>>;
  readonly lines: readonly BehindLine[];
}

const MAX_LINES = 500;

/** The listings behind a figure of a field's coverage: those filled, refused, missing, both of these, or empty. */
export function behindFigure(work: FeedWork, field: string, is: BehindKind): Behind | undefined {
  const { sheet, draft, snapshot, wordsOf } = work;
  const at = sheet.fields.findIndex(({ code }) => code === field);
  const found = sheet.fields[at];
  if (!found) return undefined;
  const [nameSlot, categorySlot] = [
    snapshot.index.slotOf('name') ?? -1,
    snapshot.index.slotOf('category') ?? -1,
  ];
  const counts: Record<BehindKind, number> = { filled: 0, failing: 0, missing: 0, bad: 0, empty: 0 };
  const lines: BehindLine[] = [];
  for (let i = 0; i < draft.listings.length; i++) {
    if (draft.listings.isLeftOut(i)) continue;
    const value = draft.listings.valueAt(i, at);
    const filled = value !== undefined;
    const own = draft.listings
      .issuesAt(i)
      .filter((issue) => issue.field === field && issue.severity === 'blocker');
    const kinds: Record<BehindKind, boolean> = {
      filled,
      failing: filled && own.length > 0,
      missing: !filled && own.length > 0,
      bad: own.length > 0,
      empty: !filled && own.length === 0,
    };
    for (const kind of behindKinds) if (kinds[kind]) counts[kind]++;
    if (!kinds[is] || lines.length >= MAX_LINES) continue;
    const row = snapshot.rows[i] ?? [];
    lines.push({
      sku: draft.listings.skuAt(i),
      name: asText(row[nameSlot]),
      category: asText(row[categorySlot]),
      value: shownValue(value),
      words: own.map(wordsOf),
    });
  }
  return { field, label: found.label, is, total: counts[is], counts, lines };
}
