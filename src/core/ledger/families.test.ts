import { bundled, trialField, trialSheet } from '../../../tests/support/sheets';
import { noFamilyChoice } from '../families/shape';
import { shaped, sheetAsShown } from './families';

const sheet = (families: string) =>
  trialSheet(
    [
      trialField('key', 'text', { role: 'id' }),
      trialField('name', 'text', { role: 'title' }),
      trialField('group', 'text', { role: 'group' }),
      trialField('gtin', 'identifier', { role: 'gtin' }),
      trialField('price', 'money', { role: 'price', notForFamilies: true }),
      trialField('pictures', 'pictures', { role: 'image', values: { most: 9 } }),
      trialField('maker', 'text', { role: 'brand' }),
      trialField('colour', 'text'),
    ],
    { format: 'csv', families },
  );
const listing = (sku: string, name: string, group: string | undefined, colour: string) => ({
  sku,
  values: [sku, name, group, `952${sku}`, '9.00', [`${sku}-1.jpg`, `${sku}-2.jpg`], 'Quillmoss', colour],
});
const pots = [
  listing('P-1', 'Ridge pot, moss', 'RIDGE', 'moss'),
  listing('P-2', 'Ridge pot, chalk', 'RIDGE', 'chalk'),
  listing('C-1', 'Can', undefined, 'copper'),
  listing('S-1', 'Saucer, ink', 'SAUCER', 'ink'),
];

test('singles stay as they are', () => {
  expect(shaped(sheet('singles'), pots).map(({ sku, relation }) => [sku, relation])).toEqual(
    pots.map(({ sku }) => [sku, undefined]),
  );
});

test('a lead stands before its members, with what they share and nothing that only they have', () => {
  const out = shaped(sheet('leads'), pots);
  expect(out.map(({ sku, relation }) => [sku, relation])).toEqual([
    ['RIDGE', 'lead'],
    ['P-1', 'member'],
    ['P-2', 'member'],
    ['C-1', undefined],
    // A family of one is a single listing.
    ['S-1', undefined],
  ]);
  expect(out[0]?.values).toEqual([
    'RIDGE',
    'Ridge pot',
    'RIDGE',
    undefined,
    undefined,
    ['P-1-1.jpg'],
    'Quillmoss',
    undefined,
  ]);
  // Members are not changed: the digest of their values stays what it was.
  expect(out[1]?.values).toBe(pots[0]?.values);
});

test('a family’s title says no word of one variant, also where all members that are ready have it', () => {
  const mossy = [
    listing('P-1', 'Ridge pot, moss, 10 cm', 'RIDGE', 'moss'),
    listing('P-2', 'Ridge pot, moss, 14 cm', 'RIDGE', 'moss'),
  ];
  const titled = (families: string, words?: (sku: string) => readonly string[]) =>
    shaped(sheet(families), mossy, new Set(), words)[0]?.values[1];
  for (const families of ['leads', 'oneEntry']) {
    expect(titled(families)).toBe('Ridge pot, moss');
    expect(titled(families, () => ['moss', '10 cm'])).toBe('Ridge pot');
    // Where nothing would be left the beginning stays.
    expect(titled(families, () => ['Ridge pot', 'moss'])).toBe('Ridge pot, moss');
  }
});

test('one entry a family has its first member’s values under the family’s key', () => {
  const out = shaped(sheet('oneEntry'), pots);
  expect(out.map(({ sku }) => sku)).toEqual(['RIDGE', 'C-1', 'S-1']);
  expect(out[0]?.values).toEqual([
    'RIDGE',
    'Ridge pot',
    'RIDGE',
    '952P-1',
    '9.00',
    ['P-1-1.jpg', 'P-2-1.jpg', 'P-1-2.jpg'],
    'Quillmoss',
    'moss',
  ]);
});

