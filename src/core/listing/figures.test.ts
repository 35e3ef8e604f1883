import fc from 'fast-check';
import { causesIn, causesOf, MAX_CAUSES } from './figures';

const blocker = (check: 'missing' | 'choice', field: string) => ({
  check,
  field,
  severity: 'blocker' as const,
});

test('what blocks a listing is told once each, in order, whatever else is said of it', () => {
  expect(
    causesOf([
      blocker('missing', 'title'),
      { check: 'choice', field: 'colour', severity: 'tip' },
      blocker('choice', 'colour'),
      blocker('missing', 'title'),
    ]),
  ).toBe('choice:colour\nmissing:title');
  expect(causesOf([])).toBe('');
  // Of very many only whole ones are kept.
  const many = causesOf(Array.from({ length: 400 }, (_, at) => blocker('missing', `field_${1000 + at}`)));
  expect(many.length).toBeLessThanOrEqual(MAX_CAUSES);
  expect(many.split('\n').every((cause) => /^missing:field_1\d{3}$/.test(cause))).toBe(true);
});

test('what one change frees is what it alone blocks', () => {
  const causes = [
    ['choice:colour', 3],
    ['choice:colour\nmissing:title', 5],
    ['missing:title', 1],
    ['missing:a:b', 1],
  ] as const;
  expect(causesIn({ causes })).toEqual([
    { check: 'choice', field: 'colour', listings: 8, frees: 3 },
    { check: 'missing', field: 'title', listings: 6, frees: 1 },
    { check: 'missing', field: 'a:b', listings: 1, frees: 1 },
  ]);
  expect(causesIn({ causes: [] })).toEqual([]);
});

test('counted together or one by one, it is the same', () => {
  const fields = fc.uniqueArray(fc.constantFrom('title', 'colour', 'price', 'stock'), { minLength: 1 });
  fc.assert(
    fc.property(fc.array(fields, { maxLength: 40 }), (listings) => {
      const together = new Map<string, number>();
      for (const one of listings) {
        const causes = causesOf(one.map((field) => blocker('missing', field)));
        together.set(causes, (together.get(causes) ?? 0) + 1);
      }
      for (const { field, listings: touched, frees } of causesIn({ causes: [...together] })) {
        expect(touched).toBe(listings.filter((one) => one.includes(field as never)).length);
        expect(frees).toBe(listings.filter((one) => one.length === 1 && one[0] === field).length);
      }
    }),
  );
});
