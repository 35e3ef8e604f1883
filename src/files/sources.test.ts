import { bringIn, sourceFiles } from '../../tests/support/sources';

/** Files nobody mapped, in nine languages and every way of writing a table: what the suggested mapping alone makes of them. */
test.each(sourceFiles)('%s comes in by itself: every value as a careful person expects it', async (file) => {
  const { wanted, right, wrong, missing } = await bringIn(file);
  expect(wrong).toEqual([]);
  expect(missing).toEqual([]);
  expect(right).toBe(wanted);
});
