import { z } from 'zod';
import { axesCode, familyNameCode } from '../catalog/item';
import { asList, asText, attributeReader, type Row } from '../catalog/value';
import { compilePart, type LineageStep, leaders, partSchema } from '../compose/composition';
import type { StepContext } from '../compose/steps';
import { type LengthMeasure, lengthIn } from '../text/length';
import { changeCase } from '../text/letterCase';
import { type Abbreviate, abbreviator, type Places, printed } from './abbreviations';
import { contains, cutsOf, onceEach, says } from './repetition';

/**
 * How titles are made: parts in order, and what may go when the title is too long.
 *
 * Of all that fits the best is taken, by what comes first in this list: as many signs as can be, each times the worth of its
 * part, of the parts that are neither in `dropFirst` nor in `keep`, which are cut between words; more of the earlier of them; of
 * the parts in `dropFirst` those that go last; as few abbreviations as can be, the earlier words whole. Parts in `keep`, and the
 * axes of the item's family, are never dropped and never cut: where they alone are too long the title stays too long, and its
 * check says so.
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
    sayOnce: z
      .boolean()
      .default(true)
      .meta({ description: 'leave a part out where the name already says it' }),
    tellApart: z
      .boolean()
      .default(true)
      .meta({ description: 'add the axes of an item’s family that the title would not say' }),
    nameOnPhone: z
      .boolean()
      .default(false)
      .meta({ description: 'what stands before the name goes where a phone would cut the name' }),
    abbreviations: z
      .record(z.string().min(1).max(100), z.string().min(1).max(100))
      .default({})
      .meta({ description: 'shorter forms of words, taken only where the title is too long' }),
    worth: z
      .record(z.string(), z.int().min(1).max(9))
      .default({})
      .meta({ description: 'by attribute: how much a sign of it counts when titles are shortened; 1 else' }),
  })
  .meta({ id: 'TitlePattern' });
export type TitlePattern = z.infer<typeof titlePatternSchema>;

export interface TitleLimit {
  readonly most: number | undefined;
  readonly measure: LengthMeasure;
  /** After how many characters a phone cuts. */
  readonly phone?: number | undefined;
}

export interface Title {
  readonly text: string | undefined;
  /** Attributes left out to fit, in the order they went. */
  readonly dropped: readonly string[];
  /** The attribute that was shortened, if one was. */
  readonly shortened: string | undefined;
  /** Words that were abbreviated, as they stand in the item. */
  readonly abbreviated: readonly string[];
}

export interface CompiledTitle {
  run(row: Row): string | undefined;
  make(row: Row, tie?: (step: LineageStep) => void): Title;
}

/** One part of one item's title. */
interface TitlePart {
  readonly attribute: string | undefined;
  readonly glue: string;
  /** The position of the part without which it is not there either; its own for attributes. */
  readonly lead: number;
  readonly kind: 'kept' | 'dropped' | 'cut';
  readonly worth: number;
  readonly whole: string | undefined;
  /** Whether it is left out where the name says it. */
  readonly once: boolean;
  /** What stands of it by now, before anything is abbreviated. */
  text: string | undefined;
  /** Where that can be abbreviated, and which places are. */
  places: Places;
}

const nothing: Title = { text: undefined, dropped: [], shortened: undefined, abbreviated: [] };

