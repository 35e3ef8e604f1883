import { spawnSync } from 'node:child_process';
import { startingAttributes } from '../catalog/attributes';
import { suggestColumns } from './columns';
import { decodeBytes, detectEncoding, detectSeparator, refuseFile } from './decode';
import { compileMapping, type ImportMapping, importMappingSchema, mappingFrom } from './mapping';

const bytes = (text: string) => new TextEncoder().encode(text);

describe('encoding', () => {
  // Source: Python's codecs, which write the same text in both encodings.
  test.each(['utf-8', 'cp1252'])('%s is told apart', (codec) => {
    const { stdout } = spawnSync('python3', [
      '-c',
      `import sys; sys.stdout.buffer.write('Größe;Übertopf;café – 24,90 €'.encode('${codec}'))`,
    ]);
    const encoding = detectEncoding(stdout);
    expect(encoding).toBe(codec === 'utf-8' ? 'utf-8' : 'windows-1252');
    expect(decodeBytes(stdout, encoding)).toBe('Größe;Übertopf;café – 24,90 €');
  });

  test('a sign cut in two at the end of the sample is still UTF-8', () => {
    const whole = bytes('Grö');
    expect(detectEncoding(whole.subarray(0, whole.length - 1))).toBe('utf-8');
  });
});

describe('separator', () => {
  test.each([
    [',', 'sku,name,price\nA,"Pot, ridged",1\nB,Pan,2\n'],
    [';', 'sku;name;price\nA;Pot;1,50\nB;Pan;2,50\n'],
    ['\t', 'sku\tname\nA\tPot, ridged\nB\tPan\n'],
    ['|', 'sku|name|text\nA|Pot|a, b; c\n'],
  ])('%j', (separator, text) => {
    expect(detectSeparator(text)).toBe(separator);
  });
});

test.each([
  [new Uint8Array(0), 'empty'],
  [new Uint8Array(5000), 'zeros'],
  [bytes('\ufeff \n\n;;;\n'), 'empty'],
  [new Uint8Array([0x50, 0x4b, 3, 4, 0, 0, 8]), 'binary'],
  [bytes('sku,name\nA,Pot'), undefined],
])('what a file is refused for', (sample, refusal) => {
  expect(refuseFile(sample)).toBe(refusal);
});

describe('columns', () => {
  const suggest = (table: Record<string, string[]>) => {
    const columns = Object.keys(table);
    const rows = (table[columns[0] ?? ''] ?? []).map((_, i) =>
      Object.fromEntries(columns.map((column) => [column, table[column]?.[i] ?? ''])),
    );
    return Object.fromEntries(
      suggestColumns(columns, rows, startingAttributes).map(({ column, attribute }) => [column, attribute]),
    );
  };

  test('headings in other languages are understood', () => {
    expect(
      suggest({
        Artikelnummer: ['A1', 'A2'],
        Bezeichnung: ['Topf', 'Kanne'],
        Preis: ['12,90', '1.019,90'],
        Marke: ['Tarnholt', 'Tarnholt'],
        Warengruppe: ['Töpfe', 'Kannen'],
        Farbe: ['moos', 'kreide'],
      }),
    ).toEqual({
      Artikelnummer: 'sku',
      Bezeichnung: 'name',
      Preis: 'price',
      Marke: 'brand',
      Warengruppe: 'category',
      Farbe: 'color',
    });
  });

  test('a column of valid check digits is a GTIN, whatever its heading says', () => {
    expect(suggest({ no: ['A1', 'A2'], 'Kolonne 7': ['9520000030148', '9520000030070'] })).toMatchObject({
      'Kolonne 7': 'gtin',
    });
    expect(suggest({ no: ['A1', 'A2'], 'Kolonne 7': ['9520000030149', '9520000030071'] })).not.toHaveProperty(
      ['Kolonne 7'],
    );
  });

  test('what the cells hold outweighs a misleading heading', () => {
    expect(suggest({ sku: ['A', 'B'], Price: ['on request', 'ask us'] })).not.toHaveProperty('Price');
    expect(
      suggest({
        sku: ['A', 'B'],
        Foto: ['https://a.example/1.jpg', 'https://a.example/2.jpg'],
        Cur: ['EUR', 'EUR'],
      }),
    ).toMatchObject({ Foto: 'image', Cur: 'priceCurrency' });
  });

  test('no attribute and no column is used twice', () => {
    const found = suggestColumns(
      ['Name', 'Title', 'Product name'],
      [{ Name: 'a', Title: 'b', 'Product name': 'c' }],
      startingAttributes,
    );
    expect(new Set(found.map(({ attribute }) => attribute)).size).toBe(found.length);
    expect(found.filter(({ attribute }) => attribute === 'name')).toHaveLength(1);
  });
});

describe('mapping', () => {
  const columns = ['Code', 'Name', 'Price', 'Pictures'];
  const mapping: ImportMapping = mappingFrom(
    [
      { column: 'Code', attribute: 'sku', score: 90, reasons: [] },
      { column: 'Name', attribute: 'name', score: 90, reasons: [] },
      { column: 'Price', attribute: 'price', score: 90, reasons: [] },
      { column: 'Pictures', attribute: 'image', score: 90, reasons: [] },
    ],
    startingAttributes,
    { encoding: 'utf-8', separator: ',' },
  );
  const read = compileMapping(mapping, columns, startingAttributes);

  test('a row becomes an item, each value with its cell', () => {
    expect(importMappingSchema.parse(mapping)).toEqual(mapping);
    expect(
      read([' A1 ', 'Ridge  pot', '24,90 €', 'https://a.example/1.jpg|https://a.example/2.jpg']),
    ).toEqual({
      sku: 'A1',
      family: undefined,
      values: {
        name: 'Ridge pot',
        price: '24.90',
        image: ['https://a.example/1.jpg', 'https://a.example/2.jpg'],
      },
      cells: {
        sku: { column: 'Code', cell: ' A1 ' },
        name: { column: 'Name', cell: 'Ridge  pot' },
        price: { column: 'Price', cell: '24,90 €' },
        image: { column: 'Pictures', cell: 'https://a.example/1.jpg|https://a.example/2.jpg' },
      },
      proposals: [],
    });
  });

  test.each([
    [['', 'Pot', '1', ''], { reason: 'noSku' }],
    [['A1', 'Pot', 'free', ''], { reason: 'price', found: 'free' }],
    [['A1', 'Pot'], { reason: 'cells', found: 2, wanted: 4 }],
  ])('%j is rejected with its reason', (row, rejection) => {
    expect(read(row)).toEqual(rejection);
  });
});
