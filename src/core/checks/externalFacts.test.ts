import { trialField, trialSheet } from '../../../tests/support/sheets';
import { attributeIndex } from '../catalog/value';
import { readTree } from '../categories/tree';
import { type Sheet, sheetSchema } from '../channels/sheet';
import { fromAttribute } from '../compose/composition';
import { type Condition, conditionSchema } from '../conditions/conditions';
import { compile } from '../listing/compile';
import { evaluate } from '../listing/evaluate';
import { emptyPlan } from '../plans/plan';
import { ruleSchema } from '../rules/rule';
import type { PageFacts } from '../shop/page';
import {
  type CatalogHints,
  type ExternalFacts,
  noExternalFacts,
  type PictureMeasurement,
} from './externalFacts';
import { issueWords } from './messages';

const attributeOf = {
  sku: 'sku',
  title: 'name',
  price: 'price',
  stock: 'availability',
  page: 'url',
  barcode: 'gtin',
  picture: 'image',
  more: 'otherImages',
} as const;
const plain = trialSheet([
  trialField('sku', 'text', { role: 'id' }),
  trialField('title', 'text', { role: 'title' }),
  trialField('price', 'money', { role: 'price' }),
  trialField('stock', 'text', { role: 'availability' }),
  trialField('page', 'link', { role: 'link' }),
  trialField('barcode', 'identifier', { role: 'gtin' }),
  trialField('picture', 'pictures', { role: 'image', values: { most: 9 } }),
  trialField('more', 'pictures', { values: { most: 9 } }),
]);
const sheet = sheetSchema.parse({
  ...plain,
  pictures: {
    least: 1,
    most: 9,
    longestSide: { least: 1000, advised: 1500, most: 8000 },
    formats: ['jpeg', 'png'],
    white: 0.98,
    plain: true,
  },
});
const index = attributeIndex([...Object.values(attributeOf), 'itemCondition', 'brand'], 'EUR');
const tree = readTree('code,parent,name_en\n1,,Garden\n');

const item: Readonly<Record<string, string | string[]>> = {
  sku: 'POT-14',
  name: 'Ridge pot',
  price: '24.90 EUR',
  availability: 'InStock',
  itemCondition: 'NewCondition',
  url: 'https://quillmoss.example/pot',
  gtin: '9520000030148',
  image: ['https://quillmoss.example/1.jpg'],
};

/** What is said of a listing in words, where this was found by looking. */
function stated(
  found: Partial<ExternalFacts>,
  more: Readonly<Record<string, string | string[] | undefined>> = {},
  on: Sheet = sheet,
  currency = 'EUR',
): string[] {
  const plan = emptyPlan('trial', { country: 'DE', language: 'de', currency });
  const compiled = compile(
    {
      ...plan,
      fields: Object.fromEntries(
        Object.entries(attributeOf).map(([field, attribute]) => [field, fromAttribute(attribute)]),
      ),
    },
    on,
    tree,
    index,
    { seen: { ...noExternalFacts, ...found } },
  );
  const values = { ...item, ...more };
  const row = index.codes.map((code) => values[code]);
  return evaluate(compiled, 'POT-14', row).issues.map(
    (issue) => `${issue.severity}: ${issueWords(issue, (field) => field)}`,
  );
}

test('what is looked at between two evaluations counts in the second', () => {
  let known: PictureMeasurement | undefined;
  const compiled = compile(
    {
      ...emptyPlan('trial', { country: 'DE', language: 'de', currency: 'EUR' }),
      fields: { picture: fromAttribute('image', [{ step: 'take', from: 1, to: 1 }]) },
    },
    sheet,
    tree,
    index,
    { seen: { ...noExternalFacts, picture: () => known } },
  );
  const row = index.codes.map((code) => item[code]);
  const pictures = () =>
    evaluate(compiled, 'POT-14', row).issues.flatMap(({ check }) => (check === 'picture' ? [check] : []));
  expect(pictures()).toEqual([]);
  known = 'unreadable';
  expect(pictures()).toEqual(['picture']);
});

const good: PictureMeasurement = { width: 1600, height: 1200, format: 'jpeg', whiteBorder: 1 };
const picture = (facts: PictureMeasurement | undefined) => ({ picture: () => facts });

