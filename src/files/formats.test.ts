import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Ajv from 'ajv';
import fc from 'fast-check';
import { Parser } from 'htmlparser2';
import type { Value } from '@/core/catalog/value';
import { type Delivery, deliverySettings } from '@/core/channels/delivery';
import { formatFacts } from '@/core/channels/formats';
import type { Sheet } from '@/core/channels/sheet';
import type { FeedRow } from '@/core/formats/format';
import { trialField, trialSheet } from '../../tests/support/sheets';
import { feedPieces, formats } from './formats';

const head = {
  id: 'urn:lively-cart:feed:trial',
  title: 'Trial: a/b [c]',
  author: 'Quillmoss & sons',
  updated: '2026-11-25T12:00:00.000Z',
  self: 'https://shop.example/föds?a=1&b=2',
};
const sheetWith = (delivery: object): Sheet =>
  trialSheet(
    [
      trialField('ref', 'text', { role: 'id' }),
      trialField('title', 'text', { role: 'title' }),
      trialField('price', 'money', { role: 'price' }),
      trialField('pages', 'number'),
      trialField('liquid', 'yesNo'),
      trialField('pictures', 'pictures', { role: 'image', values: { most: 5 } }),
    ],
    delivery,
  );

async function fileOf(delivery: object, rows: Iterable<FeedRow>): Promise<Buffer> {
  const pieces: Uint8Array[] = [];
  for await (const piece of feedPieces(sheetWith(delivery), head, rows)) pieces.push(piece);
  return Buffer.concat(pieces);
}
const folder = mkdtempSync(join(tmpdir(), 'lively-formats-'));
const saved = (name: string, file: Buffer): string => {
  const path = join(folder, name);
  writeFileSync(path, file);
  return path;
};
const python = (program: string, ...words: string[]) => {
  const { stdout, stderr, status } = spawnSync('/usr/bin/python3', ['-c', program, ...words], {
    encoding: 'utf8',
    maxBuffer: 1 << 26,
  });
  if (status !== 0) throw new Error(stderr);
  return JSON.parse(stdout);
};

/** Texts made nasty on purpose: every sign that some format gives a meaning, and any other that a text may have. */
const nasty = fc
  .array(
    fc.oneof(
      fc.constantFrom(
        '"',
        "'",
        ',',
        ';',
        '\t',
        '|',
        '\n',
        '\r\n',
        '\r',
        '<',
        '>',
        '&',
        ']]>',
        '=1+1',
        ' ',
        '\\',
        '😀',
        'é',
        '\u2028',
        '\ufeff',
      ),
      fc.string({ minLength: 1, maxLength: 6, unit: 'grapheme' }),
    ),
    { minLength: 1, maxLength: 8 },
  )
  .map((parts) => parts.join(''));
const rowsOf = fc.array(
  fc.tuple(nasty, nasty, fc.option(nasty, { nil: undefined })).map(([ref, title, more]): FeedRow => {
    const pictures: Value | undefined = more === undefined ? undefined : [more, 'https://a.example/2.jpg'];
    return { values: [ref, title, '1234.50 EUR', '12', 'true', pictures] };
  }),
  { minLength: 1, maxLength: 12 },
);
const list = (value: Value | undefined): string[] =>
  value === undefined ? [] : Array.isArray(value) ? [...value] : [value as string];

// Source: Python's csv module, an independent reader of RFC 4180.
test.each<[string, object, string]>([
  ['commas', { format: 'csv' }, ','],
  [
    'semicolons, decimal commas, a mark and line feeds',
    { format: 'csv', separator: ';', decimalSign: ',', mark: 'utf8', lineEnd: 'lf' },
    ';',
  ],
  ['tabs', { format: 'tsv' }, '\t'],
])('delimited by %s reads in Python as it was meant', async (_words, delivery, separator) => {
  await fc.assert(
    fc.asyncProperty(rowsOf, async (rows) => {
      const path = saved('file.csv', await fileOf(delivery, rows));
      const read: string[][] = python(
        'import csv,json,sys; print(json.dumps(list(csv.reader(open(sys.argv[1], newline="", encoding="utf-8-sig" if sys.argv[3]=="1" else "utf-8"), delimiter=sys.argv[2], strict=True))))',
        path,
        separator,
        'mark' in delivery ? '1' : '0',
      );
      const price = 'decimalSign' in delivery ? '1234,50 EUR' : '1234.50 EUR';
      expect(read[0]).toEqual(['ref', 'title', 'price', 'pages', 'liquid', 'pictures']);
      expect(read.slice(1)).toEqual(
        rows.map(({ values }) => [values[0], values[1], price, '12', 'true', list(values[5]).join('|')]),
      );
    }),
    { numRuns: 15 },
  );
});

