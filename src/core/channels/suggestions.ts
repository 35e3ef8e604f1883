import type { Attribute } from '../catalog/attributes';
import { aboutImport } from '../catalog/item';
import { type Composition, fromAttribute } from '../compose/composition';
import type { Step } from '../compose/steps';
import { readIdentifier } from '../identifiers/gtin';
import { isPerUnit } from '../import/headings/asides';
import { headingMeaning, headingMeanings, isHeadingOf } from '../import/headings/headingLexicon';
import { fold } from '../text/folding';
import { lengthIn } from '../text/length';
import { compilePattern } from '../text/pattern';
import { nameSimilarity, spokenName } from '../text/similarity';
import { suggestChoices } from '../values/suggestions';
import { beforeLookUp } from '../values/valueMappings';
import type { English } from '../words/forms';
import { roleAttributes } from './roles';
import type { Field } from './sheet';

export interface FieldSuggestion {
  readonly attribute: string;
  readonly composition: Composition;
  /** 0 to 100. From {@link takeAllFrom} on, *Take suggestions* takes it without asking. */
  readonly score: number;
  readonly reasons: readonly string[];
  /** What the composition falls back to where the attribute is empty, in words; undefined where it has no fallback. */
  readonly fallback?: string;
}

/**
 * Attributes that say what a thing is, who makes it, where it comes from and how it is safe: what is true of another item, or of
 * the shop, never stands in for them.
 */
const identityAttributes = new Set([
  ...['sku', 'gtin', 'isbn', 'mpn', 'brand', 'manufacturer', 'countryOfOrigin', 'customsCode'],
  ...[
    'warning',
    'dangerousGoods',
    'ageMin',
    'ageMax',
    'battery',
    'batteries',
    'energyClass',
    'plug',
    'material',
  ],
]);
const identityRoles: ReadonlySet<string> = new Set(['id', 'gtin', 'mpn', 'brand']);

/** The confidence from which suggestions are taken all at once. */
export const takeAllFrom = 70;

/** Kinds of attribute that can fill a kind of field, the best first. */
const fitting: Record<Field['kind'], readonly Attribute['kind'][]> = {
  text: ['text', 'choice', 'identifier', 'richText', 'number', 'measure'],
  richText: ['richText', 'text'],
  number: ['number', 'measure'],
  money: ['money'],
  measure: ['measure', 'number'],
  yesNo: ['yesNo', 'choice'],
  choice: ['choice', 'text', 'yesNo'],
  date: ['date'],
  link: ['link', 'pictures'],
  pictures: ['pictures', 'link'],
  identifier: ['identifier', 'text'],
  category: [],
};

/** The steps a field of this kind usually needs after an attribute. */
function usualSteps(field: Field, attribute: Attribute | undefined): Step[] {
  const steps: Step[] = [];
  if (field.role === 'gtin') steps.push({ step: 'gtinForm', digits: 'short' });
  if (field.kind === 'money') steps.push({ step: 'money' });
  if (field.kind === 'text' && attribute?.kind === 'richText') steps.push({ step: 'stripMarkup' });
  if (attribute?.kind === 'pictures' && (field.values?.most ?? 1) === 1)
    steps.push({ step: 'take', from: 1, to: 1 });
  // The field that is for the lead picture begins with it, however many it takes; one beside it takes the rest.
  if (attribute?.kind === 'pictures' && (field.values?.most ?? 1) > 1) {
    const from = field.role === 'image' ? 1 : 2;
    steps.push({ step: 'take', from, to: from - 1 + (field.values?.most ?? 1) });
  }
  return steps;
}

interface Evidence {
  readonly weight: number;
  readonly reason?: string;
}

/** What an attribute's values say for (above 0) or against (below 0) a field. */
function evidenceFor(field: Field, values: readonly string[]): Evidence {
  if (values.length === 0) return { weight: 0 };
  const share = (test: (value: string) => boolean) => values.filter(test).length / values.length;
  if (field.choices) {
    const known = values.filter((value) => (suggestChoices(field, value, { most: 1 })[0]?.score ?? 0) >= 90);
    if (known.length / values.length >= 0.5)
      return { weight: 25, reason: `${known.length} of its ${values.length} values are among the choices` };
    return { weight: known.length === 0 ? -12 : 0 };
  }
  if (field.role === 'gtin') {
    const valid = share((value) => ['valid', 'restricted'].includes(readIdentifier(value).verdict));
    return valid >= 0.5
      ? { weight: 20, reason: `the check digit is right in ${Math.round(valid * 100)} % of its values` }
      : { weight: valid < 0.2 ? -45 : 0 };
  }
  if (field.pattern) {
    const { test } = compilePattern(field.pattern.expression);
    const fits = share(test);
    return fits >= 0.9
      ? { weight: 8, reason: `its values are ${field.pattern.words}` }
      : { weight: fits < 0.3 ? -35 : 0 };
  }
  const { least = 0, most = Number.POSITIVE_INFINITY, measure = 'characters' } = field.length ?? {};
  const fits = share((value) => lengthIn(value, measure) >= least && lengthIn(value, measure) <= most);
  return { weight: field.length && fits < 0.2 && !field.role ? -25 : 0 };
}