describe('pictures as they were measured', () => {
  it.each<[string, PictureMeasurement | undefined, string[]]>([
    ['nothing was looked at', undefined, []],
    ['all is as it should be', good, []],
    [
      'it cannot be read',
      'unreadable',
      ['blocker: picture: the picture https://quillmoss.example/1.jpg cannot be read'],
    ],
    [
      'it is small',
      { ...good, width: 320, height: 240 },
      ['blocker: picture is 320 × 240 pixels; 1000 on the longest side is the minimum'],
    ],
    ['its shorter side alone is small', { ...good, width: 1600, height: 400 }, []],
    [
      'it is as large as the least',
      { ...good, width: 1000, height: 1000 },
      ['tip: picture is 1000 × 1000 pixels; 1500 on the longest side is recommended'],
    ],
    [
      'it is huge',
      { ...good, width: 9000 },
      ['blocker: picture is 9000 × 1200 pixels; 8000 on the longest side is the maximum'],
    ],
    [
      'its format is rejected',
      { ...good, format: 'webp' },
      ['blocker: picture is a WEBP; accepted are JPEG, PNG'],
    ],
    [
      'it stands on grey',
      { ...good, whiteBorder: 0.123 },
      ['risk: picture: 12 % of its border is white; 98 % are required'],
    ],
    ['its border is nearly white', { ...good, whiteBorder: 0.98 }, []],
    ['words stand on it', { ...good, beside: ['words'] }, ['risk: picture shows words beside the product']],
    [
      'words in a frame',
      { ...good, beside: ['words', 'frame'] },
      ['risk: picture shows words and a frame beside the product'],
    ],
  ])('%s', (_what, facts, expected) => expect(stated(picture(facts))).toEqual(expected));

  it('a wrong picture beside the main one is dropped by the channel, and blocks nothing; one word for all of them', () => {
    const found = {
      picture: (link: string) =>
        link.endsWith('/1.jpg') ? good : { ...good, width: 500, height: 500, whiteBorder: 0 },
    };
    expect(stated(found, { otherImages: ['https://a.example/2.jpg', 'https://a.example/3.jpg'] })).toEqual([
      'risk: more is 500 × 500 pixels; 1000 on the longest side is the minimum',
    ]);
  });

  it('a channel that says nothing of pictures asks nothing of them', () =>
    expect(
      stated(
        picture({ ...good, width: 10, height: 10, format: 'bmp', whiteBorder: 0, beside: ['words'] }),
        {},
        plain,
      ),
    ).toEqual([]));

  it('words on a further picture are nobody’s business, nor where the channel takes them', () => {
    const further = {
      picture: (link: string): PictureMeasurement =>
        link.endsWith('/1.jpg') ? good : { ...good, beside: ['words'] },
    };
    expect(stated(further, { otherImages: ['https://a.example/2.jpg'] })).toEqual([]);
    const taken: Sheet = { ...sheet, pictures: sheet.pictures && { ...sheet.pictures, plain: undefined } };
    expect(stated(picture({ ...good, beside: ['words'] }), {}, taken)).toEqual([]);
  });
});

const product = {
  sku: 'POT-14',
  gtin: '9520000030148',
  price: '24.90',
  currency: 'EUR',
  availability: 'InStock',
  condition: 'NewCondition',
};
const page = (known: PageFacts) => ({
  page: (address: string) => (address === item.url ? known : undefined),
});
const shows = (more: Partial<typeof product> = {}) =>
  page({ state: 'read', products: [{ ...product, ...more }] });

