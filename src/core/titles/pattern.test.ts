import fc from 'fast-check';
import { attributeIndex } from '../catalog/value';
import { lengthIn } from '../text/length';
import { compileTitle, titlePatternSchema, withHandTitles } from './pattern';

const index = attributeIndex(['brand', 'name', 'color', 'size', 'use']);
const context = { index, language: 'en', currency: 'EUR', tables: {} };
const pattern = titlePatternSchema.parse({
  parts: [
    { attribute: 'brand' },
    { attribute: 'name' },
    { attribute: 'color', glue: ', ' },
    { attribute: 'size', glue: ', ' },
    { attribute: 'use', glue: ' · ' },
  ],
  dropFirst: ['use', 'brand'],
  keep: ['color', 'size'],
});
const make = (values: Record<string, string>, most: number, change = {}) =>
  compileTitle({ ...pattern, ...change }, { most, measure: 'characters' }, context).make(
    index.codes.map((code) => values[code]),
  );
const pot = {
  brand: 'Tarnholt',
  name: 'Ridge pot with drip tray and felt feet',
  color: 'moss',
  size: '14 cm',
  use: 'for herbs',
};

test('whole where it fits', () => {
  expect(make(pot, 100)).toEqual({
    text: 'Tarnholt Ridge pot with drip tray and felt feet, moss, 14 cm · for herbs',
    dropped: [],
    shortened: undefined,
  });
});

test('parts go in the order given, only as many as must', () => {
  expect(make(pot, 62)).toMatchObject({
    text: 'Tarnholt Ridge pot with drip tray and felt feet, moss, 14 cm',
    dropped: ['use'],
  });
  expect(make(pot, 55)).toMatchObject({
    text: 'Ridge pot with drip tray and felt feet, moss, 14 cm',
    dropped: ['use', 'brand'],
  });
});

test('then the longest other part is shortened between words; what tells variants apart stays', () => {
  expect(make(pot, 40)).toMatchObject({ text: 'Ridge pot with drip tray, moss, 14 cm', shortened: 'name' });
});

test('the brand stands once', () => {
  expect(make({ ...pot, name: 'TARNHOLT pot' }, 100).text).toMatch(/^TARNHOLT pot,/);
  expect(make({ ...pot, name: 'Tarnholter pot' }, 100).text).toMatch(/^Tarnholt Tarnholter pot/);
  expect(make({ ...pot, name: 'Tarnholt pot' }, 100, { brandOnce: false }).text).toMatch(
    /^Tarnholt Tarnholt/,
  );
});

test('what is kept is never dropped and never cut, whatever else there is', () => {
  const kept = { brand: 'Tarnholt', name: 'Pot', color: 'dark sea green', size: '14 cm', use: 'for herbs' };
  // "dark sea green, 14 cm" has 21 characters: the name goes when there is no room for it.
  expect(make(kept, 26).text).toBe('Pot, dark sea green, 14 cm');
  expect(make(kept, 24).text).toBe('dark sea green, 14 cm');
  expect(make(kept, 21).text).toBe('dark sea green, 14 cm');
  // Nothing else can go: the title stays too long, and the check on its length says so.
  expect(make(kept, 15).text).toBe('dark sea green, 14 cm');
  // Also where a kept part is named among those that may go.
  expect(make(kept, 24, { dropFirst: ['color', 'use', 'brand'] }).text).toBe('dark sea green, 14 cm');
});

test('a part that was dropped for room comes back where a later one made more', () => {
  const long = {
    brand: 'Tarnholt of the Northern Coast',
    name: 'Pot',
    color: 'moss',
    size: '14 cm',
    use: 'herbs',
  };
  expect(make(long, 40)).toMatchObject({ text: 'Pot, moss, 14 cm · herbs', dropped: ['brand'] });
});

test('no word is cut', () => {
  const name = 'Twelve-piece T-shirt-drying windowsill-rack';
  for (let most = 12; most < 70; most++) {
    const words = (make({ name, color: 'moss', size: 'M' }, most).text ?? '').split(/[ ,·]+/);
    for (const word of words) expect([...name.split(' '), 'moss', 'M', '']).toContain(word);
  }
});

test('nothing to say gives no title', () => {
  expect(make({}, 100).text).toBeUndefined();
});

test('never over the limit, and siblings that differ in a kept axis stay different', () => {
  const word = fc.stringMatching(/^[a-zäöü]{1,9}$/);
  const words = fc.array(word, { minLength: 1, maxLength: 12 }).map((list) => list.join(' '));
  fc.assert(
    fc.property(
      words,
      words,
      words,
      fc.integer({ min: 30, max: 90 }),
      fc.constantFrom('characters', 'bytes', 'graphemes' as const),
      (brand, name, use, most, measure) => {
        const title = compileTitle(pattern, { most, measure: measure as 'bytes' }, context);
        const [first, second] = ['10 cm', '14 cm'].map((size) => {
          const row = index.codes.map((code) => ({ brand, name, use, size, color: 'moss' })[code]);
          const made = title.make(row).text ?? '';
          expect(title.run(row)).toBe(made);
          expect(lengthIn(made, measure as 'bytes')).toBeLessThanOrEqual(most);
          return made;
        });
        expect(first).not.toBe(second);
      },
    ),
    { numRuns: 400 },
  );
});

/**
 * Every choice there is, tried one after another: which of the parts that may go are there, and where each of the others is cut.
 * Of those that fit the best by the stated order: most signs of the parts that are only shortened, more of the earlier ones, then
 * the parts that go last.
 */
