import { trialField, trialSheet } from '../../../tests/support/sheets';
import type { Value } from '../catalog/value';
import { readTree } from '../categories/tree';
import type { Field, Sheet } from '../channels/sheet';
import { fieldSchema, sheetSchema } from '../channels/sheet';
import { isDate } from '../measures/dates';
import { compileChecks } from './compileChecks';
import { noExternalFacts } from './externalFacts';
import type { Issue, Report } from './issue';
import { issueTitle, issueWords } from './messages';

const tree = readTree('code,parent,name_en\n1,,Garden\n11,1,Pots\n');
const base = { code: 'ref', label: 'Reference', meaning: 'id', kind: 'text', need: 'may', role: 'id' };
type FieldInput = Record<string, unknown>;
const sheetOf = (...fields: FieldInput[]): Sheet =>
  trialSheet([base, ...fields.map((field, i) => trialField(`f${i}`, 'text', { label: `F${i}`, ...field }))], {
    format: 'atom',
  });

function check(field: FieldInput, value: Value | undefined, when?: boolean): Issue[] {
  const sheet = sheetOf(field);
  const issues: Issue[] = [];
  const report: Report = (name, severity, code, facts) =>
    issues.push({ check: name, severity, field: code, facts } as Issue);
  for (const { run } of checksOf(sheet, when ?? false)) run([], ['x', value], report);
  return issues;
}

const checksOf = (sheet: Sheet, holds: boolean, met: readonly string[] = []) =>
  compileChecks({
    sheet,
    tree,
    currency: 'EUR',
    country: 'DE',
    met: new Set(met),
    seen: {
      ...noExternalFacts,
      picture: (link) => (link === 'https://a.example/broken.jpg' ? 'unreadable' : undefined),
    },
    catalogCurrency: 'EUR',
    filledFrom: () => [],
    slotOf: () => undefined,
    fieldAt: (code) => sheet.fields.findIndex((one) => one.code === code),
    predicate: () => () => holds,
  });

const here = { mustWhen: { country: ['DE'] }, because: 'needed here' };
const units = ['kg', 'g'];
const weight = { kind: 'measure', units };
const quantity = { kind: 'number', number: { least: 0, whole: true } };
const short = { length: { least: 3, most: 8, advised: 5 } };