/** What a price is about that is not the one a shopper pays now for an item. */
const otherPrices = new Set([
  'old',
  'ahead',
  'discount',
  'full',
  'crossed',
  'recommended',
  'reference',
  'sale',
  'purchase',
  'wholesale',
  'cost',
]);

/**
 * What a field is about that an attribute is not, though they are called alike: a parcel's size is not the item's, and what
 * a thing cost before, costs in a sale or a litre is not its price. Amount taken from the score.
 */
function confusion(field: Field, names: readonly string[], attribute: Attribute): number {
  const about = (name: string) => headingMeaning(name)?.about.split(' ') ?? [];
  if (field.kind === 'measure') {
    const parcel = names.some((name) => about(name).includes('package'));
    const isParcel = attribute.code.startsWith('package') || about(attribute.label).includes('package');
    // Where a channel asks for the parcel, the parcel's measure is surer than the item's.
    return parcel !== isParcel ? 35 : parcel ? -10 : 0;
  }
  if (field.kind === 'money' && field.role !== 'price' && attribute.code === 'price')
    return names.some((name) => isPerUnit(name) || about(name).some((one) => otherPrices.has(one))) ? 60 : 0;
  return 0;
}

/**
 * Ranked attributes for a field: by its role, by names and synonyms in any language, by kinds that fit, and by what the
 * attribute's values are.
 * @param filled how many items have each attribute; an attribute nobody filled is passed over
 * @param values some distinct values of each attribute, the most frequent first
 * @param english other words for one in English, for names in words that nobody thought of
 */
export function suggestForField(
  field: Field,
  attributes: readonly Attribute[],
  filled: ReadonlyMap<string, number>,
  values: ReadonlyMap<string, readonly string[]> = new Map(),
  most = 3,
  english: English = () => [],
): FieldSuggestion[] {
  const found: FieldSuggestion[] = [];
  const fieldNames = [
    field.label,
    spokenName(field.code),
    ...field.synonyms,
    ...Object.values(field.labels ?? {}),
  ];
  const meanings = fieldNames.flatMap((name) => {
    const meaning = headingMeaning(name, english);
    return meaning ? [{ name, ...meaning }] : [];
  });
  const ownNames = ({ label, code, synonyms }: Attribute) => [label, spokenName(code), ...synonyms];
  // A field that is called what one attribute is called is no other's for what such headings may mean elsewhere.
  const called = new Set(fieldNames.map(fold));
  const named = attributes.some((one) => ownNames(one).some((name) => called.has(fold(name))));
  for (const attribute of attributes) {
    const kinds = fitting[field.kind];
    const kindAt = kinds.indexOf(attribute.kind);
    if (kindAt < 0 || !filled.get(attribute.code) || aboutImport.has(attribute.code)) continue;
    const reasons: string[] = [];
    let score = 0;
    if (field.role && roleAttributes[field.role] === attribute.code) {
      score = 95;
      reasons.push('it is the usual source of this field');
    }
    let best = 0;
    let because = '';
    for (const name of fieldNames)
      for (const other of ownNames(attribute)) {
        const likeness = nameSimilarity(name, other);
        if (likeness > best) {
          best = likeness;
          because = `“${name}” is similar to “${other}”`;
        }
      }
    const listed = named ? undefined : fieldNames.find((name) => isHeadingOf(attribute.code, name));
    if (listed !== undefined && best < 0.98) {
      best = 0.98;
      because = `“${listed}” means ${attribute.label}`;
    }
    const meant = named
      ? undefined
      : meanings.find(({ about }) => headingMeanings.get(attribute.code)?.has(about));
    const says = meant?.whole ? 0.93 : attribute.kind === 'measure' ? 0 : 0.75;
    if (meant && best < says) {
      best = says;
      because = `“${meant.name}” means ${attribute.label}`;
    }
    if (best >= 0.4) {
      score = Math.max(score, Math.round(best * 90 - kindAt * 3));
      reasons.push(because);
    }
    score -= confusion(field, [field.label, ...Object.values(field.labels ?? {})], attribute);
    const evidence = score > 0 ? evidenceFor(field, values.get(attribute.code) ?? []) : { weight: 0 };
    score = Math.min(100, score + evidence.weight);
    if (evidence.reason) reasons.push(evidence.reason);
    if (score < 30) continue;
    if (kindAt === 0) reasons.push(`both are ${attribute.kind}`);
    found.push({
      attribute: attribute.code,
      composition: fromAttribute(attribute.code, usualSteps(field, attribute)),
      score,
      reasons,
    });
  }
  return found.sort((a, b) => b.score - a.score || a.attribute.localeCompare(b.attribute)).slice(0, most);
}

