import { compileDemo, demoCatalog, demoPlan } from '../../../tests/support/demo';
import { evaluateAll } from '../listing/evaluate';
import { applyEdit } from '../plans/edit';
import { editWords } from '../plans/editWords';
import { planOn } from '../plans/plan';
import { checkSettingsOn, checkSettingsSchema, compileSeverities } from './severityOverrides';

const judgement = checkSettingsSchema.parse({
  severity: { 'choice:colour': 'tip', 'link:link': 'off', 'tooLong:headline': 'blocker' },
  waived: {
    a: { check: 'missing:barcode', skus: ['A', 'B'], reason: 'hand-made', until: '2027-03-31' },
    b: { check: 'missing:barcode', skus: ['C'], reason: 'hand-made too' },
  },
});

test('the merchant’s word counts, and where there is none the channel’s', () => {
  const judge = compileSeverities(judgement);
  expect(judge?.('X', 'choice', 'colour', 'blocker')).toBe('tip');
  expect(judge?.('X', 'choice', 'material', 'blocker')).toBe('blocker');
  expect(judge?.('X', 'link', 'link', 'blocker')).toBeUndefined();
  expect(judge?.('X', 'tooLong', 'headline', 'tip')).toBe('blocker');
  expect(judge?.('B', 'missing', 'barcode', 'blocker')).toBeUndefined();
  expect(judge?.('D', 'missing', 'barcode', 'blocker')).toBe('blocker');
  expect(compileSeverities(undefined)).toBeUndefined();
  expect(compileSeverities(checkSettingsSchema.parse({}))).toBeUndefined();
});

test('a waiver counts until the end of its day', () => {
  expect(Object.keys(checkSettingsOn(judgement, '2027-03-31').waived)).toEqual(['a', 'b']);
  expect(Object.keys(checkSettingsOn(judgement, '2027-04-01').waived)).toEqual(['b']);
  expect(
    checkSettingsSchema.safeParse({ waived: { a: { check: 'x:y', skus: ['A'], reason: '' } } }).success,
  ).toBe(false);
  expect(
    checkSettingsSchema.safeParse({
      waived: { a: { check: 'x:y', skus: ['A'], reason: 'r', until: 'soon' } },
    }).success,
  ).toBe(false);
});

test('a plan on a day: ended waivers are gone and today is that day; one that depends on no day stays the same object', () => {
  expect(planOn(demoPlan, '2027-01-01')).toBe(demoPlan);
  const dated = {
    ...demoPlan,
    checks: judgement,
    rules: [
      {
        id: 'r',
        name: 'today',
        on: true,
        when: { all: [{ attribute: 'availabilityStarts', is: 'after' as const, value: 'today' }] },
        then: [{ do: 'set' as const, field: 'headline', text: 'today' }],
      },
    ],
  };
  const on = planOn(dated, '2027-04-01');
  expect(Object.keys(on.checks?.waived ?? {})).toEqual(['b']);
  expect(on.rules[0]?.when).toEqual({
    all: [{ attribute: 'availabilityStarts', is: 'after', value: '2027-04-01' }],
  });
  expect(on.rules[0]?.then).toEqual([{ do: 'set', field: 'headline', text: 'today' }]);
});

test('listings follow: a blocker that is a tip blocks nothing, one that is waived is gone there and stays elsewhere', () => {
  const before = evaluateAll(compileDemo(), demoCatalog);
  const having = before.filter(({ issues }) =>
    issues.some(({ check, field }) => check === 'choice' && field === 'colour'),
  );
  const [first] = having;
  expect(having.length).toBeGreaterThan(1);
  const tip = applyEdit(demoPlan, {
    edit: 'checks',
    severity: { 'choice:colour': 'tip' },
  });
  const lighter = evaluateAll(compileDemo(tip), demoCatalog);
  for (const { sku } of having) {
    const now = lighter.find((one) => one.sku === sku);
    expect(now?.issues.find(({ check, field }) => check === 'choice' && field === 'colour')?.severity).toBe(
      'tip',
    );
  }
  expect(lighter.filter(({ state }) => state === 'blocked').length).toBeLessThan(
    before.filter(({ state }) => state === 'blocked').length,
  );
  const waiver = { check: 'choice:colour', skus: [first?.sku ?? ''], reason: 'as the maker calls it' };
  const edit = { edit: 'checks' as const, waived: { w: waiver } };
  const waived = evaluateAll(compileDemo(applyEdit(demoPlan, edit)), demoCatalog);
  const still = waived.filter(({ issues }) =>
    issues.some(({ check, field }) => check === 'choice' && field === 'colour'),
  );
  expect(still.map(({ sku }) => sku)).toEqual(having.slice(1).map(({ sku }) => sku));
  expect(editWords(edit, demoPlan, (code) => code)).toBe('waived a check for some items');
  // Taken back, all is as it was.
  const back = applyEdit(applyEdit(demoPlan, edit), {
    edit: 'checks',
    severity: {},
    waived: { w: null },
  });
  expect(evaluateAll(compileDemo(back), demoCatalog)).toEqual(before);
});

test('a check of one’s own is said at its field where its condition holds, judged and waived like any other', () => {
  const own = {
    words: 'Pots above 30 want a pattern',
    field: 'pattern',
    severity: 'blocker' as const,
    when: {
      all: [
        { attribute: 'category', is: 'equals' as const, value: 'Pots, glazed' },
        { attribute: 'price', is: 'moreThan' as const, value: '30' },
      ],
    },
  };
  const edit = { edit: 'checks' as const, own: { 'own-1': own } };
  const having = (plan: typeof demoPlan) =>
    evaluateAll(compileDemo(plan), demoCatalog).filter(({ issues }) =>
      issues.some(({ check }) => check === 'own'),
    );
  const found = having(applyEdit(demoPlan, edit));
  expect(found.length).toBeGreaterThan(2);
  for (const { state, issues } of found) {
    expect(state).toBe('blocked');
    expect(issues.find(({ check }) => check === 'own')).toEqual({
      check: 'own',
      severity: 'blocker',
      field: 'pattern',
      facts: { words: own.words },
    });
  }
  const tip = applyEdit(applyEdit(demoPlan, edit), {
    edit: 'checks',
    severity: { 'own:pattern': 'off' },
  });
  expect(having(tip)).toEqual([]);
  expect(editWords(edit, demoPlan, (code) => code)).toBe('checks “Pots above 30 want a pattern”');
  expect(
    applyEdit(applyEdit(demoPlan, edit), {
      edit: 'checks',
      severity: {},
      own: { 'own-1': null },
    }),
  ).toEqual(demoPlan);
});
