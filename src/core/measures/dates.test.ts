import fc from 'fast-check';
import { dateForms, isDate, readDate, writeDate } from './dates';

// Source: RFC 3339 section 5.6, and section 5.7 for the days of each month.
describe('calendar dates', () => {
  test.each([
    ['2024-02-29', true],
    ['2023-02-29', false],
    ['2000-02-29', true],
    ['1900-02-29', false],
    ['2027-04-31', false],
    ['1985-04-12T23:20:50.52Z', true],
    ['1996-12-19T16:39:57-08:00', true],
    ['2027-13-01', false],
    ['27-01-01', false],
  ])('%s', (text, valid) => {
    expect(isDate(text)).toBe(valid);
  });
});

const day = fc
  .date({ min: new Date('2000-01-01'), max: new Date('2099-12-31'), noInvalidDate: true })
  .map((date) => date.toISOString().slice(0, 10));

test('what is written in any form is read back', () => {
  fc.assert(
    fc.property(day, fc.constantFrom(...dateForms), (date, form) => {
      expect(readDate(writeDate(date, form), form === 'mdySlashes')).toBe(date);
    }),
  );
});

test.each([
  ['1/2/2027', false, '2027-02-01'],
  ['1/2/2027', true, '2027-01-02'],
  ['13/2/2027', true, '2027-02-13'],
  ['2/13/2027', false, '2027-02-13'],
  ['1-2-27', false, '2027-02-01'],
  [' 2027-02-01T00:00:00Z ', false, '2027-02-01'],
  ['32.1.2027', false, undefined],
  ['soon', false, undefined],
])('%s, month first %s', (text, monthFirst, date) => {
  expect(readDate(text, monthFirst)).toBe(date);
});
