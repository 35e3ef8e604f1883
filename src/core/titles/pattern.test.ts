import fc from 'fast-check';
import { axesCode, familyNameCode } from '../catalog/item';
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
    abbreviated: [],
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

test('what the name says stands once, wherever the name says it', () => {
  expect(make({ ...pot, name: 'TARNHOLT pot' }, 100).text).toMatch(/^TARNHOLT pot,/);
  expect(make({ ...pot, name: 'Pot by Tarnholt, móss' }, 100).text).toBe(
    'Pot by Tarnholt, móss, 14 cm · for herbs',
  );
  expect(make({ ...pot, name: 'Tarnholter pot' }, 100).text).toMatch(/^Tarnholt Tarnholter pot/);
  // Too short to be found said, or a number that may be another.
  expect(make({ name: 'M-class 2 in 1 pot', color: '2', size: 'M' }, 100).text).toBe(
    'M-class 2 in 1 pot, 2, M',
  );
  // A name that lost the word to the limit says it no more.
  expect(make({ name: 'Ridge pot with drip tray in moss', color: 'moss' }, 32).text).toBe(
    'Ridge pot with drip tray in moss',
  );
  expect(make({ name: 'Ridge pot with drip tray in moss', color: 'moss' }, 30).text).toBe(
    'Ridge pot with drip tray, moss',
  );
  expect(make({ ...pot, name: 'Tarnholt pot' }, 100, { sayOnce: false }).text).toMatch(/^Tarnholt Tarnholt/);
});

test('what is kept is never dropped and never cut, whatever else there is', () => {
  const stored = { brand: 'Tarnholt', name: 'Pot', color: 'dark sea green', size: '14 cm', use: 'for herbs' };
  // "dark sea green, 14 cm" has 21 characters: the name goes when there is no room for it.
  expect(make(stored, 26).text).toBe('Pot, dark sea green, 14 cm');
  expect(make(stored, 24).text).toBe('dark sea green, 14 cm');
  expect(make(stored, 21).text).toBe('dark sea green, 14 cm');
  // Nothing else can go: the title stays too long, and the check on its length says so.
  expect(make(stored, 15).text).toBe('dark sea green, 14 cm');
  // Also where a kept part is named among those that may go.
  expect(make(stored, 24, { dropFirst: ['color', 'use', 'brand'] }).text).toBe('dark sea green, 14 cm');
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
          const created = title.make(row).text ?? '';
          expect(title.run(row)).toBe(created);
          expect(lengthIn(created, measure as 'bytes')).toBeLessThanOrEqual(most);
          return created;
        });
        expect(first).not.toBe(second);
      },
    ),
    { numRuns: 400 },
  );
});

/** Words of a text, letter case and accents aside, written for the tests alone. */
const plain = (text: string) =>
  text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== '');
const standsIn = (name: string, text: string): boolean => {
  const [inside, wanted] = [plain(name), plain(text)];
  return (
    wanted.join(' ').length >= 3 &&
    /\p{L}/u.test(text) &&
    inside.some((_, at) => wanted.every((word, n) => inside[at + n] === word))
  );
};

interface Choice {
  readonly text: string | undefined;
  readonly shown: string | undefined;
  /** For each word that can be abbreviated whether it is whole. */
  readonly whole: readonly number[];
}

/** A text with every choice of its words abbreviated or not. */
function abbreviations(text: string | undefined, table: Readonly<Record<string, string>>): Choice[] {
  if (text === undefined) return [{ text, shown: undefined, whole: [] }];
  return text.split(' ').reduce<Choice[]>(
    (choices, word) => {
      const short = Object.hasOwn(table, word) ? table[word] : undefined;
      const add = ({ shown, whole }: Choice, form: string, mark: readonly number[]): Choice => ({
        text,
        shown: shown === '' ? form : `${shown} ${form}`,
        whole: [...whole, ...mark],
      });
      return choices.flatMap((one) =>
        short === undefined ? [add(one, word, [])] : [add(one, word, [1]), add(one, short, [0])],
      );
    },
    [{ text, shown: '', whole: [] }],
  );
}

