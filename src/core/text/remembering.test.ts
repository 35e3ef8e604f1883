import fc from 'fast-check';
import { memoizedByText } from './remembering';

describe('answers that are remembered', () => {
  test('are those that would be given, whatever is asked in which order', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ maxLength: 2 }), { maxLength: 200 }), (texts) => {
        const answer = (text: string) => (text.length === 1 ? undefined : text.toUpperCase());
        const remembered = memoizedByText(answer);
        expect(texts.map(remembered)).toEqual(texts.map(answer));
      }),
      { numRuns: 30 },
    );
  });

  test('a text that comes again is answered once, nothing as an answer too', () => {
    let requested = 0;
    const remembered = memoizedByText(() => {
      requested++;
      return undefined;
    });
    for (let n = 0; n < 5000; n++) remembered(String(n % 7));
    expect(requested).toBe(7);
  });

  test('long texts do not pile up', () => {
    let requested = 0;
    const remembered = memoizedByText((text) => {
      requested++;
      return text.length;
    });
    const long = (sign: string) => sign.repeat(200_000);
    for (const sign of ['a', 'b', 'c', 'a', 'd', 'a']) expect(remembered(long(sign))).toBe(200_000);
    // The first three were let go of for the fourth.
    expect(requested).toBe(5);
  });

  test('where texts hardly come again nothing is kept, until they do', () => {
    let requested = 0;
    const remembered = memoizedByText((text) => {
      requested++;
      return text;
    });
    for (let n = 0; n < 10_000; n++) expect(remembered(String(n))).toBe(String(n));
    expect(requested).toBe(10_000);
    for (let n = 0; n < 100_000; n++) remembered('again');
    expect(requested).toBeLessThan(70_000);
    const before = requested;
    for (let n = 0; n < 10_000; n++) remembered('again');
    expect(requested).toBe(before);
  });
});
