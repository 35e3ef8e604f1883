import { trialField, trialSheet } from '../../../tests/support/sheets';
import { attributeIndex, type Value } from '../catalog/value';
import { readTree } from '../categories/tree';
import type { Issue } from '../checks/issue';
import { fromAttribute } from '../compose/composition';
import { compile } from '../listing/compile';
import { evaluate } from '../listing/evaluate';
import { applyEdit } from '../plans/edit';
import { emptyPlan, type Plan } from '../plans/plan';
import { titlePatternSchema } from '../titles/pattern';
import { candidatesFor } from './candidates';

const sheet = trialSheet([
  trialField('sku', 'text', { role: 'id' }),
  trialField('title', 'text', { role: 'title', length: { most: 30, phone: 12 } }),
  trialField('about', 'text', { role: 'description', length: { most: 20 } }),
  trialField('weight', 'measure', { units: ['kg'] }),
  trialField('notes', 'text', { values: { most: 2 } }),
  trialField('barcode', 'identifier', { role: 'gtin' }),
  trialField('page', 'link', { role: 'link' }),
  trialField('made', 'date'),
  trialField('pieces', 'number', { number: { whole: true } }),
  trialField('model', 'text', {
    pattern: { expression: '[A-Z]{2}\\d{4}', words: 'two letters and four digits' },
  }),
  trialField('hint', 'text', { length: { least: 10 } }),
  trialField('age', 'number', { number: { least: 0, most: 99 } }),
]);
const codes = [
  'sku',
  'name',
  'about',
  'weight',
  'notes',
  'barcode',
  'page',
  'made',
  'pieces',
  'brand',
  'use',
  'model',
  'hint',
  'age',
];
const index = attributeIndex(codes, 'EUR');
const tree = readTree('code,parent,name_en\n1,,Garden\n');
const base = emptyPlan('trial', { country: 'DE', language: 'en', currency: 'EUR' });
const plan: Plan = {
  ...base,
  fields: Object.fromEntries(
    sheet.fields.flatMap(({ code }) => (code === 'title' ? [] : [[code, fromAttribute(code)]])),
  ),
};
const titled: Plan = {
  ...plan,
  title: titlePatternSchema.parse({
    parts: [
      { attribute: 'use', glue: ' ', steps: [] },
      { attribute: 'brand', glue: ' ', steps: [] },
      { attribute: 'name', glue: ' ', steps: [] },
    ],
    keep: ['name'],
  }),
};

const issuesOn = (of: Plan, values: Readonly<Record<string, Value>>): readonly Issue[] =>
  evaluate(
    compile(of, sheet, tree, index),
    'X1',
    codes.map((code) => ({ sku: 'X1', name: 'Pot', ...values })[code] as Value | undefined),
  ).issues;

/** What the first change that clears a check's issues does: its words, and whether it keeps all. */
function mended(check: string, values: Readonly<Record<string, Value>>, of: Plan = plan) {
  const own = issuesOn(of, values).filter((issue) => issue.check === check);
  const field = sheet.fields.find(({ code }) => code === own[0]?.field);
  if (!field) throw new Error(`no issue of ${check}`);
  const found = candidatesFor(of, field, own).find(({ edits }) =>
    issuesOn(edits.reduce(applyEdit, of), values).every((issue) => issue.check !== check),
  );
  return found && [found.words, found.keepsAll];
}

describe('changes of a plan that clear what a check says', () => {
  it.each<[string, Record<string, Value>, RegExp, boolean]>([
    ['tooLong', { about: 'A pot that is far too long to be said' }, /20/, false],
    ['promotion', { about: 'Pot, free shipping' }, /free shipping/i, false],
    ['contact', { about: 'ask me@shop.example' }, /me@shop/, false],
    ['garbled', { about: 'Pot <b>green</b>' }, /markup/i, true],
    ['measure', { weight: '500 g' }, /kg/, true],
    ['tooMany', { notes: ['one', 'two', 'three'] }, /2/, false],
    ['identifier', { barcode: '9520000030149' }, /check digit/, false],
    ['date', { made: '31.03.2027' }, /2027|date/i, false],
    ['whole', { pieces: '2.5' }, /0/, false],
    ['link', { page: 'https://a.example/pot?sessionid=8f3a2b' }, /query|address/i, false],
    ['pattern', { model: 'XB-11' }, /^one rule: model is left empty where it is wrong$/, false],
    ['tooShort', { hint: 'Short' }, /^one rule/, false],
    ['range', { age: '140' }, /^one rule/, false],
    ['range', { age: '-1' }, /^one rule/, false],
  ])('%s', (check, values, words, keepsAll) => {
    const [said, keeps] = mended(check, values) ?? [];
    expect(said).toMatch(words);
    expect(keeps).toBe(keepsAll);
  });

  it('nothing is thought of where only a person knows: a bare number’s unit, a missing value, a word', () => {
    expect(mended('measure', { weight: '500' })).toBeUndefined();
    const [, , , weight] = sheet.fields;
    expect(
      weight &&
        candidatesFor(plan, weight, [
          { check: 'missing', severity: 'blocker', field: 'weight', facts: { need: 'must' } },
        ]),
    ).toEqual([]);
    expect(weight && candidatesFor(plan, weight, [])).toEqual([]);
  });

  it('a title that has no room lets a part go, one that hides the name on a phone moves it', () => {
    const long = { use: 'kitchen sill', name: 'Ridge pot' };
    expect(issuesOn(titled, long).map(({ check }) => check)).toContain('phoneCut');
    expect(mended('phoneCut', long, titled)).toEqual(['the name moves before the phone cut', false]);
    const field = sheet.fields[1];
    const own = [
      {
        check: 'tooLong' as const,
        severity: 'blocker' as const,
        field: 'title',
        facts: { length: 40, most: 30, measure: 'characters' },
      },
    ];
    expect(field && candidatesFor(titled, field, own).map(({ words }) => words)).toEqual([
      'the title’s part “use” is dropped where the title is too long',
      'the title’s part “brand” is dropped where the title is too long',
    ]);
  });

  it('a rule leaves what is right as it is, and is not thought of for what must be there', () => {
    const model = sheet.fields.find(({ code }) => code === 'model');
    const own = issuesOn(plan, { model: 'XB-11' }).filter(({ field }) => field === 'model');
    const [found] = model ? candidatesFor(plan, model, own) : [];
    const ruled = (found?.edits ?? []).reduce(applyEdit, plan);
    const modelOf = (given: string) =>
      evaluate(
        compile(ruled, sheet, tree, index),
        'X1',
        codes.map((code) => ({ sku: 'X1', name: 'Pot', model: given })[code]),
      ).values[sheet.fields.findIndex(({ code }) => code === 'model')];
    expect([modelOf('AB1234'), modelOf('XB-11')]).toEqual(['AB1234', undefined]);
    expect(model && candidatesFor(plan, { ...model, need: 'must' }, own)).toEqual([]);
    expect(
      model && candidatesFor(plan, { ...model, mustWhen: { attribute: 'name', is: 'filled' } }, own),
    ).toEqual([]);
  });

  it('what fills a field in single categories is changed there too', () => {
    const [, , about] = sheet.fields;
    const both: Plan = {
      ...plan,
      perCategory: { about: [{ categories: ['Pots'], composition: fromAttribute('use') }] },
    };
    const own = issuesOn(both, { about: 'A pot that is far too long to be said' });
    const [first] = about
      ? candidatesFor(
          both,
          about,
          own.filter(({ field }) => field === 'about'),
        )
      : [];
    expect(first?.edits.map(({ edit }) => edit)).toEqual(['fields', 'perCategory']);
  });
});
