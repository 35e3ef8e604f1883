import { InputError } from '../errors/inputError';
import { readIdentifier } from '../identifiers/gtin';
import { countryCode, countryName } from '../locale/countries';
import { readYesNo } from '../locale/yesNo';
import { cleanMarkup } from '../markup/safeMarkup';
import { isDate } from '../measures/dates';
import { amountText, readAmount } from '../measures/money';
import { readNumber } from '../measures/numbers';
import { readMeasure } from '../measures/units';
import { type Attribute, currencyInCode, isList } from './attributes';
import { termFinder } from './terms';
import { asList, asText, cutText, listSeparator, MAX_ENTRIES, MAX_TEXT, type Value } from './value';

/**
 * A typed or pasted text as a value of an attribute; empty text is no value.
 * @throws InputError in words where the attribute cannot take it
 */
export function readValue(attribute: Attribute, text: string): Value | undefined {
  const trimmed = text.trim();
  if (trimmed === '') return undefined;
  const refuse = (why: string) => new InputError('valueNotRead', { text: trimmed.slice(0, 60), why });
  if (trimmed.length >= MAX_TEXT)
    throw refuse(`… is longer than the ${MAX_TEXT.toLocaleString('en')} characters a value may have`);
  if (isList(attribute)) {
    const entries = splitList(trimmed, attribute.kind)
      .map((entry) => entry.trim())
      .filter((entry) => entry !== '');
    if (entries.length >= MAX_ENTRIES) throw refuse(`… has more than ${MAX_ENTRIES} entries`);
    return entries.length === 0 ? undefined : entries;
  }
  switch (attribute.kind) {
    case 'money': {
      const own = currencyInCode(attribute.code)?.currency;
      const amount = readAmount(trimmed, own);
      if (!amount) throw refuse('is not an amount');
      if (amount.amount.startsWith('-')) throw refuse('is below zero');
      if (own !== undefined && amount.currency !== undefined && amount.currency !== own)
        throw refuse(`is not in ${own}`);
      return own === undefined ? amountText(amount) : amount.amount;
    }
    case 'number': {
      const number = readNumber(trimmed);
      if (number === undefined) throw refuse('is not a number');
      return number;
    }
    case 'measure': {
      const measure = readMeasure(trimmed, undefined, attribute.unit);
      if (!measure) throw refuse('is not a number with a unit');
      return `${measure.amount} ${measure.unit}`;
    }
    case 'date':
      if (!/^\d{4}-\d\d-\d\d$/.test(trimmed) || !isDate(trimmed))
        throw refuse('is not a date, written 2026-11-23');
      return trimmed;
    case 'yesNo': {
      const answer = readYesNo(trimmed);
      if (answer === undefined) throw refuse('is neither yes nor no');
      return answer;
    }
    case 'richText':
      return cleanMarkup(trimmed) || undefined;
    case 'identifier':
      if (attribute.code === 'gtin' && ['characters', 'length'].includes(readIdentifier(trimmed).verdict))
        throw refuse('is no GTIN: 8, 12, 13 or 14 digits');
      return trimmed;
    case 'choice': {
      const term = termFinder(attribute.terms ?? [])(trimmed);
      // A standard's terms are all there are; those of the shop's own attributes may grow.
      if (term === undefined && standardChoices.has(attribute.code))
        throw refuse(`is none of: ${(attribute.terms ?? []).map((one) => one.label ?? one.term).join(', ')}`);
      return term ?? trimmed;
    }
    default:
      return attribute.code === 'countryOfOrigin' ? (countryCode(trimmed) ?? trimmed) : trimmed;
  }
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

/** Attributes whose terms a standard gives (schema.org: ItemAvailability, OfferItemCondition). */
const standardChoices: ReadonlySet<string> = new Set(['availability', 'itemCondition']);

/** Kinds that are kept as they are written. */
const asWritten: ReadonlySet<Attribute['kind']> = new Set(['text', 'richText', 'identifier', 'link', 'date']);

/**
 * A text from a file as a value: in the form in which its kind is kept where it can be read so, else as it stands, for the
 * checks to tell.
 */
export function readLoosely(attribute: Attribute | undefined, text: string): Value | undefined {
  const asItStands = cutText(text) || undefined;
  const plain = attribute && asWritten.has(attribute.kind) && !isList(attribute);
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
  if (attribute.kind === 'yesNo') {
    const answer = readYesNo(asText(value));
    return answer === undefined ? asText(value) : answer === 'true' ? 'yes' : 'no';
  }
  if (attribute.kind === 'choice' && attribute.terms)
    return asList(value)
      .map((word) => attribute.terms?.find(({ term }) => term === word)?.label ?? word)
      .join(', ');
  return attribute.code === 'countryOfOrigin' ? countryName(asText(value)) : asText(value);
}
