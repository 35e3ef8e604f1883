import { causesOf } from './causes';

const problem = (code: string, text = `about ${code}`) => ({ code, text, field: null });

test('causes are counted by code, a listing once each, the most frequent first', () => {
  expect(
    causesOf([[problem('B')], [problem('A'), problem('B')], [problem('B'), problem('B', 'again')], []]),
  ).toEqual([
    { code: 'B', text: 'about B', count: 3 },
    { code: 'A', text: 'about A', count: 1 },
  ]);
  expect(causesOf(Array.from({ length: 50 }, (_, n) => [problem(`C${n}`)]))).toHaveLength(20);
});
