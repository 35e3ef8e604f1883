import { beginningsOf, phraseFinder } from './phrases';

test.each([
  ['copy of', ['copy o']],
  ['(?:el|la) mejor', ['el mej', 'la mej']],
  ['(?:very )?best of', ['very b', 'best o']],
  ['n[.º]? ?1 in all', ['n.1 in', 'nº1 in', 'n1 in ', 'n. 1 i', 'nº 1 i', 'n 1 in']],
  ['a|bc|(?:d|e)f', ['a', 'bc', 'df', 'ef']],
])('%s begins with %j', (pattern, begins) => {
  expect([...beginningsOf(pattern)].sort()).toEqual([...begins].sort());
});

test('phrases are found where they stand by themselves, in any letters', () => {
  const find = phraseFinder(['trade only', 'élimine (?:les )?germes', '100 ?% guarantee']);
  const of = (text: string) => find(text);
  expect(of('Stool, TRADE ONLY')).toBe('TRADE ONLY');
  expect(of('Il élimine les germes')).toBe('élimine les germes');
  expect(of('With 100% guarantee')).toBe('100% guarantee');
  expect(of('Stool (“trade only”)')).toBe('trade only');
  expect(of('İ TRADE ONLY')).toBe('trade only');
  expect(of('Fairtrade only')).toBeUndefined();
  expect(of('trade onlyx')).toBeUndefined();
});

test('a phrase that is too short to be looked up is refused', () => {
  expect(() => phraseFinder(['idem'])).toThrow('too short');
});
