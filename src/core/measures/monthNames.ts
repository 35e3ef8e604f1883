import { readLanguages } from '../formatting/readLanguages';

/**
 * Names of months beside those of CLDR for the languages: of English, of German in Austria, and the three letters by which spreadsheets
 * write months in several languages. Common practice, no source.
 */
const further: Readonly<Record<string, number>> = {
  sept: 9,
  janner: 1,
  feber: 2,
  mrz: 3,
  dez: 12,
  ene: 1,
  abr: 4,
  ago: 8,
  dic: 12,
  fev: 2,
  avr: 4,
  aou: 8,
  gen: 1,
  mag: 5,
  giu: 6,
  lug: 7,
  set: 9,
  ott: 10,
  mrt: 3,
  mei: 5,
  sty: 1,
  lut: 2,
  kwi: 4,
  cze: 6,
  lip: 7,
  sie: 8,
  wrz: 9,
  paz: 10,
  lis: 11,
  gru: 12,
  out: 10,
};

/** Without case, accents and full stops. */
const plain = (name: string): string =>
  name
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N}]+/gu, '')
    .toLowerCase();

let months: ReadonlyMap<string, number> | undefined;

/**
 * The months by their names and abbreviations, without case and accents: CLDR's, standing alone and within dates, in the languages that are read.
 * A name that is one month in one language and another in the next is none.
 */
function monthsByName(): ReadonlyMap<string, number> {
  if (months) return months;
  const found = new Map<string, number>(Object.entries(further));
  const doubtful = new Set<string>();
  const add = (written: string, month: number) => {
    const name = plain(written);
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
export const monthOf = (word: string): number | undefined => monthsByName().get(plain(word));