test('one entry a family shows the main pictures of many beside its own, as many as it takes', () => {
  const plain = sheet('oneEntry');
  const parted = {
    ...plain,
    fields: plain.fields.map((field) =>
      field.code === 'pictures'
        ? { ...field, values: undefined }
        : field.code === 'colour'
          ? { ...field, kind: 'pictures' as const, values: { most: 3 } }
          : field,
    ),
  };
  const member = (n: number, more: string[]) => ({
    sku: `M-${n}`,
    values: [`M-${n}`, `Pot ${n}`, 'POT', undefined, '9.00', `main-${n % 4}.jpg`, 'Quillmoss', more],
  });
  const [entry] = shaped(parted, [
    member(0, ['a.jpg', 'main-0.jpg']),
    ...[1, 2, 3, 4, 5].map((n) => member(n, [])),
  ]);
  // Each picture once, the main one not again; the first member's own come last, and three are taken.
  expect(entry?.values[5]).toBe('main-0.jpg');
  expect(entry?.values[7]).toEqual(['main-1.jpg', 'main-2.jpg', 'main-3.jpg']);
  const [two] = shaped(parted, [member(0, ['a.jpg']), member(1, [])]);
  expect(two?.values[7]).toEqual(['main-1.jpg', 'a.jpg']);
});

test('a channel of single listings shows one entry a family where that is wished, and only there', () => {
  const wished = { ...noFamilyChoice, asOne: true };
  expect(shaped(sheetAsShown(sheet('singles'), wished), pots).map(({ sku }) => sku)).toEqual([
    'RIDGE',
    'C-1',
    'S-1',
  ]);
  expect(sheetAsShown(sheet('leads'), wished).delivery.families).toBe('leads');
  const plain = sheet('singles');
  expect(sheetAsShown(plain, undefined)).toBe(plain);
  expect(sheetAsShown(plain, noFamilyChoice)).toBe(plain);
});

test('a lead never takes the key of an item', () => {
  const out = shaped(sheet('leads'), [...pots, listing('RIDGE', 'Other', undefined, 'x')]);
  expect(out[0]?.sku).toBe('RIDGE-family');
  expect(shaped(sheet('leads'), pots, new Set(['RIDGE']))[0]?.sku).toBe('RIDGE-family');
});

test('titles that share no beginning give the first member’s', () => {
  const [lead] = shaped(sheet('leads'), [
    listing('A', 'Moss pot', 'G', 'a'),
    listing('B', 'Chalk pot', 'G', 'b'),
  ]);
  expect(lead?.values[1]).toBe('Moss pot');
});

test('a shared beginning ends at a word', () => {
  const [lead] = shaped(sheet('leads'), [
    listing('A', 'Pot 10 cm', 'G', 'a'),
    listing('B', 'Pot 14 cm', 'G', 'b'),
  ]);
  expect(lead?.values[1]).toBe('Pot');
});

/** An apron in four colours and three sizes, by the roles of a sheet's fields. */
function aprons(channel: string) {
  const { sheet } = bundled(channel);
  const at = (role: string) => sheet.fields.findIndex((field) => field.role === role);
  return {
    sheet,
    at,
    ready: ['fern', 'oat', 'umber', 'lake'].flatMap((colour) =>
      ['S', 'M', 'L'].map((size) => {
        const sku = `QM-APR-${colour}-${size}`;
        const values = sheet.fields.map((): string | undefined => undefined);
        values[at('id')] = sku;
        values[at('title')] = `Linen apron, ${colour}, ${size}`;
        values[at('group')] = 'APR';
        return { sku, values };
      }),
    ),
  };
}

test.each([
  // channel, entries, leads, members, in a group
  ['lanternry', 12, 0, 0, 12],
  ['orrin-bazaar', 13, 1, 12, 13],
  ['plazuela-norte', 12, 0, 0, 12],
  ['flickerstall', 12, 0, 0, 12],
  ['own-shop', 12, 0, 0, 12],
  ['tessel-boards', 12, 0, 0, 12],
])('%s shows one apron in %i entries', (channel, entries, leads, members, grouped) => {
  const { sheet, at, ready } = aprons(channel);
  const out = shaped(sheet, ready);
  expect([
    out.length,
    out.filter(({ relation }) => relation === 'lead').length,
    out.filter(({ relation }) => relation === 'member').length,
    out.filter(({ values }) => values[at('group')] === 'APR').length,
  ]).toEqual([entries, leads, members, grouped]);
  // Singly, as the merchant may choose, there is no group and no lead anywhere.
  const alone = ready.map(({ sku, values }) => ({
    sku,
    values: values.map((value, i) => (i === at('group') ? undefined : value)),
  }));
  expect(shaped(sheet, alone).map(({ relation }) => relation)).toEqual(alone.map(() => undefined));
});
