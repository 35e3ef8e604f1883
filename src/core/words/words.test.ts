import fc from 'fast-check';
import { putPlainly } from './everyday';
import { listedForms } from './forms';
import { readDictionary, wordsToEnglish } from './freedict';
import { meaningsOf, wordsOf } from './lexicon';
import { PackedWords, packWords } from './packed';
import { Expander } from './thesaurus';
import { cosine, packVector, summed, WordVectors } from './vectors';
import { singulars, WordNet } from './wordNet';

describe('packed word lists', () => {
  const key = fc.stringMatching(/^[a-zäöüł ]{1,12}$/);
  test('give back what a map would, for every key and for keys that are not there', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(key, fc.array(fc.stringMatching(/^[a-z ]{1,8}$/), { minLength: 1, maxLength: 3 }))),
        key,
        (pairs, other) => {
          const map = new Map(pairs);
          const packed = new PackedWords(packWords(map));
          expect(packed.size).toBe(map.size);
          for (const [word, values] of map) expect(packed.get(word)).toEqual(values);
          expect(packed.get(other)).toEqual(map.get(other) ?? []);
          const begun = [...map.keys()].filter((word) => word.startsWith(other));
          expect(packed.beginningWith(other, 1000).sort()).toEqual(begun.sort());
        },
      ),
    );
  });
  test('an empty list knows nothing', () => {
    expect(new PackedWords(packWords(new Map())).get('a')).toEqual([]);
  });
});

// Source: RFC 2229 servers' files as dictfmt(1) describes them; entries made up in the form that dictionaries there have.
describe('dictionaries in the form of the dict protocol', () => {
  const entries: [string, string][] = [
    [
      'Topf',
      'Topf /tˈɔpf/ <masc, n, sg>\npot <n>, [cook.] saucepan <n>\n   Synonym: {Kessel}\n see: {Töpfe}\n',
    ],
    ['Gießkanne', 'Gießkanne /ɡˈiːskanə/ <fem, n, sg>\nwatering can <n>\n      "eine Gießkanne"  - a can\n'],
    ['Orrin', 'Orrin /ˈɔrɪn/ <pn>\nOrrin\n'],
    ['laufen', 'laufen /lˈaʊfən/ <v>\n1. to run\n2. to walk a very long way through the hills\n'],
  ];
  const digits = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
  const number = (value: number): string =>
    value < 64 ? (digits[value] ?? '') : number(Math.floor(value / 64)) + digits[value % 64];
  let at = 0;
  const index = entries.map(([word, text]) => {
    const length = Buffer.byteLength(text);
    const line = `${word}\t${number(at)}\t${number(length)}`;
    at += length;
    return line;
  });
  const text = Buffer.from(entries.map(([, entry]) => entry).join(''));
  const read = [...readDictionary(text, ['00databaseinfo\tA\tB', ...index, ''].join('\n'))];

  test('translations without marks, notes, names and long explanations', () => {
    expect(read).toEqual([
      { word: 'Topf', translations: ['pot', 'saucepan'] },
      { word: 'Gießkanne', translations: ['watering can'] },
      { word: 'laufen', translations: ['run'] },
    ]);
  });
  test('both directions come together; what is not English is left out', () => {
    const words = wordsToEnglish(
      [...read, { word: 'Lustro', translations: ['mirror', 'gładka powierzchnia'] }],
      [{ word: 'crock', translations: ['Topf'] }],
    );
    expect([...(words.get('topf') ?? [])]).toEqual(['pot', 'saucepan', 'crock']);
    expect([...(words.get('lustro') ?? [])]).toEqual(['mirror']);
    expect([...(words.get('giesskanne') ?? [])]).toEqual(['watering can']);
  });
});

