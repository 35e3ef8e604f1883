import { readLanguages } from '../locale/readLanguages';
import { fold } from '../text/folding';

/** Names of months by which people and programs write dates, beside those of CLDR: “Sept”. */
const further: Readonly<Record<string, number>> = { sept: 9 };

let months: ReadonlyMap<string, number> | undefined;

/**
 * The months by their names and abbreviations, folded: CLDR's, standing alone and within dates, in the languages that are read.
 * A name that is one month in one language and another in the next is none.
 */
function monthsByName(): ReadonlyMap<string, number> {
  if (months) return months;
  const found = new Map<string, number>(Object.entries(further));
  const doubtful = new Set<string>();
  const add = (written: string, month: number) => {
    const name = fold(written);
    if (name.length < 2 || /\d/.test(name)) return;
    if (found.has(name) && found.get(name) !== month) doubtful.add(name);
    found.set(name, month);
  };
  for (const language of readLanguages)
    for (const width of ['long', 'short'] as const)
      for (const form of [{ month: width }, { day: 'numeric', month: width, year: 'numeric' }] as const) {
        const format = new Intl.DateTimeFormat(language, { ...form, timeZone: 'UTC' });
        for (let month = 1; month <= 12; month++) {
          const parts = format.formatToParts(new Date(Date.UTC(2027, month - 1, 15)));
          add(parts.find(({ type }) => type === 'month')?.value ?? '', month);
        }
      }
  for (const name of doubtful) found.delete(name);
  months = found;
  return found;
}

/** The month, 1 to 12, that a word names; undefined where it names none, or different ones in different languages. */
export const monthOf = (word: string): number | undefined => monthsByName().get(fold(word));