function byBruteForce(
  parts: readonly { code: string; glue: string; text: string | undefined }[],
  dropFirst: readonly string[],
  keep: readonly string[],
  most: number,
  measure: 'characters' | 'bytes' | 'graphemes',
): string | undefined {
  const size = (text: string) =>
    measure === 'bytes'
      ? Buffer.byteLength(text)
      : measure === 'characters'
        ? [...text].length
        : [...new Intl.Segmenter('en', { granularity: 'grapheme' }).segment(text)].length;
  const join = (texts: readonly (string | undefined)[]) =>
    parts.reduce((title, { glue }, at) => {
      const text = texts[at];
      return text === undefined ? title : title === '' ? text : title + glue + text;
    }, '');
  const options = parts.map(({ code, text }): (string | undefined)[] => {
    if (text === undefined) return [undefined];
    if (keep.includes(code)) return [text];
    if (dropFirst.includes(code)) return [text, undefined];
    const words = text.split(' ');
    return [...words.map((_, n) => words.slice(0, words.length - n).join(' ')), undefined];
  });
  const all = options.reduce<(string | undefined)[][]>(
    (found, own) => found.flatMap((texts) => own.map((one) => [...texts, one])),
    [[]],
  );
  const worth = (texts: readonly (string | undefined)[]) => {
    const cut = parts.map(({ code }, at) =>
      keep.includes(code) || dropFirst.includes(code) ? 0 : size(texts[at] ?? ''),
    );
    const there = [...dropFirst]
      .reverse()
      .map((code) => Number(texts[parts.findIndex((one) => one.code === code)] !== undefined));
    return [cut.reduce((sum, one) => sum + one, 0), ...cut, ...there];
  };
  let best: { title: string; worth: number[] } | undefined;
  for (const texts of all) {
    const title = join(texts);
    if (title !== '' && size(title) > most) continue;
    const own = worth(texts);
    const at = own.findIndex((one, n) => one !== best?.worth[n]);
    if (best === undefined || (at >= 0 && (own[at] as number) > (best.worth[at] as number)))
      best = { title, worth: own };
  }
  return best?.title || undefined;
}

test('the title is the best of all that fit, as brute force over every choice finds it', () => {
  const words = [
    'pot',
    'moss',
    'drip tray',
    'glazed',
    'Übertopf',
    'für',
    'Kräuter',
    'café',
    '10 cm',
    'oak',
    'Ridge',
    'größer',
    'x',
    '日本',
    'naïve',
  ];
  const codes = ['brand', 'name', 'material', 'color'];
  const text = fc.option(
    fc.array(fc.constantFrom(...words), { minLength: 1, maxLength: 4 }).map((some) => some.join(' ')),
    { nil: undefined, freq: 8 },
  );
  fc.assert(
    fc.property(
      fc.record({
        texts: fc.tuple(text, text, text, text),
        roles: fc.tuple(...codes.map(() => fc.constantFrom('cut', 'cut', 'drop', 'keep'))),
        order: fc.shuffledSubarray(codes, { minLength: 4 }),
        glue: fc.constantFrom(' ', ', ', ' · ', ' – '),
        most: fc.integer({ min: 4, max: 60 }),
        measure: fc.constantFrom('characters' as const, 'bytes' as const, 'graphemes' as const),
      }),
      ({ texts, roles, order, glue, most, measure }) => {
        const dropFirst = order.filter((code) => roles[codes.indexOf(code)] === 'drop');
        const keep = codes.filter((_, at) => roles[at] === 'keep');
        const compiled = compileTitle(
          titlePatternSchema.parse({
            parts: codes.map((attribute) => ({ attribute, glue, steps: [] })),
            dropFirst,
            keep,
            brandOnce: false,
          }),
          { most, measure },
          { index: attributeIndex(codes), language: 'en', currency: 'EUR', tables: {} },
        );
        const right = byBruteForce(
          codes.map((code, at) => ({ code, glue, text: texts[at] })),
          dropFirst,
          keep,
          most,
          measure,
        );
        const title = compiled.run(texts);
        // Where what is kept is too long by itself nothing fits; the title stays too long and is told.
        if (right === undefined) return;
        expect([title, JSON.stringify(texts), most, measure]).toEqual([
          right,
          JSON.stringify(texts),
          most,
          measure,
        ]);
      },
    ),
    { numRuns: Number(process.env.LIVELY_CASES ?? 5000), seed: 15 },
  );
});

test('a title by hand stands for its item alone, and says so', () => {
  const title = withHandTitles(
    compileTitle(pattern, { most: 100, measure: 'characters' }, context),
    { brand: { text: 'Our pot', instead: 'x' } },
    0,
  );
  // The first slot, which holds the brand here, stands for the SKU.
  const row = (brand: string) =>
    index.codes.map((code) => (code === 'brand' ? brand : code === 'name' ? 'Pot' : undefined));
  const knots: string[] = [];
  expect(title.run(row('brand'))).toBe('Our pot');
  expect(title.make(row('brand'), ({ kind }) => knots.push(kind))).toMatchObject({
    text: 'Our pot',
    dropped: [],
  });
  expect(knots).toEqual(['byHand']);
  expect(title.run(row('other'))).toBe('other Pot');
  const plain = compileTitle(pattern, { most: 100, measure: 'characters' }, context);
  expect(withHandTitles(plain, {}, 0)).toBe(plain);
  expect(withHandTitles(plain, { brand: { text: 'x', instead: '' } }, undefined)).toBe(plain);
});
