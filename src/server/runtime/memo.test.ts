import fc from 'fast-check';
import { Memo, memoBytes, memoFigures, memoFor, setMemoBudget, WeakMemo } from './memo';

afterEach(() => setMemoBudget(Number.POSITIVE_INFINITY));

test('a value of an object is made once for an owner and a key; a promise that fails is forgotten', async () => {
  const object = {};
  let created = 0;
  const make = () => ++created;
  expect([
    memoFor(object, 'a', make),
    memoFor(object, 'a', make),
    memoFor(object, 'a', make, 'key'),
    memoFor(object, 'b', make),
  ]).toEqual([1, 1, 2, 3]);
  expect(memoFor({}, 'a', make)).toBe(4);
  let tries = 0;
  const fails = async () => {
    if (++tries < 2) throw new Error('away');
    return 'there';
  };
  await expect(memoFor(object, 'c', fails)).rejects.toThrow('away');
  expect(await memoFor(object, 'c', fails)).toBe('there');
  expect(await memoFor(object, 'c', fails)).toBe('there');
  expect(tries).toBe(2);
});

test('the least recently used value goes first, and a promise that fails is forgotten', async () => {
  const memo = new Memo<number>({ owner: 'few', maxEntries: 2 });
  memo.set('a', 1);
  memo.set('b', 2);
  expect(memo.get('a')).toBe(1);
  memo.set('c', 3);
  expect([memo.get('a'), memo.get('b'), memo.get('c')]).toEqual([1, undefined, 3]);
  const promises = new Memo<Promise<number>>({ owner: 'promises' });
  await expect(promises.of('a', () => Promise.reject(new Error('away')))).rejects.toThrow('away');
  expect(await promises.of('a', async () => 5)).toBe(5);
});

test('a value goes with what it was derived from', () => {
  const memo = new Memo<string, readonly [object]>({ owner: 'dependent' });
  const stored = {};
  memo.set('kept', 'there', stored);
  const deref = jest.spyOn(WeakRef.prototype, 'deref').mockReturnValueOnce(undefined);
  expect(memo.get('kept')).toBeUndefined();
  deref.mockRestore();
  memo.set('kept', 'there', stored);
  expect(memo.withDependencies('kept')).toEqual({ value: 'there', dependencies: [stored] });
});

test('all owners stay within the budget together, but for what each may keep', () => {
  setMemoBudget(100);
  const [one, other] = ['one', 'other'].map(
    (owner) => new Memo<number>({ owner, bytesOf: (value) => value, minEntries: 1 }),
  ) as [Memo<number>, Memo<number>];
  one.set('a', 60);
  one.set('b', 30);
  other.set('c', 40);
  // The first of the first owner went; that it keeps one is no matter of age.
  expect([one.get('a'), one.get('b'), other.get('c')]).toEqual([undefined, 30, 40]);
  other.set('d', 500);
  expect([one.get('b'), other.get('c'), other.get('d')]).toEqual([30, undefined, 500]);
  other.clear();
  one.clear();
});

test('figures tell what was found, missed and evicted', () => {
  const memo = new Memo<string>({ owner: 'counted', maxEntries: 1, bytesOf: (value) => value.length });
  memo.get('a');
  memo.set('a', 'long');
  memo.get('a');
  memo.set('b', 'longer');
  expect(memoFigures().find(({ owner }) => owner === 'counted')).toEqual({
    owner: 'counted',
    hits: 1,
    misses: 1,
    evictions: 1,
    entries: 1,
    bytes: 6,
  });
  const weak = new WeakMemo<object, string>('weak');
  const object = {};
  weak.get(object);
  weak.set(object, 'there');
  expect(weak.get(object)).toBe('there');
  expect(memoFigures().find(({ owner }) => owner === 'weak')).toMatchObject({ hits: 1, misses: 1 });
  memo.clear();
});

test('whatever happens, bytes are those of the values that are there', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          key: fc.constantFrom('a', 'b', 'c'),
          bytes: fc.integer({ min: 0, max: 50 }),
          drop: fc.boolean(),
        }),
      ),
      (steps) => {
        const before = memoBytes();
        const memo = new Memo<number>({ owner: 'property', maxEntries: 2, bytesOf: (value) => value });
        for (const { key, bytes, drop } of steps) drop ? memo.delete(key) : memo.set(key, bytes);
        const sum = memo.all().reduce((total, [, value]) => total + value, 0);
        expect(memoBytes() - before).toBe(sum);
        expect(memo.size).toBeLessThanOrEqual(2);
        memo.clear();
      },
    ),
  );
});
