import { memoFor } from './memo';

test('is made once for a thing and a name; what failed to come is asked for again', async () => {
  const thing = {};
  let made = 0;
  const make = () => ++made;
  expect([memoFor(thing, 'a', make), memoFor(thing, 'a', make), memoFor(thing, 'b', make)]).toEqual([
    1, 1, 2,
  ]);
  expect(memoFor({}, 'a', make)).toBe(3);
  let tries = 0;
  const fails = async () => {
    if (++tries < 2) throw new Error('away');
    return 'there';
  };
  await expect(memoFor(thing, 'c', fails)).rejects.toThrow('away');
  expect(await memoFor(thing, 'c', fails)).toBe('there');
  expect(await memoFor(thing, 'c', fails)).toBe('there');
  expect(tries).toBe(2);
});
