import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { demoItems } from '../../../tests/support/demo';
import type { Values } from '../catalog/item';
import { atOnce } from '../listing/steps';
import type { CatalogProduct } from './comparing';
import { pairKey } from './familyMatching';
import { matchProducts, priceForProfit, similarityOf } from './matching';
import { readRangeTable, variantsOf } from './supplierRange';

const pairAll = (...given: Parameters<typeof matchProducts>) => atOnce(matchProducts(...given));
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
const items: CatalogProduct[] = demoItems
  .filter(({ sku }) => right.has(sku))
  .map(({ sku, values }) => ({ code: sku, values }));
const variants: CatalogProduct[] = rows('demo/partners/dunmoor-depot.csv').map(
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

test('among all items of the catalog they are as sure, and what is in doubt is few', () => {
  const all = demoItems.map(({ sku, values }) => ({ code: sku, values }));
  const { sure, doubts, items: without } = pairAll(all, variants);
  expect(wrongIn(sure)).toEqual([]);
  expect(sure.length).toBeGreaterThanOrEqual(55);
  expect(doubts.length).toBeLessThan(12);
  // All of them are told of somewhere.
  expect(new Set([...sure, ...doubts].map(({ sku }) => sku).concat(without)).size).toBe(all.length);
});

test('some of a shop’s own goods in its own words are found again, whatever the others are like', () => {
  const reported = demoItems
    .filter(
      ({ values }) =>
        typeof values.name === 'string' && (values.glaze ?? values.color) && (values.diameter ?? values.size),
    )
    .map(({ sku, values }) => ({ code: sku, values }));
  expect(reported.length).toBeGreaterThan(80);
  let sureOnes = 0;
  let offered = 0;
  fc.assert(
    fc.property(fc.subarray(reported, { minLength: 1, maxLength: 12 }), (some) => {
      const theirs = some.map(({ code, values: { name, glaze, color, diameter, size } }) => ({
        code: `P ${code}`,
        values: Object.fromEntries(
          Object.entries({ name, color: glaze ?? color, size: diameter ?? size }).filter(
            ([, value]) => value,
          ),
        ) as Values,
      }));
      const { sure } = pairAll(reported, theirs);
      expect(sure.filter(({ sku, variant }) => variant !== `P ${sku}`)).toEqual([]);
      sureOnes += sure.length;
      offered += theirs.length;
    }),
    { numRuns: 60, seed: 3 },
  );
  // Most of them: two of one name, colour and size, as the demo has some, are nobody's to tell apart.
  expect(sureOnes / offered).toBeGreaterThan(0.9);
});

test('what a person has settled stands, and makes room for nothing else', () => {
  const [item, other] = ['QM-POT-RDG-MOS-10', 'QM-POT-RDG-MOS-14'] as const;
  const variant = right.get(item) ?? '';
  const { sure, doubts } = pairAll(items, variants, {
    same: new Map([[item, variant]]),
    not: new Set([pairKey(other, right.get(other) ?? '')]),
  });
  expect(sure.map(({ sku }) => sku)).not.toContain(item);
  expect(
    [...sure, ...doubts.flatMap(({ candidates }) => candidates)].map((one) => one.variant),
  ).not.toContain(variant);
  const offered = [...sure, ...doubts.flatMap(({ candidates }) => candidates)].filter(
    ({ sku }) => sku === other,
  );
  expect(offered.map((one) => one.variant)).not.toContain(right.get(other));
});

test.each([
  [{ size: '14 cm' }, { size: '5 1/2 in' }, false],
  [{ size: '14 cm' }, { size: '5½"' }, false],
  [{ size: '14 cm' }, { size: '6 in' }, true],
  [{ width: '30 cm', height: '40 cm' }, { name: 'Pot 12 x 16 in' }, false],
  [{ volume: '1 l' }, { size: '34 fl oz' }, false],
  [{ volume: '1 l' }, { size: '51 fl oz' }, true],
  [{ size: 'M' }, { size: 'Medium' }, false],
  [{ size: 'M' }, { name: 'Pot, L' }, true],
  [{ color: 'black' }, { color: 'schwarz' }, false],
  [{ color: 'black' }, { color: 'red' }, true],
  // What a shop calls its shades may be anything.
  [{ color: 'ink' }, { color: 'Midnight blue' }, false],
  [{ plug: 'Type C' }, { plug: 'Type G' }, true],
])('%j and %j exclude each other: %s', (ours, theirs, excluded) => {
  const likeness = similarityOf(
    { code: 'A', values: { name: 'Pot', ...ours } as Values },
    { code: 'B', values: { name: 'Pot', ...theirs } as Values },
  );
  expect(likeness.contradicts).toBe(excluded);
  expect(likeness.objects.length > 0).toBe(excluded || ('color' in ours && ours.color === 'ink'));
});

test('a price follows a cost by the profit wanted', () => {
  expect(priceForProfit('12', 40)).toBe('20.00');
  expect(priceForProfit('9.99', 33)).toBe('14.91');
  // Half a cent, which binary fractions lose: Python's decimal gives 1.01.
  expect(priceForProfit('1.005', 0)).toBe('1.01');
  expect(priceForProfit('600.3', 40, 'JPY')).toBe('1001');
  expect(priceForProfit('1.2345', 0, 'KWD')).toBe('1.235');
  expect(priceForProfit('0', 40)).toBeUndefined();
  expect(priceForProfit('12', 100)).toBeUndefined();
});

describe('a range as it is brought in', () => {
  const mapping = { Code: 'sku', What: 'name', Stock: 'inventoryLevel' };
  test('rows without a code, or with one that stood before, are told by their line', () => {
    const table = readRangeTable('Code;What;Stock\nA;Pot;3\n;Pot;1\n\nA;Pan;2\nB;"Pot; big";\n');
    expect(variantsOf(table, mapping)).toEqual({
      variants: [
        { code: 'A', values: { name: 'Pot', inventoryLevel: '3' } },
        { code: 'B', values: { name: 'Pot; big' } },
      ],
      refused: [
        { line: 3, why: 'noCode' },
        { line: 5, why: 'codeTwice' },
      ],
    });
  });
  test('what is no range is refused with the remedy', () => {
    expect(() => readRangeTable('Code;What\n')).toThrow('This range has no rows.');
    expect(() => variantsOf(readRangeTable('Code\nA\n'), { Kode: 'sku' })).toThrow('Choose the column');
    expect(() => variantsOf(readRangeTable('Code;What\n;Pot\n'), mapping)).toThrow('This range has no rows');
    expect(() => variantsOf(readRangeTable('Code\nA\n'), {})).toThrow(
      'Choose the column with the supplier’s code.',
    );
  });
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
    { numRuns: Number(process.env.LIVELY_CASES ?? 40), seed: Number(process.env.LIVELY_SEED ?? 7) },
  );
  expect(taken).toBeGreaterThan(400);
  expect(wrong).toBe(0);
});

test('a large catalog and a small range are compared where they share words, and too many are refused', () => {
  const kinds = ['kettle', 'ladle', 'grater', 'sieve', 'whisk', 'tray', 'jug', 'board', 'tongs', 'peeler'];
  const many = Array.from({ length: 12_000 }, (_, at) => ({
    code: `K-${at}`,
    values: { name: `Maker${at % 997} ${kinds[at % kinds.length]} model${at}`, size: `${10 + (at % 40)} cm` },
  }));
  const started = [many[17], many[4242]].flatMap((one, n) =>
    one ? [{ code: `P${n}`, values: one.values }] : [],
  );
  const { sure, doubts, items: without } = pairAll(many, started);
  expect([...sure, ...doubts.map(({ candidates }) => candidates[0])].map((one) => one?.sku)).toEqual(
    expect.arrayContaining(['K-17', 'K-4242']),
  );
  expect(sure.every(({ sku, variant }) => (variant === 'P0') === (sku === 'K-17'))).toBe(true);
  expect(without.length).toBeGreaterThan(9000);
  const same = many.map(({ code }) => ({ code: `Q${code}`, values: { name: 'A jug' } }));
  expect(() => pairAll(many, same)).toThrow('are too many to compare at once');
});
