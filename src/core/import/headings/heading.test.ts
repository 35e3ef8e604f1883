import { findHeading, headingRows, joinHeadings } from './heading';

const table = (text: string) => text.split('\n').map((line) => line.split(';'));

describe('where the heading stands', () => {
  test.each([
    ['at once', 'sku;name;price\nA1;Pot;1\nA2;Box;2', 1],
    ['below a title', 'Price list 2027\nsku;name;price\nA1;Pot;1\nA2;Box;2', 2],
    [
      'below a title and a note',
      'Preisliste;;\nStand: 12.11.2026;;\n;;\nArt.-Nr.;Bez.;VK\nA1;Topf;1,50\nA2;Kiste;2',
      4,
    ],
    ['below a line that names the separator', 'sep=;\nsku;name;price\nA1;Pot;1', 2],
    [
      'below who sends it',
      'Harnley Ltd;;;\nsales@harnley.example;;;\nhttps://harnley.example;;;\nCode;Name;Stock;EAN\nA1;Pot;4;9520000030070',
      4,
    ],
    ['with empty columns before and between', ';sku;;name;price\n;A1;;Pot;1\n;A2;;Box;2', 1],
    ['in one column', 'sku\nA1\nA2', 1],
    ['above rows of words alone', 'sku;name;colour\nmoss;Moss pot;green\nsage;Sage pot;grey', 1],
    ['with headings of digits among the names', 'sku;name;2026;2027\nA1;Pot;4;5\nA2;Box;6;7', 1],
    [
      'below a title in two cells, with its day',
      'Tarif public;au 01/03/2027;;\nRéférence;Désignation;PU;Stock\nB1;Pot;1,5;4\nB2;Bac;2;1',
      2,
    ],
    [
      'with a year in it, and columns without names',
      'sku;name;Preis 2027;;\nA-1;Pot;4,90;red;x\nA-2;Can;5,90;blue;y',
      1,
    ],
    ['in the third row, under a sum', ';;Total;36\n;;;\nsku;name;price;stock\nA1;Pot;1;12\nA2;Box;2;24', 3],
  ])('%s', (_name, text, row) => {
    expect(findHeading(table(text))).toBe(row);
  });

  test('a file without any heading begins with its first row', () => {
    expect(findHeading(table('9520000030070;1.50\n9520000030148;2.50'))).toBe(1);
  });
});

describe('a heading in two rows', () => {
  const merged = table('Article;;Price;\nCode;Name;net;gross\nA1;Pot;1.00;1.19\nA2;Box;2.00;2.38');

  test('is seen, and its names are joined', () => {
    expect(headingRows(merged, 1)).toBe(2);
    expect(joinHeadings(merged[0] ?? [], merged[1] ?? [])).toEqual([
      'Article Code',
      'Article Name',
      'Price net',
      'Price gross',
    ]);
  });

  test('a name with nothing below it stays as it is', () => {
    expect(joinHeadings(['SKU', 'Price', ''], ['', 'net', 'gross'])).toEqual([
      'SKU',
      'Price net',
      'Price gross',
    ]);
  });

  test.each([
    ['a first row of values', 'sku;name;price\nA1;Pot;1\nA2;Box;2'],
    ['rows of words alone', 'sku;name;colour\nmoss;Moss pot;green\nsage;Sage pot;grey\nfern;Fern pot;green'],
    ['a first row with a gap', 'sku;name;stock;colour\nA1;Pot;;green\nA2;Box;4;grey'],
    ['a column without a name', 'sku;name;;price\nA1;Pot;x;1\nA2;Box;y;2'],
  ])('%s is none', (_name, text) => {
    expect(headingRows(table(text), 1)).toBe(1);
  });
});

describe('units below the names', () => {
  test('belong to the names above them', () => {
    const rows = table('No.;Name;Width;Weight;Price\n;;cm;[kg];EUR\nA1;Pot;14;0.8;12.90\nA2;Box;20;1;3');
    expect(headingRows(rows, 1)).toBe(2);
    expect(joinHeadings(rows[0] ?? [], rows[1] ?? [])).toEqual([
      'No.',
      'Name',
      'Width (cm)',
      'Weight (kg)',
      'Price (EUR)',
    ]);
  });
  test('a first item of words alone is no row of units', () => {
    expect(headingRows(table('No.;Size;Colour\nA1;m;red\nA2;l;blue'), 1)).toBe(1);
    expect(headingRows(table('Size;Unit\nm;cm'), 1)).toBe(1);
  });
});