// What each check finds (and what it lets pass), with the facts it gives.
test.each<[string, FieldInput, Value | undefined, Partial<Issue>[]]>([
  [
    'must and empty',
    { need: 'must' },
    undefined,
    [{ check: 'missing', severity: 'blocker', facts: { need: 'must' } }],
  ],
  ['should and empty', { need: 'should' }, undefined, [{ check: 'missing', severity: 'tip' }]],
  ['may and empty', {}, undefined, []],
  [
    'too long',
    short,
    'moss green',
    [{ check: 'tooLong', severity: 'blocker', facts: { length: 10, most: 8, measure: 'characters' } }],
  ],
  [
    'a weight in words',
    weight,
    'light',
    [{ check: 'measure', facts: { found: 'light', reason: 'form', units } }],
  ],
  ['a weight of nothing', weight, '0 kg', [{ check: 'measure', severity: 'blocker' }]],
  ['a weight below zero', weight, '-1 kg', [{ check: 'measure', severity: 'blocker' }]],
  ['a weight without its unit', weight, '1.2', [{ check: 'measure', severity: 'blocker' }]],
  ['a weight in another unit', weight, '3 lb', [{ check: 'measure', severity: 'blocker' }]],
  ['a weight with a comma', weight, '1,2 kg', [{ check: 'measure', severity: 'blocker' }]],
  ['a length where a weight is asked for', weight, '3 cm', [{ check: 'measure', severity: 'blocker' }]],
  ['a weight', weight, '1.2 kg', []],
  ['a measure in any unit', { kind: 'measure' }, '12 in', []],
  ['a quantity below zero', quantity, '-3', [{ check: 'range', severity: 'blocker' }]],
  ['half a piece', quantity, '2.5', [{ check: 'whole', severity: 'blocker' }]],
  ['a quantity in words', quantity, 'many', [{ check: 'number', severity: 'blocker' }]],
  ['a quantity', quantity, '3', []],
  ['yes in another form', { kind: 'yesNo' }, 'ja', [{ check: 'yesNo', severity: 'blocker' }]],
  ['yes', { kind: 'yesNo' }, 'true', []],
  ['yes in the channel’s own words', { kind: 'yesNo', choices: [{ code: 'Y', labels: {} }] }, 'Y', []],
  ['a value that grew to the limit', {}, 'x'.repeat(50_000), [{ check: 'cut', severity: 'blocker' }]],
  [
    'a picture that cannot be read',
    { kind: 'pictures' },
    'https://a.example/broken.jpg',
    [{ check: 'picture', severity: 'blocker' }],
  ],
  ['just long enough', short, 'moss pot', []],
  ['too short', short, 'ab', [{ check: 'tooShort', severity: 'blocker' }]],
  ['shorter than advised', short, 'abcd', [{ check: 'tooShort', severity: 'tip' }]],
  [
    'bytes, not characters',
    { length: { measure: 'bytes', most: 4 } },
    'größe',
    [{ check: 'tooLong', facts: { length: 7, most: 4, measure: 'bytes' } }],
  ],
  [
    'emoji count once as graphemes',
    { length: { measure: 'graphemes', most: 2 } },
    '👩\u200d🌾🇩🇪',
    [{ check: 'symbols', severity: 'tip' }],
  ],
  ['a choice', { kind: 'choice', choices: [{ code: 'green', labels: {} }] }, 'green', []],
  [
    'no choice',
    { kind: 'choice', choices: [{ code: 'green', labels: {} }] },
    'Green',
    [{ check: 'choice', facts: { found: 'Green', choices: 1 } }],
  ],
  ['a link', { kind: 'link' }, 'https://shop.example:8080/a?b=c#d', []],
  [
    'a relative link',
    { kind: 'link' },
    '/pots/ridge',
    [{ check: 'link', facts: { found: '/pots/ridge', reason: 'scheme' } }],
  ],
  [
    'a link with a space',
    { kind: 'link' },
    'https://shop.example/a b',
    [{ check: 'link', facts: { found: 'https://shop.example/a b', reason: 'space' } }],
  ],
  ['a script link', { kind: 'link' }, 'javascript:alert(1)', [{ check: 'link' }]],
  ['money', { kind: 'money' }, '24.90 EUR', []],
  [
    'money without currency',
    { kind: 'money' },
    '24.90',
    [{ check: 'money', facts: { found: '24.90', reason: 'noCurrency', currency: 'EUR' } }],
  ],
  ['money with too few decimals', { kind: 'money' }, '24.9 EUR', [{ check: 'money' }]],
  [
    'money of another market',
    { kind: 'money' },
    '24.90 GBP',
    [{ check: 'money', facts: { found: '24.90 GBP', reason: 'currency', currency: 'EUR' } }],
  ],
  ['nothing to pay', { kind: 'money', need: 'must' }, '0.00 EUR', [{ check: 'money', severity: 'blocker' }]],
  ['a GTIN', { kind: 'identifier', role: 'gtin' }, '9520000030148', []],
  [
    'a wrong check digit',
    { kind: 'identifier', role: 'gtin' },
    '9520000030149',
    [{ check: 'identifier', facts: { found: '9520000030149', reason: 'checkdigit' } }],
  ],
  [
    'a number for inside the shop',
    { kind: 'identifier', role: 'gtin' },
    '2012345678903',
    [{ check: 'identifier', facts: { found: '2012345678903', reason: 'restricted' } }],
  ],
  ['a date', { kind: 'date' }, '2028-02-29', []],
  ['no such day', { kind: 'date' }, '2027-02-29', [{ check: 'date' }]],
  ['a number', { kind: 'number' }, '12.5', []],
  ['no number', { kind: 'number' }, 'a dozen', [{ check: 'number' }]],
  [
    'a form',
    { pattern: { expression: '^\\d+ cm$', words: 'a length' } },
    '14 inch',
    [{ check: 'pattern', facts: { found: '14 inch', words: 'a length' } }],
  ],
  [
    'too many values',
    { values: { most: 2 } },
    ['a', 'b', 'c'],
    [{ check: 'tooMany', facts: { found: 3, most: 2 } }],
  ],
  ['a list where one is taken', {}, ['a', 'b'], [{ check: 'tooMany' }]],
  [
    'fewer than wanted',
    { values: { most: 5, least: 3 } },
    ['a', 'b'],
    [{ check: 'tooFew', severity: 'risk', facts: { found: 2, least: 3 } }],
  ],
  ['a leaf', { kind: 'category' }, '11', []],
  ['a branch', { kind: 'category' }, '1', [{ check: 'category', facts: { found: '1', reason: 'branch' } }]],
  [
    'an unknown category',
    { kind: 'category' },
    '99',
    [{ check: 'category', facts: { found: '99', reason: 'unknown' } }],
  ],
])('%s', (_name, field, value, wanted) => {
  const found = check(field, value);
  expect(found).toMatchObject(wanted);
  expect(found).toHaveLength(wanted.length);
});

