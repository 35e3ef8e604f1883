import fc from 'fast-check';
import { textOfMarkup } from '../markup/markup';
import { wordDifference } from './difference';
import { cutAtGrapheme, shortenAtWord, shortenBetweenWords } from './fitting';
import { fold, foldAlike } from './folding';
import { byteLength, characterLength, graphemeLength, lengthIn } from './length';
import { changeCase } from './letterCase';
import { letterRuns } from './letters';
import { nameSimilarity } from './similarity';

describe('length', () => {
  // Source: RFC 3629, through Node's own encoder.
  test('bytes agree with the UTF-8 encoder', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) =>
        expect(byteLength(text)).toBe(new TextEncoder().encode(text).length),
      ),
    );
  });

  test('characters are code points', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (text) =>
        expect(characterLength(text)).toBe([...text].length),
      ),
    );
  });

  // Source: Unicode UAX #29, table 1a and GraphemeBreakTest.txt, cases recalled from memory.
  test.each([
    ['a\u0308', 1],
    ['\r\n', 1],
    ['\u1100\u1161\u11a8', 1],
    ['🏴\u{e0067}\u{e0062}\u{e007f}', 1],
    ['👩\u200d🌾', 1],
    ['🇩🇪🇫🇷', 2],
    ['e\u0301te\u0301', 3],
  ])('%j has %i graphemes', (text, count) => {
    expect(graphemeLength(text)).toBe(count);
  });
});

describe('fitting', () => {
  const measures = fc.constantFrom('characters', 'bytes', 'graphemes' as const) as fc.Arbitrary<
    'characters' | 'bytes' | 'graphemes'
  >;

  test('never longer than the limit, always a beginning of the text', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: 'grapheme', maxLength: 80 }),
        fc.nat(60),
        measures,
        (text, limit, measure) => {
          const short = shortenAtWord(text, limit, measure);
          expect(lengthIn(short, measure)).toBeLessThanOrEqual(limit);
          expect(text.startsWith(short)).toBe(true);
        },
      ),
    );
  });

  test('again changes nothing', () => {
    fc.assert(
      fc.property(fc.lorem({ maxCount: 12 }), fc.integer({ min: 20, max: 60 }), (text, limit) => {
        const once = shortenAtWord(text, limit);
        expect(shortenAtWord(once, limit)).toBe(once);
      }),
    );
  });

  test('cuts between words, takes dangling separators and open brackets along', () => {
    expect(shortenAtWord('Ridge pot with drip tray', 16)).toBe('Ridge pot');
    expect(shortenAtWord('Ridge pot, moss, 14 cm', 11)).toBe('Ridge pot');
    expect(shortenAtWord('Ridge pot (with tray and feet)', 20)).toBe('Ridge pot');
    expect(shortenAtWord('Rindfleischetikettierung', 8)).toBe('Rindflei');
  });

  test('texts of plain letters are cut where words end by UAX #29', () => {
    const piece = fc.oneof(
      fc.constantFrom(
        ...[
          'pot',
          'Töpfe',
          '18',
          '18cm',
          'T-shirt',
          'A',
          ' ',
          ' ',
          ', ',
          ' · ',
          ' | ',
          '/',
          ' & ',
          '+',
          ': ',
        ],
        ...['(', ')', '[', ']', ' (', ')) ', '–', ' — ', '-', '; '],
      ),
      fc.string({ unit: fc.constantFrom(...'abcäß19 -()'), maxLength: 6 }),
    );
    fc.assert(
      fc.property(
        fc.array(piece, { maxLength: 14 }).map((pieces) => pieces.join('')),
        fc.nat(60),
        measures,
        (text, limit, measure) => {
          fc.pre(limit < text.length && lengthIn(text, measure) > limit);
          // What a sign of another kind ends is segmented; it stands behind what is left.
          expect(shortenBetweenWords(text, limit, measure)).toBe(
            shortenBetweenWords(`${text} ½`, limit, measure),
          );
        },
      ),
      { numRuns: 2000 },
    );
  });

  test('a cut never splits what a reader sees as one sign', () => {
    expect(cutAtGrapheme('a👩\u200d🌾b', 6, 'bytes')).toBe('a');
    expect(cutAtGrapheme('a👩\u200d🌾b', 2, 'graphemes')).toBe('a👩\u200d🌾');
  });
});

describe('letter case', () => {
  test('titles keep minor words small, per language', () => {
    expect(changeCase('a bell of clear glass', 'title', 'en')).toBe('A Bell of Clear Glass');
    expect(changeCase('topf mit untersetzer', 'title', 'de')).toBe('Topf mit Untersetzer');
    expect(changeCase('maceta de barro', 'title', 'es')).toBe('Maceta de Barro');
  });

  test('language decides capitals', () => {
    expect(changeCase('istanbul', 'upper', 'tr')).toBe('İSTANBUL');
    expect(changeCase('größe', 'upper', 'de')).toBe('GRÖSSE');
    expect(changeCase('  über den Topf', 'sentence', 'de')).toBe('  Über den Topf');
  });
});

