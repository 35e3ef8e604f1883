import { spawnSync } from 'node:child_process';
import fc from 'fast-check';
import { readBlock, writeBlock } from './block';

test('a block as spreadsheets copy it', () => {
  expect(readBlock('7,10\tmoss\r\n7,20\t"dark\nred"\r\n')).toEqual([
    ['7,10', 'moss'],
    ['7,20', 'dark\nred'],
  ]);
  expect(readBlock('one')).toEqual([['one']]);
  expect(readBlock('a\t\tc')).toEqual([['a', '', 'c']]);
  expect(readBlock('5" pot\t"14"" pot"')).toEqual([['5" pot', '14" pot']]);
});

const cells = fc.array(fc.array(fc.stringMatching(/^[a-z"\t\n, ]{0,6}$/), { minLength: 2, maxLength: 2 }), {
  minLength: 1,
  maxLength: 4,
});

test('what is copied is pasted', () => {
  fc.assert(fc.property(cells, (rows) => expect(readBlock(writeBlock(rows))).toEqual(rows)));
});

// Source: Python's csv module with its excel-tab dialect.
test('a spreadsheet reads what is copied', () => {
  const rows = [
    ['a "b"', 'line\nend'],
    ['tab\there', ''],
  ];
  const { stdout } = spawnSync(
    'python3',
    [
      '-c',
      "import csv, json, sys, io\nprint(json.dumps(list(csv.reader(io.StringIO(sys.stdin.read(), newline=''), 'excel-tab'))))",
    ],
    { input: writeBlock(rows) },
  );
  expect(JSON.parse(stdout.toString())).toEqual(rows);
});
