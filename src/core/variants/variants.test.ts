import fc from 'fast-check';
import type { Family, Item } from '../catalog/item';
import { fixedText, fromAttribute } from '../compose/composition';
import { combinations, planVariants, skuPattern, valuesAlone, valuesIn } from './variants';

const family: Family = { code: 'HAT', variesBy: [], values: { name: 'Sun hat', brand: 'Quillmoss' } };
const free = () => false;

test('four by three by two are 24, the last axis changing fastest', () => {
  const places = combinations([
    { axis: 'a', terms: ['1', '2', '3', '4'] },
    { axis: 'b', terms: ['x', 'y', 'z'] },
    { axis: 'c', terms: ['m', 'n'] },
  ]);
  expect(places).toHaveLength(24);
  expect(places.slice(0, 3)).toEqual([
    { a: '1', b: 'x', c: 'm' },
    { a: '1', b: 'x', c: 'n' },
    { a: '1', b: 'y', c: 'm' },
  ]);
  expect(combinations([])).toEqual([]);
  expect(combinations([{ axis: 'a', terms: [] }])).toEqual([]);
});

test('as many places as the product of the terms, none twice', () => {
  const axes = fc.uniqueArray(
    fc.record({
      axis: fc.constantFrom('color', 'size', 'plug', 'pattern'),
      terms: fc.uniqueArray(fc.string({ minLength: 1, maxLength: 3 }), { minLength: 1, maxLength: 4 }),
    }),
    { minLength: 1, maxLength: 4, selector: ({ axis }) => axis },
  );
  fc.assert(
    fc.property(axes, (list) => {
      const places = combinations(list);
      expect(places).toHaveLength(list.reduce((product, { terms }) => product * terms.length, 1));
      expect(new Set(places.map((place) => JSON.stringify(place))).size).toBe(places.length);
    }),
  );
});

test('items that stand at a place are kept, however their terms are spelled', () => {
  const members: Item[] = [
    { sku: 'OLD-1', values: { color: 'Moss', size: 's', price: '9.90' } },
    { sku: 'OLD-2', values: { color: 'ink', size: 'XL' } },
  ];
  const planned = planVariants(
    family,
    members,
    [
      { axis: 'color', terms: ['moss', 'ink'] },
      { axis: 'size', terms: ['S', 'M'] },
    ],
    { sku: skuPattern(['color', 'size']) },
    free,
  );
  expect(planned.map(({ sku, existing }) => [sku, existing])).toEqual([
    ['OLD-1', 'OLD-1'],
    ['HAT-MOSS-M', undefined],
    ['HAT-INK-S', undefined],
    ['HAT-INK-M', undefined],
  ]);
});

test('names come from their own pattern; bad SKUs are told', () => {
  const axes = [{ axis: 'size', terms: ['one size', 'L'] }];
  const plan = (sku: Parameters<typeof planVariants>[3]['sku'], taken = free as (sku: string) => boolean) =>
    planVariants(
      family,
      [],
      axes,
      {
        sku,
        name: {
          alternatives: [
            {
              parts: [
                { attribute: 'name', glue: ' ', steps: [] },
                { attribute: 'size', glue: ', ', steps: [] },
              ],
              steps: [],
            },
          ],
          steps: [],
        },
      },
      taken,
    ).map(({ sku: code, values, trouble }) => [code, values.name, trouble]);
  expect(plan(skuPattern(['size']))).toEqual([
    ['HAT-ONESIZE', 'Sun hat, one size', undefined],
    ['HAT-L', 'Sun hat, L', undefined],
  ]);
  expect(plan(fixedText('SAME')).map(([, , trouble]) => trouble)).toEqual([undefined, 'twice']);
  expect(plan(fromAttribute('gtin')).map(([, , trouble]) => trouble)).toEqual(['noSku', 'noSku']);
  expect(plan(skuPattern(['size']), (sku) => sku === 'HAT-L').map(([, , trouble]) => trouble)).toEqual([
    undefined,
    'taken',
  ]);
});

test('out of a family and into it again is where an item was', () => {
  const values = fc.dictionary(
    fc.constantFrom('brand', 'color', 'price', 'name'),
    fc.constantFrom('a', 'b', 'c'),
  );
  fc.assert(
    fc.property(values, values, (own, shared) => {
      const group: Family = { code: 'F', variesBy: [], values: shared };
      const alone = valuesAlone({ values: own }, group);
      expect(alone).toEqual({ ...shared, ...own });
      const back = valuesIn(alone, group);
      expect({ ...shared, ...back }).toEqual(alone);
      for (const code of Object.keys(back)) expect(back[code]).not.toBe(shared[code]);
    }),
  );
});
