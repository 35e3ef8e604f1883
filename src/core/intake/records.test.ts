import { InputError } from '../formats/inputError';
import { readJsonRecords, readXmlRecords } from './records';

const table = ({ records }: ReturnType<typeof readJsonRecords>) =>
  records.map(({ cells, group }): Record<string, string> => ({ ...cells, ...(group ? { group } : {}) }));

describe('JSON', () => {
  test('finds the list and flattens what is in it', () => {
    const found = readJsonRecords(
      JSON.stringify({
        made: '2026',
        books: [
          {
            isbn: '978',
            title: 'Shade',
            price: { amount: 28, currency: 'EUR' },
            tags: ['a', 'b'],
            note: null,
          },
          { isbn: '979', title: 'Light' },
        ],
      }),
    );
    expect(found).toMatchObject({ list: 'books', nested: undefined });
    expect(table(found)).toEqual([
      { isbn: '978', title: 'Shade', 'price/amount': '28', 'price/currency': 'EUR', tags: 'a|b' },
      { isbn: '979', title: 'Light' },
    ]);
  });

  test('a line each', () => {
    expect(table(readJsonRecords('{"sku":"A"}\n\n{"sku":"B"}\n'))).toEqual([{ sku: 'A' }, { sku: 'B' }]);
    expect(() => readJsonRecords('{"sku":"A"}\n{"sku":\n')).toThrow('Line 2 is not JSON');
  });

  // Source: schema.org ProductGroup with hasVariant, as its documentation shows it.
  test('schema.org groups become one row a variant', () => {
    const found = readJsonRecords(
      JSON.stringify([
        {
          '@type': 'ProductGroup',
          productGroupID: 'APR',
          name: 'Linen apron',
          hasVariant: [
            { '@type': 'Product', sku: 'A-S', size: 'S' },
            { '@type': 'Product', sku: 'A-M', size: 'M' },
          ],
        },
        {
          '@type': 'ProductGroup',
          productGroupID: 'GLV',
          name: 'Gloves',
          hasVariant: { '@type': 'Product', sku: 'G-M', size: 'M' },
        },
      ]),
    );
    expect(found.nested).toBe('hasVariant');
    expect(table(found).map((row) => [row.name, row['hasVariant/sku'], row['hasVariant/size']])).toEqual([
      ['Linen apron', 'A-S', 'S'],
      ['Linen apron', 'A-M', 'M'],
      ['Gloves', 'G-M', 'M'],
    ]);
  });
});

describe('XML', () => {
  const xml = `<?xml version="1.0"?><list made="2026"><head><who>Tarnholt</who></head><products>
    <product code="RDG"><name>Ridge &amp; pot</name><variants><variant><ean>9520000030148</ean><glaze>moss</glaze></variant><variant><ean>9520000030070</ean><glaze>chalk</glaze></variant></variants></product>
    <product code="FEN"><name><![CDATA[Fen <pot>]]></name><variants><variant><ean>9520000030919</ean><glaze>ink</glaze></variant></variants></product>
  </products></list>`;

  test('finds the repeating element, attributes, nested variants', () => {
    const found = readXmlRecords(xml);
    expect(found).toMatchObject({ list: 'list/products/product', nested: 'variants/variant' });
    expect(table(found)).toEqual([
      {
        '@code': 'RDG',
        name: 'Ridge & pot',
        'variants/variant/ean': '9520000030148',
        'variants/variant/glaze': 'moss',
        group: 'RDG',
      },
      {
        '@code': 'RDG',
        name: 'Ridge & pot',
        'variants/variant/ean': '9520000030070',
        'variants/variant/glaze': 'chalk',
        group: 'RDG',
      },
      {
        '@code': 'FEN',
        name: 'Fen <pot>',
        'variants/variant/ean': '9520000030919',
        'variants/variant/glaze': 'ink',
        group: 'FEN',
      },
    ]);
  });

  test('another list can be asked for, and a wrong one is told', () => {
    expect(() => readXmlRecords(xml, 'list/nothing')).toThrow('there are “list/products/product”');
  });
});

describe('hostile files end in a refusal', () => {
  const refused = (work: () => unknown) => {
    const begun = Date.now();
    expect(work).toThrow(InputError);
    expect(Date.now() - begun).toBeLessThan(5000);
  };

  test('entities, deep nesting, broken markup, nothing at all', () => {
    refused(() => readXmlRecords('<!DOCTYPE a [<!ENTITY b "ha"><!ENTITY c "&b;&b;&b;">]><a>&c;</a>'));
    refused(() => readXmlRecords('<!DOCTYPE a [<!ENTITY b SYSTEM "file:///etc/hostname">]><a>&b;</a>'));
    refused(() => readXmlRecords(`${'<a>'.repeat(10_000)}x${'</a>'.repeat(10_000)}`));
    refused(() => readXmlRecords('<a><b></a>'));
    refused(() => readJsonRecords(`${'['.repeat(10_000)}${']'.repeat(10_000)}`));
    refused(() => readJsonRecords(`${'{"a":'.repeat(10_000)}1${'}'.repeat(10_000)}`));
    refused(() => readJsonRecords('[]'));
    refused(() => readJsonRecords('{"a": nonsense}'));
  });
});
