import { spawnSync } from 'node:child_process';
import fc from 'fast-check';
import { checkDigit, readIdentifier } from '../../identifiers/gtin';
import { readNumber } from '../../measures/numbers';
import {
  codeDamage,
  damageOf,
  decimalDamage,
  encodingDamage,
  formulaDamage,
  gtinDamage,
  isFormula,
  letterDamage,
  saysNothing,
  stockDamage,
} from './damage';

describe('numbers', () => {
  test('scientific notation: only the digits that survived, never invented ones', () => {
    expect(gtinDamage('9.52E+12')).toMatchObject({
      damage: 'scientific',
      to: undefined,
      reason: expect.stringContaining('3 of 13'),
    });
    expect(gtinDamage('9.520000030148E+12')).toMatchObject({ damage: 'scientific', to: '9520000030148' });
    expect(gtinDamage('9,520000030149E+12')).toMatchObject({ to: undefined });
  });

  // Source: GS1 General Specifications, section 7.9: a number is only given back where the check digit holds.
  test('lost leading zeros come back exactly where the check digit then holds', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 3 }),
        fc.integer({ min: 10_000_000, max: 999_999_999 }),
        (zeros, seed) => {
          const body = `${'0'.repeat(zeros)}${seed}`.padEnd(12, '7').slice(0, 12);
          const complete = body + checkDigit(body);
          const found = gtinDamage(complete.replace(/^0+/, ''));
          if (found?.to) expect(readIdentifier(found.to).normal).toBe(complete.padStart(14, '0'));
        },
      ),
    );
    expect(gtinDamage(`12345678901${checkDigit('012345678901')}`)).toBeUndefined();
    expect(gtinDamage(String(Number(`0012345678905`)))).toMatchObject({
      damage: 'leadingZeros',
      to: '012345678905',
    });
    expect(gtinDamage('12345678904')).toBeUndefined();
  });

  test('a sound number is left alone', () => {
    expect(gtinDamage('9520000030148')).toBeUndefined();
    expect(gtinDamage('')).toBeUndefined();
    expect(gtinDamage('\u200b9520000030148\u00a0')).toMatchObject({
      damage: 'invisible',
      to: '9520000030148',
    });
  });
});

test.each([
  ['03. Mrz', { damage: 'date', to: '3-3' }],
  ['12-Mar', { damage: 'date', to: '12-3' }],
  ['2027-03-12 00:00:00', { damage: 'date', to: undefined }],
  ['AB\u200b-12 ', { damage: 'invisible', to: 'AB-12' }],
  ['MAR-12', undefined],
  ['12-Max', undefined],
])('code %j', (cell, found) => {
  const proposal = codeDamage(cell);
  if (found) expect(proposal).toMatchObject(found);
  else expect(proposal).toBeUndefined();
});

describe('encoding', () => {
  // Source: Python's codecs write UTF-8 and read it as Windows-1252; what comes back must be the text that went in.
  test('what Python damages is given back', () => {
    const texts = ['Sträuße', 'Größe – 24,90 €', 'crème brûlée', 'año', '„Zitat“', 'œuvre'];
    const program =
      'import sys,json; print(json.dumps([t.encode("utf-8").decode("cp1252") for t in json.loads(sys.argv[1])]))';
    const broken: string[] = JSON.parse(
      spawnSync('python3', ['-c', program, JSON.stringify(texts)], { encoding: 'utf8' }).stdout,
    );
    expect(broken.map((text) => encodingDamage(text)?.to)).toEqual(texts);
  });

  test('a text that is right elsewhere is read back only where it is damaged', () => {
    const pairs = [
      ['Für Kräuter, mit UntersetzerschÃ¤lchen – grün', 'Für Kräuter, mit Untersetzerschälchen – grün'],
      ['Größe wie „groÃŸâ€œ im Café', 'Größe wie „groß“ im Café'],
      ['5 Â°C bis 20 °C', '5 °C bis 20 °C'],
      ['Łódź und StrÃ¤uÃŸe', 'Łódź und Sträuße'],
    ] as const;
    for (const [from, to] of pairs) expect(encodingDamage(from)).toMatchObject({ damage: 'encoding', to });
    for (const text of ['A–Ä–Ö grün', 'É“ und ‘Ä’ für SÃO', 'Ø 14 – Å–Ø'])
      expect(encodingDamage(text)).toBeUndefined();
  });

  test('sound texts are left alone', () => {
    for (const text of ['Sträuße', 'SÃO PAULO', 'Ã', 'plain', '24,90 €', 'naïve café'])
      expect(encodingDamage(text)).toBeUndefined();
    fc.assert(
      fc.property(fc.stringMatching(/^[a-zA-ZäöüßéñÄ0-9 ,.-]{0,30}$/), (text) =>
        expect(encodingDamage(text)).toBeUndefined(),
      ),
    );
  });
});

