import { differenceCiede2000 } from 'culori';
import { type Field, fieldSchema } from '../channels/sheet';
import { hexOf, nearestColours } from './colours';
import { readChoice } from './lexicon';
import { readSize, sizesMeet } from './sizes';
import { suggestChoices, withWordElsewhere } from './suggestions';

// Source: Sharma, Wu and Dalal, The CIEDE2000 Color-Difference Formula (2005), table 1, all 34 pairs.
const pairs: [number, number, number, number, number, number, number][] = [
  [50, 2.6772, -79.7751, 50, 0, -82.7485, 2.0425],
  [50, 3.1571, -77.2803, 50, 0, -82.7485, 2.8615],
  [50, 2.8361, -74.02, 50, 0, -82.7485, 3.4412],
  [50, -1.3802, -84.2814, 50, 0, -82.7485, 1],
  [50, -1.1848, -84.8006, 50, 0, -82.7485, 1],
  [50, -0.9009, -85.5211, 50, 0, -82.7485, 1],
  [50, 0, 0, 50, -1, 2, 2.3669],
  [50, -1, 2, 50, 0, 0, 2.3669],
  [50, 2.49, -0.001, 50, -2.49, 0.0009, 7.1792],
  [50, 2.49, -0.001, 50, -2.49, 0.001, 7.1792],
  [50, 2.49, -0.001, 50, -2.49, 0.0011, 7.2195],
  [50, 2.49, -0.001, 50, -2.49, 0.0012, 7.2195],
  [50, -0.001, 2.49, 50, 0.0009, -2.49, 4.8045],
  [50, -0.001, 2.49, 50, 0.001, -2.49, 4.8045],
  [50, -0.001, 2.49, 50, 0.0011, -2.49, 4.7461],
  [50, 2.5, 0, 50, 0, -2.5, 4.3065],
  [50, 2.5, 0, 73, 25, -18, 27.1492],
  [50, 2.5, 0, 61, -5, 29, 22.8977],
  [50, 2.5, 0, 56, -27, -3, 31.903],
  [50, 2.5, 0, 58, 24, 15, 19.4535],
  [50, 2.5, 0, 50, 3.1736, 0.5854, 1],
  [50, 2.5, 0, 50, 3.2972, 0, 1],
  [50, 2.5, 0, 50, 1.8634, 0.5757, 1],
  [50, 2.5, 0, 50, 3.2592, 0.335, 1],
  [60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644],
  [63.0109, -31.0961, -5.8663, 62.8187, -29.7946, -4.0864, 1.263],
  [61.2901, 3.7196, -5.3901, 61.4292, 2.248, -4.962, 1.8731],
  [35.0831, -44.1164, 3.7933, 35.0232, -40.0716, 1.5901, 1.8645],
  [22.7233, 20.0904, -46.694, 23.0331, 14.973, -42.5619, 2.0373],
  [36.4612, 47.858, 18.3852, 36.2715, 50.5065, 21.2231, 1.4146],
  [90.8027, -2.0831, 1.441, 91.1528, -1.6435, 0.0447, 1.4441],
  [90.9257, -0.5406, -0.9208, 88.6381, -0.8985, -0.7239, 1.5381],
  [6.7747, -0.2908, -2.4247, 5.8714, -0.0985, -2.2286, 0.6377],
  [2.0776, 0.0795, -1.135, 0.9033, -0.0636, -0.5514, 0.9082],
];

test.each(pairs)('CIEDE2000 of (%d %d %d) and (%d %d %d) is %d', (l1, a1, b1, l2, a2, b2, wanted) => {
  const found = differenceCiede2000()(
    { mode: 'lab65', l: l1, a: a1, b: b1 },
    { mode: 'lab65', l: l2, a: a2, b: b2 },
  );
  expect(Math.abs(found - wanted)).toBeLessThan(0.0001);
});

const colours = [
  'black',
  'white',
  'grey',
  'brown',
  'beige',
  'red',
  'orange',
  'yellow',
  'green',
  'turquoise',
  'blue',
  'purple',
  'pink',
];
const colourField: Field = fieldSchema.parse({
  code: 'colour',
  label: 'Colour',
  meaning: 'x',
  kind: 'choice',
  need: 'may',
  choices: colours.map((code) => ({ code, labels: { en: code } })),
});

