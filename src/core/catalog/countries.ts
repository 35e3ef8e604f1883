import { fold } from '../text/folding';

const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];
/** Languages whose names for countries are read: those that suggestions know. */
const languages = ['en', 'de', 'fr', 'es', 'it', 'nl', 'pl', 'pt', 'sv'];

const namesIn = (language: string) => new Intl.DisplayNames([language], { type: 'region', fallback: 'none' });

let codes: ReadonlyMap<string, string> | undefined;

/** Every country's name in the languages read, folded, with its code. Source: Unicode CLDR territory names. */
function codesByName(): ReadonlyMap<string, string> {
  if (codes) return codes;
  const found = new Map<string, string>();
  for (const language of languages) {
    const names = namesIn(language);
    for (const first of letters)
      for (const second of letters) {
        const code = first + second;
        // User-assigned codes of ISO 3166-1 name no country.
        const name = /^(AA|ZZ|Q[M-Z]|X[A-Z])$/.test(code) && code !== 'XK' ? undefined : names.of(code);
        if (name && !found.has(fold(name))) found.set(fold(name), code);
      }
  }
  codes = found;
  return found;
}

/** A country's name for its ISO 3166-1 code; the text itself where it is no such code. */
export function countryName(code: string, language = 'en'): string {
  return /^[A-Z]{2}$/.test(code) ? (namesIn(language).of(code) ?? code) : code;
}

/** The ISO 3166-1 code of a country named in one of nine languages; undefined where it is none. */
export const countryCode = (name: string): string | undefined => codesByName().get(fold(name));
