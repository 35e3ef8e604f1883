import { bundled } from '../../../tests/support/sheets';
import { attributeIndex, type Value } from '../catalog/value';
import { fixedText } from '../compose/composition';
import { conditionSchema } from '../conditions/conditions';
import type { Action } from './actions';
import { commonRules } from './commonRules';
import { actionWords, compileRule, kept, leavesOut, readsOf, ruleSchema, writesOf } from './rule';

const index = attributeIndex(['name', 'brand', 'price']);
const fields = ['title', 'colour', 'price'];
const scope = {
  index,
  fieldAt: (code: string) => {
    const at = fields.indexOf(code);
    return at < 0 ? undefined : at;
  },
  isUnder: () => false,
  categoryField: undefined,
  country: 'DE',
};
const context = { index, language: 'en', currency: 'EUR', tables: { plain: { moss: 'green' } } };
const row = ['Ridge pot', 'Tarnholt', '24.90'];
const rule = (...then: object[]) => ruleSchema.parse({ id: 'r', name: 'R', when: { all: [] }, then });

function done(
  action: object,
  values: (Value | undefined)[],
): { values: (Value | undefined)[]; said: string | undefined } {
  const after = [...values];
  return { said: compileRule(rule(action), scope, context).apply(row, after), values: after };
}

/** Every action: what stands in title, colour and price before and after. */
test.each<[string, object, (Value | undefined)[], (Value | undefined)[]]>([
  [
    'set',
    { do: 'set', field: 'title', text: 'New' },
    ['Old', undefined, undefined],
    ['New', undefined, undefined],
  ],
  [
    'clear',
    { do: 'clear', field: 'title' },
    ['Old', undefined, undefined],
    [undefined, undefined, undefined],
  ],
  [
    'before',
    { do: 'before', field: 'title', text: 'Big ' },
    ['Pot', undefined, undefined],
    ['Big Pot', undefined, undefined],
  ],
  [
    'after',
    { do: 'after', field: 'title', text: ' +' },
    [['a', 'b'], undefined, undefined],
    [['a +', 'b +'], undefined, undefined],
  ],
  [
    'after nothing',
    { do: 'after', field: 'title', text: ' +' },
    [undefined, undefined, undefined],
    ['+', undefined, undefined],
  ],
  [
    'replace',
    { do: 'replace', field: 'title', find: 'o', with: '0' },
    ['Moo', undefined, undefined],
    ['M00', undefined, undefined],
  ],
  [
    'compose',
    {
      do: 'compose',
      field: 'title',
      composition: {
        alternatives: [{ parts: [{ attribute: 'name' }, { text: 'by', glue: ' ' }, { attribute: 'brand' }] }],
      },
    },
    ['Old', undefined, undefined],
    ['Ridge pot by Tarnholt', undefined, undefined],
  ],
  [
    'compose of what the item has not leaves what is there',
    { do: 'compose', field: 'title', composition: { alternatives: [{ parts: [{ attribute: 'size' }] }] } },
    ['Old', undefined, undefined],
    ['Old', undefined, undefined],
  ],
  [
    'steps: a fifth less, ending in .90',
    { do: 'steps', field: 'price', steps: [{ step: 'adjust', percent: -20, ending: '0.90' }] },
    [undefined, undefined, '24.90 EUR'],
    [undefined, undefined, '19.90 EUR'],
  ],
  [
    'steps with a table',
    { do: 'steps', field: 'colour', steps: [{ step: 'lookUp', table: 'plain', otherwise: 'keep' }] },
    [undefined, 'moss', undefined],
    [undefined, 'green', undefined],
  ],
  [
    'steps on nothing',
    { do: 'steps', field: 'price', steps: [{ step: 'trim' }] },
    [undefined, undefined, undefined],
    [undefined, undefined, undefined],
  ],
  [
    'copyWord takes the first in the text, of two at one place the longer, and whole words only',
    {
      do: 'copyWord',
      field: 'colour',
      from: 'title',
      words: { red: 'red', navy: 'blue', 'navy green': 'green' },
    },
    ['Covered pot, Navy-Green or red', undefined, undefined],
    ['Covered pot, Navy-Green or red', 'green', undefined],
  ],
  [
    'copyWord leaves nothing where none is found',
    { do: 'copyWord', field: 'colour', from: 'title', words: { red: 'red' } },
    ['Covered pot', 'old', undefined],
    ['Covered pot', undefined, undefined],
  ],
  [
    'a field the sheet does not have',
    { do: 'set', field: 'none', text: 'x' },
    ['Old', undefined, undefined],
    ['Old', undefined, undefined],
  ],
])('%s', (_name, action, before, after) => {
  const plain = (list: (Value | undefined)[]) => [0, 1, 2].map((at) => list[at] ?? null);
  expect(
    plain(
      done(
        action,
        [0, 1, 2].map((at) => before[at]),
      ).values,
    ),
  ).toEqual(plain(after));
});

