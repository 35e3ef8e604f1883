import { currencyOf } from '../../measures/currencies';
import { unitOf } from '../../measures/units';
import { headingMeaning } from './headingLexicon';

/** What a column's heading says beside its name. */
export interface HeadingWords {
  /** The heading without them. */
  readonly name: string;
  /** The unit of cells that name none: "Weight (g)", "width [cm]", "weight_kg", "Gewicht in g". */
  readonly unit: ReturnType<typeof unitOf>;
  /** The currency of amounts that name none: "Price (EUR)", "Preis in €". */
  readonly currency: string | undefined;
}

const ending =
  /^(.*?)(?:\s*[([{]\s*(?:in\s+|en\s+)?([^()[\]{}]{1,15})\s*[)\]}]|\s+(?:in|en)\s+(\S{1,15})|[\s,;/_.:-]+([^\s()[\]{}]{1,12}))\s*$/i;

/** What single letters measure: "Weight g" is a weight in grams. */
const measuredIn: Readonly<Record<string, RegExp>> = {
  g: /\bweight\b/,
  t: /\bweight\b/,
  l: /\bvolume\b/,
  m: /\b(?:width|height|depth|length|diameter)\b/,
};
const isMeasuredIn = (name: string, unit: string): boolean =>
  measuredIn[unit]?.test(headingMeaning(name)?.about ?? '') === true;

/** Takes a heading apart into its name and the unit or currency it names for its cells. */
export function headingWords(heading: string): HeadingWords {
  const last = (heading.split('/').at(-1) ?? heading).slice(0, 200);
  const found = ending.exec(last);
  const word = found?.[2] ?? found?.[3] ?? found?.[4];
  const name = found?.[1]?.trim() ?? '';
  // "grams": a unit's own name says it all.
  const own = /\p{L}{4,}$/u.exec(last)?.[0];
  const unitName = own === undefined ? undefined : unitOf(own);
  const plain: HeadingWords = {
    name: heading,
    unit: word === undefined || name === '' ? unitName : undefined,
    currency: undefined,
  };
  if (word === undefined || name === '') return plain;
  const bracketed = found?.[4] === undefined;
  const currency = /^[A-Z]{3}$|[^\w\s]/.test(word) || bracketed ? currencyOf(word) : undefined;
  const unit = currency === undefined ? unitOf(word) : undefined;
  // Single letters behind a name mean many things, and "in" is a word; they want brackets, or "in" before them.
  if (
    unit !== undefined &&
    !bracketed &&
    (word.length < 2 || /^in$/i.test(word)) &&
    !isMeasuredIn(name, unit)
  )
    return plain;
  return currency === undefined && unit === undefined ? plain : { name, unit, currency };
}
