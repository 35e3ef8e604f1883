import type { Attribute } from '../attributes';
import { margin } from '../sections';
import { renameIn, termFinder, termsWith, withTerm } from '../terms';
import { attributeIndex } from '../value';
import { outliers, qualityOf, spellings } from './attributeQuality';

const attribute = (code: string, kind: Attribute['kind']): Attribute => ({
  code,
  label: code,
  kind,
  synonyms: [],
});

const look = (code: string, kind: Attribute['kind'], items: Record<string, string>[]) => {
  const index = attributeIndex(['family', 'category', code, ...items.flatMap((item) => Object.keys(item))]);
  return qualityOf(attribute(code, kind), {
    skus: items.map((_, i) => `S${i}`),
    rows: items.map((item) => index.codes.map((one) => item[one])),
    slotOf: index.slotOf,
  });
};

test('filled, distinct and most frequent', () => {
  const found = look('color', 'choice', [{ color: 'moss' }, { color: 'moss' }, { color: 'ink' }, {}]);
  expect(found).toMatchObject({
    filled: 3,
    distinct: 2,
    top: [
      ['moss', 2],
      ['ink', 1],
    ],
    odd: [],
  });
});

test('one colour spelled three ways; sizes that differ by a digit are not one', () => {
  const words = ['terracotta', 'Terracotta', 'terracota', 'terracotta', 'moss', '10 cm', '16 cm', 'S', 'M'];
  const found = look(
    'color',
    'choice',
    words.map((color) => ({ color })),
  );
  expect(found.odd).toEqual([
    { kind: 'spellings', values: ['terracotta', 'terracota', 'Terracotta'], skus: ['S2', 'S1'] },
  ]);
  expect(
    spellings(
      new Map([
        ['grey', 1],
        ['gray', 9],
      ]),
    ),
  ).toEqual([]);
  for (const [a, b] of [
    ['umber', 'ember'],
    ['Type C', 'Type G'],
    ['Canyon I', 'Canyon II'],
    ['Marble', 'Garble'],
    ['Series 100', 'Series 200'],
    ['Size M pot', 'Size S pot'],
    ['Left hand', 'Lift hand'],
  ] as const)
    expect([
      a,
      spellings(
        new Map([
          [a, 9],
          [b, 1],
        ]),
      ),
    ]).toEqual([a, []]);
  // Both are used: two words, however alike.
  expect(
    spellings(
      new Map([
        ['blanket', 40],
        ['blankets', 35],
      ]),
    ),
  ).toEqual([]);
  expect(
    spellings(
      new Map([
        ['stoneware', 40],
        ['stonware', 2],
      ]),
    ),
  ).toEqual([['stoneware', 'stonware']]);
  expect(
    spellings(
      new Map([
        ['Großer Topf', 1],
        ['grosser topf', 9],
      ]),
    ),
  ).toEqual([['grosser topf', 'Großer Topf']]);
});

// Source: Iglewicz and Hoaglin (1993), the modified z-score with the limit 3.5; the figures were worked out by hand:
// logs of 10 … 14 lie about ln 12 with MAD ln(14/12) − ln(13/12) ≈ 0.0770, so 1200 scores 0.6745 · ln 100 / 0.0870 > 35.
test('a price a hundred times the others is far out, one of double is not', () => {
  const prices = [10, 11, 12, 13, 14, 12, 11, 13];
  expect(outliers([...prices, 1200])).toEqual([8]);
  expect(outliers([...prices, 17])).toEqual([]);
  expect(outliers([5, 5, 5, 5, 5, 5, 5, 500])).toEqual([7]);
  expect(outliers([5, 5, 5, 5])).toEqual([]);
  expect(outliers([])).toEqual([]);
});

test('numbers are compared with those of their category only', () => {
  const items = [
    ...Array.from({ length: 9 }, (_, i) => ({ category: 'seeds', price: `${2 + i / 10}` })),
    ...Array.from({ length: 9 }, (_, i) => ({ category: 'lamps', price: `${80 + i}` })),
    { category: 'seeds', price: '82' },
    { category: 'rare', price: '9000' },
    { category: 'seeds', price: '0.00' },
    { category: 'seeds', price: 'dear' },
  ];
  expect(look('price', 'money', items).odd).toEqual([
    { kind: 'unreadable', values: ['0.00', 'dear'], skus: ['S20', 'S21'] },
    { kind: 'outliers', values: ['82'], skus: ['S18'] },
  ]);
});

test('measures are compared in one unit', () => {
  const items = Array.from({ length: 10 }, (_, i) => ({
    weight: i % 2 ? `${500 + i} g` : `0.${500 + i} kg`,
  }));
  expect(look('weight', 'measure', items).odd).toEqual([]);
  expect(look('weight', 'measure', [...items, { weight: '505 kg' }, { weight: '505' }]).odd).toEqual([
    { kind: 'unreadable', values: ['505'], skus: ['S11'] },
    { kind: 'outliers', values: ['505 kg'], skus: ['S10'] },
  ]);
});

test('an identifier on two items; one description on several families, not on variants of one', () => {
  expect(look('gtin', 'identifier', [{ gtin: '1' }, { gtin: '2' }, { gtin: '1' }]).odd).toEqual([
    { kind: 'shared', values: ['1'], skus: ['S0', 'S2'] },
  ]);
  const texts: Record<string, string>[] = [
    { family: 'A', description: 'same' },
    { family: 'A', description: 'same' },
    { family: 'B', description: 'both' },
    { description: 'both' },
  ];
  expect(look('description', 'richText', texts).odd).toEqual([
    { kind: 'repeated', values: ['both'], skus: ['S2', 'S3'] },
  ]);
});

describe('terms', () => {
  const terms = [
    { term: 'moss', synonyms: ['forest green', 'Moos'] },
    { term: 'ink', synonyms: [] },
  ];

  test('are found by themselves and their synonyms', () => {
    const find = termFinder(terms);
    expect(['MOSS', 'Forest  Green', 'moos', 'ink', 'red'].map(find)).toEqual([
      'moss',
      'moss',
      'moss',
      'ink',
      undefined,
    ]);
  });

  test('renamed, merged, or named for the first time, the old word becomes a synonym', () => {
    expect(renameIn(terms, 'ink', 'night')).toEqual([terms[0], { term: 'night', synonyms: ['ink'] }]);
    expect(renameIn(terms, 'moss', 'ink')).toEqual([
      { term: 'ink', synonyms: ['forest green', 'Moos', 'moss'] },
    ]);
    expect(renameIn([], 'a', 'b')).toEqual([{ term: 'b', synonyms: ['a'] }]);
  });

  test('stand in their order, words that no term knows behind them', () => {
    expect(termsWith({ terms }, ['10', '9', 'ink', '']).map(({ term }) => term)).toEqual([
      'moss',
      'ink',
      '9',
      '10',
    ]);
  });

  test('change inside lists as well', () => {
    expect(withTerm(['a', 'b'], 'b', 'c')).toEqual(['a', 'c']);
    expect(withTerm('b', 'b', 'c')).toBe('c');
    expect(withTerm('b', 'x', 'c')).toBe('b');
    expect(withTerm(undefined, 'x', 'c')).toBeUndefined();
  });
});

test.each([
  ['20.00', '15.00', '25.0'],
  ['9.99', '12.00', '-20.1'],
  ['0', '1', undefined],
  ['20', undefined, undefined],
  ['dear', '1', undefined],
])('the margin of price %s and cost %s is %s', (price, cost, wanted) => {
  expect(margin(price, cost)).toBe(wanted);
});
