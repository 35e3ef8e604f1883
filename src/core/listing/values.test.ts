import { trialField, trialSheet } from '../../../tests/support/sheets';
import { asText, attributeIndex, cutValue, type Row, type Value } from '../catalog/value';
import { readTree } from '../categories/tree';
import { fieldSchema } from '../channels/sheet';
import { type Composition, fixedText, fromAttribute } from '../compose/composition';
import type { Step } from '../compose/steps';
import { branchesOf, categoryMappingFor, emptyPlan, type Plan } from '../plans/plan';
import { compile } from './compile';
import { evaluate, evaluateAll } from './evaluate';
import { explain } from './explain';

const tree = readTree('code,parent,name_en\n1,,Garden\n11,1,Pots\n');
const sheet = trialSheet([
  trialField('ref', 'text', { role: 'id' }),
  trialField('amount', 'money', { role: 'price' }),
  trialField('body', 'richText'),
  trialField('plain', 'richText', { markup: ['b'] }),
  trialField('points', 'text', { values: { most: 5 } }),
  trialField('shelf', 'category'),
  trialField('code', 'text', { unique: true }),
]);
const codes = [
  'sku',
  'category',
  'price',
  'price@GBP',
  'price@EUR',
  'priceCurrency',
  'text',
  'points',
  'digital',
];
const index = attributeIndex(codes, 'EUR');
const rowOf = (values: Record<string, Value>, of = index): Row => of.codes.map((code) => values[code]);
const planOf = (currency: string, more: Partial<Plan> = {}): Plan => ({
  ...emptyPlan('trial', { country: 'DE', language: 'de', currency }),
  fields: {
    ref: fromAttribute('sku'),
    amount: fromAttribute('price', [{ step: 'money' }]),
    body: fromAttribute('text'),
    plain: fromAttribute('text'),
    points: fromAttribute('points'),
  },
  ...more,
});
const fieldOf = (plan: Plan, code: string, values: Record<string, Value>, of = index) => {
  const compiled = compile(plan, sheet, tree, of);
  const listing = evaluate(compiled, 'A', rowOf({ sku: 'A', ...values }, of));
  const at = sheet.fields.findIndex((one) => one.code === code);
  return { value: listing.values[at], listing, compiled };
};

describe('money is never relabelled', () => {
  test.each<[string, string, Record<string, Value>, string]>([
    ['the catalog’s currency', 'EUR', { price: '24.90' }, '24.90 EUR'],
    ['the item’s currency', 'EUR', { price: '24.90', priceCurrency: 'USD' }, '24.90 USD'],
    ['the currency beside the amount', 'EUR', { price: '24.90 USD' }, '24.90 USD'],
    ['a sign', 'EUR', { price: '$24.90' }, '24.90 USD'],
    [
      'the currency beside the amount before the item’s',
      'EUR',
      { price: '9 GBP', priceCurrency: 'USD' },
      '9.00 GBP',
    ],
    ['a market of another currency', 'GBP', { price: '24.90' }, '24.90 EUR'],
    ['an amount kept in that currency', 'GBP', { price: '24.90', 'price@GBP': '21.50' }, '21.50 GBP'],
    ['and rejected for others', 'EUR', { price: '24.90', 'price@GBP': '21.50' }, '24.90 EUR'],
    ['a currency without minor units', 'EUR', { price: '2490', priceCurrency: 'JPY' }, '2490 JPY'],
    ['a currency in words', 'EUR', { price: '5', priceCurrency: '€' }, '5.00 EUR'],
  ])('%s', (_what, market, values, wanted) => {
    const { value, listing } = fieldOf(planOf(market), 'amount', values);
    expect(value).toBe(wanted);
    const blocked = listing.issues.some(
      ({ check, facts }) => check === 'money' && 'reason' in facts && facts.reason === 'currency',
    );
    expect(blocked).toBe(!wanted.endsWith(market));
    expect(listing.state).toBe(blocked ? 'blocked' : 'ready');
  });

  test('where nobody has said a currency there is none, and the issue says so', () => {
    const { value, listing } = fieldOf(planOf('EUR'), 'amount', { price: '24.90' }, attributeIndex(codes));
    expect(value).toBe('24.90');
    expect(listing.issues).toMatchObject([{ check: 'money', facts: { reason: 'noCurrency' } }]);
  });

  test('arithmetic keeps the currency', () => {
    const dearer = fromAttribute('price', [{ step: 'adjust', percent: 10, amount: 0 }, { step: 'money' }]);
    const plan = planOf('EUR', { fields: { amount: dearer } });
    expect(fieldOf(plan, 'amount', { price: '10 USD' }).value).toBe('11.00 USD');
  });

  test('conditions read the amount of the market', () => {
    const plan = planOf('GBP', {
      rules: [
        {
          id: 'r',
          name: 'dear',
          on: true,
          when: { attribute: 'price', is: 'moreThan', value: '20' },
          then: [{ do: 'leaveOut', reason: 'dear' }],
        },
      ],
    });
    expect(fieldOf(plan, 'ref', { price: '24.90', 'price@GBP': '19.50' }).listing.state).toBe('ready');
    expect(fieldOf(plan, 'ref', { price: '19.50', 'price@GBP': '24.90' }).listing.state).toBe('leftOut');
  });
});

