import fc from 'fast-check';
import { attributeIndex } from '../catalog/value';
import { attributesIn, type Condition, compileCondition, conditionSchema } from './conditions';

const index = attributeIndex(['name', 'price']);
const scope = {
  index,
  fieldAt: (code: string) => ({ title: 0, place: 1 })[code],
  isUnder: (category: string, branch: string) => category.startsWith(branch),
  categoryField: 1,
  country: 'DE',
};
const holds = (
  condition: Condition,
  values: { name?: string; price?: string; title?: string; place?: string },
) => compileCondition(condition, scope)([values.name, values.price], [values.title, values.place]);

test.each([
  ['availability', 'in stock', 'InStock', true],
  ['availability', 'Auf Lager', 'InStock', true],
  ['availability', 'InStock', 'InStock', true],
  ['availability', 'out of stock', 'InStock', false],
  ['itemCondition', 'gebraucht', 'UsedCondition', true],
  ['digital', 'ja', 'true', true],
  ['digital', 'no', 'true', false],
  // Elsewhere the words are only words.
  ['name', 'in stock', 'InStock', false],
])('%s is %s, of an item that has %s: %s', (attribute, value, stored, wanted) => {
  const own = { ...scope, index: attributeIndex([attribute]) };
  for (const condition of [
    { attribute, is: 'equals', value },
    { attribute, is: 'oneOf', value: ['nothing', value] },
    { not: { attribute, is: 'differs', value } },
  ] as Condition[])
    expect(compileCondition(condition, own)([stored], [])).toBe(wanted);
});

test.each<[Condition, boolean]>([
  [{ attribute: 'name', is: 'filled' }, true],
  [{ attribute: 'name', is: 'empty' }, false],
  [{ attribute: 'unknown', is: 'empty' }, true],
  [{ attribute: 'name', is: 'equals', value: 'ridge POT' }, true],
  [{ attribute: 'name', is: 'differs', value: 'Ridge pot' }, false],
  [{ attribute: 'name', is: 'contains', value: 'pot' }, true],
  [{ attribute: 'name', is: 'lacks', value: 'pan' }, true],
  [{ attribute: 'name', is: 'startsWith', value: 'ridge' }, true],
  [{ attribute: 'name', is: 'endsWith', value: 'ridge' }, false],
  [{ attribute: 'name', is: 'oneOf', value: ['Fen pot', 'Ridge pot'] }, true],
  [{ attribute: 'name', is: 'longerThan', value: '8' }, true],
  [{ attribute: 'name', is: 'longerThan', value: '9' }, false],
  [{ attribute: 'name', is: 'shorterThan', value: '10' }, true],
  [{ attribute: 'unknown', is: 'shorterThan', value: '10' }, false],
  [{ attribute: 'price', is: 'between', value: ['24.90', '30'] }, true],
  [{ attribute: 'price', is: 'between', value: '20 and 24.90' }, true],
  [{ attribute: 'price', is: 'between', value: ['25', '30'] }, false],
  [{ attribute: 'price', is: 'between', value: 'cheap' }, false],
  [{ attribute: 'name', is: 'matches', value: '^R\\w+ pot$' }, true],
  [{ attribute: 'name', is: 'matches', value: '^pot' }, false],
  [{ attribute: 'name', is: 'matches', value: '' }, false],
  [{ attribute: 'name', is: 'sameAs', value: 'name' }, true],
  [{ attribute: 'name', is: 'differsFrom', value: 'price' }, true],
  [{ field: 'title', is: 'sameAs', value: 'unknown' }, true],
  [{ field: 'place', is: 'sameAs', value: 'title' }, false],
  [{ attribute: 'price', is: 'moreThan', value: '24' }, true],
  [{ attribute: 'price', is: 'lessThan', value: '24.9' }, false],
  [{ field: 'title', is: 'contains', value: 'x' }, false],
  [{ under: ['73'] }, true],
  [{ under: ['5', '73'] }, true],
  [{ under: ['5'] }, false],
  [{ country: ['DE', 'AT'] }, true],
  [{ country: ['GB'] }, false],
  [{ all: [] }, true],
  [{ any: [] }, false],
  [{ not: { any: [{ country: ['GB'] }, { under: ['5'] }] } }, true],
])('%j is %s', (condition, result) => {
  expect(holds(conditionSchema.parse(condition), { name: 'Ridge pot', price: '24.90', place: '7302' })).toBe(
    result,
  );
});

test.each([
  ['2027-03-01', 'before', '2027-03-02', true],
  ['2027-03-02', 'before', '2027-03-02', false],
  ['02.03.2027', 'after', '2027-03-01', true],
  ['2027-03-02T10:00:00Z', 'after', '01.03.2027', true],
  ['soon', 'after', '2020-01-01', false],
  ['2027-03-01', 'before', 'soon', false],
  ['2027-03-01', 'after', '', false],
])('%s %s %s: %s', (name, is, value, wanted) => {
  expect(holds(conditionSchema.parse({ attribute: 'name', is, value }), { name })).toBe(wanted);
});

test('a pattern that could run for ever is refused where it is written', () => {
  expect(conditionSchema.safeParse({ attribute: 'name', is: 'matches', value: '(?=a)' }).success).toBe(false);
  expect(conditionSchema.safeParse({ attribute: 'name', is: 'matches', value: 'a+' }).success).toBe(true);
});

test('a test names an attribute or a field, not both, not neither', () => {
  expect(conditionSchema.safeParse({ is: 'empty' }).success).toBe(false);
  expect(conditionSchema.safeParse({ attribute: 'a', field: 'b', is: 'empty' }).success).toBe(false);
});

test('not, all and any obey De Morgan', () => {
  const leaf: fc.Arbitrary<Condition> = fc.constantFrom(
    { attribute: 'name', is: 'filled' as const },
    { attribute: 'price', is: 'empty' as const },
    { under: ['7'] },
    { country: ['DE'] },
    { country: ['GB'] },
  );
  const values = fc.record({
    name: fc.constantFrom('x', undefined),
    price: fc.constantFrom('1', undefined),
    place: fc.constantFrom('73', '5', undefined),
  });
  fc.assert(
    fc.property(fc.array(leaf, { maxLength: 4 }), values, (parts, item) => {
      expect(holds({ not: { all: parts } }, item as never)).toBe(
        holds({ any: parts.map((not) => ({ not })) }, item as never),
      );
    }),
  );
});

test('tells which attributes it looks at', () => {
  expect(
    attributesIn({
      all: [
        { attribute: 'name', is: 'filled' },
        { not: { attribute: 'price', is: 'empty' } },
        { country: ['DE'] },
      ],
    }),
  ).toEqual(['name', 'price']);
});
