import fc from 'fast-check';
import { BlockReader, findBlocks, titleColumn } from './keyValueText';

/** What a text says, given in pieces of some size. */
function read(text: string, begins = findBlocks(text), size = text.length) {
  if (begins === undefined) return undefined;
  const reader = new BlockReader(begins);
  const blocks = [];
  for (let at = 0; at < text.length; at += Math.max(1, size))
    blocks.push(...reader.push(text.slice(at, at + Math.max(1, size))));
  return [...blocks, ...reader.end()];
}
const cellsOf = (text: string, begins?: string) =>
  read(text, begins ?? findBlocks(text))?.map(({ cells, broken }) => (broken ? 'broken' : { ...cells }));

describe('text with a line a value', () => {
  test('blocks begin with the name that the first begins with, whatever is empty between', () => {
    const text = 'Autumn list\n\nNo.: A-1\nColour: moss\n\nPrice: 12,90\nNo.: A-2\r\nColour: sand\r\n';
    expect(findBlocks(text)).toBe('No.');
    expect(cellsOf(text)).toEqual([
      { 'No.': 'A-1', Colour: 'moss', Price: '12,90' },
      { 'No.': 'A-2', Colour: 'sand' },
    ]);
  });
  test('where they begin with several names, empty lines part them', () => {
    const text = 'sku=A-1\nname=Pot\n\nname=Tray\nsku=A-2\n\nname=Jar\nsku=A-3\n\nname=Lid\nsku=A-4';
    expect(findBlocks(text)).toBe('');
    expect(cellsOf(text)).toEqual([
      { sku: 'A-1', name: 'Pot' },
      { name: 'Tray', sku: 'A-2' },
      { name: 'Jar', sku: 'A-3' },
      { name: 'Lid', sku: 'A-4' },
    ]);
  });
  // Source: YAML 1.2.2, examples 2.4 and 2.3: a sequence of mappings, a mapping of sequences.
  test('lists of things as YAML writes them: quoted values, lists below a name, notes', () => {
    const text =
      '---\n# the barn\n- sku: A-1\n  title: "Basket, round"\n  images:\n    - https://a.example/1.jpg\n    - https://a.example/2.jpg\n- sku: A-2\n  title: \'Log carrier\'\n  text: |\n    Of leather.\n    With handles.\n...\n';
    expect(cellsOf(text)).toEqual([
      { sku: 'A-1', title: 'Basket, round', images: 'https://a.example/1.jpg|https://a.example/2.jpg' },
      { sku: 'A-2', title: 'Log carrier', text: 'Of leather.\nWith handles.' },
    ]);
  });
  test('names in brackets above a block are a value of it', () => {
    expect(cellsOf('[A-1]\nname=Pot\nprice=3\n[A-2]\nname=Tray\nprice=4\n')).toEqual([
      { [titleColumn]: 'A-1', name: 'Pot', price: '3' },
      { [titleColumn]: 'A-2', name: 'Tray', price: '4' },
    ]);
  });
  test.each([
    ['a table', 'sku,name,opens\nA-1,Pot,08:30\nA-2,Tray,09:00\nA-3,Jar,10:15\n'],
    ['addresses', 'https://a.example/1\nhttps://a.example/2\nhttps://a.example/3\nhttps://a.example/4\n'],
    ['settings of one thing', 'host=a\nport=1\nuser=b\nname=c\nmode=d\nsize=e\n'],
    ['one name alone', 'sku: A\nsku: B\nsku: C\nsku: D\n'],
    ['nothing', ''],
  ])('%s is none', (_name, text) => {
    expect(findBlocks(text)).toBeUndefined();
  });

  const word = fc.stringMatching(/^[a-z][a-z ]{0,10}[a-z]$/);
  const things = fc.array(fc.tuple(word, word), { minLength: 2, maxLength: 6 });
  test('any things come back, in pieces of any size and with line ends of any kind', () => {
    fc.assert(
      fc.property(
        things,
        fc.integer({ min: 1, max: 40 }),
        fc.constantFrom('\n', '\r\n', '\r'),
        (all, size, end) => {
          const text = all
            .map(([name, colour], at) => `Code: X-${at}${end}Name: ${name}${end}Colour: ${colour}${end}`)
            .join(end);
          expect(read(text, 'Code', size)).toEqual(
            all.map(([Name, Colour], at) => ({
              cells: { Code: `X-${at}`, Name, Colour },
              broken: undefined,
            })),
          );
        },
      ),
    );
  });
  test('a block without end costs itself alone, and no memory', () => {
    const endless = `Code: X-1\nText: ${'x'.repeat(3 * 1024 * 1024)}\nCode: X-2\nText: y\n`;
    expect(cellsOf(endless, 'Code')).toEqual(['broken', { Code: 'X-2', Text: 'y' }]);
    const many = `Code: X-1\n${Array.from({ length: 3000 }, (_, at) => `name ${at}: v\n`).join('')}Code: X-2\nText: y\n`;
    expect(cellsOf(many, 'Code')).toEqual(['broken', { Code: 'X-2', Text: 'y' }]);
  });
});
