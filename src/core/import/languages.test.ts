import { attributeSchema, startingAttributes, textsInLanguages } from '../catalog/attributes';
import { attributeIndex, attributeReader, codeInLanguage, languageInCode } from '../catalog/value';
import { suggestColumns } from './columns/columns';

const sample = [
  { sku: 'A1', name_de: 'Topf', name_en: 'Pot', 'Description (fr)': 'Un pot.', description: 'A pot.' },
  { sku: 'A2', name_de: 'Kanne', name_en: 'Can', 'Description (fr)': '', description: 'A can.' },
];
const filledBy = (main?: string, columns = Object.keys(sample[0] ?? {})) =>
  Object.fromEntries(
    suggestColumns(columns, sample, startingAttributes, main).map(({ attribute, column }) => [
      attribute,
      column,
    ]),
  );

describe('columns that differ by their language', () => {
  test('fill one attribute, the main language itself and the others beside it', () => {
    expect(filledBy('en')).toMatchObject({
      name: 'name_en',
      'name@de': 'name_de',
      description: 'description',
      'description@fr': 'Description (fr)',
    });
    expect(filledBy('de')).toMatchObject({ name: 'name_de', 'name@en': 'name_en' });
  });
  test('where the main language has no column the first one stands for it', () => {
    expect(filledBy('sv', ['sku', 'name_de', 'name_en'])).toMatchObject({
      name: 'name_de',
      'name@en': 'name_en',
    });
  });
});

describe('an attribute in several languages', () => {
  const index = attributeIndex(['name', codeInLanguage('name', 'de-AT')]);
  const [both, only] = [
    ['Pot', 'Topf'],
    ['Pot', undefined],
  ] as const;
  const read = (language: string, untranslated?: 'main' | 'nothing') =>
    attributeReader(index, 'name', { language, untranslated });
  test('is read in the wanted language, then in the main one or not at all', () => {
    expect(read('de')?.(both)).toBe('Topf');
    expect(read('de-CH')?.(both)).toBe('Topf');
    expect(read('de')?.(only)).toBe('Pot');
    expect(read('de', 'nothing')?.(only)).toBeUndefined();
  });
  test('in a language that nobody writes it in, it is read in the main one', () => {
    expect(read('fr', 'nothing')?.(both)).toBe('Pot');
    expect(attributeReader(index, 'name')?.(both)).toBe('Pot');
  });
  test('has a code and a label for each', () => {
    const name = attributeSchema.parse({
      code: 'name',
      label: 'Name',
      kind: 'text',
      languages: ['de', 'pt'],
    });
    expect(textsInLanguages([name]).map(({ code, label }) => [code, label])).toEqual([
      ['name@de', 'Name in German'],
      ['name@pt', 'Name in Portuguese'],
    ]);
    expect(languageInCode('name@de')).toEqual({ of: 'name', language: 'de' });
    expect(languageInCode('price@GBP')).toBeUndefined();
  });
});
