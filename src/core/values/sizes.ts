import { fold } from '../text/folding';

/**
 * Sizes of clothing and shoes that go together between the systems of Europe, the United Kingdom, the United States and
 * letters. Common practice, no standard: makers differ by a size, so what is found this way is always only proposed.
 */
const tables: Readonly<Record<string, { readonly systems: readonly string[]; readonly lines: string }>> = {
  'women’s sizes': {
    systems: ['eu', 'uk', 'us', 'letter'],
    lines:
      '32 4 0 XXS, 34 6 2 XS, 36 8 4 S, 38 10 6 S, 40 12 8 M, 42 14 10 M, 44 16 12 L, 46 18 14 L, 48 20 16 XL, 50 22 18 XL, 52 24 20 XXL, 54 26 22 XXL',
  },
  'men’s sizes': {
    systems: ['eu', 'uk', 'us', 'letter'],
    lines:
      '44 34 34 XS, 46 36 36 S, 48 38 38 M, 50 40 40 M, 52 42 42 L, 54 44 44 XL, 56 46 46 XL, 58 48 48 XXL, 60 50 50 XXL',
  },
  'women’s shoe sizes': {
    systems: ['eu', 'uk', 'us'],
    lines: '36 3 5, 37 4 6, 38 5 7, 39 6 8, 40 6.5 8.5, 41 7 9, 42 8 10',
  },
  'men’s shoe sizes': {
    systems: ['eu', 'uk', 'us'],
    lines: '39 6 6.5, 40 6.5 7, 41 7 8, 42 8 9, 43 9 10, 44 9.5 10.5, 45 10.5 11.5, 46 11 12, 47 12 13',
  },
};

const systemNames: Readonly<Record<string, string>> = {
  eu: 'eu',
  eur: 'eu',
  de: 'eu',
  it: 'it',
  fr: 'fr',
  uk: 'uk',
  gb: 'uk',
  us: 'us',
  usa: 'us',
};

/** Letters by the words they are short for, in nine languages, folded. */
const letterWords = new Map(
  (
    [
      ['S', 'small,klein,pequeno,pequena,petit,piccolo,piccola,maly,mala,liten'],
      ['M', 'medium,mittel,mediano,mediana,moyen,medio,media,middel,sredni,srednia,medelstor'],
      ['L', 'large,gross,grande,grand,groot,duzy,duza,stor'],
      ['XL', 'x large,extra large,extra gross,extra grande,tres grand,extra groot'],
    ] as const
  ).flatMap(([letter, words]) => words.split(',').map((word) => [word, letter] as const)),
);

export interface Size {
  readonly system: string;
  readonly size: string;
}

/** Reads a size that says its system ("EU 38", "38 (UK)", "US 8,5") or is a letter ("3XL", "medium"). */
export function readSize(text: string): Size | undefined {
  const plain = text
    .trim()
    .toLowerCase()
    .replace(/(\d),(5)\b/, '$1.$2');
  const [, before, number = '', after] =
    /^(?:size|gr\.?|größe|talla|taille|taglia|maat|rozmiar|storlek)?\s*([a-z]{2,3})?[\s.:-]*(\d{1,2}(?:\.5)?)\s*\(?([a-z]{2,3})?\)?$/.exec(
      plain,
    ) ?? [];
  const system = systemNames[before ?? after ?? ''];
  if (number && system) return { system, size: number };
  const [, times, large] = /^(\d)x([sl])$/.exec(plain.replace(/[\s-]/g, '')) ?? [];
  if (times && large) return { system: 'letter', size: `${'X'.repeat(Number(times))}${large.toUpperCase()}` };
  if (/^(x{0,4}[sl]|m)$/.test(plain)) return { system: 'letter', size: plain.toUpperCase() };
  const word = letterWords.get(fold(text));
  return word === undefined ? undefined : { system: 'letter', size: word };
}

/** The table by which two sizes go together; undefined where they do not, or are of one system and differ. */
export function sizesMeet(one: Size, other: Size): string | undefined {
  if (one.system === other.system) return one.size === other.size ? 'the same size' : undefined;
  for (const [name, { systems, lines }] of Object.entries(tables)) {
    const [from, to] = [systems.indexOf(one.system), systems.indexOf(other.system)];
    if (from < 0 || to < 0) continue;
    for (const line of lines.split(', ')) {
      const sizes = line.split(' ');
      if (sizes[from] === one.size && sizes[to] === other.size) return name;
    }
  }
  return undefined;
}
