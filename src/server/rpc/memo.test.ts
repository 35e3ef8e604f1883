import { keptFor } from './memo';

test('is made once for a thing and a name; what failed to come is asked for again', async () => {
  const thing = {};
  let made = 0;
  const make = () => ++made;
  expect([keptFor(thing, 'a', make), keptFor(thing, 'a', make), keptFor(thing, 'b', make)]).toEqual([
    1, 1, 2,
  ]);
  expect(keptFor({}, 'a', make)).toBe(3);
  let tries = 0;
  const fails = async () => {
    if (++tries < 2) throw new Error('away');
    return 'there';
  };
  await expect(keptFor(thing, 'c', fails)).rejects.toThrow('away');
  expect(await keptFor(thing, 'c', fails)).toBe('there');
  expect(await keptFor(thing, 'c', fails)).toBe('there');
  expect(tries).toBe(2);
});
