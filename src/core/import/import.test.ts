import { spawnSync } from 'node:child_process';
import { startingAttributes } from '../catalog/attributes';
import { fromAttribute } from '../compose/composition';
import { suggestColumns } from './columns/columns';
import {
  decodeBytes,
  decodeStream,
  detectEncoding,
  detectKind,
  detectSeparator,
  refuseFile,
} from './encoding/decode';
import { type ImportMapping, importMappingSchema } from './mapping/importMapping';
import { columnsOf, compileMapping } from './mapping/mapping';
import { mappingFrom } from './mapping/suggestMapping';

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
    const complete = bytes('Grö');
    expect(detectEncoding(complete.subarray(0, complete.length - 1))).toBe('utf-8');
  });
});

test.each([
  [bytes('sku;name'), 'delimited'],
  [bytes('\ufeff  <?xml version="1.0"?><a/>'), 'xml'],
  [bytes('<table name="items"><row sku="A"/></table>'), 'xml'],
  [bytes('<?xml version="1.0"?><table><tr/></table>'), 'xml'],
  [bytes('<?xml version="1.0"?>\n<!-- x --><HTML xmlns="x"><head>'), 'html'],
  [bytes('<!DOCTYPE html>\n<p>'), 'html'],
  [bytes(' <table border=1><TR><td>SKU'), 'html'],
  [bytes('\n{"a":1}'), 'json'],
  [new Uint8Array([0x50, 0x4b, 3, 4, 0]), 'xlsx'],
  [new Uint8Array([0xff, 0xfe, 0x3c, 0]), 'xml'],
])('what a file is: %#', (sample, kind) => {
  expect(detectKind(sample)).toBe(kind);
});

