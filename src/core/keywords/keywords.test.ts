import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { attributeIndex } from '../catalog/value';
import { type Field, fieldSchema } from '../channels/sheet';
import { InputError } from '../errors/inputError';
import { stemOf, stemsOf, wordsOf } from '../words/stems';
import { type Keyword, readKeywords, readVolume } from './keyword';
import { compileSearchWords, termsOf, topTermReader } from './searchWords';
import { type Candidate, selectWords } from './selection';

describe('a list of keywords', () => {
  test.each([
    ['1,200', 1200],
    ['1.200', 1200],
    ['1 200', 1200],
    ['1’200', 1200],
    ['12,345,678', 12_345_678],
    ['120.0', 120],
    ['1.2K', 1200],
    ['1,5k', 1500],
    ['2 M', 2_000_000],
    ['100 – 1K', 100],
    ['< 10', 10],
    ['0', 0],
    ['12 searches', 12],
    ['12th', undefined],
    ['many', undefined],
    ['', undefined],
    ['-5', undefined],
  ])('a volume written %s is %s', (text, volume) => {
    expect(readVolume(text)).toBe(volume);
  });

  test.each([
    [
      'commas',
      'term,volume\nHerb Pot,120\n',
      { term: 'herb pot', volume: 120, language: 'en', category: '' },
    ],
    [
      'semicolons, other words, another order',
      'Suchvolumen;Suchbegriff;Sprache;Kategorie\n1.200;Übertopf  groß;Deutsch;Töpfe > Innen\n',
      { term: 'übertopf groß', volume: 1200, language: 'de', category: 'Töpfe > Innen' },
    ],
    [
      'tabs and a mark of its own',
      '\ufeffMots clés\tRecherches\tLangue\npot à herbes\t90\tfr-CA\n',
      { term: 'pot à herbes', volume: 90, language: 'fr', category: '' },
    ],
    [
      'no heading',
      'herb pot,120\nindoor pot,90\n',
      { term: 'herb pot', volume: 120, language: 'en', category: '' },
    ],
  ])('%s', (_name, text, first) => {
    expect(readKeywords(text, 'en').keywords[0]).toEqual(first);
  });

  test('what cannot be taken is told by its line, all else is taken, twice counts once with the greater volume', () => {
    const read = readKeywords(
      'term,volume,language\nherb pot,120,en\n,5,en\npot,many,en\nHerb  Pot,300,en\nbowl,7,Klingon\n***,3,en\n"a, b",9,en\n',
      'en',
    );
    expect(read.keywords.map(({ term, volume }) => [term, volume])).toEqual([
      ['herb pot', 300],
      ['a, b', 9],
    ]);
    expect(read.twice).toBe(1);
    expect(read.refused.map(({ line, why }) => [line, why])).toEqual([
      [3, 'noTerm'],
      [4, 'noVolume'],
      [6, 'noLanguage'],
      [7, 'noTerm'],
    ]);
  });

  test.each([
    ['nothing', ''],
    ['no column of volumes', 'term,language\npot,en\n'],
    ['no column of terms', 'thing,volume\npot,1\n'],
  ])('%s is refused with the remedy', (_name, text) => {
    expect(() => readKeywords(text, 'en')).toThrow(InputError);
  });

  test('that of the demo is read whole', () => {
    const read = readKeywords(readFileSync('demo/keywords.csv', 'utf8'), 'en');
    expect([read.refused, read.twice]).toEqual([[], 0]);
    expect(read.keywords.length).toBeGreaterThan(50);
  });
});

// The words of each line are forms of one word; Snowball's own vocabularies (snowballstem.org) group them so; Polish by its declension.
test.each([
  ['en', 'pot pots'],
  ['en', 'glazed glazing'],
  ['de', 'Topf Töpfe Töpfen'],
  ['de', 'Schürze Schürzen'],
  ['fr', 'jardin jardins'],
  ['es', 'maceta macetas'],
  ['it', 'vaso vasi'],
  ['nl', 'plant planten'],
  ['sv', 'kruka krukor'],
  ['pt', 'vaso vasos'],
  ['pl', 'doniczka doniczki doniczkę doniczką doniczkami'],
  ['pl', 'roślina rośliny roślin roślinami'],
  ['pl', 'czerwony czerwona czerwone czerwonego czerwoną'],
])('in %s one word: %s', (language, words) => {
  expect(new Set(words.split(' ').map((word) => stemOf(word, language))).size).toBe(1);
});

test('words that are not the same are not taken for it', () => {
  expect(stemOf('pot', 'en')).not.toBe(stemOf('potato', 'en'));
  expect(stemsOf('Übertopf, 14 cm – für Kräuter', 'de').size).toBe(5);
  expect(wordsOf('Café-Tasse № 5')).toEqual(['café', 'tasse', '5']);
});

/** Every set of words that fits, tried one after another; the terms a set says, whatever they are, count. */
function byBruteForce(
  candidates: readonly Candidate[],
  costOf: (word: string) => number,
  room: number,
): { volume: number; used: number } {
  const words = [...new Set(candidates.flatMap((one) => one.words))];
  let best = { volume: 0, used: 0 };
  for (let mask = 0; mask < 1 << words.length; mask++) {
    const chosen = new Set(words.filter((_, at) => mask & (1 << at)));
    const used = [...chosen].reduce((sum, word) => sum + costOf(word), 0);
    if (used > room) continue;
    const volume = candidates.reduce(
      (sum, one) => sum + (one.words.every((word) => chosen.has(word)) ? one.volume : 0),
      0,
    );
    if (volume > best.volume || (volume === best.volume && used < best.used)) best = { volume, used };
  }
  return best;
}

