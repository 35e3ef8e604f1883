import { fieldLines, withFieldSetting } from './fieldForm';
import { type Field, fieldSchema } from './sheet';

const plain = fieldSchema.parse({
  code: 'title',
  label: 'Title',
  meaning: 'Its name.',
  kind: 'text',
  need: 'must',
});
const settingsIn = (field: Field) =>
  new Map(fieldLines(field).flatMap(([, all]) => all.map((one) => [one.label, one])));
/** Writes into the inputs of a field's form, one after the other. */
const written = (field: Field, ...texts: readonly (readonly [label: string, text: string])[]) =>
  texts.reduce((one, [label, text]) => {
    const setting = settingsIn(one).get(label);
    if (!setting) throw new Error(`There is no input “${label}”.`);
    return withFieldSetting(one, setting, text);
  }, field);

test.each<[string, readonly (readonly [string, string])[], object]>([
  ['a length', [['Most', '25']], { length: { most: 25, measure: 'characters' } }],
  [
    'a length in bytes',
    [
      ['Most', '25'],
      ['Measured in', 'bytes'],
    ],
    { length: { most: 25, measure: 'bytes' } },
  ],
  ['how many values it takes at least', [['Values, minimum', '3']], { values: { least: 3, most: 3 } }],
  [
    'a pattern',
    [['Pattern', '^[A-Z]+$']],
    { pattern: { expression: '^[A-Z]+$', words: 'in the form ^[A-Z]+$' } },
  ],
  [
    'a pattern in words',
    [
      ['Pattern', '^[A-Z]+$'],
      ['Pattern in words', 'capitals'],
    ],
    { pattern: { expression: '^[A-Z]+$', words: 'capitals' } },
  ],
  ['other words', [['Synonyms', 'nom, titre ,']], { synonyms: ['nom', 'titre'] }],
  ['whether it is on one listing only', [['on one listing only', 'true']], { unique: true }],
  [
    'bounds of a number',
    [
      ['Kind', 'number'],
      ['At least', '0,5'],
      ['whole numbers only', 'true'],
    ],
    { kind: 'number', number: { least: 0.5, whole: true } },
  ],
  [
    'units',
    [
      ['Kind', 'measure'],
      ['Allowed units', 'cm, in'],
    ],
    { kind: 'measure', units: ['cm', 'in'] },
  ],
])('%s is written, and is what the sheet takes', (_what, texts, more) => {
  const field = written(plain, ...texts);
  expect(field).toEqual({ ...plain, ...more });
  expect(fieldSchema.parse(field)).toEqual(fieldSchema.parse({ ...plain, ...more }));
});

test('what is emptied again leaves nothing behind', () => {
  const texts = [
    ['Most', '25'],
    ['Values, maximum', '4'],
    ['Pattern', '^a$'],
    ['Example', 'Pot'],
    ['Job', 'title'],
    ['Group', 'Texts'],
  ] as const;
  const full = written(plain, ...texts);
  expect(written(full, ...texts.map(([label]) => [label, ''] as const))).toEqual(plain);
});

test('only what a field can have is asked', () => {
  const labels = [...settingsIn(plain).keys()];
  for (const label of ['At least', 'Allowed units', 'Pattern in words', 'Measured in'])
    expect(labels).not.toContain(label);
  expect(settingsIn({ ...plain, kind: 'number' }).has('At least')).toBe(true);
});
