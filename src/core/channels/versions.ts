import { type CategoryTree, pathName } from '../categories/tree';
import type { Channel } from './bundle';
import type { Field, Length, Need, Sheet } from './sheet';

/** What differs between two versions of a channel. Facts only; {@link changeWords} makes sentences of them. */
export type SheetChange =
  | { readonly change: 'fieldAdded' | 'fieldRemoved'; readonly field: string; readonly need: Need }
  | { readonly change: 'need'; readonly field: string; readonly from: Need; readonly to: Need }
  | { readonly change: 'condition'; readonly field: string; readonly words: string }
  | { readonly change: 'kind'; readonly field: string; readonly from: string; readonly to: string }
  | { readonly change: 'length'; readonly field: string; readonly from: string; readonly to: string }
  | { readonly change: 'pattern'; readonly field: string; readonly to: string }
  | {
      readonly change: 'choices';
      readonly field: string;
      readonly added: readonly string[];
      readonly removed: readonly string[];
    }
  | { readonly change: 'limits' | 'wording'; readonly field: string }
  | { readonly change: 'demandAdded' | 'demandRemoved'; readonly words: string }
  | { readonly change: 'branch'; readonly category: string; readonly words: string }
  | { readonly change: 'market'; readonly country: string; readonly added: boolean }
  | { readonly change: 'part'; readonly part: 'pictures' | 'merchant' | 'delivery' | 'makesPages' }
  | { readonly change: 'categoryAdded' | 'categoryRemoved'; readonly category: string; readonly path: string }
  | {
      readonly change: 'categoryMoved';
      readonly category: string;
      readonly from: string;
      readonly to: string;
      /** Categories below it that move along. */
      readonly along: number;
    }
  | {
      readonly change: 'categoryRenamed';
      readonly category: string;
      readonly from: string;
      readonly to: string;
    };

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** A length in words: "10 to 150 characters". */
export function lengthWords(length: Length | undefined): string {
  if (!length || (length.least === undefined && length.most === undefined)) return 'any length';
  const { least, most, measure } = length;
  if (most === undefined) return `${least} ${measure} or more`;
  return `${least === undefined ? 'up to' : `${least} to`} ${most} ${measure}`;
}

function fieldChanges(before: Field, after: Field): SheetChange[] {
  const field = after.code;
  const found: SheetChange[] = [];
  if (before.need !== after.need) found.push({ change: 'need', field, from: before.need, to: after.need });
  if (!same(before.mustWhen, after.mustWhen))
    found.push({
      change: 'condition',
      field,
      words: after.mustWhen === undefined ? '' : (after.because ?? 'under another condition'),
    });
  if (before.kind !== after.kind) found.push({ change: 'kind', field, from: before.kind, to: after.kind });
  const [shorter, longer] = [lengthWords(before.length), lengthWords(after.length)];
  if (shorter !== longer) found.push({ change: 'length', field, from: shorter, to: longer });
  if (before.pattern?.expression !== after.pattern?.expression)
    found.push({ change: 'pattern', field, to: after.pattern?.words ?? '' });
  const codes = (one: Field) => new Set(one.choices?.map(({ code }) => code));
  const [had, has] = [codes(before), codes(after)];
  const added = [...has].filter((code) => !had.has(code));
  const removed = [...had].filter((code) => !has.has(code));
  if (added.length + removed.length > 0) found.push({ change: 'choices', field, added, removed });
  const limits = ({ values, units, unique, stable, notForFamilies, role, length }: Field) => [
    values,
    units,
    unique,
    stable,
    notForFamilies,
    role,
    length?.advised,
    length?.phone,
  ];
  if (!same(limits(before), limits(after))) found.push({ change: 'limits', field });
  const words = ({ label, labels, meaning, example, group, synonyms }: Field) => [
    label,
    labels,
    meaning,
    example,
    group,
    synonyms,
  ];
  if (!same(words(before), words(after))) found.push({ change: 'wording', field });
  return found;
}

function sheetChanges(before: Sheet, after: Sheet): SheetChange[] {
  const had = new Map(before.fields.map((field) => [field.code, field]));
  const has = new Map(after.fields.map((field) => [field.code, field]));
  const found: SheetChange[] = [];
  for (const field of after.fields) {
    const known = had.get(field.code);
    if (known) found.push(...fieldChanges(known, field));
    else found.push({ change: 'fieldAdded', field: field.code, need: field.need });
  }
  for (const { code, need } of before.fields)
    if (!has.has(code)) found.push({ change: 'fieldRemoved', field: code, need });
  const demands = (sheet: Sheet) => new Map(sheet.demands.map((one) => [JSON.stringify(one), one.words]));
  const [old, now] = [demands(before), demands(after)];
  for (const [key, words] of now) if (!old.has(key)) found.push({ change: 'demandAdded', words });
  for (const [key, words] of old) if (!now.has(key)) found.push({ change: 'demandRemoved', words });
  const branches = (sheet: Sheet) => new Map(sheet.branches.map((one) => [one.under, one]));
  const [oldBranches, newBranches] = [branches(before), branches(after)];
  for (const under of new Set([...oldBranches.keys(), ...newBranches.keys()])) {
    const branch = newBranches.get(under);
    if (!same(oldBranches.get(under), branch))
      found.push({
        change: 'branch',
        category: under,
        words: branch?.restricted?.words ?? (branch ? 'other variant axes' : 'no rules of its own'),
      });
  }
  const markets = (sheet: Sheet) => new Set(sheet.markets.map(({ country }) => country));
  const [oldMarkets, newMarkets] = [markets(before), markets(after)];
  for (const country of newMarkets)
    if (!oldMarkets.has(country)) found.push({ change: 'market', country, added: true });
  for (const country of oldMarkets)
    if (!newMarkets.has(country)) found.push({ change: 'market', country, added: false });
  for (const part of ['pictures', 'merchant', 'delivery', 'makesPages'] as const)
    if (!same(before[part], after[part])) found.push({ change: 'part', part });
  return found;
}