test('the chosen words are worth as much as the best of all choices, and as short as any that are, never over the limit', () => {
  const lengths = [3, 9, 5, 7, 4, 11, 6, 8, 5];
  const words = lengths.map((_, at) => `w${at}`);
  const costOf = (word: string) => (lengths[words.indexOf(word)] as number) + 1;
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          volume: fc.integer({ min: 1, max: 30 }),
          words: fc.subarray(words, { minLength: 1, maxLength: 4 }),
        }),
        { minLength: 1, maxLength: 11 },
      ),
      fc.integer({ min: 0, max: 70 }),
      (given, room) => {
        const candidates = [...given].sort((a, b) => b.volume - a.volume);
        const right = byBruteForce(candidates, costOf, room);
        const chosen = selectWords(candidates, costOf, room);
        const used = chosen.words.reduce((sum, word) => sum + costOf(word), 0);
        expect({ volume: chosen.volume, used }).toEqual(right);
        expect(used).toBeLessThanOrEqual(room);
        expect(new Set(chosen.words).size).toBe(chosen.words.length);
      },
    ),
    { numRuns: 3000 },
  );
});

test('of many terms a good choice is found in bounded time', () => {
  const candidates = Array.from({ length: 40 }, (_, at) => ({
    volume: 1000 - at * 7,
    words: [`a${at % 13}`, `b${at % 17}`, `c${at}`],
  }));
  const chosen = selectWords(candidates, () => 9, 250);
  expect(chosen.words.length * 9).toBeLessThanOrEqual(250);
  expect(chosen.terms.length).toBeGreaterThan(8);
});

describe('search words', () => {
  const index = attributeIndex(['sku', 'name', 'brand', 'category']);
  const context = { index, language: 'de', currency: 'EUR', tables: {} };
  const keyword = (term: string, volume: number, category = 'Töpfe'): Keyword => ({ term, volume, category });
  const list = [
    keyword('übertopf', 900),
    keyword('blumentopf innen', 800),
    keyword('übertöpfe keramik', 700),
    keyword('tarnholt topf', 650),
    keyword('mossgard topf', 640),
    keyword('kräutertopf', 300),
    keyword('geschenk', 5000, ''),
    keyword('topf geschenk', 200, ''),
    keyword('gartenhandschuhe', 9000, 'Handschuhe'),
  ];
  const branchesOf = (category: string) => [category, 'Töpfe'];
  const terms = termsOf(list, 'de', ['Mossgard'], branchesOf);
  const field = (more: object): Field =>
    fieldSchema.parse({ code: 'words', label: 'Words', meaning: 'm', kind: 'text', need: 'may', ...more });
  const row = (name: string, category = 'Töpfe', brand = 'Tarnholt') =>
    index.codes.map((code) => ({ name, brand, category })[code]);
  const title = (values: readonly unknown[]) => `Tarnholt ${String(values[1])}`;
  const bytes = (most: number) => field({ length: { most, measure: 'bytes' } });
  const created = (name: string, most: number) =>
    compileSearchWords(bytes(most), terms, context, title).run(row(name));

  test('say what the title does not, each word once in its shortest form, never a brand and none that is never said', () => {
    // "geschenk" alone is of any category and has no word of the listing, "topf geschenk" has one.
    expect(created('Rillentopf mit Topf', 250)).toBe(
      'übertopf blumentopf innen keramik kräutertopf geschenk',
    );
    expect(created('Übertopf aus Keramik', 250)).toBe('blumentopf innen topf kräutertopf geschenk');
  });

  test('never go over the bytes, and the most searched go first', () => {
    for (let most = 1; most < 60; most++) {
      const text = String(created('Rillentopf', most) ?? '');
      expect(Buffer.byteLength(text)).toBeLessThanOrEqual(most);
    }
    expect(created('Rillentopf', 9)).toBe('übertopf');
    expect(created('Rillentopf', 8)).toBe('topf');
  });

  test('a field that takes a list takes whole terms', () => {
    const tags = field({ length: { most: 16 }, values: { most: 3 } });
    expect(compileSearchWords(tags, terms, context, title).run(row('Rillentopf'))).toEqual([
      'übertopf',
      'blumentopf innen',
      'tarnholt topf',
    ]);
  });

  test('an item of another category has its own terms, one without terms has none', () => {
    const own = termsOf(list, 'de', [], (category) => [category]);
    const words = compileSearchWords(bytes(99), own, context, title);
    expect(words.run(row('Rose', 'Handschuhe'))).toBe('gartenhandschuhe');
    expect(words.run(row('Rose', 'Bücher'))).toBeUndefined();
  });

  test('the term searched most that the name does not say can be a part of titles', () => {
    const top = topTermReader(terms, context);
    expect(top(row('Rillentopf'))).toBe('übertopf');
    expect(top(row('Übertopf'))).toBe('blumentopf innen');
  });
});
