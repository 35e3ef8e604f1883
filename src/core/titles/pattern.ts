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
 * Of all that fits the best is taken: first as much as can be of the parts that are neither in `dropFirst` nor in `keep`, which
 * are shortened between words; then of those in `dropFirst` the ones that go last. Parts in `keep` are never dropped and never
 * cut: where they alone are too long the title stays too long, and its check says so.
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

  /**
   * Shortens the parts that may be, between words, so that as many signs as can be stay of them all together; of equal choices the
   * one that leaves more of the earlier parts. Where nothing of them fits they all go.
   */
  const shorten = (texts: (string | undefined)[]): void => {
    const parts = texts.flatMap((text, at) => {
      const attribute = attributeAt[at];
      return text === undefined || attribute === undefined || keep.has(attribute)
        ? []
        : [{ at, options: cutsOf(text, measure) }];
    });
    const bare = [...texts];
    for (const { at } of parts) bare[at] = undefined;
    // Letter case may change how long a text is; without it nothing that is longer than the room alone can fit.
    const room =
      pattern.letterCase === 'asis' ? most - lengthIn(join(bare), measure) : Number.POSITIVE_INFINITY;
    /** The most that can be left of the parts from one on. */
    const rest = parts.map((_, n) =>
      parts.slice(n).reduce((sum, { options }) => sum + (options[0]?.length ?? 0), 0),
    );
    let best: { readonly texts: readonly (string | undefined)[]; readonly left: number } | undefined;
    const walk = (n: number, left: number): void => {
      if (best && left + (rest[n] ?? 0) <= best.left) return;
      const part = parts[n];
      if (part === undefined) {
        // Longer choices are tried before shorter ones, so that of equals the first found stands.
        if (fits(cased(join(bare)))) best = { texts: [...bare], left };
        return;
      }
      for (const { text, length } of part.options) {
        if (left + length > room) continue;
        bare[part.at] = text;
        walk(n + 1, left + length);
      }
      bare[part.at] = undefined;
    };
    walk(0, 0);
    for (const { at } of parts) texts[at] = best?.texts[at];
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
    if (fits(title)) return { text: title, dropped: [], shortened: undefined };
    const whole = [...texts];
    const droppable = dropOrder.filter(
      (at) => texts[at] !== undefined && !keep.has(attributeAt[at] as string),
    );
    for (const at of droppable) texts[at] = undefined;
    let shortened: string | undefined;
    if (!fits(cased(join(texts)))) {
      shorten(texts);
      const first = texts.findIndex((text, at) => text !== whole[at] && !droppable.includes(at));
      shortened = attributeAt[first];
    }
    // What goes last is put back first: each part comes back that still fits, and none stays away for one that goes before it.
    for (const at of droppable.toReversed()) {
      texts[at] = whole[at];
      if (!fits(cased(join(texts)))) texts[at] = undefined;
    }
    const gone = droppable.filter((at) => texts[at] === undefined);
    if (tie) {
      const shown = [...whole];
      for (const at of gone) {
        shown[at] = undefined;
        tie({ kind: 'dropped', what: attributeAt[at] as string, value: cased(join(shown)) });
      }
    }
    title = cased(join(texts));
    if (shortened !== undefined) tie?.({ kind: 'shortened', what: shortened, value: title });
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

/** A title that was written by hand for one item, and what the pattern made then: it tells when the item has changed since. */
export const handTitleSchema = z
  .strictObject({ text: z.string().min(1).max(2000), instead: z.string().max(50_000) })
  .meta({ id: 'HandTitle' });
export type HandTitle = z.infer<typeof handTitleSchema>;

/** Titles of a pattern, but for the items that have one written by hand. @param slot where the SKU stands in a row */
export function withHandTitles(
  title: CompiledTitle,
  byHand: Readonly<Record<string, HandTitle>>,
  slot: number | undefined,
): CompiledTitle {
  const texts = new Map(Object.entries(byHand).map(([sku, { text }]) => [sku, text]));
  if (texts.size === 0 || slot === undefined) return title;
  const own = (row: Row) => texts.get(asText(row[slot]));
  return {
    run: (row) => own(row) ?? title.run(row),
    make(row, tie) {
      const text = own(row);
      if (text === undefined) return title.make(row, tie);
      tie?.({ kind: 'byHand', what: asText(row[slot]), value: text });
      return { text, dropped: [], shortened: undefined };
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

/** A text is cut in so many places at most; of longer ones those that leave most. */
const mostCuts = 24;

/** What may be left of a text: all of it, every beginning that ends with a word, and nothing; with its length, the longest first. */
function cutsOf(
  text: string,
  measure: LengthMeasure,
): readonly { readonly text: string | undefined; readonly length: number }[] {
  const cuts: { text: string | undefined; length: number }[] = [];
  let cut: string | undefined = text;
  while (cut !== undefined && cuts.length < mostCuts) {
    const length = lengthIn(cut, measure);
    cuts.push({ text: cut, length });
    const shorter: string | undefined = shortenBetweenWords(cut, length - 1, measure);
    cut = shorter === cut ? undefined : shorter;
  }
  return [...cuts, { text: undefined, length: 0 }];
}
