import fc from 'fast-check';
import { detectSeparator, partsLines } from '../encoding/decode';
import { columnStarts, FixedWidthReader } from './fixedWidth';

const rowsOf = (text: string, starts: readonly number[]) => {
  const reader = new FixedWidthReader(starts);
  return [...reader.push(text), ...reader.end()];
};
const columns = (...lines: string[]) => columnStarts(lines.join('\n'));

describe('where columns begin', () => {
  test('is found of any table that leaves two blanks between them', () => {
    const word = fc.stringMatching(/^[A-Za-zäé0-9.,-]{1,9}$/);
    const cell = fc.array(word, { minLength: 1, maxLength: 3 }).map((words) => words.join(' '));
    const table = fc
      .integer({ min: 3, max: 7 })
      .chain((width) =>
        fc.array(fc.array(cell, { minLength: width, maxLength: width }), { minLength: 6, maxLength: 40 }),
      );
    fc.assert(
      fc.property(table, fc.array(fc.boolean(), { minLength: 7, maxLength: 7 }), (rows, right) => {
        const widths = (rows[0] ?? []).map((_, at) => Math.max(...rows.map((row) => row[at]?.length ?? 0)));
        const text = rows
          .map((row) =>
            row
              .map((own, at) => (right[at] ? own.padStart(widths[at] ?? 0) : own.padEnd(widths[at] ?? 0)))
              .join('  '),
          )
          .join('\n');
        // Words that stand below each other by chance in all of few lines look like a column to anyone.
        const places = widths.flatMap((_, at) => widths.slice(0, at).reduce((sum, one) => sum + one + 2, 0));
        const starts = columnStarts(text);
        fc.pre(starts !== undefined && starts.length === places.length);
        expect(rowsOf(text, starts).map(({ cells }) => cells)).toEqual(rows);
      }),
      { numRuns: 100 },
    );
  });

  test('is what a drawn line says', () => {
    expect(
      columns(
        'Price list',
        '',
        'No.  Name        Price',
        '---  ----------  -----',
        '1    Pot          4.90',
        '2    Can         12.00',
        '3    Tray         3.50',
      ),
    ).toEqual([0, 5, 17]);
  });

  test('words that stand below each other part nothing', () => {
    const lines = ['red', 'big', 'old', 'new'].map((word, at) => `A-${at}   ${word} pot    ${at}.50   x`);
    expect(columns(...lines)).toEqual([0, 6, 17, 24]);
  });

  test.each<[string, string]>([
    ['prose', 'Dear customers,\nour prices rise.\nWe are sorry.  Really.\nYours\n'],
    ['one column', 'Pots\nCans\nTrays\nSeeds\n'],
    ['two columns, as any two words may look', 'a   b\nc   d\ne   f\ng   h\n'],
    ['tabs', 'a\tb   c   d\ne\tf   g   h\ni\tj   k   l\n'],
    ['nothing', ''],
  ])('%s has none', (_name, text) => {
    expect(columnStarts(text)).toBeUndefined();
  });
});

describe('what parts lines', () => {
  test.each<[string, string, boolean]>([
    [
      'semicolons behind padded cells',
      'Code ; Name    ; Price\nA    ; Pot     ; 4,90\nB    ; Can     ; 5,90\n',
      true,
    ],
    ['commas', 'Code,Name\nA,Pot\nB,Can\n', true],
    [
      'commas in amounts alone',
      'Code   Name   Price\nA      Pot    4,90\nB      Can    5,90\nC      Tray   6,90\n',
      false,
    ],
    ['commas of some names', 'Code   Name\nA      Pot, red\nB      Can\nC      Tray\n', false],
  ])('%s: %s', (_name, text, parts) => {
    expect(partsLines(text, detectSeparator(text))).toBe(parts);
  });
});

describe('rows of fixed width', () => {
  test('come out whole in pieces of any size, with any line end', () => {
    const text = 'No.  Name     Price\r\n---  ----     -----\r1    Pöttchen  4.90\n\n2    Can      12.00';
    const complete = rowsOf(text, [0, 5, 14]);
    expect(complete.map(({ line, cells }) => [line, ...cells])).toEqual([
      [1, 'No.', 'Name', 'Price'],
      [3, '1', 'Pöttchen', '4.90'],
      [5, '2', 'Can', '12.00'],
    ]);
    for (const size of [1, 3, 7]) {
      const reader = new FixedWidthReader([0, 5, 14]);
      const rows = [];
      for (let at = 0; at < text.length; at += size) rows.push(...reader.push(text.slice(at, at + size)));
      expect([...rows, ...reader.end()]).toEqual(complete);
    }
  });

  test('a cell that runs into the next costs its row, and says where', () => {
    const [row] = rowsOf('1    Wateringcans  4.90', [0, 5, 14]);
    expect(row?.broken).toMatch(/^has no blank before column 3, which starts at character 15/);
  });
});
