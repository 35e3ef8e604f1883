import { startingAttributes } from '../catalog/attributes';
import { readValue, shownText } from '../catalog/reading';
import { readYesNo } from '../locale/yesNo';
import { suggestColumns } from './columns/columns';
import { headingWords } from './headings/headings';
import { compileMapping, type ReadItem, type Rejection } from './mapping/mapping';
import { mappingFrom } from './mapping/suggestMapping';

/** Reads rows of a file under the mapping that is suggested for them. */
function read(
  headings: string[],
  rows: string[][],
  currency: string | undefined = 'EUR',
): (ReadItem | Rejection)[] {
  const records = rows.map((row) => ({
    cells: Object.fromEntries(headings.map((heading, i) => [heading, row[i] ?? ''])),
    group: undefined,
  }));
  const found = suggestColumns(
    headings,
    records.map(({ cells }) => cells),
    startingAttributes,
  );
  const mapping = mappingFrom(
    found,
    startingAttributes,
    { kind: 'delimited', encoding: 'utf-8', separator: ',' },
    records,
  );
  const reader = compileMapping(mapping, startingAttributes, currency);
  return records.map(({ cells }) => reader(cells));
}
const valuesOf = (one: ReadItem | Rejection | undefined) =>
  one && 'values' in one ? { ...one.values } : one;
const one = (headings: string[], row: string[], currency?: string) =>
  valuesOf(read(headings, [row], currency)[0]);

describe('yes and no', () => {
  test.each([
    ...['yes', 'Ja', 'sí', 'SI', '1', 'true', 'x', 'X', 'oui', 'tak', 'sim', 'wahr', '✓', ' Yes '].map(
      (word) => [word, 'true'],
    ),
    ...['no', 'Nein', '0', 'false', 'non', 'nie', 'não', 'nej', 'falsch', '✗'].map((word) => [word, 'false']),
    ['maybe', undefined],
    ['', undefined],
    ['10', undefined],
    ['yes, mostly', undefined],
  ] as [string, 'true' | 'false' | undefined][])('%j is %s', (word, answer) => {
    expect(readYesNo(word)).toBe(answer);
  });

  test('are kept in one form, and a cell that says neither costs its row with the reason', () => {
    const rows = read(
      ['SKU', 'Name', 'Digital goods'],
      ['ja', 'x', '1', 'nein', 'perhaps'].map((word, i) => [`A${i}`, `Thing ${i}`, word]),
    );
    expect(rows.slice(0, 4).map((row) => valuesOf(row))).toMatchObject([
      { digital: 'true' },
      { digital: 'true' },
      { digital: 'true' },
      { digital: 'false' },
    ]);
    expect(rows[4]).toEqual({ reason: 'yesNo', attribute: 'digital', found: 'perhaps' });
  });
});

describe('amounts keep their currency', () => {
  const headings = ['SKU', 'Name', 'Price', 'Cost'];
  test.each([
    ['24.90 USD', { price: '24.90', priceCurrency: 'USD' }],
    ['$24.90', { price: '24.90', priceCurrency: 'USD' }],
    ['£ 9', { price: '9', priceCurrency: 'GBP' }],
    ['Fr. 12.50', { price: '12.50', priceCurrency: 'CHF' }],
    ['24,90 €', { price: '24.90' }],
    ['24.90', { price: '24.90' }],
  ])('%j', (cell, wanted) => {
    const found = one(headings, ['A', 'Pot', cell, '']);
    expect(found).toMatchObject(wanted);
    if (!('priceCurrency' in wanted)) expect(found).not.toHaveProperty('priceCurrency');
  });

  test('an amount in another currency than its item stands beside, as an amount in that one', () => {
    const found = one(headings, ['A', 'Pot', '24,90 €', '11.20 USD']);
    expect(found).toMatchObject({ price: '24.90', 'cost@USD': '11.20' });
    expect(found).not.toHaveProperty('cost');
  });

  test('a row whose price is not in the currency it names is refused', () => {
    const [row] = read(['SKU', 'Name', 'Price', 'Currency'], [['A', 'Pot', '24.90 USD', 'EUR']]);
    expect(row).toEqual({ reason: 'currencies', attribute: 'price', found: '24.90 USD', currency: 'EUR' });
  });

  test('a heading names the currency of its cells', () => {
    expect(one(['SKU', 'Name', 'Price (GBP)'], ['A', 'Pot', '9.50'])).toMatchObject({
      price: '9.50',
      priceCurrency: 'GBP',
    });
  });
});