/** What XML 1.0 makes of a text: section 2.2 leaves signs out, section 2.11 makes every line end a line feed. */
const inXml = (text: string) =>
  text
    // biome-ignore lint/suspicious/noControlCharactersInRegex: these are what XML cannot hold
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/\r\n?/g, '\n');

// Sources: libxml2 through xmllint for well-formedness; htmlparser2's XML mode as a second, independent parser for the values.
test.each<[string, object, string, string]>([
  ['Atom', { format: 'atom', namespace: 'urn:trial' }, 'entry', 'c:'],
  ['RSS', { format: 'rss', namespace: 'urn:trial', names: { title: 'headline' } }, 'item', 'c:'],
  ['XML', { format: 'xml', root: 'goods', entry: 'good' }, 'good', ''],
])('%s is well-formed, and its values are what was meant', async (_words, delivery, entry, prefix) => {
  await fc.assert(
    fc.asyncProperty(rowsOf, async (rows) => {
      const path = saved('file.xml', await fileOf(delivery, rows));
      const checked = spawnSync('xmllint', ['--noout', path], { encoding: 'utf8' });
      expect([checked.status, checked.stderr]).toEqual([0, '']);
      const found: Record<string, string[]>[] = [];
      let name = '';
      const parser = new Parser(
        {
          onopentagname: (tag) => {
            if (tag === entry) found.push({});
            name = tag;
            const listing = found.at(-1);
            if (listing && tag.startsWith(prefix)) listing[tag] = [...(listing[tag] ?? []), ''];
          },
          ontext: (text) => {
            const values = found.at(-1)?.[name];
            if (values && name.startsWith(prefix)) values[values.length - 1] += text;
          },
          onclosetag: () => {
            name = '';
          },
        },
        { xmlMode: true, decodeEntities: true },
      );
      // What a parser of XML does before anything else with line ends.
      parser.end((await fileOf(delivery, rows)).toString().replace(/\r\n?/g, '\n'));
      const title = 'names' in delivery ? 'headline' : 'title';
      expect(
        found.map((one) => [one[`${prefix}ref`], one[`${prefix}${title}`], one[`${prefix}pictures`] ?? []]),
      ).toEqual(
        rows.map(({ values }) => [
          [inXml(list(values[0])[0] ?? '')],
          [inXml(list(values[1])[0] ?? '')],
          list(values[5]).map(inXml),
        ]),
      );
    }),
    { numRuns: 15 },
  );
});

// Source: RFC 4287, 4.2.7.2 and 4.2.1: a feed says where it is fetched from, once; IRIs may hold letters of any language.
test.each(['atom', 'rss'])('%s says where it is fetched from', async (format) => {
  const path = saved('self.xml', await fileOf({ format, namespace: 'urn:trial' }, []));
  const { stdout } = spawnSync(
    'xmllint',
    ['--xpath', "//*[local-name()='link' and @rel='self']/@href", path],
    { encoding: 'utf8' },
  );
  expect(stdout.trim()).toBe('href="https://shop.example/föds?a=1&amp;b=2"');
});

test('a decimal sign counts in every number of a field that holds numbers, and in no text', async () => {
  const row = { values: ['A.1', 'Version 2.5', '12.50 EUR', '1.5', undefined, undefined] };
  const file = await fileOf({ format: 'csv', separator: ';', decimalSign: ',' }, [row]);
  expect(file.toString().split('\r\n')[1]).toBe('A.1;Version 2.5;12,50 EUR;1,5;;');
});

// Source: RFC 8259 through Python's json; JSON Schema through Ajv.
test('JSON under a key, with numbers and yes or no as such', async () => {
  const valid = new Ajv().compile({
    type: 'object',
    required: ['goods'],
    additionalProperties: false,
    properties: {
      goods: {
        type: 'array',
        items: {
          type: 'object',
          required: ['ref', 'title', 'price', 'pages', 'liquid'],
          additionalProperties: false,
          properties: {
            ref: { type: 'string' },
            title: { type: 'string' },
            price: { type: 'string', pattern: '^[0-9]+\\.[0-9]{2} [A-Z]{3}$' },
            pages: { type: 'integer' },
            liquid: { type: 'boolean' },
            pictures: { type: 'array', items: { type: 'string' } },
          },
        },
      },
    },
  });
  await fc.assert(
    fc.asyncProperty(rowsOf, async (rows) => {
      const path = saved('file.json', await fileOf({ format: 'json', envelope: 'goods' }, rows));
      const read = python(
        'import json,sys; print(json.dumps(json.load(open(sys.argv[1], encoding="utf-8"))))',
        path,
      );
      expect([valid(read), valid.errors]).toEqual([true, null]);
      expect(
        read.goods.map(({ ref, title, pictures }: Record<string, unknown>) => [ref, title, pictures ?? []]),
      ).toEqual(rows.map(({ values }) => [values[0], values[1], list(values[5])]));
    }),
    { numRuns: 15 },
  );
});