describe('markup', () => {
  test('tags go, blocks become lines, entities are read, scripts vanish', () => {
    expect(textOfMarkup('<p>Stone&nbsp;ware &amp; clay</p><ul><li>one</li><li>two</li></ul>')).toBe(
      'Stone ware & clay\none\ntwo',
    );
    expect(textOfMarkup('before<script>alert("x")</script> after')).toBe('before after');
    expect(textOfMarkup('3 < 4')).toBe('3 < 4');
  });

  test('no tag survives', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('<b>', '</b>', 'word ', '<img src=x>', '<p>', '&lt;')), (parts) =>
        expect(textOfMarkup(parts.join(''))).not.toMatch(/<(b|img|p)\b/),
      ),
    );
  });
});

describe('difference', () => {
  test('its pieces give both texts back', () => {
    fc.assert(
      fc.property(fc.lorem({ maxCount: 8 }), fc.lorem({ maxCount: 8 }), (before, after) => {
        const pieces = wordDifference(before, after);
        expect(pieces.flatMap(({ kind, text }) => (kind === 'new' ? [] : [text])).join('')).toBe(before);
        expect(pieces.flatMap(({ kind, text }) => (kind === 'gone' ? [] : [text])).join('')).toBe(after);
      }),
    );
  });

  test('keeps as many words as can be kept', () => {
    expect(
      wordDifference('Ridge pot, moss', 'Ridge pot, moss, 14 cm').filter(({ kind }) => kind === 'gone'),
    ).toEqual([]);
  });
});

/** Letters of several scripts, some beyond the first plane, marks that join them, digits, signs, and halves of pairs. */
const odd = fc.string({
  unit: fc.constantFrom(...'aAbzZ9 ,.·–ßİıŉǅςΣжК中ｶ𝐀𝒷😀½ﬁ', '\u0301', '\u0307', '\ud835', '\udc00'),
  maxLength: 12,
});

describe('words', () => {
  test('runs of letters are those that the expression for letters finds', () => {
    fc.assert(
      fc.property(
        fc.oneof(odd, fc.string({ unit: 'binary' })),
        fc.integer({ min: 1, max: 4 }),
        (text, least) =>
          expect(letterRuns(text, least)).toEqual(text.match(new RegExp(`\\p{L}{${least},}`, 'gu')) ?? []),
      ),
    );
    expect(letterRuns('Gießkanne, Zinn 1,5 l', 4)).toEqual(['Gießkanne', 'Zinn']);
  });

  test('two texts are alike exactly where they fold to the same', () => {
    const around = fc.tuple(fc.constantFrom('', ' ', '-', '.'), fc.constantFrom('', ' ', '!', '\u0301'));
    fc.assert(
      fc.property(odd, odd, around, (a, b, [before, after]) => {
        expect(foldAlike(a, b)).toBe(fold(a) === fold(b));
        const other = before + a.toUpperCase() + after;
        expect(foldAlike(a, other)).toBe(fold(a) === fold(other));
      }),
    );
    expect(foldAlike('Tarnholt', 'TARNHOLT ')).toBe(true);
    expect(foldAlike('Ärmel', 'armel')).toBe(true);
    expect(foldAlike('Tarnholt', 'Tarnholm')).toBe(false);
  });
});

describe('likeness', () => {
  test('spellings of one name are one', () => {
    expect(nameSimilarity('Größe', 'groesse')).toBeGreaterThan(0);
    expect(nameSimilarity('Code-Barres', 'code barres')).toBe(1);
    expect(nameSimilarity('priceCurrency', 'sow by')).toBe(0);
    expect(fold('Straße  ÉTÉ')).toBe('strasse ete');
  });

  test('is between 0 and 1 and does not depend on the order', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (a, b) => {
        const likeness = nameSimilarity(a, b);
        expect(likeness).toBeGreaterThanOrEqual(0);
        expect(likeness).toBeLessThanOrEqual(1);
        expect(nameSimilarity(b, a)).toBeCloseTo(likeness, 10);
      }),
    );
  });
});

test.each([
  ['Wall shelf for three pots', 'Wall shelf', 15],
  ['Regal für drei Töpfe', 'Regal', 10],
  ['Étagère pour trois pots', 'Étagère', 13],
  ['Apron with pockets and ties', 'Apron with pockets', 23],
  ['Work gloves S/M with cuffs', 'Work gloves', 14],
  ['Hose connector 3/4 inch', 'Hose connector', 16],
  ['Pots indoor/outdoor use', 'Pots indoor', 12],
  ['Vitamin A for plants', 'Vitamin A', 13],
])('%s is cut to %s', (text, cut, limit) => {
  expect(shortenBetweenWords(text, limit)).toBe(cut);
});
