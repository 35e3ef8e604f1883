/**
 * The value of an attribute or field: one text, or a list of texts (pictures, highlights).
 * Numbers and money stay decimal strings, so that nothing is lost to floating point; an empty value is `undefined`.
 */
export type Value = string | readonly string[];

/** What parts the entries of a list in one cell. */
export const listSeparator = '|';

/** One item's values, by slot of an {@link AttributeIndex}; its family's values already stand where its own are empty. */
export type Row = readonly (Value | undefined)[];

/** Where in a {@link Row} each attribute stands. */
export interface AttributeIndex {
  readonly codes: readonly string[];
  /** The currency (ISO 4217) of amounts that name none and whose item names none; undefined where nobody said. */
  readonly currency: string | undefined;
  slotOf(code: string): number | undefined;
}

export function attributeIndex(codes: Iterable<string>, currency?: string): AttributeIndex {
  const list = [...new Set(codes)];
  const slots = new Map(list.map((code, slot) => [code, slot]));
  return { codes: list, currency, slotOf: (code) => slots.get(code) };
}

/** The code under which an attribute's amounts in one currency stand: "price@GBP". */
export const codeInCurrency = (code: string, currency: string): string => `${code}@${currency}`;

/** The code under which an attribute's texts in one language stand: "name@de". @param language BCP 47, its first subtag counts */
export const codeInLanguage = (code: string, language: string): string =>
  `${code}@${(language.split('-')[0] ?? '').toLowerCase()}`;

/** The attribute whose amounts in one currency a code names, and that currency; undefined for all other codes. */
export function currencyInCode(code: string): { of: string; currency: string } | undefined {
  const [of = '', currency] = code.split('@');
  return currency === undefined || !/^[A-Z]{3}$/.test(currency) ? undefined : { of, currency };
}

/** The attribute whose texts in one language a code names, and that language; undefined for all other codes. */
export function languageInCode(code: string): { of: string; language: string } | undefined {
  const [of = '', language] = code.split('@');
  return language === undefined || !/^[a-z]{2,3}$/.test(language) ? undefined : { of, language };
}

/** For whom an attribute is read: the market's currency and language, and what stands where there is no translation. */
export interface ReadFor {
  readonly currency?: string | undefined;
  readonly language?: string | undefined;
  readonly untranslated?: 'main' | 'nothing' | undefined;
}

/**
 * Reads an attribute of a row. Where the catalog keeps its amounts in the wanted currency as well, those come first and
 * name their currency; where it keeps its texts in the wanted language, those do, and then the main language or nothing.
 * @returns undefined where the index has no such attribute
 */
export function attributeReader(
  index: AttributeIndex,
  code: string,
  { currency, language, untranslated = 'main' }: ReadFor = {},
): ((row: Row) => Value | undefined) | undefined {
  const slot = index.slotOf(code);
  const translated = language === undefined ? undefined : index.slotOf(codeInLanguage(code, language));
  if (translated !== undefined) {
    if (untranslated === 'nothing' || slot === undefined) return (row) => row[translated];
    return (row) => row[translated] ?? row[slot];
  }
  const own = currency === undefined ? undefined : index.slotOf(codeInCurrency(code, currency));
  if (own === undefined) return slot === undefined ? undefined : (row) => row[slot];
  return (row) => {
    const amount = row[own];
    if (typeof amount === 'string') return `${amount} ${currency}`;
    return slot === undefined ? undefined : row[slot];
  };
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

/** A text longer than this is cut wherever it is made, and a list ends after this many entries; listings that hold one are told. */
export const MAX_TEXT = 50_000;
export const MAX_ENTRIES = 1000;

/** A text within {@link MAX_TEXT}, not cut inside a surrogate pair. */
export function cutText(text: string): string {
  if (text.length < MAX_TEXT) return text;
  const end = (text.charCodeAt(MAX_TEXT - 1) & 0xfc00) === 0xd800 ? MAX_TEXT - 1 : MAX_TEXT;
  return text.slice(0, end);
}

/** A value within the limits. */
export function cutValue(value: Value | undefined): Value | undefined {
  if (value === undefined) return undefined;
  if (typeof value === 'string') return value.length < MAX_TEXT ? value : cutText(value);
  return value.length > MAX_ENTRIES || value.some((entry) => entry.length >= MAX_TEXT)
    ? value.slice(0, MAX_ENTRIES).map(cutText)
    : value;
}

/** Whether a value has reached a limit, so that something of it may be missing. */
export const isCut = (value: Value): boolean =>
  typeof value === 'string'
    ? value.length >= MAX_TEXT - 1
    : value.length >= MAX_ENTRIES || value.some((entry) => entry.length >= MAX_TEXT - 1);

/** A record that has nothing but what is put into it: no name of every object's own ("constructor") is found in it. */
export const emptyRecord = <T>(): Record<string, T> => Object.create(null) as Record<string, T>;

/** What a record itself holds under a name; never what every object has. */
export const ownEntry = <T>(record: Readonly<Record<string, T>>, name: string): T | undefined =>
  Object.hasOwn(record, name) ? record[name] : undefined;
