import { trialField, trialSheet } from '../../../tests/support/sheets';
import { readTree } from '../categories/tree';
import { compileChecks } from './compileChecks';
import { noExternalFacts } from './externalFacts';
import type { Issue } from './issue';
import { issueWords } from './messages';

const sheet = trialSheet(
  [
    trialField('ref', 'text', { label: 'Reference', role: 'id' }),
    trialField('title', 'text', { label: 'Title', role: 'title', length: { most: 150 } }),
    trialField('text', 'richText', { label: 'Text', role: 'description' }),
    trialField('claim', 'text', { label: 'Claim', length: { most: 90 } }),
    trialField('brand', 'text', { label: 'Brand', role: 'brand' }),
    trialField('part', 'text', { label: 'Part number', role: 'mpn' }),
    trialField('number', 'identifier', { label: 'Number', role: 'gtin' }),
  ],
  { format: 'atom' },
);
const checks = compileChecks({
  sheet,
  tree: readTree('code,parent,name_en\n1,,Garden\n11,1,Pots\n'),
  currency: 'EUR',
  country: 'DE',
  met: new Set(),
  seen: noExternalFacts,
  catalogCurrency: 'EUR',
  filledFrom: () => [],
  slotOf: () => undefined,
  fieldAt: (code) => sheet.fields.findIndex((one) => one.code === code),
  predicate: () => () => false,
});

/** The checks that say something of one field's value, with how serious they are. */
function stated(code: string, value: string): string[] {
  const issues: Issue[] = [];
  const values = sheet.fields.map((field) =>
    field.code === code ? value : field.code === 'ref' ? 'X1' : undefined,
  );
  for (const { run } of checks)
    run([], values, (check, severity, field, facts) =>
      issues.push({ check, severity, field, facts } as Issue),
    );
  for (const issue of issues) expect(issueWords(issue, (field) => field)).toContain(issue.field);
  return issues
    .filter(({ field, check }) => field === code && check !== 'phoneCut')
    .map(({ check, severity }) => `${check} ${severity}`);
}

// Each as a careful person would say. Common practice of channels; no one source.
test.each([
  ['title', 'Ridge pot, free shipping', 'promotion risk'],
  ['title', 'Übertopf versandkostenfrei, moosgrün', 'promotion risk'],
  ['title', 'Maceta de cerámica, envío gratis', 'promotion risk'],
  ['title', 'Pot en grès – livraison gratuite', 'promotion risk'],
  ['title', 'Vaso in gres al miglior prezzo', 'promotion risk'],
  ['title', 'Bloempot, uitverkoop', 'promotion risk'],
  ['title', 'Doniczka, wyprzedaż', 'promotion risk'],
  ['title', 'Vaso de barro, frete grátis', 'promotion risk'],
  ['title', 'Kruka i stengods, fri frakt', 'promotion risk'],
  ['title', 'Grow light 20 % off', 'promotion risk'],
  ['title', 'Grow light -20 %', 'promotion risk'],
  ['text', '<p>Buy now while stocks last.</p>', 'promotion tip'],
  ['title', 'BEST GREEN WATERING CAN', 'capitals risk'],
  ['title', 'GROSSE GIESSKANNE aus Zink', 'capitals risk'],
  ['title', 'Watering can, green watering can', 'wordTwice tip'],
  ['title', 'Übertopf Keramik übertopf rund', 'wordTwice tip'],
  ['title', 'Seed kit ★ nine packets', 'symbols risk'],
  ['title', 'Seed kit 🌱', 'symbols risk'],
  ['title', 'Seed kit!!! nine packets', 'symbols risk'],
  ['claim', 'Keeps the sill dry ✔', 'symbols tip'],
  ['text', '<p>Questions? hello@quillmoss.example</p>', 'contact risk'],
  ['text', 'More at www.quillmoss.example today', 'contact risk'],
  ['text', 'Tel. 030 1234 5678', 'contact risk'],
  ['text', 'Call +49 30 1234567', 'contact risk'],
  ['title', 'Ãœbertopf mit Untersetzer', 'garbled risk'],
  ['title', 'Gardenerâ€™s apron', 'garbled risk'],
  ['claim', 'Felt feet<br>for the sill', 'garbled risk'],
  ['claim', 'Pots &amp; saucers', 'garbled risk'],
  ['text', '<p>Holds 2 l � and more</p>', 'garbled risk'],
  ['brand', 'No brand', 'placeholder risk'],
  ['brand', 'ohne Marke', 'placeholder risk'],
  ['brand', 'n/a', 'placeholder risk'],
  ['part', '0000', 'placeholder risk'],
  ['part', 'Does not apply', 'placeholder risk'],
  ['number', '0000000000000', 'identifier blocker'],
  ['number', '9811234567891', 'identifier blocker'],
  ['number', '1234567890128', 'identifier blocker'],
])('%s “%s”: %s', (field, value, wanted) => {
  expect(stated(field, value)).toEqual([wanted]);
});

