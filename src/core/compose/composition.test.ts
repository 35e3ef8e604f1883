import fc from 'fast-check';
import { attributeIndex, type Row } from '../catalog/value';
import {
  type Composition,
  compileComposition,
  compositionSchema,
  fromAttribute,
  type LineageStep,
} from './composition';
import { compileStep, type Step, type StepName, stepSchema, steps, stepWords } from './steps';

const index = attributeIndex(['name', 'color', 'size', 'gtin', 'image', 'price', 'priceCurrency'], 'EUR');
const context = {
  index,
  language: 'en',
  currency: 'EUR',
  tables: { colours: { Moss: 'green', Été: 'summer' } },
};
const rowOf = (values: Record<string, string | string[]>): Row => index.codes.map((code) => values[code]);
const run = (composition: unknown, values: Record<string, string | string[]>) =>
  compileComposition(compositionSchema.parse(composition), context).run(rowOf(values));

const title = {
  alternatives: [
    {
      parts: [
        { attribute: 'name' },
        { attribute: 'color', glue: ', ' },
        { attribute: 'size', glue: ', ' },
        { text: 'cm', glue: ' ' },
      ],
    },
  ],
};

describe('what is remembered of values', () => {
  test('is of the value alone: steps that look at the item see each item', () => {
    const amount = compileComposition(
      compositionSchema.parse(
        fromAttribute('price', [{ step: 'trim' }, { step: 'money' }, { step: 'trim' }]),
      ),
      context,
    );
    const address = compileComposition(
      compositionSchema.parse(
        fromAttribute('image', [{ step: 'addQuery', parameters: 'item={name}' }, { step: 'trim' }]),
      ),
      context,
    );
    for (let round = 0; round < 3; round++) {
      expect(amount.run(rowOf({ price: ' 10', priceCurrency: 'JPY' }))).toBe('10 JPY');
      expect(amount.run(rowOf({ price: ' 10', priceCurrency: 'EUR' }))).toBe('10.00 EUR');
      for (const name of ['a', 'b'])
        expect(address.run(rowOf({ image: 'https://quillmoss.example/1.jpg', name }))).toBe(
          `https://quillmoss.example/1.jpg?item=${name}`,
        );
    }
  });
});

describe('parts', () => {
  test('empty parts take their glue along', () => {
    expect(run(title, { name: 'Pot', color: 'moss', size: '14' })).toBe('Pot, moss, 14 cm');
    expect(run(title, { name: 'Pot', size: '14' })).toBe('Pot, 14 cm');
    expect(run(title, { color: 'moss' })).toBe('moss');
    expect(run(title, {})).toBeUndefined();
  });

  test('a text goes with the attribute before it, or the one after', () => {
    expect(run(title, { name: 'Pot', color: 'moss' })).toBe('Pot, moss');
    expect(run({ alternatives: [{ parts: [{ text: 'Size' }, { attribute: 'size' }] }] }, {})).toBeUndefined();
    expect(run({ alternatives: [{ parts: [{ text: 'Quillmoss' }] }] }, {})).toBe('Quillmoss');
  });

  test('the first alternative with a value counts', () => {
    const chain = {
      alternatives: [
        { parts: [{ attribute: 'gtin', steps: [{ step: 'onlyValidGtin' }] }] },
        { parts: [{ text: 'none' }] },
      ],
    };
    expect(run(chain, { gtin: '6291041500213' })).toBe('6291041500213');
    expect(run(chain, { gtin: '6291041500214' })).toBe('none');
  });

  test('an attribute the catalog lacks is empty', () => {
    expect(run(fromAttribute('nothing'), { name: 'Pot' })).toBeUndefined();
  });
});

