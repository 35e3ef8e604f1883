import { asText } from '../catalog/value';
import type { CheckContext, ListingCheck } from './check';

/** Titles in which what the product is called stands behind the place where a phone cuts. */
export function phoneCut({ sheet, fieldAt, slotOf }: CheckContext): ListingCheck[] {
  const nameSlot = slotOf('name');
  return sheet.fields.flatMap(({ code, role, length }): ListingCheck[] => {
    const [at, cut] = [fieldAt(code), length?.phone];
    if (role !== 'title' || at === undefined || cut === undefined || nameSlot === undefined) return [];
    return [
      {
        field: code,
        reads: [code],
        readsPlace: false,
        run(row, values, report) {
          const title = values[at];
          if (typeof title !== 'string' || title.length <= cut) return;
          const first = /[\p{L}\p{N}]+/u.exec(asText(row[nameSlot]))?.[0];
          if (first !== undefined && title.toLowerCase().indexOf(first.toLowerCase()) >= cut)
            report('phoneCut', 'tip', code, { at: cut, first });
        },
      },
    ];
  });
}
