import { lanternry } from '../../../tests/support/demo';
import { type Channel, makeChannel } from './bundle';
import type { Field, Sheet } from './sheet';
import { changeWords, compareChannels, lengthWords } from './versions';

const taxonomy = [
  'code,parent,name_en,name_de,synonyms',
  'garden,,Garden,Garten,',
  'pots,garden,Pots,Töpfe,planter',
  'clothes,,Clothes,Kleidung,',
  'gloves,clothes,Gloves,Handschuhe,',
  'winter,gloves,Winter gloves,Winterhandschuhe,',
].join('\n');

const field = (code: string, more: Partial<Field> = {}) => ({
  code,
  label: code.charAt(0).toUpperCase() + code.slice(1),
  meaning: 'A test.',
  kind: 'text',
  need: 'may',
  ...more,
});
const base = {
  format: 'lively-cart/sheet@1',
  code: 'test',
  name: 'Test',
  about: '',
  version: 1,
  effective: '2026-01-01',
  markets: [{ country: 'DE', languages: ['de'], currency: 'EUR' }],
  fields: [
    field('sku', { role: 'id', need: 'must' }),
    field('title', { need: 'must', length: { measure: 'characters', most: 150 } }),
    field('colour', {
      kind: 'choice',
      choices: ['red', 'blue'].map((code) => ({ code, labels: {}, synonyms: [] })),
    }),
    field('old'),
  ],
  delivery: { manner: 'byHand', format: 'csv' },
};
const channel = (change: object = {}, tree = taxonomy): Channel => makeChannel({ ...base, ...change }, tree);
const words = (after: Channel) => {
  const before = channel();
  const labels = new Map(
    [...before.sheet.fields, ...after.sheet.fields].map(({ code, label }) => [code, label]),
  );
  return compareChannels(before, after).map((change) =>
    changeWords(change, (code) => labels.get(code) ?? code),
  );
};
const changed = (code: string, more: object) => ({
  fields: base.fields.map((one) => (one.code === code ? { ...one, ...more } : one)),
});

test('a version is like itself', () => {
  expect(compareChannels(channel(), channel())).toEqual([]);
  expect(compareChannels(lanternry, lanternry)).toEqual([]);
});

test.each<[string, object, string[]]>([
  ['a new field', { fields: [...base.fields, field('size', { need: 'must' })] }, ['Size is new (required)']],
  ['a field gone', { fields: base.fields.slice(0, -1) }, ['Old was removed']],
  ['a need', changed('old', { need: 'must' }), ['Old changes from optional to required']],
  [
    'a shorter title',
    changed('title', { length: { measure: 'characters', most: 80 } }),
    ['Title allows up to 80 characters (was up to 150 characters)'],
  ],
  [
    'another measure',
    changed('title', { length: { measure: 'bytes', most: 150 } }),
    ['Title allows up to 150 bytes (was up to 150 characters)'],
  ],
  [
    'choices',
    changed('colour', {
      choices: [
        { code: 'red', labels: {} },
        { code: 'green', labels: {} },
      ],
    }),
    ['Colour: new green and no longer blue'],
  ],
  ['a kind', changed('old', { kind: 'number' }), ['Old becomes number (was text)']],
  [
    'a condition',
    changed('old', { mustWhen: { field: 'colour', is: 'filled' }, because: 'a colour is given' }),
    ['Old is required where: a colour is given'],
  ],
  [
    'a pattern',
    changed('old', { pattern: { expression: '^[A-Z]+$', words: 'capital letters' } }),
    ['Old must be capital letters'],
  ],
  ['a list', changed('old', { values: { most: 5 } }), ['Old has new limits']],
  ['words', changed('old', { meaning: 'Another.' }), ['Old has a new description']],
  [
    'a demand',
    { demands: [{ demand: 'oneOfSets', sets: [['title'], ['old']], words: 'Title or old.' }] },
    ['New: Title or old.'],
  ],
  [
    'a market',
    { markets: [{ country: 'FR', languages: ['fr'], currency: 'EUR' }] },
    ['New market FR', 'Market DE was removed'],
  ],
  [
    'a restricted branch',
    { branches: [{ under: 'garden', restricted: { document: 'licence', words: 'Only with a licence.' } }] },
    ['Branch garden: Only with a licence.'],
  ],
  ['delivery', { delivery: { manner: 'calls', format: 'json' } }, ['New delivery settings']],
])('%s', (_name, change, expected) => {
  expect(words(channel(change))).toEqual(expected);
});

describe('the tree', () => {
  const tree = (change: (text: string) => string) => words(channel({}, change(taxonomy)));
  test('a branch that moves names both paths and what moves along', () => {
    expect(tree((text) => text.replace('gloves,clothes', 'gloves,garden'))).toEqual([
      'Clothes › Gloves moves to Garden › Gloves with 1 below it',
    ]);
  });
  test('added, gone, renamed', () => {
    expect(tree((text) => `${text}\nherbs,garden,Herbs,Kräuter,`)).toEqual(['New category Garden › Herbs']);
    expect(tree((text) => text.replace(/\nwinter.*/, ''))).toEqual([
      'Category Clothes › Gloves › Winter gloves was removed',
    ]);
    expect(tree((text) => text.replace('Pots,Töpfe', 'Planters,Töpfe'))).toEqual([
      'Garden › Pots was renamed to Garden › Planters',
    ]);
  });
});

describe('a sheet that is not valid says where', () => {
  test.each<[string, object | string, string]>([
    ['a need of another word', changed('old', { need: 'shall' }), 'fields.3 (old).need'],
    [
      'a code twice',
      { fields: [...base.fields, field('old')] },
      'fields.4 (old).code: field "old" is defined twice',
    ],
    ['no id', changed('sku', { role: undefined }), 'one field must have the role "id"'],
    ['a date that is none', { effective: '2026-02-30' }, 'effective'],
    ['a setting nobody knows', { colour: 'red' }, 'Unrecognized key'],
    [
      'a branch that is not in the tree',
      { branches: [{ under: 'nowhere' }] },
      'branches.0.under: the tree has no nowhere',
    ],
    [
      'a condition on a branch that is not there',
      changed('old', { mustWhen: { under: ['no'] } }),
      'old.mustWhen',
    ],
  ])('%s', (_name, change, place) => {
    expect(() => makeChannel({ ...base, ...(change as Partial<Sheet>) }, taxonomy)).toThrow(place);
  });
  test.each([
    ['code,name_en\na,A\na,B', 'Category a is defined twice'],
    ['code,parent,name_en\na,b,A', 'names the parent b, which is not defined'],
    ['code,parent,name_en\na,b,A\nb,a,B', 'is below itself'],
    ['name_en\nA', 'needs a heading row with the columns code'],
    ['code,parent,name_en\n,,A', 'number 1 has no code'],
    ['code,parent,name_en\na,,"A', 'cannot be read'],
  ])('tree %j', (tree, place) => {
    expect(() => makeChannel(base, tree)).toThrow(place);
  });
});

test('lengths in words', () => {
  expect(lengthWords(undefined)).toBe('any length');
  expect(lengthWords({ measure: 'bytes', least: 5 })).toBe('5 bytes or more');
  expect(lengthWords({ measure: 'graphemes', least: 5, most: 9 })).toBe('5 to 9 graphemes');
});