describe('steps', () => {
  const step = (one: Step, value: string | string[], values: Record<string, string> = {}) =>
    compileStep(one, context)(value, rowOf(values));

  test.each<[Step, string | string[], unknown]>([
    [{ step: 'trim' }, '  two\n words ', 'two words'],
    [{ step: 'case', to: 'upper' }, 'moss', 'MOSS'],
    [{ step: 'stripMarkup' }, '<p>Stone</p>', 'Stone'],
    [{ step: 'shorten', most: 5, measure: 'characters' }, 'Ridge pot', 'Ridge'],
    [{ step: 'replace', find: '"', with: '' }, '14" pot"', '14 pot'],
    [{ step: 'replacePattern', pattern: '(\\d+) x (\\d+)', with: '$2 x $1' }, '10 x 20 cm', '20 x 10 cm'],
    [{ step: 'replacePattern', pattern: '\\s*\\(.*?\\)', with: '' }, 'Pot (old) red (B)', 'Pot red'],
    [{ step: 'replacePattern', pattern: '^\\p{Lu}+$', with: '' }, 'ÄÖ', undefined],
    [{ step: 'takeOut', words: 'best price, new' }, 'Newt pot, BEST  PRICE, new', 'Newt pot'],
    [{ step: 'takeOut', words: 'new' }, 'New: Ridge pot', 'Ridge pot'],
    [{ step: 'takeOut', words: 'a.b, (x)' }, 'aXb a.b (x) end', 'aXb end'],
    [{ step: 'takeOut', words: 'moss' }, ['moss', 'mossy'], ['mossy']],
    // RFC 3339 section 5.6, full-date; the other forms by common practice, no source.
    [{ step: 'date', to: 'iso' }, '31.3.2027', '2027-03-31'],
    [{ step: 'date', to: 'iso' }, '3/4/2027', '2027-04-03'],
    [{ step: 'date', to: 'iso', monthFirst: 'yes' }, '3/4/2027', '2027-03-04'],
    [{ step: 'date', to: 'iso', monthFirst: 'yes' }, '31/4/27', '31/4/27'],
    [{ step: 'date', to: 'iso' }, '3/31/27', '2027-03-31'],
    [{ step: 'date', to: 'dmyDots' }, '2027-03-31T10:00:00Z', '31.03.2027'],
    [{ step: 'date', to: 'mdySlashes' }, '2027-03-31', '03/31/2027'],
    [{ step: 'date', to: 'dmySlashes' }, '30.2.2027', '30.2.2027'],
    [
      { step: 'addQuery', parameters: 'from=lanternry&item={name}' },
      'https://a.example/x?from=old&y=1#z',
      'https://a.example/x?from=lanternry&y=1&item=#z',
    ],
    [{ step: 'addQuery', parameters: 'a=1' }, 'not an address', 'not an address'],
    [{ step: 'keepDigits' }, 'EAN 629 104', '629104'],
    [{ step: 'keepDigits' }, 'none', undefined],
    [{ step: 'gtinForm', digits: '14' }, '6291041500213', '06291041500213'],
    [{ step: 'gtinForm', digits: 'short' }, '0-306-40615-2', '9780306406157'],
    [{ step: 'lookUp', table: 'colours', otherwise: 'keep' }, 'MOSS', 'green'],
    [{ step: 'lookUp', table: 'colours', otherwise: 'keep' }, 'ete', 'summer'],
    [{ step: 'lookUp', table: 'colours', otherwise: 'keep' }, 'ink', 'ink'],
    [{ step: 'lookUp', table: 'colours', otherwise: 'empty' }, 'ink', undefined],
    [{ step: 'money' }, '24,9', '24.90 EUR'],
    [{ step: 'money' }, '24.90', '24.90 EUR'],
    [{ step: 'money' }, 'ask us', 'ask us'],
    [{ step: 'number', decimals: 1 }, '1.234,56', '1234.6'],
    [{ step: 'measure', to: 'cm' }, '12 in', '30.48 cm'],
    [{ step: 'measure' }, '1,5kg', '1.5 kg'],
    [{ step: 'measure', to: 'cm' }, '3 kg', '3 kg'],
    [{ step: 'measure', to: 'cm' }, 'large', 'large'],
    [{ step: 'number', decimalSign: ',' }, '1.234', '1234'],
    [{ step: 'number', decimalSign: '.' }, '1.234', '1.234'],
    [{ step: 'number', decimals: 2 }, '1.005', '1.01'],
    [{ step: 'adjust', percent: 19, amount: 0 }, '100', '119.00'],
    [{ step: 'adjust', percent: -10, amount: 1.5 }, '9.99', '10.49'],
    [{ step: 'adjust', percent: 0, amount: 0, roundTo: '0.05' }, '10.02', '10.00'],
    [{ step: 'adjust', percent: 0, amount: 0, roundTo: '0.05' }, '10.025', '10.050'],
    [{ step: 'adjust', percent: 0, amount: 0, ending: '0.99' }, '10.40', '9.99'],
    [{ step: 'adjust', percent: 0, amount: 0, ending: '0.99' }, '10.60', '10.99'],
    [{ step: 'adjust', percent: 0, amount: 0, ending: '0.99' }, '0.10', '0.99'],
    [{ step: 'adjust', percent: 5, amount: 0 }, 'dear', 'dear'],
    [{ step: 'resolve', base: 'https://a.example/x/' }, 'y/1.jpg', 'https://a.example/x/y/1.jpg'],
    [{ step: 'resolve', base: 'https://a.example/x/' }, 'https://b.example/1.jpg', 'https://b.example/1.jpg'],
    [
      { step: 'pictureLinks' },
      '<img src="1.jpg"><p>x</p><img src="2.jpg"><img src="1.jpg">',
      ['1.jpg', '2.jpg'],
    ],
    [{ step: 'pictureLinks' }, 'no picture', undefined],
    [{ step: 'split', at: '|' }, ['a|b', 'c'], ['a', 'b', 'c']],
    [{ step: 'withoutQuery' }, 'https://a.example/x?utm=1#y', 'https://a.example/x'],
    [{ step: 'take', from: 2, to: 3 }, ['a', 'b', 'c', 'd'], ['b', 'c']],
    [{ step: 'take', from: 1, to: 1 }, ['a', 'b'], 'a'],
    [{ step: 'take', from: 5 }, ['a', 'b'], undefined],
    [{ step: 'join', with: '; ' }, ['a', 'b'], 'a; b'],
    [{ step: 'split', at: ',' }, 'a, b,,c', ['a', 'b', 'c']],
  ])('%j on %j', (one, value, result) => {
    expect(step(one, value)).toEqual(result);
  });

  test('parameters of an address can name the item', () => {
    expect(
      step({ step: 'addQuery', parameters: 'item={name}' }, 'https://a.example/', { name: 'Ridge & pot' }),
    ).toBe('https://a.example/?item=Ridge+%26+pot');
  });

  test('a pattern that is none is refused before it runs', () => {
    expect(stepSchema.safeParse({ step: 'replacePattern', pattern: '(', with: '' }).success).toBe(false);
  });

  test('money keeps the item’s own currency, so that a wrong market shows', () => {
    expect(step({ step: 'money' }, '10', { priceCurrency: 'JPY' })).toBe('10 JPY');
  });

  test('the registry is complete: each step has words and a valid start', () => {
    for (const name of Object.keys(steps) as StepName[]) {
      const fresh = stepSchema.parse(steps[name].fresh);
      expect(fresh.step).toBe(name);
      expect(stepWords(fresh)).not.toBe('');
    }
  });
});