test.each([
  ['title', 'Ridge pot with drip tray and felt feet, moss, 10 cm x 10 cm'],
  ['title', 'LED grow light PAR20, IP65, 40 W, USB-C'],
  ['title', 'Pot and pot holder, pots of three sizes'],
  ['title', 'First seed kit with a small trowel, small'],
  ['title', 'Watering can 1.5 l – brass rose, 70 % recycled zinc'],
  ['title', 'A gardener’s free hand: secateurs'],
  ['title', 'Sales ledger for growers, paperback'],
  ['title', 'Seed & soil kit, 6 °C to 30 °C, Sprigwell®'],
  ['title', 'Ângela’s sálvia: sementes, 2 g'],
  ['title', 'Château-style planter, crème brûlée glaze'],
  ['text', '<p>Delivered in recycled card. Order code 4-021-77.</p><ul><li>Two litres</li></ul>'],
  ['text', 'Part 3029-1174-88 fits all lamps made since 2019-04-12.'],
  ['claim', 'Weighs < 200 g and > 3 l/h flow'],
  ['claim', 'Rock & roll'],
  ['brand', 'Nonesuch'],
  ['brand', 'Tarnholt'],
  ['part', 'N-A-440'],
  ['part', '000417'],
  ['number', '9520000030070'],
  ['number', '4006381333931'],
])('%s “%s”: nothing to say', (field, value) => {
  expect(stated(field, value)).toEqual([]);
});

describe('prices and stock that contradict each other on the item', () => {
  const codes = [
    'price',
    'cost',
    'salePrice',
    'listPrice',
    'saleStarts',
    'saleEnds',
    'availability',
    'inventoryLevel',
    'availabilityStarts',
  ];
  const offers = trialSheet(
    [
      trialField('ref', 'text', { label: 'Reference', role: 'id' }),
      trialField('amount', 'money', { label: 'Price', role: 'price' }),
      trialField('state', 'text', { label: 'Stock', role: 'availability' }),
    ],
    { format: 'atom' },
  );
  function found(item: Readonly<Record<string, string>>, currency = 'EUR'): string[] {
    const issues: Issue[] = [];
    const compiled = compileChecks({
      sheet: offers,
      tree: readTree('code,parent,name_en\n1,,Garden\n11,1,Pots\n'),
      currency,
      country: 'DE',
      met: new Set(),
      seen: noExternalFacts,
      catalogCurrency: 'EUR',
      filledFrom: () => [],
      slotOf: (code) => codes.indexOf(code),
      fieldAt: (code) => offers.fields.findIndex((one) => one.code === code),
      predicate: () => () => false,
    });
    const row = codes.map((code) => item[code]);
    for (const { run } of compiled)
      run(row, ['X1', undefined, undefined], (check, severity, field, facts) =>
        issues.push({ check, severity, field, facts } as Issue),
      );
    return issues.map((issue) => issueWords(issue, (field) => field));
  }

  test.each([
    [{ price: '10.00', cost: '12.00' }, 'amount 10.00 is below the cost of the item, 12.00'],
    [{ price: '10.00', salePrice: '10.00' }, 'amount: the sale price 10.00 is not below the price'],
    [
      { price: '10.00', salePrice: '8.00', saleStarts: '2026-12-24', saleEnds: '2026-12-01' },
      'amount: the sale ends before it starts, 2026-12-24 – 2026-12-01',
    ],
    [{ price: '10.00', listPrice: '9.00' }, 'amount: the list price 9.00 is not above 10.00'],
    [{ availability: 'InStock', inventoryLevel: '0' }, 'state is in stock, but the stock is 0'],
    [{ availability: 'OutOfStock', inventoryLevel: '4' }, 'state is out of stock, but the stock is 4'],
    [{ availability: 'PreOrder' }, 'state promises later delivery without a date'],
  ])('%j', (item, words) => {
    expect(found(item)).toEqual([words]);
  });

  test.each([
    [{ price: '10.00', cost: '6.00', salePrice: '8.00', listPrice: '12.00' }],
    [{ price: '10.00', salePrice: '8.00', saleStarts: '2026-12-01', saleEnds: '2026-12-24' }],
    [{ availability: 'InStock', inventoryLevel: '4' }],
    [{ availability: 'InStock' }],
    [{ availability: 'OutOfStock', inventoryLevel: '0' }],
    [{ availability: 'PreOrder', availabilityStarts: '2027-02-01' }],
    [{ cost: '6.00' }],
  ])('%j: nothing to say', (item) => {
    expect(found(item)).toEqual([]);
  });

  test('a market with another currency has amounts of its own', () => {
    expect(found({ price: '10.00', cost: '12.00' }, 'GBP')).toEqual([]);
  });
});

test('a name that stands behind the phone’s cut is told, one before it is not', () => {
  const own = trialSheet([
    trialField('ref', 'text', { role: 'id' }),
    trialField('title', 'text', { role: 'title', length: { most: 150, phone: 20 } }),
  ]);
  const found = (title: string, name: string | undefined) => {
    const issues: string[] = [];
    for (const { run } of compileChecks({
      sheet: own,
      tree: readTree('code,parent,name_en\n1,,Garden\n'),
      currency: 'EUR',
      country: 'DE',
      met: new Set(),
      seen: noExternalFacts,
      catalogCurrency: 'EUR',
      filledFrom: () => [],
      slotOf: (code) => (code === 'name' ? 0 : undefined),
      fieldAt: (code) => own.fields.findIndex((one) => one.code === code),
      predicate: () => () => false,
    }))
      run([name], ['X1', title], (...[check]) => void issues.push(check));
    return issues.filter((check) => check === 'phoneCut');
  };
  expect(found('For the kitchen sill: ridge pot', 'Ridge pot')).toEqual(['phoneCut']);
  expect(found('Tarnholt ridge pot for the kitchen sill', 'Ridge pot')).toEqual([]);
  expect(found('Ridge pot', 'Ridge pot')).toEqual([]);
  expect(found('For the kitchen sill: ridge pot', undefined)).toEqual([]);
});