// Read off grammars: plurals and the forms that dictionaries list.
test.each([
  ['nl', 'bloempotten', 'bloempot'],
  ['nl', 'messen', 'mes'],
  ['nl', 'glazen', 'glas'],
  ['nl', 'manen', 'maan'],
  ['it', 'specchi', 'specchio'],
  ['pl', 'swiece', 'swieca'],
  ['pl', 'lustra', 'lustro'],
  ['pt', 'coracoes', 'coracao'],
  ['sv', 'krukor', 'kruka'],
  ['sv', 'kuddar', 'kudde'],
  ['fr', 'bocaux', 'bocal'],
  ['es', 'luces', 'luz'],
])('%s: %s is listed as %s', (language, form, listed) => {
  expect(listedForms(form, language)).toContain(listed);
});

test.each([
  ['shelves', 'shelf'],
  ['cherries', 'cherry'],
  ['watering cans', 'watering can'],
  ['boxes', 'box'],
])('%s is the plural of %s', (plural, singular) => {
  expect(singulars(plural)).toContain(singular);
});

describe('names read by meaning', () => {
  // vessel > pot > teapot, and a lamp beside them.
  const wordNet = new WordNet(
    [
      'vessel\t\tobject used container',
      'pot\t0\tmetal earthenware cooking',
      'teapot\t1\tbrewing tea spout handle',
      'lamp\t\tartificial source visible illumination',
      '',
      'vessel\t0',
      'pot\t1',
      'teapot\t2',
      'lamp\t3',
    ].join('\n'),
  );
  const dictionaries = new Map([
    [
      'de',
      new PackedWords(
        packWords(
          new Map([
            ['teekanne', ['teapot']],
            ['kanne', ['pot', 'jug']],
            ['tee', ['tea']],
            ['kressen', ['cresses']],
          ]),
        ),
      ),
    ],
  ]);
  const expander = new Expander({ wordNet, dictionaries });
  const terms = (name: string, language?: string) =>
    new Map(expander.read(name, language).flatMap(({ units }) => units.flatMap((unit) => [...unit.terms])));

  test('a word says less the wider its meaning', () => {
    expect(wordNet.content(0)).toBeLessThan(wordNet.content(1));
    expect(wordNet.content(1)).toBeLessThan(wordNet.content(2));
  });
  test('wider meanings count less with every step', () => {
    const found = terms('teapots', 'en');
    expect(found.get('m2')).toBe(1);
    expect(found.get('m1') ?? 0).toBeLessThan(1);
    expect(found.get('m0') ?? 0).toBeLessThan(found.get('m1') ?? 0);
    expect(found.has('m3')).toBe(false);
  });
  test('a word of another language is read in English', () => {
    expect(terms('Teekanne').get('m2') ?? 0).toBeGreaterThan(0.8);
    expect(terms('Teekannen', 'de').get('m2') ?? 0).toBeGreaterThan(0.7);
  });
  test('one that no dictionary has is taken apart', () => {
    const found = terms('Kaffeekanne', 'de');
    expect(found.get('m1') ?? 0).toBeGreaterThan(0.3);
  });
  test('a part of which a list has the plural alone is known by it', () => {
    expect(terms('Kressekanne', 'de').get('m1') ?? 0).toBeGreaterThan(0.3);
  });
  test('a word that was only guessed at makes a reading less sure', () => {
    const sureInEnglish = (name: string) => expander.read(name, 'de').at(-1)?.sure ?? 0;
    expect(sureInEnglish('Teekanne lamp')).toBeCloseTo(0.9, 5);
    expect(sureInEnglish('Teekannxy lamp')).toBeCloseTo(0.54, 5);
  });
  test('a word or a name as long as a text is neither looked up nor taken apart', () => {
    const [whole] = expander.read('ab'.repeat(100_000), 'de');
    expect(whole?.units[0]?.terms.size).toBe(1);
    expect(expander.read('pot '.repeat(50_000)).every(({ units }) => units.length < 100)).toBe(true);
  });
  test('a name without words reads as nothing', () => {
    expect(expander.read('– / –')).toEqual([]);
  });
});

