import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { temporaryFolder } from '../support/stack';

const cart = (words: string[], input = '') =>
  spawnSync(process.execPath, ['dist/cart.js', ...words], {
    encoding: 'utf8',
    input,
    env: { ...process.env, INIT_CWD: process.cwd() },
  });
const plan = 'demo/plans/lanternry-de.json';

test('identifiers: one code a line in, CSV out', () => {
  const { stdout, status } = cart(
    ['identifiers'],
    '6291041500213\n0-306-40615-2\n\n12\n"quoted, code"\n9520000030149\n',
  );
  expect(status).toBe(0);
  expect(stdout.trimEnd().split('\n')).toEqual([
    'input,kind,normal,verdict',
    '6291041500213,GTIN-13,06291041500213,valid',
    '0-306-40615-2,ISBN-10,09780306406157,valid',
    ',unknown,,empty',
    '12,unknown,,length',
    '"""quoted, code""",unknown,,characters',
    '9520000030149,GTIN-13,,checkdigit',
  ]);
});

test('evaluate: 0 when all can be sent, with lineage on request', () => {
  const out = temporaryFolder();
  const catalog = join(out, 'good.csv');
  const [heading, ...rows] = readFileSync('demo/catalog/items.csv', 'utf8').split('\n');
  writeFileSync(
    catalog,
    `${heading}\n${rows.filter((row) => row.startsWith('QM-POT-RDG-CHA')).join('\n')}\n`,
  );
  const done = cart(['evaluate', '--plan', plan, '--catalog', catalog, '--out', out, '--lineage']);
  expect([done.status, done.stderr]).toEqual([0, '']);
  const [first] = readFileSync(join(out, 'listings.ndjson'), 'utf8')
    .split('\n')
    .map((line) => JSON.parse(line || '{}'));
  expect(first.lineage.price.map(({ kind }: { kind: string }) => kind)).toEqual(['attribute', 'step']);
  expect(JSON.parse(readFileSync(join(out, 'summary.json'), 'utf8'))).toMatchObject({
    items: 3,
    ready: 3,
    blocked: 0,
  });
  expect(spawnSync('xmllint', ['--noout', join(out, 'feed.xml')]).status).toBe(0);
});

