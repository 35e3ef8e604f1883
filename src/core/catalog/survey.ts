import { readIdentifier } from '../identifiers/gtin';
import { readNumber } from '../measures/numbers';
import { readMeasure } from '../measures/units';
import { fold } from '../text/folding';
import { spokenName } from '../text/similarity';
import { type Attribute, startingAttributes } from './attributes';
import { asList, type Row } from './value';

/** What a catalog's attributes hold, as suggestions look at it. */
export interface Survey {
  /** Items that have each attribute. */
  readonly filled: ReadonlyMap<string, number>;
  /** Distinct values of each attribute with their counts, the most frequent first. */
  readonly words: ReadonlyMap<string, readonly (readonly [string, number])[]>;
}

/** Counts every attribute's values. @param most distinct values kept for each */
export function surveyOf(codes: readonly string[], rows: readonly Row[], most = 500): Survey {
  const filled = new Map<string, number>();
  const words = new Map<string, [string, number][]>();
  codes.forEach((code, slot) => {
    const counts = new Map<string, number>();
    let count = 0;
    for (const row of rows) {
      const value = row[slot];
      if (value === undefined) continue;
      count++;
      for (const word of asList(value))
        if (counts.has(word) || counts.size < most) counts.set(word, (counts.get(word) ?? 0) + 1);
    }
    filled.set(code, count);
    words.set(
      code,
      [...counts].sort((a, b) => b[1] - a[1]),
    );
  });
  return { filled, words };
}

/** The starting attribute that a name is a word for, in any of the languages it knows. */
const knownAs = (name: string): Attribute | undefined =>
  startingAttributes.find((attribute) =>
    [attribute.label, spokenName(attribute.code), ...attribute.synonyms].some(
      (word) => fold(word) === fold(name),
    ),
  );

/**
 * An attribute that nothing defines: what its name means where it is a word for a known one, else its kind told from its
 * values.
 */
export function guessAttribute(code: string, values: readonly string[]): Attribute {
  const known = knownAs(spokenName(code));
  if (known)
    return {
      code,
      label: code,
      kind: known.kind,
      synonyms: [known.label, spokenName(known.code), ...known.synonyms],
    };
  const all = (test: (value: string) => boolean) => values.length > 0 && values.every(test);
  const kind: Attribute['kind'] = all((value) => /^https?:\/\/\S+\.(jpe?g|png|gif|webp|tiff?)$/i.test(value))
    ? 'pictures'
    : all((value) => /^https?:\/\//.test(value))
      ? 'link'
      : all((value) => /^\d{4}-\d\d-\d\d$/.test(value))
        ? 'date'
        : all((value) => /^(true|false|yes|no)$/i.test(value))
          ? 'yesNo'
          : all((value) => readIdentifier(value).normal !== '')
            ? 'identifier'
            : all((value) => readMeasure(value) !== undefined)
              ? 'measure'
              : all((value) => !/\p{L}/u.test(value) && readNumber(value) !== undefined)
                ? /price|cost|amount/i.test(code)
                  ? 'money'
                  : 'number'
                : values.some((value) => /<[a-z]+[\s>/]/i.test(value))
                  ? 'richText'
                  : 'text';
  const label = spokenName(code);
  return { code, label: label.charAt(0).toUpperCase() + label.slice(1), kind, synonyms: [] };
}