describe('decimal signs', () => {
  test.each([
    ['24.90', ',', '24,90'],
    ['1,299.00', ',', '1.299,00'],
    ['1.299,00', '.', '1,299.00'],
    ['24,90', '.', '24.90'],
    ['1.250', ',', undefined],
    ['1.234.567', ',', undefined],
    ['1.250,50', ',', undefined],
    ['24,90 €', ',', undefined],
    ['100', ',', undefined],
  ] as const)('%s in a column that writes %s', (cell, sign, to) => {
    expect(decimalDamage(cell, sign)?.to).toBe(to);
  });

  // Source: Python's float, which reads what is written with a decimal point.
  test('what the repair writes is the number that was meant', () => {
    const cells = ['24.90', '1,299.00', '0.5', '12,345,678.9'];
    const { stdout } = spawnSync('python3', [
      '-c',
      `print([float(c.replace(',', '')) for c in ${JSON.stringify(cells)}])`,
    ]);
    const wanted: number[] = JSON.parse(stdout.toString());
    expect(cells.map((cell) => Number(readNumber(decimalDamage(cell, ',')?.to ?? '', ',')))).toEqual(wanted);
  });
});

test('digits wrapped in a formula come out of it; a formula stays one', () => {
  expect(formulaDamage('="0012"')?.to).toBe('0012');
  expect(formulaDamage('=A1+1')).toBeUndefined();
  expect(['=A1', ' = 1+2', '=cmd|x', '-5', '+49 30', '@home', '==', '= '].map(isFormula)).toEqual([
    true,
    true,
    true,
    false,
    false,
    false,
    false,
    false,
  ]);
});

// Read off by a person: what spreadsheets of several countries leave behind.
describe('further damage', () => {
  test.each([
    ['gtin', "'4012345000016", 'apostrophe', '4012345000016'],
    ['sku', "'00123", 'apostrophe', '00123'],
    ['sku', '1001.0', 'decimalZero', '1001'],
    ['gtin', '4012345000016,0', 'decimalZero', '4012345000016'],
    ['gtin', '4012345000017', 'checkDigit', undefined],
    ['gtin', '4,01235×10^12', 'scientific', undefined],
    ['size', '03. Apr', 'date', '3-4'],
    ['size', 'abr-05', 'date', '5-4'],
    ['size', '12. paź', 'date', '12-10'],
    ['size', '2026-04-03', 'date', undefined],
    ['description', `${'word '.repeat(50)}words`, 'cut', undefined],
  ])('%s “%s” is %s', (attribute, cell, damage, to) => {
    expect(damageOf(attribute, cell)).toMatchObject({ damage, to });
  });
  test.each([
    ['sku', "O'Hara-5"],
    ['sku', '1001.5'],
    ['sku', 'MAR-12'],
    ['gtin', '4012345000016'],
    ['size', 'S'],
    ['size', '3-4'],
    ['size', 'Set 2'],
    ['size', '3 Set'],
    ['description', `${'word '.repeat(50)}word.`],
    ['description', 'a'.repeat(255)],
  ])('%s “%s” is whole', (attribute, cell) => {
    expect(damageOf(attribute, cell)).toBeUndefined();
  });
  test.each(['#N/A', '#NV', '#BEZUG!', 'NULL', '(null)', 'n/a', ' - ', 'k.A.', '#¡VALOR!'])(
    '“%s” says nothing',
    (cell) => {
      expect(saysNothing(cell)).toBe(true);
    },
  );
  test.each(['none', 'No', '0', '-5', 'A-', 'Null-Liter-Flasche'])('“%s” says something', (cell) => {
    expect(saysNothing(cell)).toBe(false);
  });
});

test.each<[string, string | undefined | null]>([
  ['sold out', '0'],
  ['Ausverkauft', '0'],
  ['épuisé', '0'],
  ['slut', '0'],
  ['nie', '0'],
  ['> 10', '10'],
  ['100+', '100'],
  ['mehr als 5', '5'],
  ['plus de 20', '20'],
  ['co najmniej 3', '3'],
  ['in stock', undefined],
  ['auf Lager', undefined],
  ['12', null],
  ['< 5', null],
  ['soon', null],
])('a stock in words: “%s”', (cell, to) => {
  const found = stockDamage(cell);
  if (to === null) expect(found).toBeUndefined();
  else expect(found).toMatchObject({ damage: 'stockWord', from: cell, to });
});

// Each as a careful person would say. Source of the letters: what ISO 8859-1 and ASCII leave of texts in other encodings.
test.each([
  ['Topf gr?n', 'lostLetters', undefined],
  ['Kocio\ufffdek', 'lostLetters', undefined],
  ['Ridge\u200b pot', 'invisible', 'Ridge pot'],
  ['\ufeffRidge pot', 'invisible', 'Ridge pot'],
  ['Is it a pot? It is.', undefined, undefined],
  ['https://pots.example/a?side=left', undefined, undefined],
  ['Pot à fleurs\u00a0: grès', undefined, undefined],
])('letters of “%s”: %s', (cell, damage, to) => {
  const found = letterDamage(cell);
  expect(found && [found.damage, found.to]).toEqual(damage && [damage, to]);
});

test.each([
  ['1.23E+11', 'scientific'],
  ['4,5E+05', 'scientific'],
  ['3-Dez', 'date'],
  ['12. brez', undefined],
  ['E-1400', undefined],
  ['1E4B', undefined],
])('the code “%s”: %s', (cell, damage) => {
  expect(codeDamage(cell)?.damage).toBe(damage);
});