interface Case {
  readonly parts: readonly { code: string; glue: string; text: string | undefined }[];
  readonly dropFirst: readonly string[];
  readonly keep: readonly string[];
  readonly most: number;
  readonly measure: 'characters' | 'bytes' | 'graphemes';
  readonly phone: number | undefined;
  readonly once: boolean;
  readonly table: Readonly<Record<string, string>>;
  readonly worth: Readonly<Record<string, number>>;
}

/**
 * Every choice there is, tried one after another: which of the parts that may go are there, where each of the others is cut, and
 * which words are abbreviated. Of those that fit the best by the order that the pattern states.
 */
function byBruteForce({
  parts,
  dropFirst,
  keep,
  most,
  measure,
  phone,
  once,
  table,
  worth,
}: Case): string | undefined {
  const size = (text: string) =>
    measure === 'bytes'
      ? Buffer.byteLength(text)
      : measure === 'characters'
        ? [...text].length
        : [...new Intl.Segmenter('en', { granularity: 'grapheme' }).segment(text)].length;
  const nameAt = parts.findIndex(({ code }) => code === 'name');
  const join = (choice: readonly Choice[], end = parts.length) =>
    parts.slice(0, end).reduce((title, { glue, code }, at) => {
      const { text, shown } = choice[at] as Choice;
      const name = choice[nameAt]?.text;
      if (text === undefined || shown === undefined) return title;
      if (
        once &&
        !dropFirst.includes('name') &&
        code !== 'name' &&
        name !== undefined &&
        standsIn(name, text)
      )
        return title;
      return title === '' ? shown : title + glue + shown;
    }, '');
  const options = parts.map(({ code, text }): Choice[] => {
    const words = text?.split(' ') ?? [];
    const texts: (string | undefined)[] =
      text === undefined
        ? [undefined]
        : keep.includes(code)
          ? [text]
          : dropFirst.includes(code)
            ? [text, undefined]
            : [
                ...words
                  .map((_, n) => words.slice(0, words.length - n).join(' '))
                  // No text is cut behind a word that leads on; of these the vocabulary has one.
                  .filter((one) => one === text || !/ für$/.test(one)),
                undefined,
              ];
    return texts.flatMap((one) => abbreviations(one, table));
  });
  let best: { title: string; worth: number[] } | undefined;
  const judge = (choice: readonly Choice[]) => {
    const title = join(choice);
    if (title !== '' && size(title) > most) return;
    const hidden =
      phone !== undefined &&
      choice[nameAt]?.text !== undefined &&
      join(choice, nameAt + 1).length > phone &&
      choice
        .slice(0, nameAt)
        .some(({ text }, at) => text !== undefined && !keep.includes(parts[at]?.code ?? ''));
    if (hidden) return;
    const cut = parts.map(({ code }, at) =>
      keep.includes(code) || dropFirst.includes(code) ? 0 : size(choice[at]?.text ?? ''),
    );
    const there = dropFirst
      .toReversed()
      .map((code) => Number(choice[parts.findIndex((one) => one.code === code)]?.text !== undefined));
    const own = [
      cut.reduce((sum, one, at) => sum + one * (worth[parts[at]?.code ?? ''] ?? 1), 0),
      ...cut,
      ...there,
      ...choice.flatMap(({ whole }) => whole),
    ];
    const at = own.findIndex((one, n) => one !== best?.worth[n]);
    if (best === undefined || (at >= 0 && (own[at] as number) > (best.worth[at] as number)))
      best = { title, worth: own };
  };
  const walk = (choice: readonly Choice[]): void => {
    const next = options[choice.length];
    if (next === undefined) judge(choice);
    else for (const one of next) walk([...choice, one]);
  };
  walk([]);
  return best?.title || undefined;
}