/** Compiles a title pattern under a limit. */
export function compileTitle(pattern: TitlePattern, limit: TitleLimit, context: StepContext): CompiledTitle {
  const { parts } = pattern;
  const readers = parts.map((part) => compilePart(part, context));
  const lead = leaders(parts);
  const attributeAt = parts.map((part) => ('attribute' in part ? part.attribute : undefined));
  const dropOrder = pattern.dropFirst
    .filter((code) => !pattern.keep.includes(code))
    .map((code) => attributeAt.indexOf(code))
    .filter((at) => at >= 0);
  const nameAt = attributeAt.indexOf('name');
  const glues = parts.map(({ glue }) => glue);
  const kindOf = parts.map((_, at): TitlePart['kind'] =>
    pattern.keep.includes(attributeAt[at] ?? '') ? 'kept' : dropOrder.includes(at) ? 'dropped' : 'cut',
  );
  const most = limit.most ?? Number.POSITIVE_INFINITY;
  const { measure } = limit;
  const phone = pattern.nameOnPhone && nameAt >= 0 ? limit.phone : undefined;
  const shortForms: Abbreviate | undefined = abbreviator(pattern.abbreviations, measure);
  const familyOf = familyReader(pattern, attributeAt, context);
  // Where the name itself may go, it may say nothing in place of others.
  const sayOnce = pattern.sayOnce && nameAt >= 0 && kindOf[nameAt] !== 'dropped';

  const placeOf = new Map(
    attributeAt.flatMap((code, at) => (code === undefined ? [] : [[code, at] as const])),
  );
  /** Positions of axes whose value is part of the value of an earlier axis. */
  const repeatedAt = (texts: readonly (string | undefined)[], axes: readonly string[]): readonly number[] => {
    if (axes.length < 2) return [];
    const places = axes.flatMap((axis) => placeOf.get(axis) ?? []);
    return places.filter((at) =>
      places.some((before) => before < at && contains(texts[before] ?? '', texts[at] ?? '')),
    );
  };

  const read = (row: Row): TitlePart[] => {
    const texts = readers.map((reader) => {
      const value = reader(row);
      return value === undefined ? undefined : asText(value) || undefined;
    });
    const { axes, sharedName, further } = familyOf(row);
    for (const at of repeatedAt(texts, axes)) texts[at] = undefined;
    const created = texts.map(
      (complete, at): TitlePart => ({
        attribute: attributeAt[at],
        glue: (parts[at] as (typeof parts)[number]).glue,
        lead: lead[at] as number,
        kind: axes.includes(attributeAt[at] ?? '') ? 'kept' : (kindOf[at] as TitlePart['kind']),
        worth: pattern.worth[attributeAt[at] ?? ''] ?? 1,
        whole: complete,
        // A name that all the family shares may name another's colour as well.
        once: sayOnce && at !== nameAt && !(sharedName && axes.includes(attributeAt[at] ?? '')),
        text: complete,
        places: [],
      }),
    );
    for (const { attribute, whole } of further) {
      const stated = created.some(
        ({ kind, whole: other, attribute: of }, at) =>
          other !== undefined &&
          (((kind === 'kept' || (at === nameAt && !sharedName)) && says(other, whole)) ||
            (axes.includes(of ?? '') && contains(other, whole))),
      );
      if (stated && !(nameAt >= 0 && kindOf[nameAt] === 'dropped')) continue;
      created.push({
        attribute,
        glue: ', ',
        lead: created.length,
        kind: 'kept',
        worth: 1,
        whole,
        once: sayOnce && !sharedName,
        text: whole,
        places: [],
      });
    }
    return created;
  };

  /** The title up to a part, as it stands. */
  const join = (created: readonly TitlePart[], end = created.length): string => {
    const name = sayOnce ? created[nameAt]?.text : undefined;
    let title = '';
    for (let at = 0; at < end; at++) {
      const part = created[at] as TitlePart;
      if (part.text === undefined) continue;
      if (part.lead !== at && part.lead !== -1) {
        const led = created[part.lead] as TitlePart;
        if (led.text === undefined || (led.once && name !== undefined && says(name, led.text))) continue;
      }
      if (part.once && name !== undefined && part.attribute !== undefined && says(name, part.text)) continue;
      const text = part.places.length === 0 ? part.text : printed(part.text, part.places);
      title = title === '' ? text : title + part.glue + text;
    }
    return title;
  };
  const within = (title: string): boolean =>
    // A UTF-16 unit is at most three bytes and never less than a third of one: most titles need no exact count.
    measure === 'bytes'
      ? title.length * 3 <= most || lengthIn(title, measure) <= most
      : title.length <= most || lengthIn(title, measure) <= most;
  const cased = (title: string): string =>
    pattern.letterCase === 'asis' ? title : changeCase(title, pattern.letterCase, context.language);
  /** Whether a phone shows the name to its end, or nothing stands before it that could go. */
  const onPhone = (created: readonly TitlePart[]): boolean =>
    phone === undefined ||
    created[nameAt]?.text === undefined ||
    cased(join(created, nameAt + 1)).length <= phone ||
    created
      .slice(0, nameAt)
      .every(({ text, kind, attribute }) => text === undefined || attribute === undefined || kind === 'kept');
  const fits = (created: readonly TitlePart[]): boolean => within(cased(join(created))) && onPhone(created);

  const setText = (part: TitlePart, text: string | undefined): void => {
    part.text = text;
    part.places = text === undefined || !shortForms ? [] : shortForms(text);
  };

  /**
   * Cuts the parts that may be, between words, so that as much as can be stays of them all together; of equal choices the one
   * that leaves more of the earlier parts. Where nothing of them fits they all go.
   */
  const cut = (created: readonly TitlePart[]): void => {
    const free = created.filter(
      ({ kind, whole, attribute }) => kind === 'cut' && whole !== undefined && attribute !== undefined,
    );
    const options = free.map(({ whole, worth }) => {
      const cuts = cutsOf(whole as string, measure);
      return onceEach((at) => {
        const found = cuts(at);
        if (!found) return undefined;
        const { text, length } = found;
        const places = text === undefined || !shortForms ? [] : shortForms(text);
        const shown = text === undefined || places.length === 0 ? text : printed(text, places);
        return {
          text,
          places,
          worth: length * worth,
          length: shown === undefined ? 0 : lengthIn(shown, measure),
        };
      });
    });
    for (const part of free) setText(part, undefined);
    // What letter case or a word said once does to lengths is only known of a whole title.
    const room =
      pattern.letterCase === 'asis' && !sayOnce
        ? most - lengthIn(join(created), measure)
        : Number.POSITIVE_INFINITY;
    /** The most that can be left of the parts from one on. */
    const rest = free.map((_, n) => options.slice(n).reduce((sum, some) => sum + (some(0)?.worth ?? 0), 0));
    let best: { readonly chosen: readonly number[]; readonly left: number } | undefined;
    const chosen: number[] = [];
    const walk = (n: number, left: number, length: number): void => {
      if (best && left + (rest[n] ?? 0) <= best.left) return;
      const part = free[n];
      if (part === undefined) {
        // Longer choices are tried before shorter ones, so that of equals the first found stands.
        if (fits(created)) best = { chosen: [...chosen], left };
        return;
      }
      for (let at = 0; ; at++) {
        const option = options[n]?.(at);
        // Each is worth less than the one before it: what cannot be the best with this one cannot with the next.
        if (!option || (best && left + option.worth + (rest[n + 1] ?? 0) <= best.left)) break;
        if (length + option.length > room) continue;
        part.text = option.text;
        part.places = option.places;
        chosen[n] = at;
        walk(n + 1, left + option.worth, length + option.length);
      }
      part.text = undefined;
      part.places = [];
    };
    walk(0, 0, 0);
    for (const [n, part] of free.entries()) setText(part, options[n]?.(best?.chosen[n] ?? -1)?.text);
  };

  const make = (row: Row, tie?: (step: LineageStep) => void): Title => {
    const created = read(row);
    if (tie)
      for (const { attribute, whole } of created)
        if (attribute !== undefined) tie({ kind: 'attribute', what: attribute, value: whole });
    let title = cased(join(created));
    if (title === '') return nothing;
    tie?.({ kind: 'joined', what: String(created.length), value: title });
    if (fits(created)) return { ...nothing, text: title };
    // First with every word as short as it can be: what is cut, and what goes, is what must even then.
    for (const part of created) setText(part, part.whole);
    const droppable = dropOrder.filter(
      (at) => created[at]?.whole !== undefined && created[at]?.kind === 'dropped',
    );
    for (const at of droppable) setText(created[at] as TitlePart, undefined);
    let shortened: string | undefined;
    if (!fits(created)) {
      cut(created);
      shortened = created.find(({ kind, text, whole }) => kind === 'cut' && text !== whole)?.attribute;
    }
    // What goes last is put back first: each part comes back that still fits, and none stays away for one that goes before it.
    for (const at of droppable.toReversed()) {
      const part = created[at] as TitlePart;
      setText(part, part.whole);
      if (!fits(created)) setText(part, undefined);
    }
    const gone = droppable.filter((at) => created[at]?.text === undefined);
    // Then each word is whole again that may be.
    const abbreviated: string[] = [];
    for (const part of created)
      for (let at = 0; at < part.places.length; at++) {
        const place = part.places[at] as Places[number];
        part.places = part.places.with(at, { ...place, on: false });
        if (fits(created)) continue;
        part.places = part.places.with(at, place);
        abbreviated.push(place.long);
      }
    if (tie)
      for (const at of gone)
        tie({ kind: 'dropped', what: attributeAt[at] as string, value: cased(join(created)) });
    title = cased(join(created));
    if (shortened !== undefined) tie?.({ kind: 'shortened', what: shortened, value: title });
    if (abbreviated.length > 0) tie?.({ kind: 'abbreviated', what: abbreviated.join(', '), value: title });
    const dropped = gone.map((at) => attributeAt[at] as string);
    return { text: title === '' ? undefined : title, dropped, shortened, abbreviated };
  };

  /** The whole title of an item that needs no more care; undefined for others. Most are of this kind, and nothing is made for them. */
  const quick = (row: Row): string | undefined => {
    if (phone !== undefined) return undefined;
    const { axes, sharedName, further } = familyOf(row);
    if (further.length > 0) return undefined;
    const texts: string[] = new Array(readers.length);
    for (let at = 0; at < texts.length; at++) {
      const value = (readers[at] as (typeof readers)[number])(row);
      texts[at] = value === undefined ? '' : typeof value === 'string' ? value : asText(value);
    }
    for (const at of repeatedAt(texts, axes)) texts[at] = '';
    const name = sayOnce ? texts[nameAt] : '';
    if (name)
      for (let at = 0; at < texts.length; at++) {
        const attribute = attributeAt[at];
        if (at === nameAt || attribute === undefined || (sharedName && axes.includes(attribute))) continue;
        if (says(name, texts[at] as string)) texts[at] = '';
      }
    let title = '';
    for (let at = 0; at < texts.length; at++) {
      const text = texts[at] as string;
      const led = lead[at] as number;
      if (text === '' || (led !== -1 && texts[led] === '')) continue;
      title = title === '' ? text : title + glues[at] + text;
    }
    return cased(title);
  };

  return {
    make,
    run(row) {
      const title = quick(row);
      return title !== undefined && title !== '' && within(title) ? title : make(row).text;
    },
  };
}

