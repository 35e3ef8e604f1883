import { fromAttribute } from '../compose/composition';
import { applyEdit } from '../plans/edit';
import { emptyPlan } from '../plans/plan';
import {
  acceptedLines,
  changesOf,
  forAllOthers,
  isComputed,
  type SuggestedFix,
  type SuggestedLine,
} from './suggestion';

const plan = emptyPlan('lanternry', { country: 'DE', language: 'de', currency: 'EUR' });
const line = (key: string, to = '', sure = to !== ''): SuggestedLine => ({
  key,
  what: key,
  count: 1,
  now: '',
  to,
  shown: to,
  sure,
  why: '',
});
const proposal = (route: SuggestedFix['way'], ...lines: SuggestedLine[]): SuggestedFix => ({
  cause: 'missing:age',
  field: 'age',
  way: route,
  lines,
  options: [],
});

test('what counts: a pick before what is sure, what is for all others where nothing is, and an empty pick takes nothing', () => {
  const one = proposal(
    { by: 'items', attribute: 'size' },
    line('A', 'S'),
    line('B', 'M'),
    line('C'),
    line('D', 'L', false),
  );
  expect([...acceptedLines(one)]).toEqual([
    ['A', 'S'],
    ['B', 'M'],
  ]);
  expect([...acceptedLines(one, { A: '', D: 'L', [forAllOthers]: ' XL ' })]).toEqual([
    ['B', 'M'],
    ['C', 'XL'],
    ['D', 'L'],
  ]);
  expect(isComputed(one)).toBe(false);
  expect(isComputed(proposal({ by: 'numbers' }, line('A', 'next')))).toBe(true);
  expect(isComputed(proposal({ by: 'numbers' }))).toBe(false);
});

test('values of items and numbers are no edit of the plan', () => {
  expect(changesOf(proposal({ by: 'items', attribute: 'size' }, line('A', 'S')), plan)).toEqual({
    edits: [],
    words: {},
    cells: [{ sku: 'A', attribute: 'size', text: 'S' }],
    numbers: [],
  });
  expect(changesOf(proposal({ by: 'numbers' }, line('A', 'next')), plan).numbers).toEqual(['A']);
  expect(changesOf(proposal({ by: 'words' }, line('moss', 'green')), plan).words).toEqual({ moss: 'green' });
  expect(changesOf(proposal({ by: 'words' }, line('moss')), plan).edits).toEqual([]);
});

test('places: of categories, of single items, and the category that an item lacks', () => {
  const changes = changesOf(
    proposal({ by: 'places' }, line('Pots', '12'), line('#A', '13'), line('=B', 'Pots')),
    plan,
  );
  const after = changes.edits.reduce(applyEdit, plan);
  expect(after.placements).toEqual({ Pots: { category: '12' } });
  expect(after.exceptions).toEqual({ A: { category: '13' } });
  expect(changes.cells).toEqual([{ sku: 'B', attribute: 'category', text: 'Pots' }]);
});

test('a fixed text: for everything where the field is for everything and one text fits, else for its categories alone', () => {
  const text = (everywhere: boolean, ...lines: SuggestedLine[]) =>
    proposal({ by: 'text', everywhere }, ...lines);
  const with_ = (one: SuggestedFix, picks?: Record<string, string>, given = plan) =>
    changesOf(one, given, picks).edits.reduce(applyEdit, given);
  expect(with_(text(true, line('Pots'), line('Seeds')), { [forAllOthers]: 'adult' }).fields.age).toEqual({
    alternatives: [{ parts: [{ text: 'adult', glue: ' ' }], steps: [] }],
    steps: [],
  });
  const some = with_(text(false, line('Pots'), line('Seeds'), line('Books')), {
    Pots: 'x',
    Seeds: 'x',
    Books: 'y',
  });
  expect(some.fields.age).toBeUndefined();
  expect(some.perCategory.age?.map(({ categories }) => categories)).toEqual([['Pots', 'Seeds'], ['Books']]);
  // What was said of other categories before stays, and counts first.
  const more = with_(text(false, line('Tools')), { Tools: 'z' }, some);
  expect(more.perCategory.age?.map(({ categories }) => categories)).toEqual([
    ['Pots', 'Seeds'],
    ['Books'],
    ['Tools'],
  ]);
});

test('a field is filled from the attribute that is put forward', () => {
  expect(
    changesOf(proposal({ by: 'field', composition: fromAttribute('gender') }, line('gender', 'gender')), plan)
      .edits,
  ).toMatchObject([
    { edit: 'fields', fields: { age: { alternatives: [{ parts: [{ attribute: 'gender' }] }] } } },
  ]);
});
