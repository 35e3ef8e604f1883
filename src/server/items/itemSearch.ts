import { shownText } from '../../core/catalog/reading';
import { asText, type Row } from '../../core/catalog/value';
import { fold } from '../../core/text/folding';
import { currentSnapshot, itemNameIn, type Snapshot } from '../catalog/snapshot';
import { procedure } from '../rpc/rpc';
import { WeakMemo } from '../runtime/memo';

export interface FoundItem {
  readonly sku: string;
  /** With what tells it from its siblings. */
  readonly name: string;
  /** The attribute and value that matched, where it is neither the SKU nor the name. */
  readonly matched: string;
  /** The higher, the better it matches; at most 100. */
  readonly score: number;
}

const folded = new WeakMemo<Row, { readonly slots: number; readonly text: string }>('item search');

/** Attributes that lists show: no pictures, no addresses, no long texts. */
const searchedSlots = ({ attributes, index }: Snapshot): { slot: number; at: number }[] =>
  attributes.flatMap(({ code, kind }, at) => {
    const slot = index.slotOf(code);
    return slot === undefined || ['pictures', 'link', 'richText'].includes(kind) || code === 'description'
      ? []
      : [{ slot, at }];
  });

function foldedRow(
  snapshot: Snapshot,
  position: number,
  slots: readonly { slot: number; at: number }[],
): string {
  const row = snapshot.rows[position] ?? [];
  const known = folded.get(row);
  if (known?.slots === slots.length) return known.text;
  const cells = slots.map(({ slot, at }) => {
    const attribute = snapshot.attributes[at];
    return attribute ? shownText(attribute, row[slot]) : '';
  });
  const text = ` ${fold([snapshot.skus[position] ?? '', ...cells].join(' '))} `;
  folded.set(row, { slots: slots.length, text });
  return text;
}

/** How well a folded text has all words, from `best` down to 0: as complete words, as beginnings of words, or somewhere. */
export function matchScore(text: string, words: readonly string[], best: number): number {
  const padded = ` ${text} `;
  if (words.every((word) => padded.includes(` ${word} `))) return best;
  if (words.every((word) => padded.includes(` ${word}`))) return best - 5;
  return words.every((word) => padded.includes(word)) ? best - 40 : 0;
}

/**
 * Items that have all words of a query in their SKU, name or any value that lists show, the best first.
 * @param query folded or not; accents and case do not count
 */
export const searchItems = procedure(
  'searchItems',
  async (query: string, most: number): Promise<FoundItem[]> => {
    const words = fold(query)
      .split(' ')
      .filter((word) => word !== '');
    if (words.length === 0) return [];
    const snapshot = await currentSnapshot();
    const slots = searchedSlots(snapshot);
    const nameOf = itemNameIn(snapshot);
    const gtinSlot = snapshot.index.slotOf('gtin') ?? -1;
    const joined = words.join(' ');
    const found: { position: number; score: number }[] = [];
    for (let position = 0; position < snapshot.skus.length; position++) {
      const all = foldedRow(snapshot, position, slots);
      if (!words.every((word) => all.includes(word))) continue;
      const row = snapshot.rows[position] ?? [];
      const sku = fold(snapshot.skus[position] ?? '');
      const score =
        sku === joined || asText(row[gtinSlot]) === joined
          ? 100
          : sku.startsWith(joined)
            ? 90
            : Math.max(matchScore(fold(nameOf(position)), words, 80), matchScore(all.trim(), words, 50));
      found.push({ position, score });
    }
    return found
      .sort((one, other) => other.score - one.score || one.position - other.position)
      .slice(0, most)
      .map(({ position, score }) => {
        const row = snapshot.rows[position] ?? [];
        const name = nameOf(position) || (snapshot.skus[position] ?? '');
        const named = fold(`${snapshot.skus[position]} ${name}`);
        const missing = words.filter((word) => !named.includes(word));
        const at = slots.find(({ slot, at }) => {
          const attribute = snapshot.attributes[at];
          const text = attribute ? fold(shownText(attribute, row[slot])) : '';
          return missing.length > 0 && missing.some((word) => text.includes(word));
        });
        const attribute = at && snapshot.attributes[at.at];
        return {
          sku: snapshot.skus[position] ?? '',
          name,
          matched: attribute && at ? `${attribute.label}: ${shownText(attribute, row[at.slot])}` : '',
          score,
        };
      });
  },
);