describe('items', () => {
  const bring = (file: string, ...more: string[]) => {
    const out = temporaryFolder();
    const { status, stderr } = cart(['items', '--source', file, '--out', out, ...more]);
    const read = (name: string) => readFileSync(join(out, name), 'utf8');
    const items = () =>
      read('items.ndjson')
        .trim()
        .split('\n')
        .map((line) => JSON.parse(line));
    return { status, stderr, out, read, items, summary: () => JSON.parse(read('summary.json')) };
  };

  test('XML with nested variants becomes families; a bad row does not stop the others', () => {
    const { status, items, summary, read } = bring('tests/data/tarnholt-price-list.xml');
    expect(status).toBe(1);
    expect(items()).toHaveLength(4);
    expect(items()[0]).toMatchObject({
      sku: 'T-RDG2-FER',
      family: 'RDG2',
      name: 'Ridge pot, second glaze',
      gtin: '9520000071011',
      price: '19.90',
      glaze: 'fern',
      category: 'Pots, glazed',
    });
    expect(items()[0].mpn).toBeUndefined();
    expect(summary()).toMatchObject({
      rows: 5,
      rejected: 1,
      families: [{ code: 'RDG2', items: 3, axes: ['glaze'] }],
      loose: [{ sku: 'T-BOW-MOS', why: 'alone' }],
    });
    expect(read('rejected.csv')).toContain('price “ask us” is not an amount');
  });

  test('JSON, its list found; a rounded number is not repaired, only told', () => {
    const { status, items, summary } = bring('tests/data/sprigwell-titles.json');
    expect(status).toBe(0);
    expect(items().map(({ bookFormat, price }: Record<string, string>) => [bookFormat, price])).toEqual([
      ['Hardcover', '27.00'],
      ['Paperback', '18.00'],
      ['Hardcover', '31.00'],
    ]);
    expect(items()[2].gtin).toBe('9.793E+12');
    expect(summary().repairs).toMatchObject([
      { damage: 'scientific', attribute: 'gtin', count: 1, repairable: 0 },
    ]);
    expect(summary().suggestedFamilies).toEqual([
      { name: 'The Patient Gardener', items: 2, axes: ['bookFormat'] },
    ]);
  });

  test('damage is proposed, and repaired only where it was accepted', () => {
    const file = 'tests/data/verrin-lights.csv';
    const plain = bring(file);
    expect(plain.items()[2]).toMatchObject({ gtin: '12345678905', color: 'GrÃ¼n' });
    expect(
      plain.summary().repairs.map(({ damage, count }: { damage: string; count: number }) => [damage, count]),
    ).toEqual([
      ['date', 1],
      ['scientific', 1],
      ['leadingZeros', 1],
      ['encoding', 1],
    ]);
    const mended = bring(file, '--accept', 'leadingZeros,encoding,scientific');
    expect(mended.items()[2]).toMatchObject({ gtin: '012345678905', color: 'Grün' });
    expect(mended.items()[1].gtin).toBe('9,52E+12');
    expect(mended.items()[0].mpn).toBe('12. Mrz');
  });

  test('the mapping it used gives the same items again', () => {
    for (const file of [
      'tests/data/tarnholt-price-list.xml',
      'tests/data/sprigwell-titles.json',
      'tests/data/verrin-lights.csv',
    ]) {
      const first = bring(file);
      const again = bring(file, '--mapping', join(first.out, 'mapping.json'));
      expect(again.read('items.ndjson')).toBe(first.read('items.ndjson'));
      expect(again.read('mapping.json')).toBe(first.read('mapping.json'));
    }
  });

  test('its items can be evaluated', () => {
    const { out } = bring('tests/data/tarnholt-price-list.xml');
    const { status } = cart([
      'evaluate',
      '--plan',
      plan,
      '--catalog',
      join(out, 'items.ndjson'),
      '--out',
      out,
    ]);
    expect(status).toBe(1);
    expect(JSON.parse(readFileSync(join(out, 'summary.json'), 'utf8'))).toMatchObject({ items: 4 });
  });

  test('what cannot be used ends with 2 and the reason', () => {
    const folder = temporaryFolder();
    const bad = (text: string) => {
      const path = join(folder, 'bad');
      writeFileSync(path, text);
      return bring(path);
    };
    expect(bad('').stderr).toMatch(/empty/);
    expect(bad('<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>').stderr).toMatch(/entities/);
    expect(bad('colour;shape\nred;round\n')).toMatchObject({
      status: 2,
      stderr: expect.stringMatching(/No column was recognised as the SKU/),
    });
    expect(bring('tests/data/verrin-lights.csv', '--accept', 'magic').stderr).toMatch(/not “magic”/);
  });
});

test.each([
  [['evaluate', '--plan', plan], /--catalog is missing/],
  [
    ['evaluate', '--plan', 'nowhere.json', '--catalog', 'demo/catalog/items.csv', '--out', '/tmp/x'],
    /nowhere\.json cannot be read/,
  ],
  [
    ['evaluate', '--plan', 'README.md', '--catalog', 'demo/catalog/items.csv', '--out', '/tmp/x'],
    /is not JSON/,
  ],
  [
    ['evaluate', '--plan', 'package.json', '--catalog', 'demo/catalog/items.csv', '--out', '/tmp/x'],
    /is not valid at/,
  ],
  [['evaluate', '--plam', plan], /--plam is not an option/],
  [['sell'], /no command "sell"/],
  [[], /Which command/],
])('bad input ends with 2 and a reason: %j', (words, reason) => {
  const { status, stderr } = cart(words);
  expect(status).toBe(2);
  expect(stderr).toMatch(reason);
  expect(stderr).not.toMatch(/at .*\.js:\d+/);
});

