import { asText } from '../../catalog/value';
import type { CheckContext, CheckModule, ListingCheck } from '../check';

interface Facts {
  phoneCut: { at: number; first: string };
}

function onListing({ sheet, fieldAt, slotOf }: CheckContext): ListingCheck<Facts>[] {
  const nameSlot = slotOf('name');
  return sheet.fields.flatMap(({ code, role, length }): ListingCheck<Facts>[] => {
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

/** Titles in which what the product is called stands behind the place where a phone cuts. */
export const phoneCut: CheckModule<Facts> = {
  issues: {
    phoneCut: {
      about: 'The product name starts after the point where a phone cuts the title.',
      severity: ['tip'],
      on: 'titles',
      example: { at: 70, first: 'Ridge' },
      title: (label) => `${label} is cut on a phone`,
      words: ({ at, first }) => `“${first}” starts after the phone cut at ${at}`,
    },
  },
  onListing,
};
