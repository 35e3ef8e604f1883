import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { atFieldsOf, reader } from '../item';

interface Facts {
  dangerousGoods: { found: string };
}

const none =
  /^(?:none|no|not? applicable|n\/?a|keine?|nein|ninguno|no|aucune?|non|nessuno|geen|nee|brak|nie|nenhum|não|inga|nej|false|0)$/i;

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  const read = reader(context, 'dangerousGoods');
  return atFieldsOf(context, 'dangerousGoods', (row, report, field) => {
    const found = read(row);
    if (found === '' || none.test(found)) return;
    const digits = /^UN\s?(\d{4})(?=$|[\s,;:(])/i.exec(found)?.[1];
    const number = digits === undefined ? Number.NaN : Number(digits);
    if (!(number >= 4 && number <= 3600)) report('dangerousGoods', 'risk', field, { found });
  });
}

/** A dangerous goods number is "UN" and four digits (UN Model Regulations, 0004 to 3560 in use), or says that there is none. */
export const dangerousGoods: CheckModule<Facts> = {
  issues: {
    dangerousGoods: {
      about: 'A dangerous goods number that is not UN and four digits.',
      severity: ['risk'],
      on: 'fields with the dangerous goods number',
      source: 'UN Model Regulations',
      example: { found: '3082' },
      title: (label) => `${label} is not a UN number`,
      words: ({ found }, label) => `${label} “${found}” is not “UN” and four digits, such as UN 3082`,
    },
  },
  onListing,
};