describe('a number is read only where the whole cell is one', () => {
  test.each(['ca. 20', 'auf Anfrage (Seite 7)', '(5,00)', '-9,90 €', 'from 12', '10-12', '2 for 5'])(
    'the price %j costs its row',
    (cell) => {
      const rows = read(
        ['SKU', 'Name', 'Price'],
        [...['1,50', '2,50', '3,50'].map((price, i) => [`B${i}`, 'Pot', price]), ['A', 'Pot', cell]],
      );
      expect(rows.slice(0, 3).map((row) => valuesOf(row))).toMatchObject([
        { price: '1.50' },
        { price: '2.50' },
        { price: '3.50' },
      ]);
      expect(rows[3]).toHaveProperty('reason');
      expect(rows[3]).toHaveProperty('found', expect.stringContaining(cell.slice(-3, -1).replace(' ', '')));
    },
  );

  test('the column decides which sign is decimal, and a column that is silent follows the others', () => {
    const rows = read(
      ['SKU', 'Name', 'Weight', 'Stock', 'Price'],
      [
        ['A', 'Pot', '1,250 kg', '1.200', '2,50'],
        ['B', 'Pan', '0,5 kg', '3', '1.200,00'],
      ],
    );
    expect(valuesOf(rows[0])).toMatchObject({ weight: '1.250 kg', inventoryLevel: '1200', price: '2.50' });
    expect(valuesOf(rows[1])).toMatchObject({ weight: '0.5 kg', price: '1200.00' });
    expect(one(['SKU', 'Name', 'Weight', 'Price'], ['A', 'Pot', '1,250 g', '2.50'])).toMatchObject({
      weight: '1250 g',
    });
  });
});

describe('headings name units', () => {
  test.each([
    ['Weight (g)', 'g'],
    ['weight [kg]', 'kg'],
    ['weight_kg', 'kg'],
    ['Gewicht in g', 'g'],
    ['Weight (KGM)', 'kg'],
    ['Breite, cm', 'cm'],
    ['Largeur (centimètres)', 'cm'],
    ['Weight', undefined],
    ['Size M', undefined],
    ['Made in', undefined],
    ['Width (max.)', undefined],
  ])('%s: %s', (heading, unit) => {
    expect(headingWords(heading).unit).toBe(unit);
  });

  test('and give them to the cells that have none', () => {
    const rows = read(
      ['SKU', 'Name', 'Weight (g)', 'Width [mm]'],
      [
        ['A', 'Pot', '350', '120'],
        ['B', 'Pan', '1.2 kg', '8 cm'],
      ],
    );
    expect(valuesOf(rows[0])).toMatchObject({ weight: '350 g', width: '120 mm' });
    expect(valuesOf(rows[1])).toMatchObject({ weight: '1.2 kg', width: '8 cm' });
  });
});

test('words of a standard are kept as its terms and read as words', () => {
  const attribute = (code: string) => startingAttributes.find((found) => found.code === code) as never;
  for (const [code, typed, kept, shown] of [
    ['availability', 'Auf Lager', 'InStock', 'in stock'],
    ['itemCondition', 'neuf', 'NewCondition', 'new'],
    ['digital', 'ja', 'true', 'yes'],
    ['countryOfOrigin', 'Portogallo', 'PT', 'Portugal'],
    ['highlights', 'one | two |three', ['one', 'two', 'three'], 'one | two | three'],
    ['price', '1.234,50 $', '1234.50 USD', '1234.50 USD'],
    ['weight', '12', '12 kg', '12 kg'],
  ] as const) {
    const value = readValue(attribute(code), typed);
    expect(value).toEqual(kept);
    expect(shownText(attribute(code), value)).toBe(shown);
    expect(readValue(attribute(code), shown)).toEqual(kept);
  }
});

test('a value longer than a catalog keeps costs its row', () => {
  const rows = read(['SKU', 'Name', 'Description'], [['A', 'Pot', 'x'.repeat(50_000)]]);
  expect(rows[0]).toEqual({ reason: 'tooLong', attribute: 'description' });
});

test('a thousand columns of one name, and words of twenty thousand letters, are matched soon', () => {
  const columns = Array.from({ length: 999 }, (_, i) => (i === 0 ? 'Price' : `Price (${i + 1})`));
  const long = 'w'.repeat(20_000);
  const record = Object.fromEntries(columns.map((column) => [column, '1'.repeat(20_000)]));
  const begun = process.cpuUsage().user;
  suggestColumns([...columns, long], [record, record, record], startingAttributes);
  // Of the order of a second; the time that was mended was minutes.
  expect((process.cpuUsage().user - begun) / 1e6).toBeLessThan(30);
});
