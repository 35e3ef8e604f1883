import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { demoItems } from '../../../tests/support/demo';
import { pairAll, type Ware } from './pairing';

const rows = (path: string) =>
  readFileSync(path, 'utf8')
    .trim()
    .split('\n')
    .slice(1)
    .map((line) =>
      (line.match(/("[^"]*"|[^,]*)(,|$)/g) ?? []).map((cell) => cell.replace(/,$/, '').replace(/^"|"$/g, '')),
    );
const right = new Map(
  rows('demo/partners/dunmoor-depot.key.csv').map(([sku = '', code = '']) => [sku, code]),
);
const items: Ware[] = demoItems
  .filter(({ sku }) => right.has(sku))
  .map(({ sku, values }) => ({ code: sku, values }));
const variants: Ware[] = rows('demo/partners/dunmoor-depot.csv').map(
  ([code = '', name = '', color = '', size = '', , , gtin = '']) => ({
    code,
    values: Object.fromEntries(
      Object.entries({ name, color, size, gtin }).filter(([, value]) => value !== ''),
    ),
  }),
);

const wrongIn = (pairs: readonly { sku: string; variant: string }[]) =>
  pairs.filter(({ sku, variant }) => right.get(sku) !== variant);

test('of 60 items and a partner’s 90 variants, in inches and other words, 55 are sure, and none of them wrong', () => {
  expect([items.length, variants.length]).toEqual([60, 90]);
  const { sure, doubts } = pairAll(items, variants);
  expect(wrongIn(sure)).toEqual([]);
  expect(sure.length).toBeGreaterThanOrEqual(55);
  // An item that says no colour is shown with what it may be, and not taken.
  expect(doubts.map(({ sku }) => sku)).toContain('QM-APR-LIN-FER-M');
});

test('where the right variants are not there, no other is taken for them', () => {
  const codes = [...right.values()];
  let taken = 0;
  let wrong = 0;
  fc.assert(
    fc.property(
      fc.subarray(codes, { maxLength: 50 }),
      fc.subarray(items, { minLength: 20 }),
      (gone, some) => {
        const { sure } = pairAll(
          some,
          variants.filter(({ code }) => !gone.includes(code)),
        );
        taken += sure.length;
        wrong += wrongIn(sure).length;
      },
    ),
    { numRuns: 40, seed: 7 },
  );
  expect(taken).toBeGreaterThan(500);
  expect(wrong).toBe(0);
});