/** What an item's family says of its title. */
interface OfFamily {
  readonly axes: readonly string[];
  /** Whether the item has its name from its family. */
  readonly sharedName: boolean;
  /** Its values on axes that no part of the pattern takes. */
  readonly further: readonly { readonly attribute: string; readonly whole: string }[];
}

const alone: OfFamily = { axes: [], sharedName: false, further: [] };

function familyReader(
  pattern: TitlePattern,
  taken: readonly (string | undefined)[],
  context: StepContext,
): (row: Row) => OfFamily {
  const { index } = context;
  const axesSlot = pattern.tellApart ? index.slotOf(axesCode) : undefined;
  if (axesSlot === undefined) return () => alone;
  const nameSlot = index.slotOf('name');
  const familyNameSlot = index.slotOf(familyNameCode);
  const readers = new Map<string, ReturnType<typeof attributeReader>>();
  const readerOf = (code: string) => {
    if (!readers.has(code)) readers.set(code, attributeReader(index, code, context));
    return readers.get(code);
  };
  return (row) => {
    const axes = asList(row[axesSlot]);
    if (axes.length === 0) return alone;
    const familyName = familyNameSlot === undefined ? undefined : row[familyNameSlot];
    return {
      axes,
      sharedName: familyName !== undefined && nameSlot !== undefined && row[nameSlot] === familyName,
      further: axes.flatMap((attribute) => {
        if (taken.includes(attribute)) return [];
        const complete = asText(readerOf(attribute)?.(row));
        return complete === '' ? [] : [{ attribute, whole: complete }];
      }),
    };
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
      return { ...nothing, text };
    },
  };
}

/** Titles by patterns of branches: each item's is that of the nearest branch above its place, or the feed's. */
export function byBranch(
  usual: CompiledTitle | undefined,
  branches: ReadonlyMap<string, CompiledTitle>,
  branchesAbove: (row: Row) => readonly string[],
): CompiledTitle {
  const titleFor = (row: Row): CompiledTitle | undefined => {
    for (const branch of branchesAbove(row)) {
      const own = branches.get(branch);
      if (own) return own;
    }
    return usual;
  };
  return {
    run: (row) => titleFor(row)?.run(row),
    make: (row, tie) => titleFor(row)?.make(row, tie) ?? nothing,
  };
}