describe('suggest', () => {
  const suggest = (what: string, channel: string, market: string) => {
    const { stdout, stderr, status } = cart([
      'suggest',
      what,
      '--channel',
      channel,
      '--market',
      market,
      '--catalog',
      'demo/catalog/items.csv',
    ]);
    expect([status, stderr]).toEqual([0, '']);
    return stdout
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line));
  };

  /** What a person maps the fields of Plazuela Norte to; `null` where the demo's catalog has nothing for it. */
  const labelled: Record<string, string | null> = {
    referencia: 'sku',
    titulo: 'name',
    descripcion: 'description',
    marca: 'brand',
    codigo_barras: 'gtin',
    foto_principal: 'image',
    enlace: 'url',
    precio: 'price',
    existencias: 'inventoryLevel',
    disponibilidad: 'availability',
    estado: 'itemCondition',
    dias_envio: null,
    peso: 'weight',
    material: 'material',
    origen: 'countryOfOrigin',
    etiquetas: 'use',
  };

  test('fields: 80 % or more of what must or should be filled is right above the default confidence', () => {
    const lines: { field: string; need: string; suggestions: { attribute: string; score: number }[] }[] =
      suggest('fields', 'plazuela-norte', 'ES');
    const asked = lines.filter(({ need }) => need !== 'may');
    expect(asked.map(({ field }) => field).sort()).toEqual(Object.keys(labelled).sort());
    const taken = asked.map(({ field, suggestions: [best] }) => ({
      field,
      right: (best && best.score >= 70 ? best.attribute : null) === labelled[field],
      score: best?.score ?? 0,
    }));
    expect(taken.filter(({ right }) => right).length / taken.length).toBeGreaterThanOrEqual(0.8);
    for (const { right, score } of taken) if (!right) expect(score).toBeLessThan(70);
  });

  test('values: every distinct word with its count and the choice for it', () => {
    const lines: {
      field: string;
      value: string;
      items: number;
      suggestions: { choice: string; score: number }[];
    }[] = suggest('values', 'plazuela-norte', 'ES');
    const first = (field: string, value: string) => {
      const line = lines.find((one) => one.field === field && one.value === value);
      return [line?.items, line?.suggestions[0]?.choice];
    };
    expect(first('disponibilidad', 'InStock')).toEqual([236, 'disponible']);
    expect(first('estado', 'NewCondition')).toEqual([242, 'nuevo']);
    expect(first('encuadernacion', 'Paperback')).toEqual([8, 'blanda']);
    expect(first('genero', 'unisex')).toEqual([37, 'unisex']);
  });

  test('categories: ranked places with the words that matched', () => {
    const lines: { category: string; items: number; suggestions: { code: string; reasons: string[] }[] }[] =
      suggest('categories', 'orrin-bazaar', 'DE');
    expect(lines.find(({ category }) => category === 'Gloves')).toMatchObject({
      items: 18,
      suggestions: expect.arrayContaining([
        expect.objectContaining({ code: '31002', reasons: ['“gloves” maps to it'] }),
      ]),
    });
  });

  test.each([
    [
      ['colours', '--channel', 'lanternry', '--market', 'DE', '--catalog', 'x'],
      /wants fields, values, categories/,
    ],
    [
      ['fields', '--channel', 'nowhere', '--market', 'DE', '--catalog', 'demo/catalog/items.csv'],
      /no channel "nowhere"/,
    ],
    [
      ['fields', '--channel', 'plazuela-norte', '--market', 'JP', '--catalog', 'demo/catalog/items.csv'],
      /no market “JP”; it has ES, PT/,
    ],
    [['fields', '--channel', 'lanternry', '--market', 'DE'], /--catalog is missing/],
  ])('bad input ends with 2: %j', (words, reason) => {
    const { status, stderr } = cart(['suggest', ...words]);
    expect(status).toBe(2);
    expect(stderr).toMatch(reason);
  });
});
