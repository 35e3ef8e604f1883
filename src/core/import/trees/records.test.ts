import fc from 'fast-check';
import { InputError } from '../../errors/inputError';
import { type Outline, outlineOf, recordsOf, type SourceRecord } from './records';
import { isBranch, type Tree, TreeBuilder } from './tree';
import { jsonReader, xmlReader } from './treeReaders';

/** The whole text in pieces, as a file would come. */
function pieces(text: string, size: number): string[] {
  return Array.from({ length: Math.ceil(text.length / size) }, (_, i) =>
    text.slice(i * size, (i + 1) * size),
  );
}

const reading =
  (reader: typeof xmlReader) =>
  (text: string, list?: string, size = 7): Outline => {
    const builder = new TreeBuilder();
    const events = reader(builder);
    for (const piece of pieces(text, size)) events.write(piece);
    events.end();
    const outline = outlineOf(builder.whole(), list === undefined ? {} : { list });
    expect(streamed(reader, text, outline)).toEqual(outline.records);
    return outline;
  };

/** The same records, each handed over when its end is read. */
function streamed(reader: typeof xmlReader, text: string, { list, variants }: Outline): SourceRecord[] {
  const found: SourceRecord[] = [];
  let entries = 0;
  const builder = new TreeBuilder(list, (entry: Tree) => {
    if (isBranch(entry)) found.push(...recordsOf(entry, variants, `${list || 'record'}-${++entries}`));
  });
  const events = reader(builder);
  for (const piece of pieces(text, 5)) events.write(piece);
  events.end();
  return found;
}

const readJsonRecords = reading(jsonReader);
const readXmlRecords = reading(xmlReader);

const table = ({ records }: Outline) =>
  records.map(({ cells, group }): Record<string, string> => ({ ...cells, ...(group ? { group } : {}) }));

describe('which list the records are', () => {
  const many = (count: number, of: (i: number) => object) => Array.from({ length: count }, (_, i) => of(i));
  const thing = (i: number) => ({
    sku: `S-${i}`,
    name: `Pot ${i}`,
    price: i,
    stock: i,
    color: 'moss',
    gtin: i,
  });

  test.each<[string, object]>([
    ['beside more groups', { goods: many(3, thing), groups: many(12, (i) => ({ id: i, name: `G ${i}` })) }],
    [
      'beside prices of each',
      { goods: many(9, thing), prices: many(27, (i) => ({ sku: `S-${i}`, amount: i })) },
    ],
    [
      'beside one shop of many words',
      { shops: [{ ...thing(1), a: 'x', b: 'y', c: 'z' }], goods: many(40, thing) },
    ],
    ['of equals the nearer to the root', { goods: many(3, thing), old: { goods: many(3, thing) } }],
  ])('%s', (_name, tree) => {
    expect(readJsonRecords(JSON.stringify(tree)).list).toBe('goods');
  });
});

test('a variant’s options, which it has by number, stand under the names that its group gives them', () => {
  const found = readJsonRecords(
    JSON.stringify([
      {
        code: 'G-1',
        choices: [
          { name: 'Colour', values: ['moss', 'clay'] },
          { name: 'Size', values: ['S', 'M'] },
        ],
        kinds: [
          { sku: 'A', choice1: 'moss', choice2: 'S' },
          { sku: 'B', choice1: 'clay', choice2: 'M', note3: 'x' },
        ],
      },
      {
        code: 'G-2',
        choices: [{ name: 'Title', values: ['Default'] }],
        kinds: [{ sku: 'C', choice1: 'Default' }],
      },
      // Pictures with names are no options.
      { code: 'G-3', choices: [{ name: 'front', src: 'f.jpg' }], kinds: [{ sku: 'D', choice1: 'moss' }] },
    ]),
  );
  expect(
    table(found).map((row) =>
      Object.fromEntries(Object.entries(row).filter(([column]) => column.startsWith('kinds/'))),
    ),
  ).toEqual([
    { 'kinds/sku': 'A', 'kinds/Colour': 'moss', 'kinds/Size': 'S' },
    { 'kinds/sku': 'B', 'kinds/Colour': 'clay', 'kinds/Size': 'M', 'kinds/note3': 'x' },
    { 'kinds/sku': 'C' },
    { 'kinds/sku': 'D', 'kinds/choice1': 'moss' },
  ]);
});

