import { asText } from '../../core/catalog/value';
import type { ListingState } from '../../core/listing/evaluate';
import { type Piece, wordDifference } from '../../core/text/difference';
import type { FeedWork } from './work';

export interface DifferenceLine {
  readonly sku: string;
  readonly before: ListingState;
  readonly after: ListingState;
  readonly fields: readonly { label: string; pieces: readonly Piece[] }[];
  readonly cleared: readonly string[];
  readonly appeared: readonly string[];
}

export interface DifferencesPage {
  /** All listings that the draft changes. */
  readonly total: number;
  /** The fields that change, with how many listings each. */
  readonly counts: readonly { key: string; label: string; count: number }[];
  /** The lines shown, from one place to another of those that match. */
  readonly lines: readonly DifferenceLine[];
  readonly from: number;
  readonly last: number;
  readonly matching: number;
  /** How many lines are shown at once. */
  readonly atOnce: number;
}

const atOnce = 60;

/** Every value the draft changes, before and after, some at a time. */
export function differencesPage(
  { found, sheet, wordsOf }: FeedWork,
  query: { readonly only?: string | undefined; readonly from?: string | undefined },
): DifferencesPage {
  const counts = new Map<number, number>();
  for (const { fields } of found) for (const at of fields) counts.set(at, (counts.get(at) ?? 0) + 1);
  const only = sheet.fields.findIndex(({ code }) => code === query.only);
  const shown = found.filter(({ fields }) => only < 0 || fields.includes(only));
  const from = Math.max(0, Math.floor(Number(query.from)) || 0);
  const last = Math.min(from + atOnce, shown.length);
  return {
    total: found.length,
    counts: [...counts].flatMap(([at, count]) => {
      const field = sheet.fields[at];
      return field ? [{ key: field.code, label: field.label, count }] : [];
    }),
    lines: shown.slice(from, last).map(({ sku, before, after, fields, cleared, appeared }) => ({
      sku,
      before: before.state,
      after: after.state,
      fields: fields
        .filter((at) => only < 0 || at === only)
        .map((at) => ({
          label: sheet.fields[at]?.label ?? '',
          pieces: wordDifference(asText(before.values[at]), asText(after.values[at])),
        })),
      cleared: cleared.map(wordsOf),
      appeared: appeared.map(wordsOf),
    })),
    from,
    last,
    matching: shown.length,
    atOnce,
  };
}
