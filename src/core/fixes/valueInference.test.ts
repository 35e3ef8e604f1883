import fc from 'fast-check';
import { attributeIndex, type Value } from '../catalog/value';
import { atOnce } from '../listing/steps';
import { groundWords } from './groundWords';
import { inferring, type Known, mendLinks } from './valueInference';

/** A catalog of rows, each the SKU and its values. */
function catalog(items: readonly (readonly [sku: string, values: Readonly<Record<string, Value>>])[]): Known {
  const index = attributeIndex([
    'sku',
    'family',
    '#axes',
    ...new Set(items.flatMap(([, values]) => Object.keys(values))),
  ]);
  return {
    skus: items.map(([sku]) => sku),
    rows: items.map(([sku, values]) => index.codes.map((code) => (code === 'sku' ? sku : values[code]))),
    index,
  };
}
const stated = (attribute: string, known: Known, sku: string) => {
  const worked = atOnce(inferring(attribute, known))(known.skus.indexOf(sku));
  return worked && [worked.value, worked.ground.from, worked.sure];
};

/** Gloves and aprons in three sizes whose SKUs end in them; one of each lacks it. */
const clothes = catalog(
  ['GLV', 'APR', 'HAT'].flatMap((kind) =>
    ['S', 'M', 'L'].map(
      (size) =>
        [
          `Q-${kind}-${size}`,
          { family: kind, name: kind, ...(kind === 'HAT' && size === 'L' ? {} : { size }) },
        ] as const,
    ),
  ),
);

test('a part of the SKU that means a value everywhere else says it where it lacks', () => {
  expect(stated('size', clothes, 'Q-HAT-L')).toEqual(['L', 'sku', true]);
  // Nothing tells what the size of a single thing without a family is, nor of one whose SKU is of another form.
  const odd = catalog([
    ...clothes.skus.map(
      (sku, at) => [sku, { family: sku.slice(2, 5), ...(at < 8 && { size: sku.slice(6) }) }] as const,
    ),
    ['Q-SCARF', { family: '' }],
    ['QHATXL', { family: 'HAT' }],
  ]);
  expect(stated('size', odd, 'Q-SCARF')).toBeUndefined();
  expect(stated('size', odd, 'QHATXL')).toBeUndefined();
});

test('members of a family say what they all have, not what they differ in', () => {
  const known = catalog([
    ...['A', 'B', 'C'].flatMap((family) =>
      [1, 2, 3].map(
        (n) => [`${family}${n}`, { family, '#axes': ['color'], gender: 'unisex', color: 'red' }] as const,
      ),
    ),
    ['A4', { family: 'A', '#axes': ['color'] }],
    ...['men', 'women', 'men', 'women'].map(
      (gender, n) => [`E${n}`, { family: 'D', '#axes': ['color'], gender }] as const,
    ),
    ['D3', { family: 'D', '#axes': ['color'] }],
  ]);
  expect(stated('gender', known, 'A4')).toEqual(['unisex', 'siblings', true]);
  expect(stated('color', known, 'A4')).toBeUndefined();
  expect(stated('gender', known, 'D3')).toBeUndefined();
});

test('a way that is often wrong where the value is known is not put forward; one that is seldom wrong is not sure', () => {
  const named = (right: number, wrong: number) =>
    catalog([
      ...Array.from({ length: right }, (_, n) => [`R${n}`, { name: 'Oak shelf', material: 'oak' }] as const),
      ...Array.from({ length: wrong }, (_, n) => [`W${n}`, { name: 'Oak shelf', material: 'pine' }] as const),
      ['X', { name: 'Oak shelf' }],
    ]);
  expect(stated('material', named(50, 0), 'X')).toEqual(['oak', 'name', true]);
  expect(stated('material', named(45, 5), 'X')).toEqual(['oak', 'name', false]);
  expect(stated('material', named(20, 20), 'X')).toBeUndefined();
});

test('what all of a category have is said of the one that lacks it, where there are enough', () => {
  const of = (count: number) =>
    catalog([
      ...Array.from({ length: count }, (_, n) => [`B${n}`, { category: 'Books', format: 'paper' }] as const),
      ['X', { category: 'Books' }],
      ['Y', { category: '' }],
    ]);
  expect(stated('format', of(6), 'X')).toEqual(['paper', 'category', true]);
  expect(stated('format', of(4), 'X')).toBeUndefined();
  expect(stated('format', of(6), 'Y')).toBeUndefined();
});

