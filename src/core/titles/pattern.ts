import { z } from 'zod';
import { asText, type Row } from '../catalog/value';
import { compilePart, type Knot, leaders, partSchema } from '../compose/composition';
import type { StepContext } from '../compose/steps';
import { shortenBetweenWords } from '../text/fitting';
import { fold } from '../text/folding';
import { type LengthMeasure, lengthIn } from '../text/length';
import { changeCase } from '../text/letterCase';

/**
 * How titles are made: parts in order, and what may go when the title is too long.
 * Parts named in `dropFirst` go one after another, and come back where there is room once a longer one has gone; then the
 * others that do not tell variants apart are shortened between words, the longest first, until they are gone. Parts in
 * `keep` are never dropped and never cut: where they alone are too long the title stays too long, and its check says so.
 */
export const titlePatternSchema = z
  .strictObject({
    parts: z.array(partSchema).min(1),
    dropFirst: z
      .array(z.string())
      .default([])
      .meta({ description: 'attributes that may go, first to go first' }),
    keep: z
      .array(z.string())
      .default([])
      .meta({ description: 'attributes never shortened: they tell variants apart' }),
    letterCase: z.enum(['asis', 'sentence', 'title']).default('asis'),
    brandOnce: z
      .boolean()
      .default(true)
      .meta({ description: 'leave the brand out where the name already begins with it' }),
  })
  .meta({ id: 'TitlePattern' });
export type TitlePattern = z.infer<typeof titlePatternSchema>;

export interface TitleLimit {
  readonly most: number | undefined;
  readonly measure: LengthMeasure;
}

export interface Title {
  readonly text: string | undefined;
  /** Attributes left out to fit, in the order they went. */
  readonly dropped: readonly string[];
  /** The attribute that was shortened, if one was. */
  readonly shortened: string | undefined;
}

export interface CompiledTitle {
  run(row: Row): string | undefined;
  make(row: Row, tie?: (knot: Knot) => void): Title;
}

/** Compiles a title pattern under a limit. */
export function compileTitle(pattern: TitlePattern, limit: TitleLimit, context: StepContext): CompiledTitle {
  const { parts } = pattern;
  const count = parts.length;
  const readers = parts.map((part) => compilePart(part, context));
  const glue = parts.map((part) => part.glue);
  const lead = leaders(parts);
  const attributeAt = parts.map((part) => ('attribute' in part ? part.attribute : undefined));
  const keep = new Set(pattern.keep);
  const dropOrder = pattern.dropFirst.map((code) => attributeAt.indexOf(code)).filter((at) => at >= 0);
  const brandAt = pattern.brandOnce ? attributeAt.indexOf('brand') : -1;
  const nameAt = attributeAt.indexOf('name');
  const most = limit.most ?? Number.POSITIVE_INFINITY;
  const { measure } = limit;

  const join = (texts: readonly (string | undefined)[]): string => {
    let title = '';
    for (let i = 0; i < count; i++) {
      const text = texts[i];
      if (text === undefined || (lead[i] !== -1 && texts[lead[i] as number] === undefined)) continue;
      title = title === '' ? text : title + glue[i] + text;
    }
    return title;
  };
  const fits = (title: string): boolean =>
    // A UTF-16 unit is at most three bytes and never less than a third of one: most titles need no exact count.
    measure === 'bytes'
      ? title.length * 3 <= most || lengthIn(title, measure) <= most
      : title.length <= most || lengthIn(title, measure) <= most;
  const cased = (title: string): string =>
    pattern.letterCase === 'asis' ? title : changeCase(title, pattern.letterCase, context.language);

  const read = (row: Row): (string | undefined)[] => {
    const texts: (string | undefined)[] = new Array(count);
    for (let i = 0; i < count; i++) {
      const value = (readers[i] as (row: Row) => ReturnType<(typeof readers)[number]>)(row);
      texts[i] = value === undefined ? undefined : asText(value);
    }
    if (brandAt >= 0 && nameAt >= 0) {
      const brand = texts[brandAt];
      const name = texts[nameAt];
      if (brand !== undefined && name !== undefined && beginsWithWord(name, brand))
        texts[brandAt] = undefined;
    }
    return texts;
  };

  const make = (row: Row, tie?: (knot: Knot) => void): Title => {
    const texts = read(row);
    if (tie)
      for (let i = 0; i < count; i++) {
        const attribute = attributeAt[i];
        if (attribute !== undefined) tie({ kind: 'attribute', what: attribute, value: texts[i] });
      }
    let title = cased(join(texts));
    if (title === '') return { text: undefined, dropped: [], shortened: undefined };
    tie?.({ kind: 'joined', what: String(count), value: title });
    const whole = [...texts];
    const gone: number[] = [];
    for (const at of dropOrder) {
      if (fits(title)) break;
      if (texts[at] === undefined || keep.has(attributeAt[at] as string)) continue;
      texts[at] = undefined;
      title = cased(join(texts));
      gone.push(at);
      tie?.({ kind: 'dropped', what: attributeAt[at] as string, value: title });
    }
    let shortened: string | undefined;
    if (!fits(title)) {
      for (const at of byLength(texts, attributeAt, keep)) {
        // Letter case may change the length, so the room is counted anew until it is enough.
        while (!fits(title) && texts[at] !== undefined) {
          const text = texts[at] as string;
          const room = lengthIn(text, measure) - (lengthIn(title, measure) - most);
          texts[at] = room > 0 ? shortenBetweenWords(text, room, measure) : undefined;
          shortened ??= attributeAt[at];
          title = cased(join(texts));
        }
        if (fits(title)) break;
      }
      if (shortened !== undefined) tie?.({ kind: 'shortened', what: shortened, value: title });
    } else
      for (const at of gone.toReversed()) {
        texts[at] = whole[at];
        const longer = cased(join(texts));
        if (fits(longer)) {
          title = longer;
          gone.splice(gone.indexOf(at), 1);
          tie?.({ kind: 'joined', what: String(count), value: title });
        } else texts[at] = undefined;
      }
    const dropped = gone.map((at) => attributeAt[at] as string);
    return { text: title === '' ? undefined : title, dropped, shortened };
  };

  return {
    make,
    run(row) {
      const title = cased(join(read(row)));
      return title !== '' && fits(title) ? title : make(row).text;
    },
  };
}

function beginsWithWord(name: string, brand: string): boolean {
  if (name.length < brand.length) return false;
  if (name.startsWith(brand))
    return name.length === brand.length || !/[\p{L}\p{N}]/u.test(name[brand.length] as string);
  // Unequal first letters settle it for nearly all names; only others need folding.
  if (
    name.charCodeAt(0) < 128 &&
    brand.charCodeAt(0) < 128 &&
    (name.charCodeAt(0) | 32) !== (brand.charCodeAt(0) | 32)
  )
    return false;
  return `${fold(name)} `.startsWith(`${fold(brand)} `);
}

/** Parts that may be shortened, the longest first. */
function byLength(
  texts: readonly (string | undefined)[],
  attributeAt: readonly (string | undefined)[],
  keep: ReadonlySet<string>,
): number[] {
  return texts
    .flatMap((text, at) => {
      const attribute = attributeAt[at];
      return text === undefined || attribute === undefined || keep.has(attribute) ? [] : [at];
    })
    .sort((a, b) => (texts[b] as string).length - (texts[a] as string).length);
}
