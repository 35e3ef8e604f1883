import type { Values } from '../catalog/item';
import { asText, type Value } from '../catalog/value';
import type { Sheet } from '../channels/sheet';
import type { Problem } from './ledger';

/** A listing that a channel rejected once, as it was sent then. */
export interface RejectedOnce {
  readonly sku: string;
  readonly values: Values;
  readonly problems: readonly Problem[];
}

/** A value that is to be sent and that the channel rejected on another listing. */
export interface RejectedValue {
  readonly field: string;
  readonly value: string;
  /** Why it was rejected. */
  readonly text: string;
  /** On which listing it was rejected last. */
  readonly on: string;
  /** Listings that are to be sent with it. */
  readonly skus: readonly string[];
}

/** Kinds of field whose value alone may be why a listing is rejected; two listings share a price by chance. */
const telling: ReadonlySet<string> = new Set([
  'text',
  'richText',
  'link',
  'pictures',
  'identifier',
  'choice',
  'category',
]);

const listOf = (value: Value | undefined): readonly string[] =>
  value === undefined ? [] : typeof value === 'string' ? [value] : value;

/**
 * Values that are about to be sent and that the channel rejected before: in a field that it named, and that no listing has which
 * it accepted. The most frequent first.
 * @param rejected the latest first
 * @param accepted values of listings that the channel has as they are
 */
export function rejectedBefore(
  sheet: Sheet,
  rejected: readonly RejectedOnce[],
  going: Iterable<{ readonly sku: string; readonly values: Values }>,
  accepted: Iterable<{ readonly values: Values }>,
): RejectedValue[] {
  const kinds = new Map(sheet.fields.map(({ code, kind }) => [code, kind]));
  const known = new Map<
    string,
    { field: string; value: string; text: string; on: string; from: Set<string> }
  >();
  for (const { sku, values, problems } of rejected)
    for (const { field, text } of problems) {
      if (field === null || !telling.has(kinds.get(field) ?? '')) continue;
      for (const value of listOf(values[field])) {
        const key = JSON.stringify([field, value]);
        const one = known.get(key) ?? { field, value, text, on: sku, from: new Set<string>() };
        one.from.add(sku);
        known.set(key, one);
      }
    }
  if (known.size === 0) return [];
  const fields = new Set([...known.values()].map(({ field }) => field));
  for (const { values } of accepted)
    for (const field of fields)
      for (const value of listOf(values[field])) known.delete(JSON.stringify([field, value]));
  const skus = new Map<string, string[]>();
  for (const { sku, values } of going)
    for (const field of fields)
      for (const value of listOf(values[field])) {
        const key = JSON.stringify([field, value]);
        const one = known.get(key);
        // Sent again by itself it is a matter of that listing, which its own answer tells.
        if (!one || one.from.has(sku)) continue;
        skus.set(key, [...(skus.get(key) ?? []), sku]);
      }
  return [...skus]
    .map(([key, found]): RejectedValue => {
      const { field, value, text, on } = known.get(key) as NonNullable<ReturnType<typeof known.get>>;
      return { field, value: asText(value), text, on, skus: found };
    })
    .sort((a, b) => b.skus.length - a.skus.length || a.field.localeCompare(b.field));
}
