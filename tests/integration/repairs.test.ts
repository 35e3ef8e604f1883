import { eq, sql } from 'drizzle-orm';
import { undoEdit } from '@/server/catalog/editing';
import { db } from '@/server/db/connection';
import { family, item } from '@/server/db/schema';
import { repairCountries } from '@/server/items/countryRepair';
import { closeDatabase, freshDemo } from '../support/stack';

/** Data that earlier versions stored wrongly is repaired at a start, with proof. */
beforeEach(async () => {
  await freshDemo();
});
afterAll(closeDatabase);

const setCountry = async (sku: string, code: string, cell?: string) => {
  const origin = { file: 'list.csv', row: 2, column: 'Origin', cell };
  await db
    .update(item)
    .set({
      values: sql`json_set(${item.values}, '$.countryOfOrigin', ${code})`,
      ...(cell === undefined
        ? {}
        : {
            origins: sql`json_set(${item.origins}, '$.countryOfOrigin', json_extract(${JSON.stringify(origin)}, '$'))`,
          }),
    })
    .where(eq(item.sku, sku));
};
const countryOf = async (sku: string) => {
  const [row] = await db.select({ values: item.values }).from(item).where(eq(item.sku, sku));
  return row?.values.countryOfOrigin;
};

test('withdrawn country codes become the code in force, by the cell they were read from', async () => {
  const skus = (await db.select({ sku: item.sku }).from(item).orderBy(item.sku).limit(6)).map(
    ({ sku }) => sku,
  );
  const [german, typed, serbian, undecided, fine, strange] = skus as [string, ...string[]] as string[];
  await setCountry(german as string, 'DD', 'Deutschland');
  await setCountry(typed as string, 'VD');
  await setCountry(serbian as string, 'CS', 'Serbia');
  await setCountry(undecided as string, 'CS', 'CS');
  await setCountry(fine as string, 'PT', 'Portugal');
  await setCountry(strange as string, 'QX', 'QX');
  const [aFamily] = await db.select().from(family).limit(1);
  await db
    .update(family)
    .set({ values: sql`json_set(${family.values}, '$.countryOfOrigin', 'BU')` })
    .where(eq(family.code, aFamily?.code ?? ''));

  const done = await repairCountries();
  expect(done?.words).toBe('countries of origin repaired: BU is MM, CS is RS, DD is DE, VD is VN');
  expect(await Promise.all(skus.map(countryOf))).toEqual(['DE', 'VN', 'RS', 'CS', 'PT', 'QX']);
  const [repaired] = await db
    .select()
    .from(family)
    .where(eq(family.code, aFamily?.code ?? ''));
  expect(repaired?.values.countryOfOrigin).toBe('MM');

  expect(await repairCountries()).toBeUndefined();
  await undoEdit(done?.id);
  expect(await countryOf(german as string)).toBe('DD');
});