test.each(['yes', 'Ja', 'true', '1'])('a rule with “is %s” meets what is kept as true', (word) => {
  const plan = planOf('EUR', {
    rules: [
      {
        id: 'r',
        name: 'digital',
        on: true,
        when: { attribute: 'digital', is: 'equals', value: word },
        then: [{ do: 'leaveOut', reason: 'digital' }],
      },
    ],
  });
  expect(fieldOf(plan, 'ref', { digital: 'true' }).listing.state).toBe('leftOut');
  expect(fieldOf(plan, 'ref', { digital: 'false' }).listing.state).toBe('ready');
});

describe('what leaves is cleaned', () => {
  const nasty =
    '<p onclick="x()">Pot<script>alert(1)</script> <img src=x onerror=alert(2)><a href="javascript:x()">a</a> <b>b</b></p>';
  test.each([
    ['body', '<p>Pot <a>a</a> <b>b</b></p>'],
    ['plain', 'Pot a <b>b</b>'],
  ])('%s', (code, wanted) => {
    expect(fieldOf(planOf('EUR'), code, { text: nasty }).value).toBe(wanted);
  });

  test('also what a rule writes, and lineage says so', () => {
    const plan = planOf('EUR', {
      rules: [
        {
          id: 'r',
          name: 'script',
          on: true,
          when: { all: [] },
          then: [{ do: 'set', field: 'body', text: '<p>Hi</p><script>x</script>' }],
        },
      ],
    });
    const { value, compiled } = fieldOf(plan, 'body', { text: 'a' });
    expect(value).toBe('<p>Hi</p>');
    expect(explain(compiled, rowOf({ text: 'a' }), 'body').at(-1)).toMatchObject({
      kind: 'cleaned',
      value: '<p>Hi</p>',
    });
  });

  test.each(['<p>Fine</p>', 'five < six', 'a & b', '<ul><li>one</li></ul>'])('%s stays', (text) => {
    const { value } = fieldOf(planOf('EUR'), 'body', { text });
    expect(value).toBe(text === 'five < six' ? 'five &lt; six' : text);
  });
});

describe('lineage ends in the value of the bulk run', () => {
  const rules: Plan['rules'] = [
    {
      id: 'a',
      name: 'do not import',
      on: true,
      when: { attribute: 'digital', is: 'equals', value: 'true' },
      then: [{ do: 'leaveOut', reason: 'digital' }],
    },
    {
      id: 'b',
      name: 'mark',
      on: true,
      when: { all: [] },
      then: [
        { do: 'after', field: 'points', text: '!' },
        { do: 'before', field: 'body', text: 'New: ' },
      ],
    },
  ];
  const plans = [
    planOf('EUR', { rules }),
    planOf('EUR', { rules, scope: { attribute: 'price', is: 'moreThan', value: '20' } }),
    planOf('EUR', { rules, placements: { Pots: { leaveOut: 'not here' }, Pans: { category: '11' } } }),
  ];
  const items: Record<string, Value>[] = [
    { digital: 'true', points: ['one', 'two'], text: 'a', price: '30', category: 'Pots' },
    { digital: 'false', points: ['one', 'two'], text: 'a', price: '10', category: 'Pans' },
    { points: ['one'], text: '<i onclick="x">b</i>', price: '25', category: 'Pots' },
    { points: 'one', price: '5' },
  ];
  test.each(plans.map((plan, i) => [i, plan] as const))('plan %i', (_i, plan) => {
    const compiled = compile(plan, sheet, tree, index);
    for (const item of items) {
      const row = rowOf({ sku: 'A', ...item });
      const listing = evaluate(compiled, 'A', row);
      sheet.fields.forEach(({ code }, at) => {
        const last = explain(compiled, row, code).at(-1)?.value;
        const shown = listing.values[at];
        if (compiled.categoryAt === at) {
          expect(asText(last).endsWith(asText(shown))).toBe(true);
        } else expect([code, last]).toEqual([code, shown]);
      });
    }
  });
});