describe('lineage', () => {
  const attribute = fc.constantFrom('name', 'color', 'size', 'gtin');
  const anyStep = fc.constantFrom<Step>(
    { step: 'trim' },
    { step: 'keepDigits' },
    { step: 'case', to: 'upper' },
    { step: 'replace', find: 'a', with: '' },
    { step: 'split', at: ' ' },
    { step: 'take', from: 1, to: 2 },
  );
  const list = fc.array(anyStep, { maxLength: 3 });
  const part = fc.oneof(
    fc.record({ attribute, glue: fc.constantFrom(' ', ', '), steps: list }),
    fc.record({ text: fc.constantFrom('', 'x', 'cm'), glue: fc.constant(' ') }),
  );
  const composition: fc.Arbitrary<Composition> = fc.record({
    alternatives: fc.array(
      fc.record({ parts: fc.array(part, { minLength: 1, maxLength: 4 }), steps: list }),
      { minLength: 1, maxLength: 3 },
    ),
    steps: list,
  });
  const row = fc
    .array(fc.option(fc.constantFrom('a', 'Pot 14', '', ' moss  ', '6291041500213'), { nil: undefined }), {
      minLength: 7,
      maxLength: 7,
    })
    .map((cells) => cells.map((cell) => cell || undefined));

  test('tracing gives the same value as running', () => {
    fc.assert(
      fc.property(composition, row, (one, cells) => {
        const compiled = compileComposition(one, context);
        expect(compiled.trace(cells, () => undefined)).toEqual(compiled.run(cells));
      }),
      { numRuns: 600 },
    );
  });

  test('tells each step in order', () => {
    const knots: LineageStep[] = [];
    compileComposition(
      fromAttribute('gtin', [{ step: 'keepDigits' }, { step: 'gtinForm', digits: 'short' }]),
      context,
    ).trace(rowOf({ gtin: '0629-1041500213' }), (knot) => knots.push(knot));
    expect(knots.map(({ what, value }) => [what, value])).toEqual([
      ['gtin', '0629-1041500213'],
      ['keep digits', '06291041500213'],
      ['14 → 13 digits', '6291041500213'],
    ]);
  });
});
