import type { Attribute } from '../../core/catalog/attributes';
import type { Value } from '../../core/catalog/value';
import { listSeparator } from '../../core/formats/catalogCsv';
import { InputError } from '../../core/formats/inputError';
import { readIdentifier } from '../../core/identifiers/gtin';
import { readNumber } from '../../core/measures/money';
import { readMeasure } from '../../core/measures/units';
import { cleanMarkup } from '../../core/text/markup';

/**
 * A typed or pasted text as a value of an attribute; empty text is no value.
 * @throws InputError in words where the attribute cannot take it
 */
export function readValue(attribute: Attribute, text: string): Value | undefined {
  const trimmed = text.trim();
  if (trimmed === '') return undefined;
  const refuse = (why: string) =>
    new InputError(`“${trimmed.slice(0, 60)}” ${why}. The value stays as it was.`);
  switch (attribute.kind) {
    case 'money':
    case 'number': {
      const number = readNumber(trimmed);
      if (number === undefined) throw refuse('is not a number');
      return number;
    }
    case 'measure': {
      const measure = readMeasure(trimmed);
      if (measure) return `${measure.amount} ${measure.unit}`;
      const number = readNumber(trimmed);
      if (number !== undefined && attribute.unit) return `${number} ${attribute.unit}`;
      throw refuse('is not a number with a unit');
    }
    case 'date':
      if (!/^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/.test(trimmed) || Number.isNaN(Date.parse(trimmed)))
        throw refuse('is not a date, written 2026-11-23');
      return trimmed;
    case 'yesNo': {
      const word = trimmed.toLowerCase();
      if (['true', 'yes', '1', 'ja', 'si', 'sí', 'oui'].includes(word)) return 'true';
      if (['false', 'no', '0', 'nein', 'non'].includes(word)) return 'false';
      throw refuse('is neither yes nor no');
    }
    case 'pictures':
      return trimmed
        .split(listSeparator)
        .map((entry) => entry.trim())
        .filter((entry) => entry !== '');
    case 'richText':
      return cleanMarkup(trimmed) || undefined;
    case 'identifier':
      if (attribute.code === 'gtin' && ['characters', 'length'].includes(readIdentifier(trimmed).verdict))
        throw refuse('is no GTIN: 8, 12, 13 or 14 digits');
      return trimmed;
    default:
      return trimmed;
  }
}