describe('what the shop’s own page says', () => {
  it.each<[string, Partial<ExternalFacts>, string[]]>([
    ['the same', shows(), []],
    ['the same price, written otherwise', shows({ price: '24.9' }), []],
    [
      'another price',
      shows({ price: '19.90' }),
      ['risk: price: the shop’s page shows 19.90 EUR, the listing 24.90 EUR'],
    ],
    [
      'another currency',
      shows({ currency: 'CHF' }),
      ['risk: price: the shop’s page shows 24.90 CHF, not EUR'],
    ],
    [
      'sold out',
      shows({ availability: 'OutOfStock' }),
      ['risk: stock: the shop’s page shows out of stock, the item in stock'],
    ],
    ['few left, which is in stock', shows({ availability: 'LimitedAvailability' }), []],
    ['a word of its own for stock', shows({ availability: 'Soon' }), []],
    [
      'used goods',
      shows({ condition: 'UsedCondition' }),
      ['risk: page: the shop’s page shows used condition, the item new condition'],
    ],
    [
      'another number',
      shows({ gtin: '9520000030070' }),
      ['risk: barcode: the shop’s page shows 9520000030070, the listing 9520000030148'],
    ],
    ['the number with its leading zero', shows({ gtin: '09520000030148' }), []],
    [
      'nothing',
      page({ state: 'silent', products: [] }),
      ['risk: page: the page has no product data that a channel can read'],
    ],
    [
      'that it is gone',
      page({ state: 'gone', products: [] }),
      ['risk: page: there is no page at https://quillmoss.example/pot'],
    ],
    [
      'that it has moved',
      page({ state: 'moved', words: 'https://quillmoss.example/new', products: [] }),
      ['risk: page: the page has moved to https://quillmoss.example/new'],
    ],
    ['nothing to visitors', page({ state: 'forbidden', products: [] }), []],
  ])('it says %s', (_what, found, expected) => expect(stated(found)).toEqual(expected));

  it('of several products the one that is the item counts, and none where it is not surely there', () => {
    const other = { ...product, sku: 'POT-10', gtin: '9520000030070', price: '18.90' };
    const both = (own: object) => page({ state: 'read', products: [other, { ...product, ...own }] });
    expect(stated(both({}))).toEqual([]);
    expect(stated(both({ gtin: undefined, price: '30' }))).toHaveLength(1);
    expect(stated(both({ gtin: undefined, sku: undefined, price: '30' }))).toEqual([]);
  });

  it('a page of many variants that shows the data of one says nothing of the others', () => {
    const one = (own: object) => page({ state: 'read', products: [{ ...product, price: '30', ...own }] });
    expect(stated(one({ sku: 'POT-10', gtin: '9520000030070' }))).toEqual([]);
    expect(stated(one({ sku: 'POT-10', gtin: undefined }))).toEqual([]);
    expect(stated(one({ sku: undefined, gtin: '9520000030070' }))).toEqual([]);
    expect(stated(one({ sku: undefined, gtin: undefined }))).toHaveLength(1);
  });

  it('another market with its own currency is shown other pages; other facts count there too', () => {
    expect(stated(shows({ price: '19.90' }), { price: '21.00 GBP' }, sheet, 'GBP')).toEqual([]);
    expect(stated(shows({ availability: 'SoldOut' }), { price: '21.00 GBP' }, sheet, 'GBP')).toHaveLength(1);
  });

  it('a listing that leads nowhere, and the shop itself, are not held against it', () => {
    const wrong = shows({ price: '1', availability: 'SoldOut' });
    expect(stated(wrong, { url: undefined })).toEqual([]);
    expect(stated(wrong, {}, { ...sheet, makesPages: true })).toEqual([]);
  });
});

describe('what the rest of the catalog tells', () => {
  const hints = (found: CatalogHints) => ({
    hints: (sku: string) => (sku === 'POT-14' ? found : undefined),
  });
  it('a price far from its likes, as long as it is that price', () => {
    const found = hints({ price: { of: '24.90 EUR', usual: '2.49', alike: 7 } });
    expect(stated(found)).toEqual([
      'risk: price 24.90 EUR is far from the 2.49 usual for 7 similar items; check the decimal point',
    ]);
    expect(stated(found, { price: '2.49 EUR' })).toEqual([]);
  });
  it('another brand in the name, as long as it is that name', () => {
    const found = hints({ brand: { of: 'Ridge pot', found: 'Tarnholt' } });
    expect(stated(found)).toEqual(['risk: title names “Tarnholt”, the brand of other items']);
    expect(stated(found, { name: 'Pot' })).toEqual([]);
  });
});

