/** What was computed of a thing, by name; it goes when the thing goes. */
const found = new WeakMap<object, Map<string, unknown>>();

/** Computes something of a thing that never changes, once for each name; what failed to come is asked for again. */
export function memoFor<T>(thing: object, name: string, make: () => T): T {
  const known = found.get(thing) ?? new Map<string, unknown>();
  found.set(thing, known);
  if (!known.has(name)) {
    const made = make();
    known.set(name, made);
    if (made instanceof Promise) made.catch(() => known.delete(name));
  }
  return known.get(name) as T;
}

let numbers = 0;
/** A number for a thing that never changes, another for each. */
export const identityOf = (thing: object): number => memoFor(thing, 'its number', () => ++numbers);
