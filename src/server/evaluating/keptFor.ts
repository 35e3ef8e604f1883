/** What was computed of a thing, by name; it goes when the thing goes. */
const found = new WeakMap<object, Map<string, unknown>>();

/** Computes something of a thing that never changes, once for each name. */
export function keptFor<T>(thing: object, name: string, make: () => T): T {
  const known = found.get(thing) ?? new Map<string, unknown>();
  found.set(thing, known);
  if (!known.has(name)) known.set(name, make());
  return known.get(name) as T;
}