test('must here: only where the condition holds', () => {
  expect(check(here, undefined, false)).toEqual([]);
  expect(check(here, undefined, true)).toMatchObject([
    { check: 'missing', severity: 'blocker', facts: { because: 'needed here' } },
  ]);
  expect(check({ ...here, need: 'should' }, undefined, false)).toMatchObject([{ severity: 'tip' }]);
  expect(check(here, 'there', true)).toEqual([]);
});

// Source: RFC 3339, section 5.6 and appendix C (leap years).
test.each([
  ['2028-02-29', true],
  ['2100-02-29', false],
  ['2000-02-29', true],
  ['2027-13-01', false],
  ['2027-1-1', false],
  ['2027-01-01T10:00:00Z', true],
  ['2027-01-01T25:00:00Z', false],
  ['01.02.2027', false],
])('%s as a date: %s', (text, valid) => {
  expect(isDate(text)).toBe(valid);
});

test('every issue has words that name the field, and none leaks a blank', () => {
  const issues = [
    check({ need: 'must' }, undefined),
    check(short, 'ab'),
    check({ kind: 'money' }, 'x'),
    check({ kind: 'link' }, 'x'),
    check({ kind: 'category' }, '99'),
  ].flat();
  for (const issue of issues) {
    expect(issueWords(issue, () => 'Colour')).toContain('Colour');
    expect(issueWords(issue, () => 'Colour')).not.toMatch(/undefined|NaN|\[object/);
    expect(issueTitle(issue.check, 'Colour')).toContain('Colour');
  }
});

describe('the sheet itself', () => {
  const refuse = (change: (sheet: ReturnType<typeof sheetOf>) => unknown) => {
    const result = sheetSchema.safeParse(change(sheetOf({})));
    return result.success
      ? ''
      : `${result.error.issues[0]?.path.join('.')}: ${result.error.issues[0]?.message}`;
  };

  test('errors name the place', () => {
    expect(refuse((sheet) => ({ ...sheet, fields: [...sheet.fields, sheet.fields[1] as Field] }))).toBe(
      'fields.2.code: field "f0" is defined twice',
    );
    expect(
      refuse((sheet) => ({
        ...sheet,
        fields: [sheet.fields[0], { ...(sheet.fields[1] as Field), kind: 'choice' }],
      })),
    ).toMatch(/^fields\.1\.choices: /);
    expect(
      refuse((sheet) => ({ ...sheet, fields: [{ ...(sheet.fields[0] as Field), role: 'brand' }] })),
    ).toMatch(/role "id"/);
    expect(
      refuse((sheet) => ({
        ...sheet,
        demands: [{ demand: 'oneOfSets', sets: [['f0'], ['nope']], words: 'x' }],
      })),
    ).toMatch(/"nope", which is not defined/);
    expect(
      refuse((sheet) => ({
        ...sheet,
        markets: [{ country: 'Germany', languages: ['de'], currency: 'EUR' }],
      })),
    ).toMatch(/^markets\.0\.country/);
    expect(refuse((sheet) => ({ ...sheet, colour: 1 }))).toMatch(/colour/);
  });

  test('a pattern must be a regular expression', () => {
    for (const expression of ['(', '(?=a)', '(a)\\1'])
      expect(fieldSchema.safeParse({ ...base, pattern: { expression, words: 'x' } }).success).toBe(false);
    expect(
      refuse((sheet) => ({
        ...sheet,
        fields: [
          sheet.fields[0],
          { ...(sheet.fields[1] as Field), pattern: { expression: '(', words: 'x' } },
        ],
      })),
    ).toMatch(/not a regular expression/);
  });
});

describe('ratio', () => {
  const sheet = sheetSchema.parse({
    ...sheetOf({ kind: 'money' }, { kind: 'money' }),
    demands: [
      {
        demand: 'ratio',
        field: 'f0',
        to: 'f1',
        least: 1,
        most: 2,
        severity: 'risk',
        words: 'Looks like a trick',
      },
    ],
  });
  const found = (before: string | undefined, price: string | undefined): Issue[] => {
    const issues: Issue[] = [];
    for (const { run } of checksOf(sheet, true))
      run([], ['R', before, price], (name, severity, code, facts) =>
        issues.push({ check: name, severity, field: code, facts } as Issue),
      );
    return issues.filter(({ check: name }) => name === 'ratio');
  };

  test.each([
    ['30.00 EUR', '20.00 EUR', 0],
    ['40.00 EUR', '20.00 EUR', 0],
    ['41.00 EUR', '20.00 EUR', 1],
    ['19.00 EUR', '20.00 EUR', 1],
    [undefined, '20.00 EUR', 0],
    ['30.00 EUR', undefined, 0],
    ['30.00 EUR', '0.00 EUR', 0],
  ])('%s to %s', (before, price, count) => {
    expect(found(before, price)).toHaveLength(count);
  });

  test('is said with the figure', () => {
    const [issue] = found('50.00 EUR', '20.00 EUR');
    expect(issue && issueWords(issue, (code) => code)).toBe('Looks like a trick (it is 2.50 times)');
  });
});

describe('what a whole sheet says', () => {
  const found = (sheet: Sheet, values: (Value | undefined)[], met: string[] = []) => {
    const issues: Issue[] = [];
    for (const { run } of checksOf(sheet, true, met))
      run([], values, (name, severity, code, facts) =>
        issues.push({ check: name, severity, field: code, facts } as Issue),
      );
    return issues;
  };
  test('a restricted branch blocks until its document is there', () => {
    const sheet: Sheet = {
      ...sheetOf({ kind: 'category' }),
      branches: [{ under: '1', restricted: { document: 'licence', words: 'Garden goods need a licence' } }],
    };
    const [issue] = found(sheet, ['R', '11']);
    expect(issue).toMatchObject({ check: 'restricted', severity: 'blocker', field: 'f0' });
    expect(issue && issueWords(issue, (code) => code)).toBe(
      'Garden goods need a licence (document: licence)',
    );
    expect(found(sheet, ['R', '11'], ['licence'])).toEqual([]);
    expect(found(sheet, ['R', undefined])).toEqual([]);
  });
  test('pictures are counted over every field that takes some', () => {
    const sheet: Sheet = {
      ...sheetOf({ kind: 'pictures' }, { kind: 'pictures', values: { most: 8 } }),
      pictures: { least: 1, most: 9, advised: 3, formats: ['jpeg'] },
    };
    const link = (n: number) => `https://quillmoss.example/${n}.jpg`;
    expect(found(sheet, ['R', link(1), [link(2)]])).toMatchObject([
      { check: 'fewPictures', severity: 'tip', facts: { found: 2, advised: 3 } },
    ]);
    expect(found(sheet, ['R', link(1), [link(2), link(3)]])).toEqual([]);
    expect(found(sheet, ['R', undefined, undefined])).toEqual([]);
  });
  test('issues stand in the order of the fields they are about', () => {
    const sheet = sheetOf({ need: 'must' }, { length: { most: 2 } }, { need: 'must' });
    expect(found(sheet, ['R', undefined, 'long', undefined]).map(({ field }) => field)).toEqual([
      'f0',
      'f1',
      'f2',
    ]);
  });
  test('every check says which fields it reads', () => {
    const sheet: Sheet = {
      ...sheetOf(
        { kind: 'category' },
        { mustWhen: { all: [{ under: ['1'] }, { field: 'f2', is: 'filled' }] } },
        {},
      ),
      demands: [{ demand: 'oneOfSets', sets: [['f2'], ['ref']], severity: 'blocker', words: 'one' }],
    };
    const reads = new Map(checksOf(sheet, true).map((check) => [check.at, [...check.reads].sort()]));
    expect(reads.get(2)).toEqual([1, 2, 3]);
    expect(reads.get(3)).toEqual([0, 3]);
  });
});
