import fc from 'fast-check';
import { bestAssignment } from './assignment';

/** The best sum by trying every way. */
function bruteForce(worth: readonly (readonly number[])[], row = 0, used = new Set<number>()): number {
  if (row === worth.length) return 0;
  let best = bruteForce(worth, row + 1, used);
  for (const [column, value] of (worth[row] ?? []).entries())
    if (value > 0 && !used.has(column)) {
      used.add(column);
      best = Math.max(best, value + bruteForce(worth, row + 1, used));
      used.delete(column);
    }
  return best;
}

const matrix = fc
  .tuple(fc.integer({ min: 1, max: 5 }), fc.integer({ min: 1, max: 6 }))
  .chain(([rows, columns]) =>
    fc.array(fc.array(fc.integer({ min: -20, max: 100 }), { minLength: columns, maxLength: columns }), {
      minLength: rows,
      maxLength: rows,
    }),
  );

test('no other way of pairing is worth more, no column is given twice, and nothing worthless is paired', () => {
  fc.assert(
    fc.property(matrix, (worth) => {
      const found = bestAssignment(
        worth.length,
        worth[0]?.length ?? 0,
        (row, column) => worth[row]?.[column] ?? 0,
      );
      const paired = found.filter((column) => column >= 0);
      expect(new Set(paired).size).toBe(paired.length);
      const values = found.flatMap((column, row) => (column < 0 ? [] : [worth[row]?.[column] ?? 0]));
      expect(values.every((value) => value > 0)).toBe(true);
      expect(values.reduce((sum, value) => sum + value, 0)).toBe(bruteForce(worth));
    }),
    { numRuns: 500 },
  );
});

test('the best for all is not the best for each', () => {
  const worth = [
    [90, 80],
    [85, 10],
  ];
  expect(bestAssignment(2, 2, (row, column) => worth[row]?.[column] ?? 0)).toEqual([1, 0]);
});

test('nothing comes of nothing', () => {
  expect(bestAssignment(0, 3, () => 1)).toEqual([]);
  expect(bestAssignment(2, 0, () => 1)).toEqual([-1, -1]);
});
