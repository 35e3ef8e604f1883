import { readTree } from '../src/core/categories/tree';
import type { Sheet } from '../src/core/channels/sheet';

/**
 * What Lanternry announces for next year: shorter headlines, the material as a must, one feature more to describe, work
 * gloves out of clothing and into the garden, and a place for growing bags.
 */
export function nextLanternry(sheet: Sheet, taxonomy: string): { sheet: Sheet; taxonomy: string } {
  const fields = sheet.fields.map((field) => {
    if (field.code === 'headline') return { ...field, length: { ...lengthOf(field), most: 70 } };
    if (field.code === 'about') return { ...field, length: { ...lengthOf(field), least: 60 } };
    if (field.code === 'material') return { ...field, need: 'must' as const };
    if (field.code === 'binding')
      return {
        ...field,
        choices: [
          ...(field.choices ?? []),
          { code: 'lay_flat', labels: { en: 'Lay-flat', de: 'Flachbindung' }, synonyms: [] },
        ],
      };
    return field;
  });
  const tree = readTree(taxonomy);
  const gardening = tree.byCode.get('7302')?.parent ?? '7300';
  return {
    sheet: { ...sheet, version: sheet.version + 1, effective: '2027-02-01', fields },
    taxonomy: `${taxonomy.trimEnd().replace('\n5102,5100,', `\n5102,${gardening},`)}\n7399,${gardening},Growing bags,Pflanzsäcke,grow bag|Pflanzsack\n`,
  };
}

const lengthOf = (field: Sheet['fields'][number]) => field.length ?? { measure: 'characters' as const };