describe('word vectors', () => {
  // In half bytes: 3 and 4, 5 and 5, -4 and 3.
  const packed = [
    [3, 4],
    [5, 5],
    [-4, 3],
  ].map((row) => packVector(row.map((value) => (value * 0.26) / 7)));
  const vectors = new WordVectors(Buffer.concat([Buffer.from('the lamp rug\n'), ...packed]));
  const of = (word: string) => vectors.of(word) ?? Float32Array.of();
  test('are of length 1 and stand to each other as their cosines say', () => {
    expect([...of('the')].map((value) => value.toFixed(3))).toEqual(['0.600', '0.800']);
    expect(cosine(of('the'), of('lamp'))).toBeCloseTo(7 / Math.sqrt(50), 5);
    expect(cosine(of('the'), of('rug'))).toBeCloseTo(0, 5);
  });
  test('several words together point between them; unknown ones say nothing', () => {
    const both = vectors.together([
      { word: 'the', weight: 1 },
      { word: 'rug', weight: 1 },
      { word: 'kettle', weight: 1 },
    ]);
    expect(cosine(both ?? of('the'), of('the'))).toBeCloseTo(Math.SQRT1_2, 5);
    expect(vectors.of('kettle')).toBeUndefined();
    expect(vectors.together([{ word: 'kettle', weight: 1 }])).toBeUndefined();
    expect(summed([])).toBeUndefined();
  });
  test('in a phrase what is written everywhere counts less, and a plural stands where its singular does', () => {
    const phrase = vectors.ofPhrase(['the', 'rugs']) ?? of('the');
    expect(cosine(phrase, of('rug'))).toBeGreaterThan(Math.SQRT1_2);
    expect(vectors.ofPhrase(['kettles'])).toBeUndefined();
  });
  test('what is shipped is as near to what was learned as half a byte lets it be', () => {
    // As vectors of words are: of many values none of which stands for all.
    const vector = fc.noBias(
      fc.array(fc.integer({ min: -1000, max: 1000 }), { minLength: 100, maxLength: 100 }),
    );
    fc.assert(
      fc.property(vector, (values) => {
        const length = Math.hypot(...values);
        fc.pre(length > 1);
        const learned = Float32Array.from(values, (value) => value / length);
        const stored = new WordVectors(Buffer.concat([Buffer.from('lamp\n'), packVector(learned)])).of(
          'lamp',
        );
        expect(cosine(stored ?? Float32Array.of(), learned)).toBeGreaterThan(0.97);
      }),
    );
  });
});

test('a word is read as it is written before it is read as another of its stem', () => {
  const english = (word: string) => meaningsOf(word).map((one) => one.english);
  expect(english('schalen')).toContain('tray');
  expect(english('schalen')).not.toContain('scarf');
  expect(english('schals')).toEqual(['scarf']);
  expect(english('messer')).toEqual(['knife']);
});

describe('what everyday speech calls goods', () => {
  const plainly = (name: string) => putPlainly(wordsOf(name)).map((words) => words.join(' '));
  test('is put plainly, within a name too, the longest first, and then as what it is or is for', () => {
    expect(plainly('Wellies')).toEqual(['rubber boots', 'waterproof boots']);
    expect(plainly('Navy fleece hoodies')).toEqual(['navy fleece jumpers', 'navy fleece knitted tops']);
    expect(plainly('Tea towels')[0]).toBe('kitchen textiles');
    expect(plainly('Sacs à main en cuir')[0]).toBe('bags cuir');
  });
  test('what is said plainly already, or is no good, is left alone', () => {
    expect(plainly('Rubber boots')).toEqual([]);
    expect(plainly('Grüner Tee')).toEqual([]);
    expect(plainly('')).toEqual([]);
  });
  test('any words come through in their order, none lost', () => {
    fc.assert(
      fc.property(fc.array(fc.stringMatching(/^[a-z]{2,9}x$/), { maxLength: 6 }), (words) => {
        expect(putPlainly([...words, 'wellies'])[0]).toEqual([...words, 'rubber', 'boots']);
      }),
    );
  });
});
