import type { Attribute } from '../catalog/attributes';
import type { Values } from '../catalog/item';
import { readValue } from '../catalog/reading';
import type { Value } from '../catalog/value';
import type { Joins } from '../channels/delivery';
import { InputError } from '../errors/inputError';
import { at } from './report';

/** An entry that a channel has, with what it says of it, by attribute of the catalog. */
export interface FoundEntry {
  readonly entry: string;
  readonly values: Values;
}

/** Of what a channel finds for one item no more is looked at. */
const MAX_ENTRIES = 20;
const MAX_LENGTH = 1000;

const textOf = (found: unknown): string | undefined =>
  typeof found === 'string' || typeof found === 'number'
    ? String(found).trim().slice(0, MAX_LENGTH)
    : undefined;

/**
 * Reads what a channel found as its sheet says that it answers. What cannot be read as the attribute it stands for is left as it
 * is written; an entry without a number is none.
 * @throws InputError where the list of entries is not where the sheet says
 */
export function readEntries(body: unknown, shape: Joins, attributes: readonly Attribute[]): FoundEntry[] {
  const list = at(body, shape.entries);
  if (!Array.isArray(list)) throw new InputError('reportShape', { place: shape.entries || 'its root' });
  const known = new Map(attributes.map((one) => [one.code, one]));
  return list.slice(0, MAX_ENTRIES).flatMap((one): FoundEntry[] => {
    const entry = textOf(at(one, shape.entry));
    if (!entry) return [];
    const values: Record<string, Value> = {};
    for (const [attribute, place] of Object.entries(shape.says)) {
      const text = textOf(at(one, place));
      if (!text) continue;
      const definition = known.get(attribute);
      try {
        const read = definition ? readValue(definition, text) : text;
        if (read !== undefined) values[attribute] = read;
      } catch (error) {
        if (!(error instanceof InputError)) throw error;
        values[attribute] = text;
      }
    }
    return [{ entry, values }];
  });
}