/** Forty invented glazes, with what they look like and the plain colour a person files them under. */
const glazes: [name: string, hex: string, colour: string][] = [
  ['Fenwater', '#3f6f8f', 'blue'],
  ['Mosshollow', '#5b7444', 'green'],
  ['Candlewick', '#f4efe2', 'white'],
  ['Embercrust', '#b4532f', 'orange'],
  ['Nightloam', '#232126', 'black'],
  ['Plumshade', '#5e2f63', 'purple'],
  ['Wheatsheaf', '#d8bf8a', 'beige'],
  ['Honeylight', '#e3b23c', 'yellow'],
  ['Brickdust', '#a83a2c', 'red'],
  ['Slatewing', '#6a737b', 'grey'],
  ['Tarnwater', '#1f3d7a', 'blue'],
  ['Lichen', '#7f9a5c', 'green'],
  ['Chalkdown', '#f1f1ec', 'white'],
  ['Peatbank', '#4b3121', 'brown'],
  ['Rosehip', '#cc2a36', 'red'],
  ['Fogbank', '#b3b7ba', 'grey'],
  ['Oatfield', '#d2c1a0', 'beige'],
  ['Marigoldrush', '#f08a1d', 'orange'],
  ['Ferndeep', '#2f6b39', 'green'],
  ['Lakeglass', '#3fb7b0', 'turquoise'],
  ['Heathbell', '#7d4a94', 'purple'],
  ['Petalwash', '#f0a3b8', 'pink'],
  ['Sootfall', '#161617', 'black'],
  ['Umberroot', '#6b4226', 'brown'],
  ['Buttermilk', '#f6e08a', 'yellow'],
  ['Harbour', '#28518f', 'blue'],
  ['Spruce', '#1f5a3a', 'green'],
  ['Ashwillow', '#8c8f8d', 'grey'],
  ['Cherrybark', '#8f1d22', 'red'],
  ['Saffronleaf', '#ecc531', 'yellow'],
  ['Lagoon', '#2aa8a0', 'turquoise'],
  ['Damson', '#53306e', 'purple'],
  ['Blossom', '#f4b0c4', 'pink'],
  ['Chestnut', '#713f22', 'brown'],
  ['Sandspit', '#dccba8', 'beige'],
  ['Milkstone', '#faf8f3', 'white'],
  ['Basalt', '#27282b', 'black'],
  ['Copperleaf', '#d0702a', 'orange'],
  ['Skydish', '#3a78c2', 'blue'],
  ['Meadow', '#4f8f3f', 'green'],
];

test('forty invented glazes go to the plain colour a person would file them under', () => {
  const wrong = glazes.filter(
    ([name, hex, colour]) => suggestChoices(colourField, name, { hex })[0]?.choice !== colour,
  );
  expect(wrong).toEqual([]);
});

test('colours by name, by code, and words that are none', () => {
  expect(hexOf('Dark Olive Green')).toBe('#556b2f');
  expect(hexOf('#AABBCC')).toBe('#aabbcc');
  expect(hexOf('glaze of the year')).toBeUndefined();
  expect(nearestColours('#00ff00', [{ code: 'c', labels: { en: 'Many colours' } }])).toEqual([]);
});

describe('choices', () => {
  const field = (choices: [string, Record<string, string>, string[]?][]): Field =>
    fieldSchema.parse({
      code: 'x',
      label: 'X',
      meaning: 'x',
      kind: 'choice',
      need: 'may',
      choices: choices.map(([code, labels, synonyms = []]) => ({ code, labels, synonyms })),
    });
  const first = (one: Field, value: string) => {
    const [best] = suggestChoices(one, value);
    return best ? [best.choice, best.score] : undefined;
  };

  test('the same word, a label in any language, a synonym, a like spelling', () => {
    const stock = field([
      ['in_stock', { en: 'In stock', de: 'Auf Lager' }, ['InStock']],
      ['sold_out', { en: 'Sold out', de: 'Ausverkauft' }],
    ]);
    expect(first(stock, 'in stock')).toEqual(['in_stock', 100]);
    expect(first(stock, 'auf  lager')).toEqual(['in_stock', 97]);
    expect(first(stock, 'InStock')).toEqual(['in_stock', 100]);
    expect(first(stock, 'ausverkaufft')?.[0]).toBe('sold_out');
    expect(first(stock, 'few left')).toBeUndefined();
  });

  test('measures meet in other units; a word inside a longer one counts less', () => {
    const sizes = field([
      ['half', { en: '500 ml' }],
      ['one', { en: '1 l' }],
      ['hand', { en: 'Hand' }],
    ]);
    expect(first(sizes, '0,5 l')).toEqual(['half', 95]);
    expect(first(sizes, '1000 ml')).toEqual(['one', 95]);
    expect(first(colourField, 'light green')).toEqual(['green', 86]);
  });
});