function countBelow(tree: CategoryTree, code: string): number {
  const children = tree.byCode.get(code)?.children ?? [];
  return children.reduce((sum, child) => sum + 1 + countBelow(tree, child), 0);
}

function treeChanges(before: CategoryTree, after: CategoryTree, language: string): SheetChange[] {
  const found: SheetChange[] = [];
  for (const { code, parent, names } of after.byCode.values()) {
    const known = before.byCode.get(code);
    const to = pathName(after, code, language);
    if (!known) found.push({ change: 'categoryAdded', category: code, path: to });
    else if (known.parent !== parent)
      found.push({
        change: 'categoryMoved',
        category: code,
        from: pathName(before, code, language),
        to,
        along: countBelow(after, code),
      });
    else if (!same(known.names, names))
      found.push({
        change: 'categoryRenamed',
        category: code,
        from: pathName(before, code, language),
        to,
      });
  }
  for (const { code } of before.byCode.values())
    if (!after.byCode.has(code))
      found.push({ change: 'categoryRemoved', category: code, path: pathName(before, code, language) });
  return found;
}

/** Everything that differs between two versions of a channel: fields, needs, limits, choices, demands, tree, terms. */
export function compareChannels(before: Channel, after: Channel, language = 'en'): SheetChange[] {
  return [...sheetChanges(before.sheet, after.sheet), ...treeChanges(before.tree, after.tree, language)];
}

const listed = (codes: readonly string[]): string =>
  codes.length <= 4 ? codes.join(', ') : `${codes.slice(0, 4).join(', ')} and ${codes.length - 4} more`;

/** What pages call the needs of RFC 2119. */
export const needWords: Readonly<Record<Need, string>> = {
  must: 'required',
  should: 'recommended',
  may: 'optional',
};

/** A change as a sentence. @param labelOf a field's label in either version */
export function changeWords(change: SheetChange, labelOf: (field: string) => string): string {
  switch (change.change) {
    case 'fieldAdded':
      return `${labelOf(change.field)} is new (${needWords[change.need]})`;
    case 'fieldRemoved':
      return `${labelOf(change.field)} was removed`;
    case 'need':
      return `${labelOf(change.field)} changes from ${needWords[change.from]} to ${needWords[change.to]}`;
    case 'condition':
      return change.words === ''
        ? `${labelOf(change.field)} is no longer required under a condition`
        : `${labelOf(change.field)} is required where: ${change.words}`;
    case 'kind':
      return `${labelOf(change.field)} becomes ${change.to} (was ${change.from})`;
    case 'length':
      return `${labelOf(change.field)} allows ${change.to} (was ${change.from})`;
    case 'pattern':
      return change.to === ''
        ? `${labelOf(change.field)} has no pattern`
        : `${labelOf(change.field)} must be ${change.to}`;
    case 'choices':
      return [
        `${labelOf(change.field)}:`,
        change.added.length > 0 ? `new ${listed(change.added)}` : '',
        change.added.length > 0 && change.removed.length > 0 ? 'and' : '',
        change.removed.length > 0 ? `no longer ${listed(change.removed)}` : '',
      ]
        .filter((words) => words !== '')
        .join(' ');
    case 'limits':
      return `${labelOf(change.field)} has new limits`;
    case 'wording':
      return `${labelOf(change.field)} has a new description`;
    case 'demandAdded':
      return `New: ${change.words}`;
    case 'demandRemoved':
      return `No longer: ${change.words}`;
    case 'branch':
      return `Branch ${change.category}: ${change.words}`;
    case 'market':
      return change.added ? `New market ${change.country}` : `Market ${change.country} was removed`;
    case 'part':
      return {
        pictures: 'New picture requirements',
        merchant: 'New prerequisites',
        delivery: 'New delivery settings',
        makesPages: 'Changed: whether it is the shop itself',
      }[change.part];
    case 'categoryAdded':
      return `New category ${change.path}`;
    case 'categoryRemoved':
      return `Category ${change.path} was removed`;
    case 'categoryMoved':
      return `${change.from} moves to ${change.to}${change.along > 0 ? ` with ${change.along} below it` : ''}`;
    case 'categoryRenamed':
      return `${change.from} was renamed to ${change.to}`;
  }
}