const vocabulary = [
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

test('the title is the best of all that fit, as brute force over every choice finds it', () => {
  const codes = ['brand', 'name', 'material', 'color'];
  const text = fc.option(
    fc.array(fc.constantFrom(...vocabulary), { minLength: 1, maxLength: 3 }).map((some) => some.join(' ')),
    { nil: undefined, freq: 8 },
  );
  fc.assert(
    fc.property(
      fc.record({
        texts: fc.tuple(text, text, text, text),
        roles: fc.tuple(...codes.map(() => fc.constantFrom('cut', 'cut', 'drop', 'keep'))),
        order: fc.shuffledSubarray(codes, { minLength: 4 }),
        glue: fc.constantFrom(' ', ', ', ' · ', ' – '),
        most: fc.integer({ min: 4, max: 50 }),
        measure: fc.constantFrom('characters' as const, 'bytes' as const, 'graphemes' as const),
        phone: fc.option(fc.integer({ min: 4, max: 30 }), { nil: undefined }),
        once: fc.boolean(),
        table: fc.constantFrom<Readonly<Record<string, string>>[]>(
          {},
          { glazed: 'gl.', Kräuter: 'Kr.' },
          { tray: 'tr', Ridge: 'R' },
        ),
        worth: fc.constantFrom<Readonly<Record<string, number>>[]>(
          {},
          { name: 3 },
          { brand: 2, material: 5 },
        ),
      }),
      ({ texts, roles, order, glue, ...given }) => {
        const dropFirst = order.filter((code) => roles[codes.indexOf(code)] === 'drop');
        const keep = codes.filter((_, at) => roles[at] === 'keep');
        const { most, measure, phone } = given;
        const compiled = compileTitle(
          titlePatternSchema.parse({
            parts: codes.map((attribute) => ({ attribute, glue, steps: [] })),
            dropFirst,
            keep,
            sayOnce: given.once,
            nameOnPhone: phone !== undefined,
            abbreviations: given.table,
            worth: given.worth,
          }),
          { most, measure, phone },
          { index: attributeIndex(codes), language: 'en', currency: 'EUR', tables: {} },
        );
        const parts = codes.map((code, at) => ({ code, glue, text: texts[at] }));
        const right = byBruteForce({ parts, dropFirst, keep, ...given });
        const title = compiled.run(texts);
        // Where what is kept is too long by itself nothing fits; the title stays too long and is told.
        if (right === undefined) return;
        const reported = JSON.stringify({ texts, dropFirst, keep, glue, ...given });
        expect([title, reported]).toEqual([right, reported]);
      },
    ),
    { numRuns: Number(process.env.LIVELY_CASES ?? 1500), seed: 15 },
  );
});

test('all titles of a family are distinct, also where its pattern, its limit or its names leave out what tells them apart', () => {
  const axes = {
    color: ['moss', 'dark moss', 'fern', 'Ümber'],
    size: ['S', '10 cm', '12 cm'],
    use: ['for herbs', 'for kale'],
  };
  const codes = ['name', 'brand', ...Object.keys(axes), axesCode, familyNameCode];
  const index = attributeIndex(codes);
  const words = fc.array(fc.constantFrom('pot', 'glazed', 'café', 'with', 'drip tray', 'Tarnholt', '日本'), {
    minLength: 1,
    maxLength: 6,
  });
  fc.assert(
    fc.property(
      fc.record({
        axes: fc.shuffledSubarray(Object.keys(axes) as (keyof typeof axes)[], { minLength: 1 }),
        parts: fc.shuffledSubarray(['name', 'brand', 'color', 'size'], { minLength: 1 }),
        dropFirst: fc.shuffledSubarray(['brand', 'color', 'size', 'name']),
        name: words,
        said: fc.constantFrom('nothing', 'shared', 'own'),
        most: fc.integer({ min: 40, max: 90 }),
        measure: fc.constantFrom('characters' as const, 'bytes' as const, 'graphemes' as const),
      }),
      (given) => {
        const title = compileTitle(
          titlePatternSchema.parse({
            parts: given.parts.map((attribute) => ({ attribute, glue: ', ' })),
            dropFirst: given.dropFirst,
          }),
          given,
          { index, language: 'en', currency: 'EUR', tables: {} },
        );
        const members = given.axes.reduce<Record<string, string>[]>(
          (all, axis) => all.flatMap((one) => axes[axis].map((value) => ({ ...one, [axis]: value }))),
          [{}],
        );
        const shared = [...given.name, given.said === 'shared' ? 'moss and fern' : ''].join(' ').trim();
        const titles = members.map((member) => {
          const name = given.said === 'own' ? `${Object.values(member)[0]} ${shared}` : shared;
          const row = codes.map((code) =>
            code === axesCode
              ? given.axes
              : code === familyNameCode
                ? given.said === 'own'
                  ? undefined
                  : shared
                : ({ name, brand: 'Tarnholt', ...member } as Record<string, string>)[code],
          );
          const created = title.run(row) ?? '';
          expect(created).toBe(title.make(row).text ?? '');
          expect(lengthIn(created, given.measure)).toBeLessThanOrEqual(given.most);
          return created;
        });
        expect(new Set(titles).size).toBe(members.length);
      },
    ),
    { numRuns: 600 },
  );
});

test('what one axis says already another does not say again, however short it is', () => {
  const codes = ['name', 'color', 'size', axesCode];
  const index = attributeIndex(codes);
  const context = { index, language: 'en', currency: 'EUR', tables: {} };
  const title = (parts: string[], values: Record<string, string>) => {
    const pattern = titlePatternSchema.parse({
      parts: parts.map((attribute) => ({ attribute, glue: ', ' })),
    });
    const row = codes.map((code) => (code === axesCode ? ['color', 'size'] : values[code]));
    const created = compileTitle(pattern, { most: 100, measure: 'characters' }, context);
    expect(created.run(row)).toBe(created.make(row).text);
    return created.run(row);
  };
  const apron = { name: 'Apron', color: 'red S', size: 'S' };
  expect(title(['name', 'color', 'size'], apron)).toBe('Apron, red S');
  expect(title(['name', 'color'], apron)).toBe('Apron, red S');
  expect(title(['name'], apron)).toBe('Apron, red S');
  expect(title(['name', 'size', 'color'], apron)).toBe('Apron, S, red S');
  expect(title(['name', 'color', 'size'], { ...apron, color: 'moSs' })).toBe('Apron, moSs, S');
  expect(title(['name', 'color', 'size'], { ...apron, color: 'red 2', size: '2' })).toBe('Apron, red 2, 2');
});

test('abbreviations are taken where they save what would go, and only as many as must', () => {
  const change = { abbreviations: { 'drip tray': 'tray', felt: 'f.', with: 'w/' } };
  expect(make(pot, 100, change).text).toContain('with drip tray and felt feet');
  const created = make(pot, 68, change);
  expect(created).toMatchObject({
    text: 'Tarnholt Ridge pot with tray and felt feet, moss, 14 cm · for herbs',
    abbreviated: ['drip tray'],
  });
  expect(make(pot, 30, { abbreviations: { moss: 'ms', centimetre: 'cm' } })).toMatchObject({
    abbreviated: ['moss'],
  });
});

test('what stands before the name goes where a phone would cut it', () => {
  const long = { brand: 'Tarnholt of the Northern Coast', name: 'Ridge pot', color: 'moss' };
  const title = (on: boolean) =>
    compileTitle(
      { ...pattern, nameOnPhone: on },
      { most: 100, measure: 'characters', phone: 30 },
      context,
    ).make(index.codes.map((code) => (long as Record<string, string>)[code]));
  expect(title(false).text).toBe('Tarnholt of the Northern Coast Ridge pot, moss');
  expect(title(true)).toMatchObject({ text: 'Ridge pot, moss', dropped: ['brand'] });
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