test.each<object>([
  { do: 'set', field: 'colour', text: '' },
  { do: 'before', field: 'colour', text: '' },
  { do: 'after', field: 'title', text: '' },
  { do: 'replace', field: 'title', find: '', with: 'x' },
  { do: 'copyWord', field: 'title', from: 'title', words: {} },
  { do: 'compose', field: 'title', composition: fixedText('') },
])('an action that nobody has filled yet has no effect: %j', (action) => {
  const values: (Value | undefined)[] = ['Ridge pot', undefined, '24.90'];
  compileRule(rule(action), scope, context).apply(row, values);
  expect(values).toEqual(['Ridge pot', undefined, '24.90']);
});

test.each(['contains', 'startsWith', 'endsWith'])('%s nothing holds for nothing', (is) => {
  const when = { all: [{ attribute: 'name', is, value: '' }] };
  const unfilled = ruleSchema.parse({ id: 'r', name: 'R', when, then: [{ do: 'leaveOut', reason: 'x' }] });
  expect(compileRule(unfilled, scope, context).applies(row, [])).toBe(false);
});

test('leaving out and taking in again say so, and the last word counts', () => {
  expect(done({ do: 'leaveOut', reason: 'sold out' }, []).said).toBe('sold out');
  expect(done({ do: 'keep' }, []).said).toBe(kept);
  const both = compileRule(rule({ do: 'leaveOut', reason: 'x' }, { do: 'keep' }), scope, context);
  expect(both.apply(row, [])).toBe(kept);
  expect(leavesOut(rule({ do: 'keep' }))).toBe(true);
});

test('what a rule reads and writes', () => {
  const one = ruleSchema.parse({
    id: 'r',
    name: 'R',
    when: { any: [{ field: 'title', is: 'differsFrom', value: 'price' }] },
    then: [
      { do: 'copyWord', field: 'colour', from: 'title', words: {} },
      { do: 'leaveOut', reason: 'x' },
    ],
  });
  expect(readsOf(one)).toEqual(['title', 'price', 'title']);
  expect(writesOf(one)).toEqual(['colour']);
});

test('actions in words', () => {
  const words = (action: object) => actionWords(rule(action).then[0] as Action, (code) => code.toUpperCase());
  expect(words({ do: 'steps', field: 'price', steps: [{ step: 'trim' }] })).toMatch(/^in PRICE: /);
  expect(words({ do: 'copyWord', field: 'colour', from: 'title', words: { a: 'b' } })).toBe(
    'set COLOUR to the first of 1 word in TITLE',
  );
  expect(words({ do: 'keep' })).toBe('include the item again');
});

test.each(['lanternry', 'orrin-bazaar', 'plazuela-norte', 'flickerstall', 'own-shop', 'tessel-boards'])(
  '%s: common rules are valid, and write and read only fields it has',
  (channel) => {
    const { sheet } = bundled(channel);
    const codes = new Set(sheet.fields.map(({ code }) => code));
    const rules = commonRules(sheet);
    expect(rules.length).toBeGreaterThan(3);
    for (const one of rules) {
      expect(ruleSchema.safeParse(one).error).toBeUndefined();
      expect(conditionSchema.safeParse(one.when).error).toBeUndefined();
      for (const code of [...writesOf(one), ...readsOf(one)]) expect(codes).toContain(code);
    }
  },
);