test('bytes that are no UTF-8 are told with their line, and a sign cut in two is not one of them', async () => {
  const read = async (...parts: Uint8Array[]) => {
    let text = '';
    async function* chunks() {
      yield* parts;
    }
    for await (const piece of decodeStream(chunks(), 'utf-8')) text += piece;
    return text;
  };
  const complete = bytes('a\nGröße\n');
  expect(await read(complete.subarray(0, 5), complete.subarray(5))).toBe('a\nGröße\n');
  await expect(read(bytes('a\nb\n'), new Uint8Array([99, 10, 0x9c, 100]))).rejects.toThrow('About line 4');
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
  [new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0, 0, 8]), 'binary'],
  [bytes('%PDF-1.7\n1 0 obj'), 'binary'],
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
    { kind: 'delimited', encoding: 'utf-8', separator: ',' },
  );
  const compiled = compileMapping(mapping, startingAttributes);
  const read = (row: readonly string[], using = compiled) =>
    using(Object.fromEntries(columns.map((column, i) => [column, row[i] ?? ''])));

  test('a row becomes an item, each value with its cell', () => {
    expect(importMappingSchema.parse(mapping)).toEqual(mapping);
    expect(
      read([' A1 ', 'Ridge  pot', '24,90 €', 'https://a.example/1.jpg|https://a.example/2.jpg']),
    ).toEqual({
      sku: 'A1',
      key: 'A1',
      family: undefined,
      values: {
        name: 'Ridge pot',
        price: '24.90',
        priceCurrency: 'EUR',
        image: ['https://a.example/1.jpg', 'https://a.example/2.jpg'],
      },
      cells: {
        sku: { column: 'Code', cell: ' A1 ' },
        name: { column: 'Name', cell: 'Ridge  pot' },
        price: { column: 'Price', cell: '24,90 €' },
        priceCurrency: { column: 'Price', cell: '24,90 €' },
        image: { column: 'Pictures', cell: 'https://a.example/1.jpg|https://a.example/2.jpg' },
      },
      proposals: [],
    });
  });

  test.each([
    [['', 'Pot', '1', ''], { reason: 'noSku' }],
    [['A1', 'Pot', 'free', ''], { reason: 'price', found: 'free' }],
    [['A1', '=1+1', '1', ''], { reason: 'formula', column: 'Name', found: '=1+1' }],
  ])('%j is rejected with its reason', (row, rejection) => {
    expect(read(row)).toEqual(rejection);
  });

  test('an item may be found by its GTIN or part number; without an SKU that is its SKU', () => {
    const byGtin = compileMapping(
      { ...mapping, key: 'gtin', fields: { gtin: fromAttribute('Code'), name: fromAttribute('Name') } },
      startingAttributes,
    );
    expect(read(['9520000030148', 'Pot'], byGtin)).toMatchObject({
      sku: '9520000030148',
      key: '9520000030148',
    });
    expect(read(['', 'Pot'], byGtin)).toEqual({ reason: 'noKey', key: 'gtin' });
  });

  test('several values, fallbacks, price changes, tables and pictures out of markup', () => {
    const one = compileMapping(
      importMappingSchema.parse({
        ...mapping,
        tables: { tax: { 'normal rate': '19' } },
        fields: {
          sku: fromAttribute('Code'),
          name: {
            alternatives: [
              { parts: [{ attribute: 'Brand' }, { attribute: 'Name', glue: ' – ' }] },
              { parts: [{ text: 'no name' }] },
            ],
          },
          price: fromAttribute('Net', [
            { step: 'number', decimalSign: ',' },
            { step: 'adjust', percent: 19, amount: 2, ending: '0.99' },
          ]),
          tax: fromAttribute('Tax', [{ step: 'lookUp', table: 'tax', otherwise: 'empty' }]),
          weight: fromAttribute('Weight', [{ step: 'measure', to: 'kg' }]),
          width: fromAttribute('Width', [{ step: 'measure', to: 'cm' }]),
          image: fromAttribute('Text', [
            { step: 'pictureLinks' },
            { step: 'resolve', base: 'https://shop.example/files/' },
          ]),
        },
      }),
      startingAttributes,
    );
    expect(
      one({
        Code: 'A',
        Brand: 'Fernholm',
        Name: 'Pot',
        Net: '1.019,90 €',
        Tax: 'Normal  rate',
        Weight: '1,5 kg',
        Width: '12 in',
        Text: '<p>One <img src="a/1.jpg"> two <img src="/2.jpg"></p>',
      }),
    ).toMatchObject({
      values: {
        name: 'Fernholm – Pot',
        // 1019.90 × 1.19 + 2 = 1215.681
        price: '1215.99',
        tax: '19',
        weight: '1.5 kg',
        width: '30.48 cm',
        image: ['https://shop.example/files/a/1.jpg', 'https://shop.example/2.jpg'],
      },
    });
    expect(one({ Code: 'B', Name: '' })).toMatchObject({ values: { name: 'no name' } });
  });

  test('swapped decimal signs and wrapped texts are told, and taken only where accepted', () => {
    const commas = importMappingSchema.parse({
      ...mapping,
      fields: { ...mapping.fields, price: fromAttribute('Price', [{ step: 'number', decimalSign: ',' }]) },
    });
    const plain = compileMapping(commas, startingAttributes);
    const mended = compileMapping({ ...commas, repairs: ['decimalSign', 'formula'] }, startingAttributes);
    expect(read(['="007"', 'Pot', '24.90', ''], plain)).toMatchObject({
      reason: 'decimalSign',
      attribute: 'price',
      found: '24.90',
      // The row waits for its repairs: all of them are offered.
      damaged: { proposals: [{ attribute: 'price', proposal: { damage: 'decimalSign', to: '24,90' } }] },
    });
    expect(read(['="007"', 'Pot', '1.250', ''], plain)).toMatchObject({
      sku: '="007"',
      values: { price: '1250' },
    });
    expect(read(['="007"', 'Pot', '24.90', ''], mended)).toMatchObject({
      sku: '007',
      values: { price: '24.90' },
      proposals: [
        { attribute: 'price', proposal: { damage: 'decimalSign', to: '24,90' } },
        { attribute: 'sku', proposal: { damage: 'formula', to: '007' } },
      ],
    });
  });

  test.each<[string, Record<string, string>, string[]]>([
    ['of one name', { 'Bild 2': 'b.jpg', 'Bild 1': 'a.jpg', 'Bild 3': '' }, ['Bild 1', 'Bild 2', 'Bild 3']],
    [
      'with the number within',
      { image_1_url: 'https://x.example/1.jpg', image_2_url: 'https://x.example/2.jpg' },
      ['image_1_url', 'image_2_url'],
    ],
    [
      'beside a main one',
      { Hauptbild: 'a.jpg', 'Bild 2': 'b.jpg', 'Weitere Bilder': 'c.jpg|d.jpg' },
      ['Hauptbild', 'Weitere Bilder', 'Bild 2'],
    ],
    ['not of another kind', { Bild: 'a.jpg', Logo: 'l.jpg', 'Bild 2': 'see there' }, ['Bild']],
  ])('columns of pictures %s are one list', (_name, cells, columns) => {
    const all = { SKU: 'A-1', Name: 'Pot', ...cells };
    const rows = [{ cells: all, group: undefined }];
    const found = suggestColumns(Object.keys(all), [all], startingAttributes);
    const { fields } = mappingFrom(
      found,
      startingAttributes,
      { kind: 'delimited', encoding: 'utf-8', separator: ',' },
      rows,
    );
    expect(fields.image && columnsOf(fields.image)).toEqual(columns);
    if (columns.length > 1)
      expect(fields.image?.alternatives[0]?.steps).toEqual([{ step: 'split', at: '|' }]);
  });

  test('a stock in words is told, and counts only where that is accepted; the rest of its row comes in', () => {
    const stock = importMappingSchema.parse({
      ...mapping,
      fields: { ...mapping.fields, inventoryLevel: fromAttribute('Stock', [{ step: 'number' }]) },
    });
    const item = (cell: string, repairs: ('stockWord' | 'cut')[]) =>
      compileMapping(
        { ...stock, repairs },
        startingAttributes,
      )({ Code: 'A', Title: 'Pot', Price: '24.90', Stock: cell });
    for (const [cell, accepted] of [
      ['sold out', '0'],
      ['> 10', '10'],
      ['in stock', undefined],
    ] as const) {
      const reported = {
        attribute: 'inventoryLevel',
        proposal: { damage: 'stockWord', from: cell, to: accepted },
      };
      const [left, taken] = [item(cell, ['cut']), item(cell, ['stockWord'])];
      expect([left, taken]).toMatchObject([
        { sku: 'A', proposals: [reported] },
        { sku: 'A', proposals: [reported] },
      ]);
      const levels = [left, taken].map((one) => ('values' in one ? one.values.inventoryLevel : 'refused'));
      expect(levels).toEqual([undefined, accepted]);
    }
    expect(item('soon', ['stockWord'])).toMatchObject({ reason: 'number', found: 'soon' });
  });

  test('the decimal sign is taken from the column where its cells agree', () => {
    const suggested = (cells: string[]) =>
      mappingFrom(
        [{ column: 'Price', attribute: 'price', score: 90, reasons: [] }],
        startingAttributes,
        { kind: 'delimited', encoding: 'utf-8', separator: ';' },
        cells.map((cell) => ({ cells: { Price: cell }, group: undefined })),
      ).fields.price;
    expect(suggested(['1,50', '2,50', '3,50', '1.000'])).toEqual(
      fromAttribute('Price', [{ step: 'number', currency: 'keep', decimalSign: ',' }]),
    );
    expect(suggested(['1', '2.50', '2,50'])).toEqual(
      fromAttribute('Price', [{ step: 'number', currency: 'keep' }]),
    );
  });
});
