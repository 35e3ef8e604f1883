import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { compileDemo, demoCatalog, lanternry } from '../../../tests/support/demo';
import { gatherFamilies } from '../catalog/item';
import { evaluateAll } from '../listing/evaluate';
import { atom } from './atom';
import { readCatalogCsv, readCatalogNdjson } from './catalogCsv';
import type { FeedRows } from './format';
import { escapeXml } from './xml';

const head = {
  id: 'urn:lively-cart:feed:trial',
  title: 'Trial <feed>',
  author: 'Quillmoss & sons',
  updated: '2026-11-23T12:00:00.000Z',
};

/** A file of rows as a text. */
async function written(rows: FeedRows): Promise<string> {
  let text = '';
  for await (const piece of atom.write(lanternry.sheet, head, rows)) text += piece;
  return text;
}

describe('Atom', () => {
  const ready = evaluateAll(compileDemo(), demoCatalog).filter(({ state }) => state === 'ready');
  let xml = '';
  beforeAll(async () => {
    xml = await written(ready);
  });
  const ask = (path: string) =>
    spawnSync('xmllint', ['--xpath', path, '-'], { input: xml, encoding: 'utf8' }).stdout.trim();

  // Source: W3C XML 1.0 through xmllint; RFC 4287 section 4.1: every feed and entry has one id, title and updated.
  test('is well-formed, and every entry has what RFC 4287 demands', () => {
    expect(spawnSync('xmllint', ['--noout', '-'], { input: xml, encoding: 'utf8' })).toMatchObject({
      status: 0,
      stderr: '',
    });
    const entries = `//*[local-name()='entry']`;
    expect(ask(`count(${entries})`)).toBe(String(ready.length));
    for (const name of ['id', 'title', 'updated'])
      expect(ask(`count(${entries}[count(*[local-name()='${name}'])=1])`)).toBe(String(ready.length));
    expect(ask(`count(/*/*[local-name()='author'])`)).toBe('1');
    expect(ask(`count(${entries}/*[local-name()='id'][not(. = preceding::*[local-name()='id'])])`)).toBe(
      String(ready.length),
    );
  });

  test('values come back as they were, lists as one element each', () => {
    const first = ready[0];
    const value = (code: string) =>
      first?.values[lanternry.sheet.fields.findIndex((field) => field.code === code)];
    expect(ask(`string((//*[local-name()='headline'])[1])`)).toBe(value('headline'));
    expect(ask(`count((//*[local-name()='entry'])[1]/*[local-name()='more_pictures'])`)).toBe(
      String(value('more_pictures')?.length),
    );
  });

  test('rows that are read one after another make the same file', async () => {
    const read = async function* () {
      for (const one of ready) yield one;
    };
    expect(await written(read())).toBe(xml);
  });

  test('no text can break it', async () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        const escaped = escapeXml(text);
        expect(escaped).not.toMatch(/[<>"]|&(?!(amp|lt|gt|quot);)/);
      }),
    );
    const nasty = '<script>&amp; ]]> "\u0000\u000b\ud800';
    const wild = await written([{ values: lanternry.sheet.fields.map(() => nasty) }]);
    expect(spawnSync('xmllint', ['--noout', '-'], { input: wild, encoding: 'utf8' })).toMatchObject({
      status: 0,
      stderr: '',
    });
  });
});

describe('catalog files', () => {
  const path = join(__dirname, '../../../demo/catalog/items.csv');
  const text = readFileSync(path, 'utf8');

  // Source: Python's csv module, an independent reader of RFC 4180.
  test('CSV reads as Python reads it', () => {
    const { stdout } = spawnSync(
      'python3',
      [
        '-c',
        'import csv,json,sys; print(json.dumps(list(csv.DictReader(open(sys.argv[1], newline="", encoding="utf-8")))))',
        path,
      ],
      { encoding: 'utf8', maxBuffer: 1 << 26 },
    );
    const theirs: Record<string, string>[] = JSON.parse(stdout);
    const ours = readCatalogCsv(text);
    expect(ours).toHaveLength(theirs.length);
    ours.forEach((item, i) => {
      const row = theirs[i] ?? {};
      expect(item.sku).toBe(row.sku);
      for (const [code, value] of Object.entries(item.values))
        expect([code, Array.isArray(value) ? value.join('|') : value]).toEqual([code, row[code]]);
    });
  });

  test('NDJSON holds the same items', () => {
    const items = readCatalogCsv(text);
    expect(readCatalogNdjson(items.map((item) => JSON.stringify(item)).join('\n'))).toEqual(items);
  });

  test.each([
    ['name\nPot\n', 'no column "sku"'],
    ['sku,name\nA,Pot\n,Pan\n', 'Row 3 has no SKU'],
    ['sku,name\nA,Pot\nA,Pan\n', 'Row 3 repeats the SKU A of row 2'],
    ['sku,name\n', 'no rows'],
    ['sku,name\nA,"Pot\n', 'cannot be read as CSV'],
  ])('%j is refused in words', (bad, words) => {
    expect(() => readCatalogCsv(bad)).toThrow(words);
  });

  test('a bad line of NDJSON is named', () => {
    expect(() => readCatalogNdjson('{"sku":"A","values":{}}\n{"sku":}\n')).toThrow('Line 2');
    expect(() => readCatalogNdjson('{"name":"Pot"}')).toThrow('no "sku"');
  });

  test('headings of further languages and currencies, as the pages export them', () => {
    const [item] = readCatalogCsv('SKU,Name,Name in German,Price in GBP\nA1,Pot,Topf,4.90\n');
    expect({ ...item?.values }).toEqual({ name: 'Pot', 'name@de': 'Topf', 'price@GBP': '4.90' });
  });
  test('families take what their items share; every item still reads the same', () => {
    const items = readCatalogCsv(text);
    const gathered = gatherFamilies(items, ['glaze', 'color', 'diameter', 'size']);
    const byCode = new Map(gathered.families.map((family) => [family.code, family]));
    gathered.items.forEach((item, i) => {
      expect({ ...byCode.get(item.family ?? '')?.values, ...item.values }).toEqual(items[i]?.values);
    });
    expect(byCode.get('POT-RDG')?.variesBy).toEqual(['glaze', 'diameter']);
    expect(byCode.get('POT-RDG')?.values.gtin).toBeUndefined();
  });
});
