import fc from 'fast-check';
import { readTables } from './tables';

async function* inPieces(text: string, size: number): AsyncGenerator<string> {
  for (let at = 0; at < text.length; at += size) yield text.slice(at, at + size);
}

async function rows(page: string, size = 1000, wanted?: string): Promise<string[]> {
  const found: string[] = [];
  for await (const { sheet, row, cells } of readTables(inPieces(page, size), wanted))
    found.push(`${sheet} ${row}: ${cells.join(' | ')}`);
  return found;
}

const page = `<html><head><style>td { color: red }</style></head><body><p>Stock</p>
<table><thead><tr><th>Item</th><th colspan=2>Sizes</th><th>Note</th></tr></thead>
<tr><td>A&amp;B<td>10&nbsp;cm<td>14<br>cm</td><td><table><tr><td>inner</td></tr></table></td></tr>
<tr><td> Pot
 two </td><td></td><td>x</td><td><script>evil()</script>y</td></tr></table>
<table><tr><td>1</td></tr></table>`;

test('tables are read row by row, whatever is left open in them', async () => {
  const read = [
    'Table 1 1: Item | Sizes |  | Note',
    'Table 1 2: A&B | 10 cm | 14 cm | inner',
    'Table 1 3: Pot two |  | x | y',
    'Table 2 1: 1',
  ];
  for (const size of [1, 7, 5000]) expect(await rows(page, size)).toEqual(read);
  expect(await rows(page, 100, 'Table 2')).toEqual(['Table 2 1: 1']);
});

test('a cell that reaches over rows or columns moves no other', async () => {
  const merged = `<table><tr><th>Group<th>SKU<th>Size<th>Note</tr>
<tr><td rowspan=3>Pots<td>A<td rowspan="2">10 cm<td>x</tr>
<tr><td>B<td>y</tr>
<tr><td>C<td colspan=2 rowspan=2>14 cm</tr>
<tr><td>Cans<td>D</tr></table><table><tr><td>E</tr></table>`;
  expect(await rows(merged, 4)).toEqual([
    'Table 1 1: Group | SKU | Size | Note',
    'Table 1 2: Pots | A | 10 cm | x',
    'Table 1 3: Pots | B | 10 cm | y',
    'Table 1 4: Pots | C | 14 cm | ',
    'Table 1 5: Cans | D | 14 cm | ',
    'Table 2 1: E',
  ]);
});

test('no text breaks it', async () => {
  const part = fc.constantFrom(
    '<table>',
    '</table>',
    '<tr>',
    '<td colspan="9e9" rowspan="7">',
    '</td>',
    '<script>',
    '&#0;',
    'x',
    '<th',
  );
  await fc.assert(
    fc.asyncProperty(fc.array(part, { maxLength: 60 }), async (parts) => {
      expect(Array.isArray(await rows(parts.join(''), 3))).toBe(true);
    }),
    { numRuns: 100 },
  );
});
