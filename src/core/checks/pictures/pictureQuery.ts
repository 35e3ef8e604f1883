import { asList } from '../../catalog/value';
import { counted } from '../../formatting/formatting';
import type { CheckContext, CheckModule, ListingCheck } from '../check';

interface Facts {
  pictureQuery: { found: string; count: number };
}

function onListing({ sheet, fieldAt }: CheckContext): ListingCheck<Facts>[] {
  return sheet.fields.flatMap(({ code, kind }): ListingCheck<Facts>[] => {
    const at = kind === 'pictures' ? fieldAt(code) : undefined;
    if (at === undefined) return [];
    return [
      {
        field: code,
        reads: [code],
        readsPlace: false,
        run(_row, values, report) {
          const value = values[at];
          if (value === undefined || (typeof value === 'string' && !value.includes('?'))) return;
          const found = asList(value).filter((link) => link.includes('?'));
          if (found[0] !== undefined)
            report('pictureQuery', 'risk', code, { found: found[0], count: found.length });
        },
      },
    ];
  });
}

/** A picture's address with a query, which many channels refuse or fetch only once. */
export const pictureQuery: CheckModule<Facts> = {
  issues: {
    pictureQuery: {
      about: 'A picture’s address ends in a query (“?v=3”). Many channels reject such addresses.',
      severity: ['risk'],
      on: 'pictures',
      source: 'common practice, no source',
      example: { found: 'https://shop.example/pot.jpg?v=3', count: 1 },
      title: (label) => `${label} with a query in its address`,
      words: ({ found, count }, label) =>
        `${label} has ${counted(count, 'address', 'addresses')} with a query, such as ${found}: many channels reject these; the step “without query” removes it`,
    },
  },
  onListing,
};