/** How the same merchant fills a field of another channel. */
export interface MappedElsewhere {
  readonly field: Field;
  readonly composition: Composition;
  /** The feed's name, as a reason says it. */
  readonly where: string;
}

/** Suggestions that come from what was mapped elsewhere; `attribute` is the first that the composition reads. */
function fromElsewhere(field: Field, elsewhere: readonly MappedElsewhere[]): FieldSuggestion[] {
  const names = ({ label, code, synonyms, labels }: Field) => [
    label,
    spokenName(code),
    ...synonyms,
    ...Object.values(labels ?? {}),
  ];
  return elsewhere.flatMap(({ field: other, composition, where }): FieldSuggestion[] => {
    const attribute = composition.alternatives.flatMap(({ parts }) =>
      parts.flatMap((part) => ('attribute' in part ? [part.attribute] : [])),
    )[0];
    const [first, ...fallbacks] = composition.alternatives;
    if (!first || attribute === undefined || other.kind !== field.kind) return [];
    const alike =
      field.role !== undefined && field.role === other.role
        ? 1
        : Math.max(0, ...names(field).flatMap((a) => names(other).map((b) => nameSimilarity(a, b))));
    if (alike < 0.8 || (field.role !== other.role && field.role !== undefined && other.role !== undefined))
      return [];
    const plain: FieldSuggestion = {
      attribute,
      composition: beforeLookUp({ ...composition, alternatives: [first] }),
      score: Math.round(60 + 35 * alike),
      reasons: [`mapped like this in ${where}: ${other.label}`],
    };
    const identity =
      (field.role !== undefined && identityRoles.has(field.role)) || identityAttributes.has(attribute);
    if (fallbacks.length === 0 || identity) return [plain];
    // A fallback that nobody sees would fill what the merchant means to be empty: it is offered by itself, and never taken along.
    return [
      plain,
      {
        ...plain,
        composition: beforeLookUp(composition),
        score: Math.min(plain.score, takeAllFrom - 1),
        fallback: fallbacks.map(alternativeWords).join(', else '),
      },
    ];
  });
}

/** What an alternative is made of, in words. */
const alternativeWords = ({ parts }: Composition['alternatives'][number]): string =>
  parts.map((part) => ('attribute' in part ? part.attribute : `“${part.text}”`)).join(' + ');

/**
 * Puts what was mapped elsewhere together with what names and values say: the same attribute found both ways is surer than
 * by either, and is filled the way it was there.
 */
export function withElsewhere(
  field: Field,
  found: readonly FieldSuggestion[],
  elsewhere: readonly MappedElsewhere[],
  most = 3,
): FieldSuggestion[] {
  const keyOf = ({ attribute, fallback = '' }: FieldSuggestion) => `${attribute} ${fallback}`;
  const best = new Map<string, FieldSuggestion>(found.map((one) => [keyOf(one), one]));
  for (const one of fromElsewhere(field, elsewhere)) {
    const known = best.get(keyOf(one));
    if (!known) best.set(keyOf(one), one);
    else if (!known.reasons.some((reason) => reason.startsWith('mapped like this')))
      best.set(keyOf(one), {
        ...one,
        score: Math.min(100, Math.max(known.score, one.score) + 3),
        reasons: [...one.reasons, ...known.reasons],
      });
  }
  return [...best.values()]
    .sort((a, b) => b.score - a.score || a.attribute.localeCompare(b.attribute))
    .slice(0, most);
}
