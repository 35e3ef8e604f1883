import fc from 'fast-check';
import { fold } from '../text/folding';
import { duplicateTitles, lengthSteps } from './lengths';

test('every length is in one step, and the steps meet', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 1, max: 900 }), { minLength: 1 }),
      fc.integer({ min: 20, max: 600 }),
      (lengths, most) => {
        const steps = lengthSteps(lengths, most);
        expect(steps.reduce((sum, { count }) => sum + count, 0)).toBe(lengths.length);
        expect(steps.length).toBeLessThanOrEqual(60);
        for (const [i, { from, to, count }] of steps.entries()) {
          expect(count).toBe(lengths.filter((length) => length >= from && length <= to).length);
          if (i > 0) expect(from).toBe((steps[i - 1]?.to ?? 0) + 1);
        }
      },
    ),
  );
  expect(lengthSteps([], 150)).toEqual([]);
});

test('two hundred thousand titles, all the same or all of one length', () => {
  const rows = Array.from({ length: 200_000 }, (_, i) => ({ sku: `S${i}`, title: i % 2 ? 'Pot' : 'pót' }));
  expect(
    lengthSteps(
      rows.map(({ title }) => title.length),
      150,
    ).reduce((sum, { count }) => sum + count, 0),
  ).toBe(200_000);
  const { groups, total } = duplicateTitles(rows, ({ title }) => fold(title));
  expect(total).toBe(1);
  expect(groups[0]).toMatchObject({ title: 'pót', count: 200_000 });
  expect(groups[0]?.skus).toHaveLength(20);
});
