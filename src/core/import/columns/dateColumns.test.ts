import { fromAttribute } from '../../compose/composition';
import { looksDated, orderUnknown } from './dateColumns';

const read = fromAttribute('due', [{ step: 'date', to: 'iso' }]);

test.each([
  [['3/4/2027', '5/6/2027'], true],
  [['3/4/2027', '25/6/2027'], false],
  [['3/4/2027', '6/25/2027'], false],
  [['3.4.2027', '5.6.2027'], false],
  [['3/3/2027', ''], false],
  [['2027-04-03'], false],
])('the order of day and month in %j is unknown: %s', (cells, unknown) => {
  expect(orderUnknown(read, cells)).toBe(unknown);
});

test('a step that names the order settles it', () => {
  const settled = fromAttribute('due', [{ step: 'date', to: 'iso', monthFirst: 'yes' }]);
  expect(orderUnknown(settled, ['3/4/2027'])).toBe(false);
});

test.each([
  [['3 March 2027', '', '14 May 2027'], true],
  [['2027-03-03', '2027-05-14 10:00'], true],
  [['20270303', '20270514'], false],
  [['3 March 2027', 'soon', 'soon'], false],
  [[''], false],
])('%j looks like dates: %s', (cells, dated) => {
  expect(looksDated(cells)).toBe(dated);
});
