import { attributeIndex } from '../catalog/value';
import { type Composition, compileComposition, fixedText, fromAttribute } from '../compose/composition';
import type { StepContext } from '../compose/steps';
import { beforeLookUp, valueMappingOf, wordsOfField } from './valueMappings';

const index = attributeIndex(['sku', 'glaze', 'color']);
const context = (tables: StepContext['tables'] = {}): StepContext => ({
  index,
  language: 'en',
  currency: 'EUR',
  tables,
});
const rows = [
  ['A', 'moss', undefined],
  ['B', 'moss', undefined],
  ['C', undefined, ['Red', 'Ink']],
  ['D', undefined, undefined],
];
const colour: Composition = {
  alternatives: [
    {
      parts: [
        { attribute: 'glaze', glue: ' ', steps: [{ step: 'lookUp', table: 'colours', otherwise: 'keep' }] },
      ],
      steps: [],
    },
    { parts: [{ attribute: 'color', glue: ' ', steps: [{ step: 'case', to: 'lower' }] }], steps: [] },
  ],
  steps: [{ step: 'lookUp', table: 'colours', otherwise: 'keep' }],
};

test('a composition before its words are looked up', () => {
  expect(JSON.stringify(beforeLookUp(colour))).not.toContain('lookUp');
  expect(beforeLookUp(colour).alternatives[1]).toEqual(colour.alternatives[1]);
  expect(beforeLookUp(fixedText('x'))).toEqual(fixedText('x'));
});

test('the table a field looks up in, or its own name for one still to be made', () => {
  expect(valueMappingOf('colour', colour)).toBe('colours');
  expect(valueMappingOf('colour', fromAttribute('glaze'))).toBe('colour');
  expect(valueMappingOf('colour', undefined)).toBe('colour');
});

test('every word with its count and what becomes of it, lists entry by entry', () => {
  const tables = { colours: { moss: 'green', ink: 'blue' } };
  const { run } = compileComposition(colour, context(tables));
  const values = rows.map((row) => run(row));
  expect(values).toEqual(['green', 'green', ['red', 'blue'], undefined]);
  expect(wordsOfField(colour, context(), rows, values)).toEqual([
    { word: 'moss', count: 2, becomes: 'green' },
    { word: 'ink', count: 1, becomes: 'blue' },
    { word: 'red', count: 1, becomes: 'red' },
  ]);
});

test('a word that a rule emptied is not said to become anything', () => {
  expect(
    wordsOfField(fromAttribute('glaze'), context(), rows, [undefined, undefined, undefined, undefined]),
  ).toEqual([{ word: 'moss', count: 2, becomes: undefined }]);
});
