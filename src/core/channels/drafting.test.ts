import { Ajv2020 } from 'ajv/dist/2020';
import { readPastedRows } from '../formats/pastedRows';
import { readSheet } from './bundle';
import { codeFrom, freeName, sheetFromHeadings, sheetFromJsonSchema } from './drafting';

const head = {
  code: 'market-garden',
  name: 'Market garden',
  country: 'DE',
  language: 'de',
  currency: 'EUR',
  effective: '2026-11-23',
};
const byCode = (sheet: ReturnType<typeof sheetFromHeadings>) =>
  new Map(sheet.fields.map((field) => [field.code, field]));

describe('from a heading row', () => {
  const rows = [
    'Artikelnummer;Titel;Preis;Lichtfarbe;Lagerbestand;EAN;Bild;Größe (cm);Preis',
    ...Array.from(
      { length: 9 },
      (_, i) =>
        `TP-${i};Topf ${i};${i + 3},90;${['warm', 'kalt', 'neutral'][i % 3]};${i};952610000001${i};https://quillmoss.example/${i}.jpg;${i + 10} cm;`,
    ),
  ].join('\n');
  const [headings = [], ...below] = readPastedRows(rows);
  const sheet = sheetFromHeadings(head, headings, below);

  test('each column is a field with its kind, its job and its need', () => {
    const fields = byCode(sheet);
    expect(sheet.fields.map(({ code }) => code)).toEqual([
      'artikelnummer',
      'titel',
      'preis',
      'lichtfarbe',
      'lagerbestand',
      'ean',
      'bild',
      'grosse_cm',
      'preis_2',
    ]);
    expect(fields.get('artikelnummer')).toMatchObject({
      role: 'id',
      need: 'must',
      kind: 'text',
      unique: true,
      stable: true,
      label: 'Artikelnummer',
    });
    expect(fields.get('titel')).toMatchObject({ role: 'title', need: 'must' });
    expect(fields.get('preis')).toMatchObject({ role: 'price', kind: 'money' });
    expect(fields.get('ean')).toMatchObject({ role: 'gtin', kind: 'identifier' });
    expect(fields.get('bild')).toMatchObject({ role: 'image', kind: 'pictures' });
    expect(fields.get('lagerbestand')).toMatchObject({ kind: 'number', need: 'should' });
    expect(fields.get('grosse_cm')?.kind).toBe('measure');
    // A role is given once, and an empty column is never wanted.
    expect(fields.get('preis_2')).toMatchObject({ need: 'may' });
    expect(fields.get('preis_2')?.role).toBeUndefined();
  });
  test('few words that repeat are choices', () => {
    expect(
      byCode(sheet)
        .get('lichtfarbe')
        ?.choices?.map(({ code }) => code),
    ).toEqual(['warm', 'kalt', 'neutral']);
  });
  test('what comes out is a valid sheet', () => {
    expect(readSheet(JSON.parse(JSON.stringify(sheet)))).toEqual(sheet);
  });
  test('headings alone are enough; the first is the id where none is called so', () => {
    const bare = sheetFromHeadings(head, ['Foo', '  ', '3D model', 'Foo'], []);
    expect(bare.fields.map(({ code, role }) => [code, role])).toEqual([
      ['foo', 'id'],
      ['f_3d_model', undefined],
      ['foo_2', undefined],
    ]);
  });
  test('a colour column without repeated words is a text, not a choice among nothing', () => {
    const few = sheetFromHeadings(head, ['SKU', 'Farbe'], [['A', 'moos']]);
    expect(few.fields[1]).toMatchObject({ code: 'farbe', kind: 'text' });
    expect(few.fields[1]?.choices).toBeUndefined();
  });
  test('no heading is refused with what to do', () => {
    expect(() => sheetFromHeadings(head, ['', ' '], [])).toThrow('Paste the heading row');
    expect(() => readPastedRows('  \n')).toThrow('Paste the heading row, or choose a file');
  });
  test('tabs, commas and quotation marks are read alike', () => {
    expect(readPastedRows('a\tb\n1\t"x\ty"')).toEqual([
      ['a', 'b'],
      ['1', 'x\ty'],
    ]);
    expect(readPastedRows('a,b\r\n"1,5",2')).toEqual([
      ['a', 'b'],
      ['1,5', '2'],
    ]);
  });
});

