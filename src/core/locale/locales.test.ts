import { commonLocales, example, isLocale, localeName } from './locales';

test('every locale that is offered can be written for, and has a name of its own', () => {
  expect(commonLocales.filter((one) => !isLocale(one))).toEqual([]);
  expect(new Set(commonLocales.map(localeName)).size).toBe(commonLocales.length);
});

test.each(['de', 'xx-XX', '', 'de_DE', '../etc', 'x'.repeat(50)])(
  '%j is no language with a region',
  (tag) => {
    expect(isLocale(tag)).toBe(false);
  },
);

test('the example shows the forms of CLDR', () => {
  expect(example('de-DE')).toBe('12.345,5 and 23.11.2026, 16:05');
  expect(example('en-US')).toBe('12,345.5 and 11/23/2026, 04:05 PM');
  expect(localeName('de-DE')).toBe('German (Germany)');
});