// Read off by a person; common practice, no source.
describe('words of other languages', () => {
  const field = (...codes: string[]) =>
    fieldSchema.parse({
      code: 'x',
      label: 'X',
      meaning: 'x',
      kind: 'choice',
      need: 'may',
      choices: codes.map((code) => ({ code, labels: {} })),
    });
  const colours = field('verde', 'azul', 'gris', 'blanco', 'cobre');
  test.each([
    ['moosgrün', 'verde', 86],
    ['Dunkelblau', 'azul', 86],
    ['anthrazit', 'gris', 93],
    ['weiß', 'blanco', 93],
    ['Kupfer', 'cobre', 93],
  ])('%s', (word, choice, score) => {
    expect(suggestChoices(colours, word)[0]).toMatchObject({ choice, score });
  });
  test.each([
    ['auf Lager', 'available'],
    ['ausverkauft', 'sold_out'],
    ['vorbestellbar', 'pre_order'],
  ])('%s', (word, choice) => {
    expect(suggestChoices(field('available', 'sold_out', 'pre_order'), word)[0]?.choice).toBe(choice);
  });
  test('a short word that only ends like a colour is none', () => {
    expect(readChoice('brot')).toBeUndefined();
    expect(suggestChoices(colours, 'Brot')).toEqual([]);
  });
  test('what a word became in another feed is proposed here, by what the choice is called there', () => {
    expect(suggestChoices(colours, 'Thistle dawn')).toEqual([]);
    const there = [{ names: ['Grey', 'grey', 'Grau'], where: 'Lanternry DE' }];
    const [first] = withWordElsewhere(colours, [], there);
    expect(first).toMatchObject({ choice: 'gris', reasons: ['it is “Grey” in Lanternry DE'] });
    expect(first?.score).toBeGreaterThan(80);
    const own = suggestChoices(colours, 'anthrazit');
    expect(withWordElsewhere(colours, own, there)[0]?.score).toBeGreaterThan(own[0]?.score ?? 0);
    expect(withWordElsewhere(colours, own, [{ names: ['Wood'], where: 'Lanternry DE' }])).toEqual(own);
  });
});

// Common practice, no source: makers differ by a size.
describe('sizes of other systems', () => {
  test.each([
    ['EU 38', 'eu', '38'],
    ['38 (EU)', 'eu', '38'],
    ['Gr. 38 EU', 'eu', '38'],
    ['UK10', 'uk', '10'],
    ['us 8,5', 'us', '8.5'],
    ['3XL', 'letter', 'XXXL'],
    ['x-large', 'letter', 'XL'],
    ['Mittel', 'letter', 'M'],
    ['moyen', 'letter', 'M'],
  ])('“%s”', (text, system, size) => {
    expect(readSize(text)).toEqual({ system, size });
  });
  test.each(['38', '10 cm', 'large pot', 'EU plug', '38 x 40', ''])('“%s” says no system', (text) => {
    expect(readSize(text)).toBeUndefined();
  });
  test('go together by their table, and differ within one system', () => {
    const eu = (size: string) => ({ system: 'eu', size });
    expect(sizesMeet(eu('38'), { system: 'uk', size: '10' })).toBe('women’s sizes');
    expect(sizesMeet(eu('50'), { system: 'us', size: '40' })).toBe('men’s sizes');
    expect(sizesMeet({ system: 'us', size: '9' }, eu('42'))).toBe('men’s shoe sizes');
    expect(sizesMeet(eu('38'), { system: 'uk', size: '12' })).toBeUndefined();
    expect(sizesMeet(eu('38'), eu('40'))).toBeUndefined();
  });
  test('a choice of another system is proposed, and said to be practice', () => {
    const sizes = { choices: ['UK 8', 'UK 10', 'UK 12'].map((code) => ({ code, labels: {}, synonyms: [] })) };
    expect(suggestChoices(sizes, 'EU 38', { english: () => [] })[0]).toMatchObject({
      choice: 'UK 10',
      reasons: ['it is about UK 10 in women’s sizes, by common practice'],
    });
  });
});

test('a dictionary finds what a word and a choice both are in English; the last word of several is worth as much as any', () => {
  const words: Readonly<Record<string, readonly string[]>> = {
    Steinzeug: ['stoneware'],
    gres: ['stoneware', 'sandstone'],
    Kiefer: ['pine', 'jaw'],
    pino: ['pine'],
    madera: ['wood'],
  };
  const english = (word: string) => words[word] ?? words[word[0]?.toUpperCase() + word.slice(1)] ?? [];
  const materials = {
    choices: ['gres', 'madera', 'pino'].map((code) => ({ code, labels: {}, synonyms: [] })),
  };
  const [first, ...more] = suggestChoices(materials, 'Steinzeug', { english });
  expect(first).toMatchObject({ choice: 'gres', score: 82 });
  expect(first?.reasons).toEqual(['by the dictionaries both it and “gres” are “stoneware”']);
  expect(more).toEqual([]);
  expect(suggestChoices(materials, 'massive Kiefer', { english })[0]).toMatchObject({
    choice: 'pino',
    score: 70,
  });
  expect(suggestChoices(materials, 'Steinzeug')).toEqual([]);
  expect(suggestChoices(materials, 'Filz', { english })).toEqual([]);
});