describe('one edit, one cell never stop anything', () => {
  const grow = Array.from({ length: 14 }, (): Step => ({ step: 'replace', find: 'ab', with: 'abababab' }));
  const shapes: [string, Composition][] = [
    ['replacements that each make a text four times as long', fromAttribute('text', grow)],
    [
      'patterns that do',
      fromAttribute(
        'text',
        grow.map(() => ({ step: 'replacePattern', pattern: '(ab)', with: '$1$1$1$1' })),
      ),
    ],
    [
      'parts that repeat',
      {
        alternatives: [
          {
            parts: Array.from({ length: 50 }, () => ({ attribute: 'text', glue: '', steps: [] })),
            steps: Array.from(
              { length: 20 },
              (): Step => ({ step: 'replace', find: 'a', with: 'aaaaaaaaaa' }),
            ),
          },
        ],
        steps: [],
      },
    ],
  ];
  test.each(shapes)('%s: the value is cut at its limit, and an issue says so', (_what, composition) => {
    const plan = planOf('EUR', { fields: { ref: fixedText('A'), code: composition } });
    const { value, listing } = fieldOf(plan, 'code', { text: 'ab'.repeat(500) });
    expect(asText(value).length).toBeLessThanOrEqual(50_000);
    expect(listing.issues).toMatchObject([{ check: 'cut', severity: 'blocker', field: 'code' }]);
  });

  test('a list ends at its limit', () => {
    expect(cutValue(Array.from({ length: 5000 }, () => 'a'))).toHaveLength(1000);
  });

  test('a category of three hundred thousand signs with a slash at every second has few levels', () => {
    const category = 'a/'.repeat(150_000);
    const levels = branchesOf(category);
    expect(levels.length).toBeLessThanOrEqual(12);
    expect(levels.reduce((sum, { length }) => sum + length, 0)).toBeLessThan(1_000_000);
  });

  test('names that every object has are no placements, fields or tables', () => {
    expect(categoryMappingFor({}, 'constructor')).toBeUndefined();
    expect(categoryMappingFor({}, '__proto__ > toString')).toBeUndefined();
    expect(fieldSchema.safeParse(trialField('constructor', 'text')).success).toBe(false);
    const looked = fromAttribute('text', [{ step: 'lookUp', table: 'constructor', otherwise: 'keep' }]);
    expect(fieldOf(planOf('EUR', { fields: { code: looked } }), 'code', { text: 'name' }).value).toBe('name');
  });
});

test('a value that all listings share is named on each, in one walk', () => {
  const compiled = compile(planOf('EUR', { fields: { code: fixedText('X') } }), sheet, tree, index);
  const skus = Array.from({ length: 60_000 }, (_, i) => `S${i}`);
  const listings = evaluateAll(compiled, { skus, rows: skus.map((sku) => rowOf({ sku })) });
  expect(listings[0]?.issues).toMatchObject([
    { check: 'duplicate', facts: { others: ['S1', 'S2', 'S3'], count: 59_999 } },
  ]);
  expect(listings[1]?.issues).toMatchObject([{ facts: { others: ['S0', 'S2', 'S3'] } }]);
  expect(listings[59_999]?.issues).toMatchObject([{ facts: { others: ['S0', 'S1', 'S2'], count: 59_999 } }]);
  expect(evaluateAll(compiled, { skus: [], rows: [] })).toEqual([]);
});
