import fc from 'fast-check';
import { dateForms, isAmbiguousDate, isDate, readDate, writeDate } from './dates';

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

// Names of months: Unicode CLDR, of the languages read. How dates are written in each: common practice, no source.
test.each([
  ['3 March 2027', '2027-03-03'],
  ['March 3rd, 2027', '2027-03-03'],
  ['Mon, 1 Mar 2027', '2027-03-01'],
  ['3-Mar-27', '2027-03-03'],
  ['3. März 2027', '2027-03-03'],
  ['1er août 2027', '2027-08-01'],
  ['3 de marzo de 2027', '2027-03-03'],
  ['3 marzo 2027', '2027-03-03'],
  ['3 maart 2027', '2027-03-03'],
  ['3 marca 2027', '2027-03-03'],
  ['3 de março de 2027', '2027-03-03'],
  ['3 mars 2027', '2027-03-03'],
  ['3. marts 2027', '2027-03-03'],
  ['3. maaliskuuta 2027', '2027-03-03'],
  ['3. března 2027', '2027-03-03'],
  ['2027. március 3.', '2027-03-03'],
  ['3 martie 2027', '2027-03-03'],
  ['3 Μαρτίου 2027', '2027-03-03'],
  ['3 Mart 2027', '2027-03-03'],
  ['3.3.2027', '2027-03-03'],
  ['3. 3. 2027', '2027-03-03'],
  ['2027. 03. 03.', '2027-03-03'],
  ['2027/3/3', '2027-03-03'],
  ['2027.03.03', '2027-03-03'],
  ['20270303', '2027-03-03'],
  ['2027-03-03 08:15:00', '2027-03-03'],
  ['2027-03-03T08:15', '2027-03-03'],
  ['03/03/2027 08:15 AM', '2027-03-03'],
  ['20271303', undefined],
  ['90000001', undefined],
  ['2027/3-3', undefined],
  ['31 June 2027', undefined],
  ['May 2027', undefined],
  ['3 pieces 2027', undefined],
  ['12 Mar', undefined],
])('“%s” is %s', (text, date) => {
  expect(readDate(text)).toBe(date);
});

test.each([
  ['3/4/2027', true],
  ['3/3/2027', false],
  ['13/4/2027', false],
  ['2027-04-03', false],
])('%s could name the month first: %s', (text, ambiguous) => {
  expect(isAmbiguousDate(text)).toBe(ambiguous);
});
