import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import fc from 'fast-check';
import { DelimitedReader, type DelimitedRow, delimitedRows, writesBackslashes } from './delimited';

const cellsOf = (rows: readonly DelimitedRow[]) =>
  rows.map(({ cells, broken }) => (broken ? 'broken' : cells));

describe('delimited text as it is written', () => {
  test.each([
    ['LF', 'a,b\n1,2\n'],
    ['CR LF', 'a,b\r\n1,2\r\n'],
    ['CR alone', 'a,b\r1,2\r'],
    ['mixed, without a last end', 'a,b\r\n1,2'],
    ['empty lines between', 'a,b\n\n\r\n1,2\n\n'],
  ])('lines ending with %s', (_name, text) => {
    expect(cellsOf(delimitedRows(text, ','))).toEqual([
      ['a', 'b'],
      ['1', '2'],
    ]);
  });

  test.each([
    ['a mark inside a cell', 'A1,12" wheel,5', ['A1', '12" wheel', '5']],
    ['a quoted cell with the separator', 'A1,"pot, glazed",5', ['A1', 'pot, glazed', '5']],
    ['doubled marks', 'A1,"12"" wheel",5', ['A1', '12" wheel', '5']],
    ['marks inside a quoted cell that are not doubled', 'A1,"the "big" pot",5', ['A1', 'the "big" pot', '5']],
    ['an empty quoted cell', 'A1,"",5', ['A1', '', '5']],
    [
      'a quoted cell of several lines',
      'A1,"first\nsecond, with more",5',
      ['A1', 'first\nsecond, with more', '5'],
    ],
    ['empty cells at the ends', ',A1,,', ['', 'A1', '', '']],
  ])('%s', (_name, text, cells) => {
    expect(delimitedRows(text, ',', 3)).toEqual([{ line: 1, cells, broken: undefined }]);
  });
});

describe('a mark that opens and never closes', () => {
  const rows = (count: number, bad: number) =>
    Array.from({ length: count }, (_, i) =>
      i + 1 === bad
        ? `S${i + 1},"broken name,${i}`
        : i % 7 === 3
          ? `S${i + 1},"pot, no ${i}",${i}`
          : `S${i + 1},pot,${i}`,
    );

  // Where it stands: the first row, in the middle, the last; with quoted cells behind it, in the same column and in others.
  test.each([
    [5, 1],
    [5000, 4000],
    [40_000, 39_001],
    [12, 12],
  ])('of %i rows, in row %i, costs that row alone', (count, bad) => {
    const text = ['sku,name,stock', ...rows(count, bad)].join('\n');
    const read = delimitedRows(text, ',', 3);
    expect(read).toHaveLength(count + 1);
    expect(read.filter(({ broken }) => broken)).toEqual([
      {
        line: bad + 1,
        cells: [`S${bad}`, '"broken name', String(bad - 1)],
        broken: `opens a quotation mark in line ${bad + 1} that is never closed. Close or double it`,
      },
    ]);
    expect(read.at(-1)?.cells[0]).toBe(`S${count}`);
  });

  test('the very next row has a quoted cell in the same column', () => {
    const read = delimitedRows('s,n,c\nA,"broken,1\nB,"whole, name",2\nC,pot,3\n', ',', 3);
    expect(cellsOf(read)).toEqual([['s', 'n', 'c'], 'broken', ['B', 'whole, name', '2'], ['C', 'pot', '3']]);
  });

  test('several of them', () => {
    const read = delimitedRows('s,n\nA,"x\nB,y\nC,"z\nD,w\n', ',', 2);
    expect(cellsOf(read)).toEqual([['s', 'n'], 'broken', ['B', 'y'], 'broken', ['D', 'w']]);
  });

  test('before the heading is known', () => {
    const read = delimitedRows('Price list "2027\n"our range\nsku,name,stock\nA,pot,1\n', ',');
    expect(cellsOf(read)).toEqual([
      ['Price list "2027'],
      'broken',
      ['sku', 'name', 'stock'],
      ['A', 'pot', '1'],
    ]);
  });

  test('a text of many lines with separators stays one cell', () => {
    const text = 'Soak the seeds, then sow.\nKeep moist, warm, in light.\n\nHarvest after 9 days.';
    const read = delimitedRows(`sku,text,a,b,c\nA,"${text}",1,2,3\nB,x,1,2,3\n`, ',', 5);
    expect(read[1]).toEqual({ line: 2, cells: ['A', text, '1', '2', '3'], broken: undefined });
    expect(read[2]?.line).toBe(6);
  });

  test('over more than a megabyte is given up, with bounded memory', () => {
    const long = Array.from({ length: 60_000 }, (_, i) => `S${i},a pot of clay,${i}`).join('\n');
    const read = delimitedRows(`sku,name,stock\nA,"broken,1\n${long}`, ',', 3);
    expect(read.filter(({ broken }) => broken)).toHaveLength(1);
    expect(read).toHaveLength(60_002);
  });

  test.each([
    ['in the same column', (i: number) => `A${i},"x,1`],
    ['at the beginning', (i: number) => `"A${i},x,1`],
    ['doubled at the beginning', (i: number) => `""A${i},x,1`],
    ['with words behind its end', (i: number) => `A${i},"x"y,1`],
  ])('on every line, %s, takes no longer than the file is long', (_name, line) => {
    const read = delimitedRows(Array.from({ length: 60_000 }, (_, i) => line(i)).join('\n'), ',', 3);
    expect(read.length).toBeGreaterThan(10_000);
    expect(read.at(-1)?.line).toBe(60_000);
  });
});

