import { asText, type Row } from '../catalog/value';
import type { CheckContext, ListingCheck, Report } from './check';

/** How an attribute of an item is read; empty where the catalog has no such attribute. */
export type Read = (row: Row) => string;

export const reader = ({ slotOf }: CheckContext, attribute: string): Read => {
  const slot = slotOf(attribute);
  return slot === undefined ? () => '' : (row) => asText(row[slot]).trim();
};

/** A check on what an item itself says, whatever the feed makes of it, told at one field. */
export const onItem = <F>(field: string, look: (row: Row, report: Report<F>) => void): ListingCheck<F> => ({
  field,
  reads: [],
  readsPlace: false,
  run: (row, _values, report) => look(row, report),
});

/** A check on the title, with the row of its item; none where the feed has no title. */
export function onTitle<F>(
  { sheet, fieldAt }: CheckContext,
  look: (row: Row, title: string, report: Report<F>, field: string) => void,
): ListingCheck<F>[] {
  const field = sheet.fields.find(({ role }) => role === 'title')?.code;
  const at = field === undefined ? undefined : fieldAt(field);
  if (field === undefined || at === undefined) return [];
  return [
    {
      field,
      reads: [field],
      readsPlace: false,
      run(row, values, report) {
        const title = values[at];
        if (typeof title === 'string') look(row, title, report, field);
      },
    },
  ];
}

/**
 * A check on an attribute, told at every field that the feed fills from it: where nothing of it leaves, nothing is said of it.
 * @param among further attributes at whose fields it is told where none is filled from the first
 */
export function atFieldsOf<F>(
  { filledFrom }: CheckContext,
  attribute: string,
  look: (row: Row, report: Report<F>, field: string) => void,
  among: readonly string[] = [],
): ListingCheck<F>[] {
  const fillings = [attribute, ...among].map(filledFrom).find((found) => found.length > 0) ?? [];
  return fillings.map(({ field, on, key }) => ({
    ...onItem<F>(field, (row, report) => {
      if (!on || on(row)) look(row, report, field);
    }),
    filling: `${attribute} ${key}`,
  }));
}
