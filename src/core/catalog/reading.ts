import { InputError } from '../errors/inputError';
import { formatNumber } from '../formatting/formatting';
import { kindFacts } from './attributeKinds';
import { type Attribute, isList } from './attributes';
import { asList, cutText, listSeparator, MAX_ENTRIES, MAX_TEXT, type Value } from './value';

/**
 * A typed or pasted text as a value of an attribute; empty text is no value.
 * @throws InputError in words where the attribute cannot take it
 */
export function readValue(attribute: Attribute, text: string): Value | undefined {
  const trimmed = text.trim();
  if (trimmed === '') return undefined;
  const refuse = (why: string) => new InputError('valueNotRead', { text: trimmed.slice(0, 60), why });
  if (trimmed.length >= MAX_TEXT)
    throw refuse(`… is longer than the ${formatNumber(MAX_TEXT)} characters a value may have`);
  if (isList(attribute)) {
    const entries = splitList(trimmed, attribute.kind)
      .map((entry) => entry.trim())
      .filter((entry) => entry !== '');
    if (entries.length >= MAX_ENTRIES) throw refuse(`… has more than ${MAX_ENTRIES} entries`);
    return entries.length === 0 ? undefined : entries;
  }
  return kindFacts[attribute.kind].read(trimmed, attribute, refuse);
}

/**
 * The entries of a list as people type them: with a bar or a line between, or with semicolons where neither stands there. An
 * address may hold a semicolon, so that addresses and file names are parted only where each part is one.
 */
function splitList(text: string, kind: Attribute['kind']): string[] {
  if (/[|\n]/.test(text)) return text.split(/[|\n]/);
  const parts = text.split(/;\s+|;(?=https?:)/);
  if (kind !== 'pictures') return parts;
  const names = text.split(/\s*;\s*/);
  const isPicture = (name: string) =>
    /^(https?:\/\/\S+|[^\s/]+\.(jpe?g|png|webp|gif|tiff?|bmp|avif))$/i.test(name);
  return names.length > 1 && names.every(isPicture) ? names : parts;
}

/**
 * A text from a file as a value: in the form in which its kind is kept where it can be read so, else as it stands, for the
 * checks to tell.
 */
export function readLoosely(attribute: Attribute | undefined, text: string): Value | undefined {
  const asItStands = cutText(text) || undefined;
  const plain = attribute && kindFacts[attribute.kind].asWritten && !isList(attribute);
  // A country's name is read, wherever it stands.
  if (!attribute || (plain && attribute.code !== 'countryOfOrigin')) return asItStands;
  try {
    // A number without a unit stays one: a file that does not say its unit may mean any.
    return readValue({ ...attribute, unit: undefined }, text);
  } catch (error) {
    if (error instanceof InputError) return asItStands;
    throw error;
  }
}

/**
 * A value as people read it: yes and no as words, the terms of a standard by their labels, countries by their names.
 * {@link readValue} takes what this writes.
 */
export function shownText(
  attribute: Pick<Attribute, 'code' | 'kind' | 'terms' | 'list'>,
  value: Value | undefined,
): string {
  if (value === undefined) return '';
  if (isList(attribute)) return asList(value).join(` ${listSeparator} `);
  return kindFacts[attribute.kind].show(value, attribute);
}