const cell = fc.string({ unit: fc.constantFrom('a', 'ß', '"', ',', ';', ' ', '\n', '1', '.'), maxLength: 8 });
const table = fc
  .integer({ min: 3, max: 6 })
  .chain((width) =>
    fc.array(fc.array(cell, { minLength: width, maxLength: width }), { minLength: 1, maxLength: 12 }),
  );

test('text that keeps RFC 4180 is read as csv-parse reads it, however it is cut into pieces', () => {
  fc.assert(
    fc.property(
      table,
      fc.integer({ min: 1, max: 9 }),
      fc.constantFrom('\n', '\r\n'),
      (rows, size, ending) => {
        const full = rows.map((row, i) => [`S${i}`, ...row]);
        const text = stringify(full, { record_delimiter: ending, quoted: true });
        const reader = new DelimitedReader(',', (full[0] as string[]).length);
        const read: DelimitedRow[] = [];
        for (let at = 0; at < text.length; at += size) read.push(...reader.push(text.slice(at, at + size)));
        read.push(...reader.end());
        const wanted = parse(text) as string[][];
        // Only a cell that itself looks like rows of the file may be doubted; it is then told, never read wrongly.
        const doubted = read.some(({ broken }) => broken);
        if (!doubted) expect(read.map(({ cells }) => cells)).toEqual(wanted);
        else expect(text).toMatch(/,"(?!")|\n/);
      },
    ),
    { numRuns: 300 },
  );
});

test('no text is lost and none hangs, whatever it is', () => {
  const wild = fc.string({ unit: fc.constantFrom('a', '"', ',', '\n', '\r', ' '), maxLength: 60 });
  fc.assert(
    fc.property(wild, (text) => {
      const read = delimitedRows(text, ',');
      const lines = text.split(/\r\n|\n|\r/);
      for (const { line, cells, broken } of read) if (broken) expect(cells.join(',')).toBe(lines[line - 1]);
      const letters = (value: string) => value.replaceAll(/[^a]/g, '').length;
      expect(read.reduce((sum, { cells }) => sum + letters(cells.join('')), 0)).toBe(letters(text));
    }),
    { numRuns: 500 },
  );
});

// Source: MariaDB's manual, SELECT … INTO OUTFILE: how fields are escaped where ESCAPED BY is a backslash, as it is by itself.
describe('text as databases write it', () => {
  const rowsOf = (text: string, separator: '\t' | ',') => {
    const reader = new DelimitedReader(separator, undefined, true);
    return cellsOf([...reader.push(text), ...reader.end()]);
  };
  test('signs stand behind a backslash, and nothing is \\N', () => {
    expect(rowsOf('A-1\t12\\" wheel\tfirst\\nsecond\t\\N\ta\\\\b\tc\\\td\n', '\t')).toEqual([
      ['A-1', '12" wheel', 'first\nsecond', '', 'a\\b', 'c\td'],
    ]);
    expect(rowsOf('"A-1","the \\"big\\", pot",\\N,"ends with \\\\"\n', ',')).toEqual([
      ['A-1', 'the "big", pot', '', 'ends with \\'],
    ]);
  });
  test.each([
    ['nothing written as \\N', 'A-1\t\\N\t3\n', '\t', true],
    ['marks behind a backslash', '"A-1","12\\" wheel","3"\n', ',', true],
    ['folders', 'A-1,C:\\new\\pot,3\nA-2,"C:\\new\\",3\n', ',', false],
    ['doubled marks', '"A-1","12"" wheel","3"\n', ',', false],
  ] as const)('%s', (_name, text, separator, expected) => {
    expect(writesBackslashes(text, separator)).toBe(expected);
  });
  test('what was written so is read again, in pieces of any size', () => {
    const cell = fc.stringMatching(/^[a-z,"\\\n\t]{0,8}$/).filter((text) => text !== '\\N');
    const signs: Record<string, string> = { '\n': '\\n', '\t': '\\t', '\\': '\\\\' };
    const write = (text: string) => text.replace(/[\n\t\\]/g, (sign) => signs[sign] ?? sign);
    fc.assert(
      fc.property(
        fc.array(fc.array(cell, { minLength: 3, maxLength: 3 }), { minLength: 1, maxLength: 5 }),
        fc.integer({ min: 1, max: 9 }),
        (rows, size) => {
          // A mark at a cell's beginning would open it.
          const plain = rows.map((row) => row.map((text, at) => `${at === 0 ? 'k' : 'v'}${text}`));
          const text = plain.map((row) => `${row.map(write).join('\t')}\n`).join('');
          const reader = new DelimitedReader('\t', undefined, true);
          const read: DelimitedRow[] = [];
          for (let at = 0; at < text.length; at += size) read.push(...reader.push(text.slice(at, at + size)));
          read.push(...reader.end());
          expect(cellsOf(read)).toEqual(plain);
        },
      ),
    );
  });
});

test('what is drawn below the heading of a Markdown table is no row', () => {
  expect(cellsOf(delimitedRows('|a|b|\n|:---|---:|\n|1|2|\n|-|--|\n', '|'))).toEqual([
    ['', 'a', 'b', ''],
    ['', '1', '2', ''],
    ['', '-', '--', ''],
  ]);
});
