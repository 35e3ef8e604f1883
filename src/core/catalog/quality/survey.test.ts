import fc from 'fast-check';
import type { Row, Value } from '../value';
import { Surveyor, surveyOf } from './survey';

const codes = ['name', 'colour', 'tags'];
const value: fc.Arbitrary<Value | undefined> = fc.oneof(
  fc.constant(undefined),
  fc.constantFrom('moss', 'chalk', 'fern', ''),
  fc.array(fc.constantFrom('one', 'two', 'three'), { maxLength: 3 }),
);
const row: fc.Arbitrary<Row> = fc.tuple(value, value, value);

test('counts items and words, the most frequent first', () => {
  const { filled, words } = surveyOf(codes, [
    ['Pot', 'moss', ['a', 'b']],
    ['Can', 'moss', undefined],
    ['Pot', 'chalk', ['b']],
  ]);
  expect([...filled]).toEqual([
    ['name', 3],
    ['colour', 3],
    ['tags', 2],
  ]);
  expect(words.get('name')).toEqual([
    ['Pot', 2],
    ['Can', 1],
  ]);
  expect(words.get('tags')).toEqual([
    ['b', 2],
    ['a', 1],
  ]);
});

test('of many values some are kept, and their counts stay right', () => {
  const rows: Row[] = Array.from({ length: 30 }, (_, at) => [`pot ${at % 10}`]);
  const { words } = surveyOf(['name'], rows, 4);
  expect(words.get('name')).toEqual(Array.from({ length: 4 }, (_, at) => [`pot ${at}`, 3]));
});

test('whatever is changed, added, moved and taken out, it is as counted from nothing', () => {
  const changes = fc.array(
    fc.oneof(
      fc.record({ at: fc.nat(30), to: row }),
      fc.record({ at: fc.nat(30), out: fc.constant(true) }),
      fc.record({ from: fc.nat(30), move: fc.nat(30) }),
    ),
    { maxLength: 12 },
  );
  fc.assert(
    fc.property(fc.array(row, { maxLength: 20 }), changes, (first, all) => {
      const surveyor = new Surveyor();
      let rows = first;
      expect(surveyor.survey(codes, rows)).toEqual(surveyOf(codes, rows));
      for (const change of all) {
        rows = [...rows];
        if ('to' in change) rows[Math.min(change.at, rows.length)] = change.to;
        else if ('out' in change) rows.splice(change.at, 1);
        else rows.splice(change.move, 0, ...rows.splice(change.from, 1));
        expect(surveyor.survey(codes, rows)).toEqual(surveyOf(codes, rows));
      }
      // Other attributes: everything is counted anew.
      expect(surveyor.survey(['a', 'b', 'c'], rows)).toEqual(surveyOf(['a', 'b', 'c'], rows));
    }),
  );
});