test('an element says of what kind its text is, and more of it', () => {
  const [row] = table(
    readXmlRecords(
      '<list><thing sku="A"><price type="cost" net="yes">8</price><price type="retail" net="no">20</price></thing><thing sku="B"/></list>',
    ),
  );
  expect(row).toMatchObject({ 'price/cost': '8', 'price/cost/@net': 'yes', 'price/retail': '20' });
});

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
    expect(found).toMatchObject({ list: 'books', variants: '' });
    expect(table(found)).toEqual([
      { isbn: '978', title: 'Shade', 'price/amount': '28', 'price/currency': 'EUR', tags: 'a|b' },
      { isbn: '979', title: 'Light' },
    ]);
  });

  test('a line each', () => {
    expect(table(readJsonRecords('{"sku":"A"}\n\n{"sku":"B"}\n'))).toEqual([{ sku: 'A' }, { sku: 'B' }]);
    expect(() => readJsonRecords('{"sku":"A"}\n{"sku":\n')).toThrow(
      /Line \d is not JSON: the file ends inside/,
    );
    expect(() => readJsonRecords('{"sku":"A"}\n{"sku" 1}')).toThrow('Line 2 is not JSON');
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
    expect(found.variants).toBe('hasVariant');
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
    expect(found).toMatchObject({ list: 'list/products/product', variants: 'variants/variant' });
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

  test('the values of the records are told with counts and samples', () => {
    const { lines, lists } = readXmlRecords(xml);
    expect(lists).toEqual([{ path: 'list/products/product', count: 2 }]);
    expect(lines).toContainEqual({
      path: 'variants/variant/glaze',
      filled: 3,
      samples: ['moss', 'chalk', 'ink'],
      repeated: false,
    });
  });

  test('a file that is one record', () => {
    expect(table(readXmlRecords('<item code="A"><name>Pot</name></item>'))).toEqual([
      { '@code': 'A', name: 'Pot' },
    ]);
    expect(table(readJsonRecords('{"@type":"Product","sku":"A"}'))).toEqual([{ sku: 'A' }]);
  });
});

// Source: the runtime's own JSON.parse (RFC 8259).
test('reads the JSON that JSON.parse reads, and refuses what it refuses', () => {
  const value = fc.letrec((tie) => ({
    tree: fc.oneof(
      { maxDepth: 3 },
      fc.string({ minLength: 1, unit: 'grapheme' }),
      fc.integer(),
      fc.boolean(),
      fc.dictionary(fc.stringMatching(/^[a-z]{1,4}$/), tie('tree'), { maxKeys: 3 }),
    ),
  })).tree;
  const asText = (tree: unknown): Tree =>
    typeof tree === 'object' && tree !== null
      ? Object.fromEntries(
          Object.entries(tree).flatMap(([name, inner]) => {
            const text = asText(inner);
            return text === '' || (isBranch(text) && Object.keys(text).length === 0) ? [] : [[name, text]];
          }),
        )
      : String(tree);
  const read = (text: string): Tree => {
    const builder = new TreeBuilder();
    const reader = jsonReader(builder);
    for (const piece of pieces(text, 3)) reader.write(piece);
    reader.end();
    return builder.whole();
  };
  fc.assert(
    fc.property(fc.dictionary(fc.stringMatching(/^[a-z]{1,4}$/), value, { minKeys: 1 }), (tree) => {
      const wanted = asText(tree);
      fc.pre(isBranch(wanted) && Object.keys(wanted).length > 0);
      expect(read(JSON.stringify(tree))).toEqual(wanted);
    }),
  );
  for (const bad of [
    '{"a":}',
    '{"a" 1}',
    '{a:1}',
    '[1,]',
    '{"a":1,}',
    '{"a":1]',
    '{"a":1',
    '["a" "b"]',
    '{"a"}',
    '{,}',
    '[,1]',
  ])
    expect(() => read(bad)).toThrow(InputError);
});

