import { spawnSync } from 'node:child_process';
import fc from 'fast-check';
import { convert, readMeasure, unitNames } from './units';

// Source: NIST SP 811 (2008), appendix B.8: exact factors.
test.each([
  ['1', 'in', 'cm', '2.54'],
  ['1', 'ft', 'm', '0.3048'],
  ['1', 'yd', 'm', '0.9144'],
  ['1', 'lb', 'g', '453.59237'],
  ['1', 'oz', 'g', '28.349523125'],
  ['1', 'fl oz', 'ml', '29.5735295625'],
  ['1', 'gal', 'l', '3.785411784'],
  ['0.1', 'm', 'mm', '100'],
])('%s %s is %s: %s', (amount, unit, to, wanted) => {
  expect(convert({ amount, unit }, to)).toBe(wanted);
});

// Source: Debian's units, an independent implementation.
test('agrees with Debian’s units for every pair', () => {
  const names: Record<string, string> = {
    in: 'inch',
    ft: 'foot',
    yd: 'yard',
    'fl oz': 'usfloz',
    gal: 'usgallon',
    l: 'liter',
    ml: 'milliliter',
    cl: 'centiliter',
    lb: 'pound',
    oz: 'ounce',
  };
  for (const group of [
    ['mm', 'cm', 'm', 'in', 'ft', 'yd'],
    ['mg', 'g', 'kg', 'oz', 'lb'],
    ['ml', 'cl', 'l', 'fl oz', 'gal'],
  ])
    for (const from of group)
      for (const to of group) {
        const { stdout } = spawnSync(
          'units',
          ['-t', '-d', '15', `7.25 ${names[from] ?? from}`, names[to] ?? to],
          { encoding: 'utf8' },
        );
        const ours = Number(convert({ amount: '7.25', unit: from }, to));
        expect([from, to, Math.abs(ours / Number(stdout.trim()) - 1) < 1e-9]).toEqual([from, to, true]);
      }
});

test('there and back again is where one was', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 99_999 }),
      fc.constantFrom(['cm', 'in'], ['kg', 'lb'], ['l', 'fl oz']),
      (complete, [a, b]) => {
        const there = convert({ amount: String(complete), unit: a as string }, b as string) ?? '';
        expect(
          Math.abs(Number(convert({ amount: there, unit: b as string }, a as string)) - complete),
        ).toBeLessThan(1e-6);
      },
    ),
  );
});

test.each([
  ['1,5 kg', { amount: '1.5', unit: 'kg' }],
  ['12 in', { amount: '12', unit: 'in' }],
  ['5"', { amount: '5', unit: 'in' }],
  ['0.75l', { amount: '0.75', unit: 'l' }],
  ['1.200 g', { amount: '1.200', unit: 'g' }],
  ['14 Zentimeter', { amount: '14', unit: 'cm' }],
  ['three feet', undefined],
  ['14', undefined],
  ['14 glugs', undefined],
  ['3–5 mm', undefined],
  ['1/2 in', undefined],
  ['ca. 5 kg', undefined],
  ['250 grammes', { amount: '250', unit: 'g' }],
  ['2,5 pollici', { amount: '2.5', unit: 'in' }],
  ['12 duim', { amount: '12', unit: 'in' }],
  ['3 litry', { amount: '3', unit: 'l' }],
  ['40 quilos', { amount: '40', unit: 'kg' }],
  ["6'", { amount: '6', unit: 'ft' }],
])('reads %j', (text, measure) => {
  expect(readMeasure(text)).toEqual(measure);
});

test('a weight is no length', () => {
  expect(convert({ amount: '1', unit: 'kg' }, 'cm')).toBeUndefined();
  expect(readMeasure('3 LBS.')).toEqual({ amount: '3', unit: 'lb' });
  for (const unit of unitNames) expect(convert({ amount: '2', unit }, unit)).toBe('2');
});

// Source: UN/ECE Recommendation 20, codes for units of measure.
test.each([
  ['KGM', 'kg'],
  ['GRM', 'g'],
  ['MGM', 'mg'],
  ['LBR', 'lb'],
  ['ONZ', 'oz'],
  ['MMT', 'mm'],
  ['CMT', 'cm'],
  ['MTR', 'm'],
  ['INH', 'in'],
  ['FOT', 'ft'],
  ['LTR', 'l'],
  ['MLT', 'ml'],
  ['H87', 'pcs'],
])('%s is %s', (code, unit) => {
  expect(readMeasure(`2 ${code}`)?.unit).toBe(unit);
  expect(readMeasure('2', '.', code)?.unit).toBe(unit);
});

test('a column writes its decimals with a comma, and its heading says the unit', () => {
  expect(readMeasure('1,250 kg', ',')).toEqual({ amount: '1.250', unit: 'kg' });
  expect(readMeasure('1,250 kg', '.')).toEqual({ amount: '1250', unit: 'kg' });
  expect(readMeasure('350', '.', 'g')).toEqual({ amount: '350', unit: 'g' });
  expect(readMeasure('0.4 kg', '.', 'g')).toEqual({ amount: '0.4', unit: 'kg' });
});