test('prices and stock are never taken unseen; what the law asks about not from other goods of the kind', () => {
  const of = (attribute: string, value: string) =>
    catalog([
      ...[1, 2, 3, 4, 5, 6, 7].map(
        (n) => [`A${n}`, { category: 'Cans', family: 'A', [attribute]: value }] as const,
      ),
      ...[1, 2, 3, 4, 5, 6, 7].map((n) => [`B${n}`, { category: 'Cans', [attribute]: value }] as const),
      ['X', { category: 'Cans' }],
      ['A8', { category: 'Cans', family: 'A' }],
    ]);
  expect(stated('price', of('price', '9.00 EUR'), 'A8')).toEqual(['9.00 EUR', 'siblings', false]);
  expect(stated('availability', of('availability', 'InStock'), 'X')).toEqual(['InStock', 'category', false]);
  expect(stated('countryOfOrigin', of('countryOfOrigin', 'PT'), 'X')).toEqual(['PT', 'category', false]);
  expect(stated('countryOfOrigin', of('countryOfOrigin', 'PT'), 'A8')).toEqual(['PT', 'siblings', true]);
  expect(stated('material', of('material', 'tin'), 'X')).toEqual(['tin', 'category', true]);
});

test('what each item has for itself is never worked out', () => {
  const known = catalog([
    ...[1, 2, 3, 4, 5, 6].map(
      (n) => [`A${n}`, { family: 'A', category: 'C', gtin: '9520000030493' }] as const,
    ),
    ['A7', { family: 'A', category: 'C' }],
  ]);
  expect(stated('gtin', known, 'A7')).toBeUndefined();
});

test('hidden values of any catalog: what is called sure is what all siblings have, or what the SKU carries', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.tuple(
          fc.integer({ min: 0, max: 3 }),
          fc.constantFrom('a', 'b', 'c'),
          fc.constantFrom('S', 'M', 'L'),
        ),
        {
          minLength: 30,
          maxLength: 60,
        },
      ),
      fc.nat(),
      (items, pick) => {
        const hidden = pick % items.length;
        const known = catalog(
          items.map(([family, color, size], n) => [
            `F${family}-${color}-${size}-${n}`,
            { family: `F${family}`, name: `F${family}`, ...(n === hidden ? {} : { size }) },
          ]),
        );
        const worked = atOnce(inferring('size', known))(hidden);
        if (!worked?.sure) return;
        const siblings = items.filter(([family], n) => n !== hidden && family === items[hidden]?.[0]);
        const theirs = new Set(siblings.map(([, , size]) => size));
        if (worked.ground.from === 'siblings') expect([...theirs]).toEqual([worked.value]);
        // The SKU carries the size: what is read from it is the hidden one.
        if (worked.ground.from === 'sku') expect(worked.value).toBe(items[hidden]?.[2]);
      },
    ),
    { numRuns: 300 },
  );
});

test('addresses: what may not stand in one is escaped, parts are put to the one site there is', () => {
  const one = (image: Value, ...others: string[]) => {
    const known = catalog([
      ['X', { image }],
      ...others.map((address, n) => [`O${n}`, { image: address }] as const),
    ]);
    return mendLinks('image', [0], known).get(0)?.value;
  };
  const shop = 'https://shop.example';
  expect(one(`${shop}/a front.jpg`)).toBe(`${shop}/a%20front.jpg`);
  expect(one([`${shop}/a front.jpg`, `${shop}/b.jpg`])).toBe(`${shop}/a%20front.jpg|${shop}/b.jpg`);
  expect(one('/ladder-160', `${shop}/x`)).toBe(`${shop}/ladder-160`);
  expect(one('ladder-160', `${shop}/x`, `${shop}/y`)).toBe(`${shop}/ladder-160`);
  // Two sites, another kind of address, or nothing wrong with it: nothing is said.
  expect(one('/ladder', `${shop}/x`, 'https://other.example/x')).toBeUndefined();
  expect(one('mailto:someone@shop.example', `${shop}/x`)).toBeUndefined();
  expect(one(`${shop}/a.jpg`)).toBeUndefined();
});

test('each reason has its words', () => {
  const trial = { right: 9, of: 9 };
  const words = (ground: Parameters<typeof groundWords>[0]['ground']) =>
    groundWords({ value: '', ground, trial, sure: true });
  expect(words({ from: 'siblings', count: 1 })).toBe(
    'as 1 other variant of its family; right for 9 of 9 that have it',
  );
  expect(words({ from: 'sku', part: 'L', count: 10 })).toMatch(/^L in the SKU means it 10 times elsewhere/);
  expect(words({ from: 'name', word: 'oak' })).toMatch(/^the name has oak/);
  expect(words({ from: 'category', category: 'Books', count: 6 })).toMatch(/^as all 6 others in Books/);
});
