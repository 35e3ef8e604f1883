import { type Attribute, startingAttributes } from './attributes';
import { readValue } from './reading';

const attributeOf = (code: string): Attribute => {
  const found = startingAttributes.find((one) => one.code === code);
  if (!found) throw new Error(`no attribute ${code}`);
  return found;
};
const highlights: Attribute = { ...attributeOf('name'), code: 'highlights', list: true };
const pictures = attributeOf('image');

test.each(['availability', 'itemCondition'])(
  '%s takes the terms of its standard and no other word',
  (code) => {
    const attribute = attributeOf(code);
    expect(readValue(attribute, code === 'availability' ? 'in stock' : 'new')).toMatch(
      /^(InStock|NewCondition)$/,
    );
    expect(() => readValue(attribute, 'whatever')).toThrow(/none of/);
  },
);

test.each<[string, Attribute, string, unknown]>([
  [
    'semicolons',
    highlights,
    'Drains well; Frost proof; Made by hand',
    ['Drains well', 'Frost proof', 'Made by hand'],
  ],
  ['bars', highlights, 'Drains; well | Frost proof', ['Drains; well', 'Frost proof']],
  ['lines', highlights, 'Drains well\nFrost proof', ['Drains well', 'Frost proof']],
  ['one entry', highlights, 'Drains well', ['Drains well']],
  ['file names', pictures, 'a.jpg;b.jpg', ['a.jpg', 'b.jpg']],
  ['file names with blanks', pictures, 'a.jpg; b.PNG ;c.webp', ['a.jpg', 'b.PNG', 'c.webp']],
  [
    'addresses',
    pictures,
    'https://a.example/1.jpg;https://a.example/2.jpg',
    ['https://a.example/1.jpg', 'https://a.example/2.jpg'],
  ],
  ['an address with a semicolon', pictures, 'https://a.example/1.jpg;v=3', ['https://a.example/1.jpg;v=3']],
])('a list is read by its %s', (_name, attribute, text, entries) => {
  expect(readValue(attribute, text)).toEqual(entries);
});
