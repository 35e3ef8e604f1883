import { trialField, trialSheet } from '../../../../tests/support/sheets';
import { attributeIndex } from '../../catalog/value';
import { readTree } from '../../categories/tree';
import { fromAttribute } from '../../compose/composition';
import { compile } from '../../listing/compile';
import { evaluateAll } from '../../listing/evaluate';
import { emptyPlan } from '../../plans/plan';
import { issueWords } from '../messages';

const sheet = trialSheet([
  trialField('sku', 'text', { role: 'id' }),
  trialField('title', 'text', { role: 'title' }),
  trialField('alt', 'text', { role: 'pictureText' }),
]);
const index = attributeIndex(['sku', 'name', 'about', 'family']);
const plan = {
  ...emptyPlan('trial', { country: 'DE', language: 'de', currency: 'EUR' }),
  fields: { sku: fromAttribute('sku'), title: fromAttribute('name'), alt: fromAttribute('about') },
};
const compiled = compile(plan, sheet, readTree('code,parent,name_en\n1,,Garden\n'), index);
/** What is said of listings with these alternative texts, one after the other. */
const stated = (...texts: (string | undefined)[]) =>
  evaluateAll(compiled, {
    skus: texts.map((_text, at) => `P-${at}`),
    rows: texts.map((text, at) => [`P-${at}`, `Ridge pot ${at}`, text, undefined]),
  }).map(({ issues }) =>
    issues.filter(({ field }) => field === 'alt').map((issue) => issueWords(issue, () => 'Picture text')),
  );

test.each([
  ['ridge POT 0', 'Picture text only repeats the title'],
  ['IMG_4711', 'Picture text “IMG_4711” is a file name'],
  ['pot-moss-1.jpg', 'Picture text “pot-moss-1.jpg” is a file name'],
  ['Produktbild', 'Picture text “Produktbild” does not describe the picture'],
  ['Zdjęcie produktu', 'Picture text “Zdjęcie produktu” does not describe the picture'],
])('“%s” does not tell what the picture shows', (text, words) => {
  expect(stated(text)).toEqual([[words]]);
});

test.each([
  'A moss green pot on a window sill, a fern in it',
  'Bild 2: der Topf von oben, mit Untersetzer',
  'Photo frame of ash wood',
  undefined,
])('“%s” does, or is not there', (text) => {
  expect(stated(text)).toEqual([[]]);
});

test('one text on pictures of several items is told on each of them', () => {
  const [one, two, other] = stated('A pot on a sill', 'a pot on a sill ', 'A can beside a fern');
  expect(one).toHaveLength(1);
  expect(two).toHaveLength(1);
  expect(one?.[0]).toContain('is the same as that of');
  expect(other).toEqual([]);
});
