import { asText, type Row } from '../catalog/value';
import type { CheckContext, ListingCheck } from './check';
import type { Report } from './issue';

/** How an attribute of an item is read; empty where the catalog has no such attribute. */
export type Read = (row: Row) => string;

export const reader = ({ slotOf }: CheckContext, attribute: string): Read => {
  const slot = slotOf(attribute);
  return slot === undefined ? () => '' : (row) => asText(row[slot]).trim();
};

/** A check on what an item itself says, whatever the feed makes of it, told at one field. */
export const onItem = (field: string, look: (row: Row, report: Report) => void): ListingCheck => ({
  field,
  reads: [],
  readsPlace: false,
  run: (row, _values, report) => look(row, report),
});

/**
 * A check on an attribute, told at every field that the feed fills from it: where nothing of it leaves, nothing is said of it.
 * @param among further attributes at whose fields it is told where none is filled from the first
 */
export function atFieldsOf(
  { filledFrom }: CheckContext,
  attribute: string,
  look: (row: Row, report: Report, field: string) => void,
  among: readonly string[] = [],
): ListingCheck[] {
  const fillings = [attribute, ...among].map(filledFrom).find((found) => found.length > 0) ?? [];
  return fillings.map(({ field, on, key }) => ({
    ...onItem(field, (row, report) => {
      if (!on || on(row)) look(row, report, field);
    }),
    filling: `${attribute} ${key}`,
  }));
}