describe('from a JSON Schema', () => {
  const schema = {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    type: 'array',
    items: { $ref: '#/$defs/offer' },
    $defs: {
      offer: {
        type: 'object',
        required: ['id', 'title', 'size'],
        properties: {
          id: { type: 'string', maxLength: 40, pattern: '^[A-Z0-9-]+$' },
          title: { type: 'string', minLength: 5, maxLength: 80, description: 'What it is called.' },
          priceAmount: { type: 'number' },
          state: { enum: ['new', 'used'] },
          page: { type: 'string', format: 'uri' },
          soldFrom: { type: 'string', format: 'date' },
          gift: { type: 'boolean' },
          tags: { type: 'array', maxItems: 5, items: { type: 'string', maxLength: 20 } },
          size: {
            type: 'object',
            required: ['width'],
            properties: { width: { type: 'number' }, unit: { $ref: '#/$defs/unit' } },
          },
        },
      },
      unit: { enum: ['cm', 'in'] },
    },
  };
  // The example is a schema by the standard itself.
  test('the example compiles under JSON Schema 2020-12 (Ajv)', () => {
    expect(() => new Ajv2020({ validateFormats: false }).compile(schema)).not.toThrow();
  });
  const sheet = sheetFromJsonSchema(head, JSON.stringify(schema));
  const fields = byCode(sheet);

  test('required, limits, choices, lists and nested objects', () => {
    expect(fields.get('id')).toMatchObject({
      role: 'id',
      need: 'must',
      length: { most: 40 },
      pattern: { expression: '^[A-Z0-9-]+$' },
    });
    expect(fields.get('title')).toMatchObject({
      role: 'title',
      need: 'must',
      length: { least: 5, most: 80 },
      meaning: 'What it is called.',
    });
    expect(fields.get('price_amount')?.kind).toBe('money');
    expect(fields.get('state')?.choices?.map(({ code }) => code)).toEqual(['new', 'used']);
    expect(fields.get('page')?.kind).toBe('link');
    expect(fields.get('sold_from')?.kind).toBe('date');
    expect(fields.get('gift')?.kind).toBe('yesNo');
    expect(fields.get('tags')).toMatchObject({ values: { most: 5 }, length: { most: 20 } });
    expect(fields.get('size_width')).toMatchObject({ kind: 'number', need: 'must' });
    expect(fields.get('size_unit')).toMatchObject({ kind: 'choice', need: 'may' });
    expect(readSheet(JSON.parse(JSON.stringify(sheet))).fields).toHaveLength(10);
  });
  test.each([
    ['{', 'not JSON'],
    ['[]', 'is an object'],
    ['{"type":"object"}', 'no "properties"'],
    ['{"properties":{"a":{"$ref":"https://example.org/x"}}}', 'not in this document'],
    ['{"properties":{"a":{"$ref":"#/$defs/none"}}}', 'does not define'],
    ['{"properties":{"a":{"$ref":"#/properties/a"}}}', 'not in this document'],
  ])('%s is refused', (text, words) => {
    expect(() => sheetFromJsonSchema(head, text)).toThrow(words);
  });
});

test('names become codes that a sheet takes, and never twice the same', () => {
  expect(codeFrom('Größe (cm)')).toBe('grosse_cm');
  expect(codeFrom('priceCurrency')).toBe('price_currency');
  expect(codeFrom('尺寸')).toBe('field');
  expect(codeFrom('Own shop', '-')).toBe('own-shop');
  expect(freeName('a', new Set(['a', 'a_2']), '_')).toBe('a_3');
});