test('a number whose digits a JSON number would lose stays a text', async () => {
  const row = { values: ['A', undefined, undefined, '12345678901234567890', 'perhaps', undefined] };
  expect(JSON.parse((await fileOf({ format: 'json' }, [row])).toString())).toEqual([
    { ref: 'A', pages: '12345678901234567890', liquid: 'perhaps' },
  ]);
});

test('NDJSON: a listing a line, whatever stands in it', async () => {
  await fc.assert(
    fc.asyncProperty(rowsOf, async (rows) => {
      const lines = (await fileOf({ format: 'ndjson' }, rows)).toString().split('\n');
      expect(lines.pop()).toBe('');
      expect(lines.map((line) => JSON.parse(line).title)).toEqual(rows.map(({ values }) => values[1]));
    }),
    { numRuns: 30 },
  );
});

// Source: schema.org Product, Offer and PropertyValue, the properties as its pages name them.
test('JSON-LD says what is what', async () => {
  const rows = [{ values: ['A1', 'Pot', '12.50 EUR', '3', 'true', ['https://a.example/1.jpg']] }];
  expect(JSON.parse((await fileOf({ format: 'jsonLd' }, rows)).toString())).toEqual({
    '@context': 'https://schema.org',
    '@id': head.id,
    '@graph': [
      {
        '@type': 'Product',
        sku: 'A1',
        name: 'Pot',
        image: ['https://a.example/1.jpg'],
        offers: { '@type': 'Offer', price: '12.50', priceCurrency: 'EUR' },
        additionalProperty: [
          { '@type': 'PropertyValue', name: 'pages', value: 3 },
          { '@type': 'PropertyValue', name: 'liquid', value: true },
        ],
      },
    ],
  });
});

// Source: schema.org ProductGroup, isVariantOf and inProductGroupWithID; the types are held against schema-dts by the compiler.
test('the lead of a family is a ProductGroup in JSON-LD, and its members are variants of it', async () => {
  const sheet = trialSheet(
    [
      trialField('key', 'text', { role: 'id' }),
      trialField('name', 'text', { role: 'title' }),
      trialField('group', 'text', { role: 'group' }),
      trialField('price', 'money', { role: 'price' }),
    ],
    { format: 'jsonLd', families: 'leads' },
  );
  const rows: FeedRow[] = [
    { values: ['RIDGE', 'Ridge pot', 'RIDGE', undefined], relation: 'lead' },
    { values: ['P-1', 'Ridge pot, moss', 'RIDGE', '9.00 EUR'], relation: 'member' },
  ];
  let text = '';
  for await (const piece of feedPieces(sheet, head, rows)) text += Buffer.from(piece).toString();
  const [group, member] = JSON.parse(text)['@graph'];
  expect(group).toMatchObject({ '@type': 'ProductGroup', productGroupID: 'RIDGE', name: 'Ridge pot' });
  expect(group.offers).toBeUndefined();
  expect(member).toMatchObject({
    '@type': 'Product',
    isVariantOf: { '@type': 'ProductGroup', productGroupID: 'RIDGE' },
    inProductGroupWithID: 'RIDGE',
    offers: { price: '9.00' },
  });
});

// Source: openpyxl, an independent reader of Office Open XML.
test('a workbook reads in openpyxl as it was meant, and holds no formula', async () => {
  await fc.assert(
    fc.asyncProperty(rowsOf, async (rows) => {
      const path = saved('file.xlsx', await fileOf({ format: 'xlsx', names: { ref: 'Code' } }, rows));
      const read: [string, string][][] = python(
        'import json,sys,openpyxl; print(json.dumps([[[c.value,c.data_type] for c in row] for row in openpyxl.load_workbook(sys.argv[1]).worksheets[0].iter_rows()]))',
        path,
      );
      expect(read[0]?.map(([value]) => value)).toEqual([
        'Code',
        'title',
        'price',
        'pages',
        'liquid',
        'pictures',
      ]);
      expect(read.flat().filter(([, kind]) => kind === 'f')).toEqual([]);
      expect(read.slice(1).map(([ref, title]) => [ref?.[0], title?.[0]])).toEqual(
        rows.map(({ values }) => [inXml(list(values[0])[0] ?? ''), inXml(list(values[1])[0] ?? '')]),
      );
    }),
    { numRuns: 8 },
  );
});

test('every format that a sheet may name can be written, also without a listing', async () => {
  for (const format of Object.keys(formatFacts) as Delivery['format'][]) {
    expect(formats[format].code).toBe(format);
    expect((await fileOf({ format }, [])).length).toBeGreaterThan(format === 'ndjson' ? -1 : 2);
    expect(deliverySettings(sheetWith({ format }).delivery).map(({ name }) => name)).toContain('format');
  }
});
