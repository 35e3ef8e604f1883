import { readIdentifier } from '../../identifiers/gtin';
import { readNumber } from '../../measures/numbers';
import { readMeasure } from '../../measures/units';
import { foldAlike } from '../../text/folding';
import { spokenName } from '../../text/similarity';
import { type Attribute, startingAttributes } from '../attributes';
import { asList, type Row } from '../value';

/** What a catalog's attributes hold, as suggestions look at it. */
export interface Survey {
  /** Items that have each attribute. */
  readonly filled: ReadonlyMap<string, number>;
  /** Distinct values of each attribute with their counts, the most frequent first. */
  readonly words: ReadonlyMap<string, readonly (readonly [string, number])[]>;
}

/** Counts every attribute's values. @param most distinct values kept for each */
export const surveyOf = (codes: readonly string[], rows: readonly Row[], most = 500): Survey =>
  new Surveyor(most).survey(codes, rows);

/**
 * Surveys a catalog again and again: of rows that are the same ones as the last time nothing is counted anew. Where an
 * attribute has more distinct values than are kept, which of the rarer ones are kept depends on what was surveyed before.
 */
export class Surveyor {
  private codes: readonly string[] = [];
  private rows: readonly Row[] = [];
  private slots: { filled: number; readonly words: Map<string, number> }[] = [];

  /** @param most distinct values kept for each attribute */
  constructor(private readonly most = 500) {}

  /** @param codes the attributes, in the order of the rows' slots @param rows not to be changed afterwards */
  survey(codes: readonly string[], rows: readonly Row[]): Survey {
    if (codes !== this.codes && codes.join('\n') !== this.codes.join('\n')) {
      this.rows = [];
      this.slots = codes.map(() => ({ filled: 0, words: new Map() }));
    }
    this.codes = codes;
    for (let at = 0; at < Math.max(rows.length, this.rows.length); at++) {
      const [before, now] = [this.rows[at], rows[at]];
      if (before === now) continue;
      if (before) this.count(before, -1);
      if (now) this.count(now, 1);
    }
    this.rows = rows;
    return {
      filled: new Map(codes.map((code, slot) => [code, this.slots[slot]?.filled ?? 0])),
      words: new Map(
        codes.map((code, slot) => [
          code,
          [...(this.slots[slot]?.words ?? [])].sort(
            ([one, often], [other, oftener]) => oftener - often || (one < other ? -1 : 1),
          ),
        ]),
      ),
    };
  }

  private count(row: Row, times: 1 | -1): void {
    for (const [slot, { words }] of this.slots.entries()) {
      const value = row[slot];
      if (value === undefined) continue;
      (this.slots[slot] as { filled: number }).filled += times;
      for (const word of asList(value)) {
        const known = words.get(word);
        if (known === undefined) {
          if (times === 1 && words.size < this.most) words.set(word, 1);
        } else if (known + times <= 0) words.delete(word);
        else words.set(word, known + times);
      }
    }
  }
}

/** The starting attribute that a name is a word for, in any of the languages it knows. */
const knownAs = (name: string): Attribute | undefined =>
  startingAttributes.find((attribute) =>
    [attribute.label, spokenName(attribute.code), ...attribute.synonyms].some((word) =>
      foldAlike(word, name),
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
