import { earlierColumns } from '../../../files/suggesting';
import { fromAttribute } from '../../compose/composition';
import { type ImportMapping, importMappingSchema } from './importMapping';
import { applyMappingEdit, type MappingEdit } from './mappingEdit';

const mapping = importMappingSchema.parse({
  format: 'lively-cart/mapping@1',
  encoding: 'utf-8',
  separator: ',',
  fields: { price: fromAttribute('VK'), cost: fromAttribute('EK') },
});

/** What the columns of a source teach others after some edits of its mapping. */
function taught(...edits: MappingEdit[]) {
  const after = edits.reduce<ImportMapping>(applyMappingEdit, mapping);
  const earlier = earlierColumns([{ name: 'Price list', mapping: after }]);
  return { leftOut: after.leftOut, vk: earlier('vk').map(({ attribute }) => attribute) };
}
const fill = (attribute: string, column?: string): MappingEdit => ({
  edit: 'field',
  attribute,
  composition: column === undefined ? null : fromAttribute(column),
});

test.each<[string, MappingEdit[], string[] | undefined, (string | undefined)[]]>([
  ['as it was', [], undefined, ['price']],
  ['emptied', [fill('price')], ['VK'], [undefined]],
  ['emptied and filled again', [fill('price'), fill('price', 'VK')], undefined, ['price']],
  ['given to another attribute', [fill('price'), fill('listPrice', 'VK')], undefined, ['listPrice']],
  ['another column in its place', [fill('price', 'Preis')], ['VK'], [undefined]],
  ['filling two', [fill('listPrice', 'VK')], undefined, []],
  ['emptied twice over', [fill('price'), fill('cost'), fill('name')], ['VK', 'EK'], [undefined]],
])('a column’s heading teaches other sources: %s', (_name, edits, leftOut, vk) => {
  expect(taught(...edits)).toEqual({ leftOut, vk });
});
