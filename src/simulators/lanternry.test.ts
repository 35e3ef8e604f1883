import { judge, readFile } from './lanternry';

const entry = (fields: Record<string, string>) =>
  `<entry>${Object.entries({
    ref: 'A',
    headline: 'Ridge pot, moss',
    about: 'A pot that is long enough to be shown.',
    page: 'https://a.example/1',
    picture: 'https://a.example/1.jpg',
    price: '24.90 EUR',
    barcode: '9520000030148',
    place: '7302',
    ...fields,
  })
    .map(([name, text]) => `<c:${name}>${text}</c:${name}>`)
    .join('')}</entry>`;
const file = (...entries: string[]) =>
  `<feed xmlns="http://www.w3.org/2005/Atom" xmlns:c="urn:lively-cart:channel:lanternry:1">${entries.join('')}</feed>`;
const problems = (...entries: string[]) =>
  judge(readFile(file(...entries)), 'DE').map((one) => one.problems.map(({ code }) => code));

test('a good entry is accepted', () => {
  expect(judge(readFile(file(entry({}))), 'DE')).toEqual([{ ref: 'A', result: 'accepted', problems: [] }]);
});

test.each([
  [{ headline: 'Ridge pot, best price' }, 'L104'],
  [{ headline: 'RIDGE POT MOSS LARGE' }, 'L105'],
  [{ about: 'short' }, 'L110'],
  [{ page: 'http://a.example' }, 'L120'],
  [{ picture: 'https://a.example/1.webp' }, 'L130'],
  [{ barcode: '9520000030149' }, 'L140'],
  [{ barcode: '' }, 'L141'],
  [{ place: '' }, 'L150'],
  [{ place: '5101' }, 'L151'],
  [{ price: '0.00 EUR' }, 'L180'],
  [{ price: '24.90 GBP' }, 'L181'],
])('%j is refused with %s', (fields, code) => {
  expect(problems(entry(fields))[0]).toContain(code);
});

test('one barcode on two entries refuses both', () => {
  expect(problems(entry({}), entry({ ref: 'B' }))).toEqual([['L142'], ['L142']]);
});

test('a file that is not well-formed is no file', () => {
  expect(() => readFile('<feed><entry></feed>')).toThrow();
});
