import type { CheckContext, ListingCheck } from './check';
import { atFieldsOf, reader } from './item';

const none =
  /^(?:none|no|not? applicable|n\/?a|keine?|nein|ninguno|no|aucune?|non|nessuno|geen|nee|brak|nie|nenhum|não|inga|nej|false|0)$/i;

/** A dangerous goods number is "UN" and four digits (UN Model Regulations, 0004 to 3560 in use), or says that there is none. */
export function dangerousGoods(context: CheckContext): ListingCheck[] {
  const read = reader(context, 'dangerousGoods');
  return atFieldsOf(context, 'dangerousGoods', (row, report, field) => {
    const found = read(row);
    if (found === '' || none.test(found)) return;
    const digits = /^UN\s?(\d{4})(?=$|[\s,;:(])/i.exec(found)?.[1];
    const number = digits === undefined ? Number.NaN : Number(digits);
    if (!(number >= 4 && number <= 3600)) report('dangerousGoods', 'risk', field, { found });
  });
}