describe('hostile files end in a refusal', () => {
  const refused = (work: () => unknown) => {
    const begun = Date.now();
    expect(work).toThrow(InputError);
    // Only catches what never ends; the time that was mended was minutes.
    expect(Date.now() - begun).toBeLessThan(240_000);
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

describe('JSON that holds its things otherwise than in a list of objects', () => {
  const cells = (outline: Outline) => outline.records.map((record) => ({ ...record.cells }));
  test.each([
    ['a list of lists, the first of them names', '[["sku","price"],["A-1",8.9],["A-2",null]]', ''],
    [
      'rows beside their columns',
      '{"made":"x","columns":["sku","price"],"rows":[["A-1",8.9],["A-2"]]}',
      'rows',
    ],
  ])('%s', (_name, text, list) => {
    const outline = readJsonRecords(text);
    expect(outline.list).toBe(list);
    expect(cells(outline)).toEqual([{ sku: 'A-1', price: '8.9' }, { sku: 'A-2' }]);
  });
  test('rows whose columns nobody names are numbered; lists and branches in them stay what they are', () => {
    expect(cells(readJsonRecords('{"data":[["A-1",3,["x","y"],{"de":1}],["A-2",4,[],null]]}'))).toEqual([
      { 'Column 1': 'A-1', 'Column 2': '3', 'Column 3': 'x|y', 'Column 4/de': '1' },
      { 'Column 1': 'A-2', 'Column 2': '4' },
    ]);
  });
  test('lists of lists that are no table stay values', () => {
    const outline = readJsonRecords('[{"sku":"A-1","places":[["a","b"],["c"]]},{"sku":"A-2","places":[]}]');
    expect(cells(outline)).toEqual([{ sku: 'A-1', places: 'a|b|c' }, { sku: 'A-2' }]);
  });
  test('things by their codes, which are a value of each unless it says its code itself', () => {
    const outline = readJsonRecords(
      '{"made":"x","goods":{"A-1":{"name":"Pot","price":3},"A-2":{"name":"Tray","price":4},"__proto__":{"name":"Jar","price":5}}}',
    );
    expect(outline.list).toBe('goods/*');
    expect(cells(outline)).toEqual([
      { key: 'A-1', name: 'Pot', price: '3' },
      { key: 'A-2', name: 'Tray', price: '4' },
      { key: '__proto__', name: 'Jar', price: '5' },
    ]);
    expect(
      cells(
        readJsonRecords(
          '{"A-1":{"sku":"A-1","name":"Pot","price":3},"A-2":{"sku":"A-2","name":"Tray","price":4}}',
        ),
      ),
    ).toEqual([
      { sku: 'A-1', name: 'Pot', price: '3' },
      { sku: 'A-2', name: 'Tray', price: '4' },
    ]);
    expect(
      cells(
        readJsonRecords(
          '{"A-1":{"key":"x","name":"Pot"},"A-2":{"key":"y","name":"Jar"},"A-3":{"key":"z","name":"Lid"}}',
        ),
      )[0],
    ).toEqual({ '@key': 'A-1', key: 'x', name: 'Pot' });
  });
  test('what differs by its language, or has nothing in common, is no list', () => {
    expect(
      cells(
        readJsonRecords(
          '[{"sku":"A","text":{"de":{"t":"x","u":"y","v":"z"},"en":{"t":"x","u":"y","v":"z"}}}]',
        ),
      ),
    ).toHaveLength(1);
    expect(
      cells(readJsonRecords('{"size":{"width":1,"height":2},"price":{"net":3,"gross":4}}')),
    ).toHaveLength(1);
  });
});

describe('values with names of their own in XML', () => {
  const first = (text: string) => ({ ...readXmlRecords(text).records[0]?.cells });
  test('names that begin alike, places in an order beside them, several values, units', () => {
    expect(
      first(
        '<a><b><f><FNAME>Width</FNAME><FVALUE>60</FVALUE><FUNIT>cm</FUNIT><FORDER>1</FORDER></f><f><FNAME>Colour</FNAME><FVALUE>red</FVALUE><FVALUE>blue</FVALUE></f></b><b><c>1</c></b></a>',
      ),
    ).toEqual({ 'f/Width': '60 cm', 'f/Colour': 'red|blue' });
    // A border is no order: nothing of what else is said is lost.
    expect(
      first('<a><b><f><name>Frame</name><value>oak</value><border>thin</border></f></b><b><c>1</c></b></a>'),
    ).toEqual({
      'f/name': 'Frame',
      'f/value': 'oak',
      'f/border': 'thin',
    });
  });
  test('amounts by their kind, with what stands beside them', () => {
    expect(
      first(
        '<a><b><p price_type="net"><amount>6</amount><currency>EUR</currency></p><p price_type="list"><amount>9</amount><currency>EUR</currency></p></b><b><c>1</c></b></a>',
      ),
    ).toEqual({
      'p/net amount': '6',
      'p/net currency': 'EUR',
      'p/list amount': '9',
      'p/list currency': 'EUR',
    });
  });
});

describe('what stands around things', () => {
  test('the heading above things of many kinds is a value of each, and makes no family of them', () => {
    const outline = readXmlRecords(
      '<s><group name="Pots"><item sku="1" name="Ridged"/><item sku="2" name="Large"/></group><group name="Trays"><item sku="3" name="Oval"/></group></s>',
    );
    expect(outline.records).toEqual([
      { cells: { 'group/@name': 'Pots', 'item/@sku': '1', 'item/@name': 'Ridged' }, group: undefined },
      { cells: { 'group/@name': 'Pots', 'item/@sku': '2', 'item/@name': 'Large' }, group: undefined },
      { cells: { 'group/@name': 'Trays', 'item/@sku': '3', 'item/@name': 'Oval' }, group: undefined },
    ]);
  });
  test('a group whose things are called by its name is a family', () => {
    const outline = readXmlRecords(
      '<s><group name="Pot"><item sku="1" name="Pot, red"/><item sku="2" name="Pot, blue"/></group><group name="Jar"><item sku="3" name="Jar"/></group></s>',
    );
    expect(outline.records.map(({ group }) => group)).toEqual(['s/group-1', 's/group-1', 's/group-2']);
  });
  // Source: the GraphQL Cursor Connections Specification (edges and nodes); JSON:API 1.1 (resource objects).
  test('edges are their nodes, and types of resources are no values', () => {
    expect(
      readJsonRecords(
        '{"data":{"goods":{"edges":[{"cursor":"a","node":{"title":"Pot","variants":{"edges":[{"node":{"sku":"1"}},{"node":{"sku":"2"}}]}}},{"cursor":"b","node":{"title":"Tray","variants":{"edges":[{"node":{"sku":"3"}}]}}}]}}}',
      ).records.map(({ cells }) => [cells.title, cells['variants/edges/sku']]),
    ).toEqual([
      ['Pot', '1'],
      ['Pot', '2'],
      ['Tray', '3'],
    ]);
    expect(
      readJsonRecords(
        '{"data":[{"type":"goods","id":"1","attributes":{"sku":"A"},"relationships":{"brand":{"data":{"type":"brands","id":"9"}}}},{"type":"goods","id":"2","attributes":{"sku":"B"}}]}',
      ).records.map(({ cells }) => ({ ...cells })),
    ).toEqual([
      { id: '1', 'attributes/sku': 'A', 'relationships/brand/data/id': '9' },
      { id: '2', 'attributes/sku': 'B' },
    ]);
  });
});

// Source: GS1 XML (languageCode beside a text), ONIX for Books 3.0 (a value beside its type and unit).
describe('codes of languages, units and types', () => {
  test('make no variants of what they stand at', () => {
    expect(
      readXmlRecords(
        '<c><i><gtin>1</gtin><d languageCode="de">Topf</d><d languageCode="en">Pot</d></i><i><gtin>2</gtin><d languageCode="de">Schale</d></i></c>',
      ).records.map(({ cells }) => ({ ...cells })),
    ).toEqual([
      { gtin: '1', 'd@de': 'Topf', 'd@en': 'Pot' },
      { gtin: '2', 'd@de': 'Schale' },
    ]);
  });
  test('a value with its type is a column by it', () => {
    expect(
      readXmlRecords(
        '<c><i><id><IDType>15</IDType><IDValue>978</IDValue></id><m><MeasureType>01</MeasureType><Measurement>234</Measurement><MeasureUnitCode>mm</MeasureUnitCode></m><p><PriceType>02</PriceType><PriceAmount>9</PriceAmount><CurrencyCode>GBP</CurrencyCode></p></i><i><id><IDType>15</IDType><IDValue>979</IDValue></id></i></c>',
      ).records.map(({ cells }) => ({ ...cells })),
    ).toEqual([
      { 'id/15': '978', 'm/01': '234 mm', 'p/02 PriceAmount': '9', 'p/02 CurrencyCode': 'GBP' },
      { 'id/15': '979' },
    ]);
  });
});
