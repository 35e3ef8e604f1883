/**
 * The value of an attribute or field: one text, or a list of texts (pictures, highlights).
 * Numbers and money stay decimal strings, so that nothing is lost to floating point; an empty value is `undefined`.
 */
export type Value = string | readonly string[];

/** One item's values, by slot of an {@link AttributeIndex}; its family's values already stand where its own are empty. */
export type Row = readonly (Value | undefined)[];

/** Where in a {@link Row} each attribute stands. */
export interface AttributeIndex {
  readonly codes: readonly string[];
  slotOf(code: string): number | undefined;
}

export function attributeIndex(codes: Iterable<string>): AttributeIndex {
  const list = [...new Set(codes)];
  const slots = new Map(list.map((code, slot) => [code, slot]));
  return { codes: list, slotOf: (code) => slots.get(code) };
}

/** A value as one text; the entries of a list are joined with `, `. */
export function asText(value: Value | undefined): string {
  return value === undefined ? '' : typeof value === 'string' ? value : value.join(', ');
}

/** A value as a list; an empty value gives an empty list. */
export function asList(value: Value | undefined): readonly string[] {
  return value === undefined ? [] : typeof value === 'string' ? [value] : value;
}

export function sameValue(a: Value | undefined, b: Value | undefined): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object') return false;
  return a.length === b.length && a.every((entry, i) => entry === b[i]);
}
