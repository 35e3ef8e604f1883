import { compileDemo, demoIndex, demoPlan, demoRows, lanternry } from '../../../tests/support/demo';
import { asText } from '../catalog/value';
import { categoryRequirements } from '../listing/requirements';
import { applyEdit } from '../plans/edit';
import { searchTree, suggestCategories } from './search';
import { isUnder, nameOf, pathName, pathOf, readTree } from './tree';

const { tree } = lanternry;
const search = searchTree(tree);

describe('a tree', () => {
  test('knows paths and names in its languages', () => {
    expect(pathOf(tree, '7302')).toEqual(['7000', '7300', '7302']);
    expect(pathName(tree, '7302', 'en')).toBe('Garden › Growing indoors › Pots and planters');
    expect(nameOf(tree, '7302', 'de-AT')).toBe('Töpfe und Übertöpfe');
    expect(nameOf(tree, '7302', 'fr')).toBe('Pots and planters');
    expect(isUnder(tree, '7302', '7000')).toBe(true);
    expect(isUnder(tree, '7302', '5000')).toBe(false);
  });

  test('faults are named by their category', () => {
    expect(() => readTree('code,parent,name_en\n1,,A\n1,,B\n')).toThrow('Category 1 is defined twice');
    expect(() => readTree('code,parent,name_en\n1,9,A\n')).toThrow('names the parent 9');
  });
});

describe('search', () => {
  test.each([
    ['planter', '7302'],
    ['basin', '7302'],
    ['pots', '7302'],
    ['Blumentopf', '7302'],
    ['Gartenhandschuhe', '5102'],
    ['fertilizer', '7321'],
    ['grow light', '6101'],
    ['wattering cans', '7501'],
  ])('%s finds %s first', (query, code) => {
    expect(search.find(query)[0]?.code).toBe(code);
  });

  test('says which words it found, as they were asked', () => {
    expect(search.find('pots')[0]?.matched).toEqual(['pots']);
    expect(search.find('zzzzzz')).toEqual([]);
  });
});

// A labelled list of our own: where a person would place the demo's categories.
const labelled: Readonly<Record<string, string>> = {
  'Pots, glazed': '7302',
  Seeds: '7404',
  'Grow lights': '6101',
  Aprons: '5101',
  Books: '3101',
  Gloves: '5102',
  'Watering cans': '7501',
  'Plant food': '7321',
  'Trays and saucers': '7305',
  Shelves: '7304',
  'Seed kits': '9102',
  'Moisture meters': '7308',
  Printables: '3301',
  Cloches: '7301',
  'Gift wrap': '4201',
};

test('places for the demo’s categories: right first in 70 %, among three in 90 %', () => {
  const slot = (code: string) => demoIndex.slotOf(code) ?? -1;
  const ranks = Object.entries(labelled).map(([name, code]) => {
    const itemNames = demoRows
      .filter((row) => asText(row[slot('category')]) === name)
      .map((row) => asText(row[slot('name')]));
    return suggestCategories(search, tree, { name, itemNames }).findIndex((hit) => hit.code === code);
  });
  const share = (test: (rank: number) => boolean) => ranks.filter(test).length / ranks.length;
  expect(share((rank) => rank === 0)).toBeGreaterThanOrEqual(0.7);
  expect(share((rank) => rank >= 0)).toBeGreaterThanOrEqual(0.9);
});

test('what a place newly requires, and how many lack it', () => {
  const category = 'Seed kits';
  const rows = demoRows.filter((row) => asText(row[demoIndex.slotOf('category') ?? -1]) === category);
  const placed = compileDemo(
    applyEdit(demoPlan, { edit: 'place', placements: { [category]: { category: '9102' } } }),
  );
  const needs = categoryRequirements(compileDemo(), placed, rows);
  expect(needs).toEqual([
    { field: 'safety_note', need: 'must', newly: true, items: 6, lacking: 3 },
    { field: 'age_range', need: 'must', newly: true, items: 6, lacking: 0 },
  ]);
  expect(categoryRequirements(placed, placed, rows).every(({ newly }) => !newly)).toBe(true);
});
