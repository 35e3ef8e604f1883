import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import fc from 'fast-check';
import { isValid } from 'gtin';
import isbn from 'isbn3';
import { checkDigit, checkDigitHolds, isbn13From10, readIdentifier, shortForm } from './gtin';

const digits = (length: number) =>
  fc
    .array(fc.integer({ min: 0, max: 9 }), { minLength: length, maxLength: length })
    .map((list) => list.join(''));

describe('check digits', () => {
  // GS1 General Specifications, section 7.9.1: the worked example.
  test('6291041500213 is the worked example of GS1', () => {
    expect(checkDigit('629104150021')).toBe(3);
    expect(readIdentifier('6291041500213')).toEqual({
      input: '6291041500213',
      kind: 'GTIN-13',
      normal: '06291041500213',
      verdict: 'valid',
    });
  });

  // Source: Debian's eancheck, an independent implementation, on 500 random codes of 13 digits, about half of them valid.
  test('agree with eancheck on random codes', () => {
    if (!existsSync('/usr/bin/eancheck'))
      throw new Error('Debian’s eancheck is missing; npm test installs it');
    const codes = fc.sample(
      fc
        .tuple(digits(12), fc.boolean(), fc.integer({ min: 1, max: 9 }))
        .map(([body, valid, off]) => body + ((checkDigit(body) + (valid ? 0 : off)) % 10)),
      { numRuns: 500, seed: 952 },
    );
    // The program takes one code a run; a shell runs it for all of them.
    const stated = spawnSync('sh', ['-c', 'for code; do eancheck "$code"; done', 'sh', ...codes], {
      encoding: 'utf8',
      maxBuffer: 1 << 26,
    });
    const lines = stated.stdout.split('\n').filter((line) => /check digit/i.test(line));
    expect(lines).toHaveLength(codes.length);
    const theirs = codes.map((code, i) => [code, lines[i] === 'Check digit correct']);
    expect(codes.map((code) => [code, readIdentifier(code).normal !== ''])).toEqual(theirs);
    expect(theirs.filter(([, valid]) => valid).length).toBeGreaterThan(150);
  });

  // Source: npm gtin, an independent implementation, on all four lengths.
  test('agree with npm gtin on random codes of every length', () => {
    for (const length of [8, 12, 13, 14])
      fc.assert(
        fc.property(digits(length), (code) => {
          expect(readIdentifier(code).normal !== '').toBe(isValid(code));
        }),
        { numRuns: 1000, seed: length },
      );
  });

  test('a single wrong digit is always found', () => {
    fc.assert(
      fc.property(digits(12), fc.nat(12), fc.integer({ min: 1, max: 9 }), (body, at, off) => {
        const code = body + checkDigit(body);
        const changed = code.slice(0, at) + ((Number(code[at]) + off) % 10) + code.slice(at + 1);
        expect(checkDigitHolds(changed)).toBe(false);
      }),
    );
  });
});

describe('ISBN', () => {
  // ISBN Users' Manual: 0-306-40615-2 is 978-0-306-40615-7.
  test('the example of the ISBN Users’ Manual', () => {
    expect(isbn13From10('0306406152')).toBe('9780306406157');
    expect(readIdentifier('0-306-40615-2')).toMatchObject({
      kind: 'ISBN-10',
      normal: '09780306406157',
      verdict: 'valid',
    });
    expect(readIdentifier('978-0-306-40615-7')).toMatchObject({
      kind: 'ISBN-13',
      normal: '09780306406157',
      verdict: 'valid',
    });
  });

  // Source: npm isbn3, an independent implementation. It knows which publishers exist, so only its conversions are compared.
  test('conversions agree with npm isbn3', () => {
    let compared = 0;
    fc.assert(
      fc.property(digits(9), (body) => {
        for (const last of '0123456789X') {
          const ours = readIdentifier(body + last);
          const theirs = isbn.parse(body + last);
          if (!theirs) continue;
          compared++;
          expect(ours.normal).toBe(`0${theirs.isbn13}`);
        }
      }),
      { numRuns: 600, seed: 978 },
    );
    expect(compared).toBeGreaterThan(100);
  });

  // GS1 General Specifications, figure 1.4.1-1: 977 is ISSN, 979-0 is printed music.
  test('serials and music are no books', () => {
    expect(readIdentifier('9771234567003').kind).toBe('GTIN-13');
    expect(readIdentifier(`979012345678${checkDigit('979012345678')}`).kind).toBe('GTIN-13');
  });
});

describe('reading', () => {
  // GS1 General Specifications, section 1.4: prefixes for restricted circulation and coupons.
  test.each(['02', '04', '20', '29', '05', '98', '99'])(
    'prefix %s is for use inside one company or for coupons',
    (prefix) => {
      const body = prefix.padEnd(12, '7');
      expect(readIdentifier(body + checkDigit(body)).verdict).toBe('restricted');
    },
  );

  test('prefix 952, kept for examples, is open', () => {
    expect(readIdentifier(`952000003014${checkDigit('952000003014')}`).verdict).toBe('valid');
  });

  test.each([
    ['', 'unknown', 'empty'],
    ['   ', 'unknown', 'empty'],
    ['12', 'unknown', 'length'],
    ['9.52E+12', 'unknown', 'characters'],
    ['629104150021X', 'unknown', 'characters'],
    ['6291041500214', 'GTIN-13', 'checkdigit'],
    ['0306406153', 'ISBN-10', 'checkdigit'],
    ['0'.repeat(500), 'unknown', 'length'],
  ])('%j is %s, %s', (input, kind, verdict) => {
    expect(readIdentifier(input)).toEqual({ input, kind, normal: '', verdict });
  });

  test('spaces and hyphens are passed over, and the short form drops the leading zero', () => {
    const reading = readIdentifier(' 6291-0415 0021–3 ');
    expect(reading.verdict).toBe('valid');
    expect(shortForm(reading.normal)).toBe('6291041500213');
    expect(shortForm('19520000030145')).toBe('19520000030145');
  });

  test('never throws, and normal is always 14 digits or empty', () => {
    fc.assert(fc.property(fc.string(), (text) => expect(readIdentifier(text).normal).toMatch(/^(\d{14})?$/)));
  });
});