describe('conditions on what was found', () => {
  /** The title of the listing once a rule has marked it where the condition holds. */
  const marked = (
    when: Condition,
    found: Partial<ExternalFacts> = {},
    more: Readonly<Record<string, string | string[] | undefined>> = {},
  ): boolean => {
    const plan = emptyPlan('trial', { country: 'DE', language: 'de', currency: 'EUR' });
    const fields = Object.fromEntries(
      Object.entries(attributeOf).map(([field, attribute]) => [field, fromAttribute(attribute)]),
    );
    const rules = [
      ruleSchema.parse({ id: 'r', name: 'r', when, then: [{ do: 'set', field: 'title', text: 'met' }] }),
    ];
    const compiled = compile({ ...plan, fields, rules, feed: 'trial-de' }, sheet, tree, index, {
      seen: { ...noExternalFacts, ...found },
    });
    const values = { ...item, ...more };
    return (
      evaluate(
        compiled,
        'POT-14',
        index.codes.map((code) => values[code]),
      ).values[1] === 'met'
    );
  };
  const grey: PictureMeasurement = { width: 800, height: 600, format: 'webp', whiteBorder: 0.4215 };

  it.each<
    [Condition, Partial<ExternalFacts>, Readonly<Record<string, string | string[] | undefined>>, boolean]
  >([
    [{ fact: 'pictures', is: 'equals', value: '1' }, {}, {}, true],
    [{ fact: 'pictures', is: 'lessThan', value: '3' }, {}, { otherImages: ['a', 'b'] }, false],
    [{ fact: 'pictures', is: 'equals', value: '0' }, {}, { image: undefined }, true],
    [{ fact: 'pictureWidth', is: 'lessThan', value: '1000' }, picture(grey), {}, true],
    [{ fact: 'pictureWidth', is: 'lessThan', value: '1000' }, picture(good), {}, false],
    [{ fact: 'pictureHeight', is: 'between', value: ['600', '700'] }, picture(grey), {}, true],
    [{ fact: 'pictureFormat', is: 'oneOf', value: ['webp', 'gif'] }, picture(grey), {}, true],
    [{ fact: 'pictureBorder', is: 'moreThan', value: '42' }, picture(grey), {}, true],
    [{ fact: 'pictureBorder', is: 'moreThan', value: '42.2' }, picture(grey), {}, false],
    [{ fact: 'pictureReadable', is: 'equals', value: 'no' }, picture('unreadable'), {}, true],
    [{ fact: 'pictureReadable', is: 'equals', value: 'no' }, picture(good), {}, false],
    // Of what nobody has looked at nothing is known.
    [{ fact: 'pictureReadable', is: 'empty' }, {}, {}, true],
    [{ fact: 'pictureWidth', is: 'lessThan', value: '1000' }, {}, {}, false],
    [
      { fact: 'standing', is: 'equals', value: 'refused' },
      { standing: () => ['there', 'refused'] },
      {},
      true,
    ],
    [{ fact: 'standing', is: 'differs', value: 'refused' }, { standing: () => ['there'] }, {}, true],
    [{ fact: 'standing', is: 'oneOf', value: ['new', 'back'] }, { standing: () => ['there'] }, {}, false],
    [
      { fact: 'standing', is: 'equals', value: 'new' },
      { standing: (feed, sku) => (feed === 'trial-de' && sku === 'POT-14' ? ['new'] : undefined) },
      {},
      true,
    ],
    // Where nobody looked, nothing is known.
    [{ fact: 'standing', is: 'equals', value: 'new' }, {}, {}, false],
    [{ fact: 'issues', is: 'empty' }, picture(good), {}, true],
    [{ fact: 'issues', is: 'equals', value: 'identifier' }, {}, { gtin: '9520000030149' }, true],
    [{ fact: 'issues', is: 'equals', value: 'identifier:barcode' }, {}, { gtin: '9520000030149' }, true],
    [{ fact: 'issues', is: 'equals', value: 'identifier:title' }, {}, { gtin: '9520000030149' }, false],
    [{ fact: 'issues', is: 'differs', value: 'identifier' }, {}, {}, true],
    [{ fact: 'issues', is: 'oneOf', value: ['money', 'pictureSize'] }, picture(grey), {}, true],
  ])('%j', (when, found, more, expected) => {
    expect(marked(when, found, more)).toBe(expected);
  });

  it('an own check that asks for issues is asked itself of nothing, and ends', () => {
    const plan = emptyPlan('trial', { country: 'DE', language: 'de', currency: 'EUR' });
    const own = {
      words: 'More is wrong',
      field: 'title',
      severity: 'risk' as const,
      when: { fact: 'issues', is: 'equals', value: 'identifier' } as const,
    };
    const compiled = compile(
      {
        ...plan,
        fields: { barcode: fromAttribute('gtin') },
        checks: { severity: {}, waived: {}, own: { a: own } },
      },
      sheet,
      tree,
      index,
    );
    const issues = (gtin: string) =>
      evaluate(
        compiled,
        'x',
        index.codes.map((code) => (code === 'gtin' ? gtin : undefined)),
      ).issues.map(({ check }) => check);
    expect(issues('9520000030149')).toContain('own');
    expect(issues('9520000030148')).not.toContain('own');
  });

  it('names one thing, and compares what was found with a value', () => {
    const parse = (test: object) => conditionSchema.safeParse(test).success;
    expect(parse({ fact: 'pictureWidth', is: 'moreThan', value: '9' })).toBe(true);
    expect(parse({ fact: 'pictureWidth', field: 'title', is: 'filled' })).toBe(false);
    expect(parse({ fact: 'pictureWidth', is: 'sameAs', value: 'title' })).toBe(false);
    expect(parse({ fact: 'weather', is: 'filled' })).toBe(false);
  });
});
