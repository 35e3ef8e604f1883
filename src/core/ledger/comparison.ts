import type { Values } from '../catalog/item';
import { asText } from '../catalog/value';
import type { ListShape } from '../channels/delivery';
import { InputError } from '../errors/inputError';
import { at } from './report';

/** What our records say a channel has of one listing. */
export interface Recorded {
  readonly sku: string;
  /** The key that it was sent under. */
  readonly key: string;
  /** Whether the channel is taken to have it. */
  readonly held: boolean;
  /** Whether something is on its way or waits for an answer: it is not compared then. */
  readonly open: boolean;
  readonly values: Values | undefined;
}

/**
 * Where a channel's own list and our records differ.
 * - `missing`: we have it as accepted, the channel does not list it
 * - `extra`: the channel lists it, we do not have it as accepted
 * - `differs`: it lists another value than the one that was accepted
 */
export type ListDifference =
  | { readonly what: 'missing'; readonly sku: string }
  | { readonly what: 'extra'; readonly sku: string; readonly known: boolean }
  | {
      readonly what: 'differs';
      readonly sku: string;
      readonly field: string;
      readonly ours: string;
      readonly theirs: string;
    };

/** A channel's entry of its own list. */
export interface Listed {
  readonly key: string;
  readonly values: Readonly<Record<string, string>>;
}

const textOf = (value: unknown): string | undefined =>
  typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean'
    ? String(value)
    : undefined;

/**
 * Reads what a channel lists, as its sheet says. An entry without a key is passed over.
 * @throws InputError where the list is not where the sheet says
 */
export function readList(body: unknown, shape: ListShape): Listed[] {
  const entries = at(body, shape.entries);
  if (!Array.isArray(entries)) throw new InputError('reportShape', { place: shape.entries || 'its root' });
  return entries.flatMap((entry): Listed[] => {
    const key = textOf(at(entry, shape.key));
    if (key === undefined) return [];
    const values = Object.entries(shape.values).flatMap(([field, path]) => {
      const value = textOf(at(entry, path));
      return value === undefined ? [] : [[field, value] as const];
    });
    return [{ key, values: Object.fromEntries(values) }];
  });
}

/** Compares our records with a channel's own list, by the key that listings were sent under. */
export function compareWithList(ours: readonly Recorded[], theirs: readonly Listed[]): ListDifference[] {
  const listed = new Map(theirs.map((one) => [one.key, one]));
  const known = new Map(ours.map((one) => [one.key, one]));
  const found: ListDifference[] = [];
  for (const { sku, key, held, open, values } of ours) {
    if (open) continue;
    const theirs = listed.get(key);
    if (held && !theirs) found.push({ what: 'missing', sku });
    if (!held && theirs) found.push({ what: 'extra', sku, known: true });
    if (!held || !theirs || !values) continue;
    for (const [field, value] of Object.entries(theirs.values)) {
      const sent = asText(values[field]);
      if (sent !== value) found.push({ what: 'differs', sku, field, ours: sent, theirs: value });
    }
  }
  for (const { key } of theirs) if (!known.has(key)) found.push({ what: 'extra', sku: key, known: false });
  return found;
}
