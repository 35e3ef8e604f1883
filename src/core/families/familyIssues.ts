import { plural } from '../formatting/formatting';
import { fold } from '../text/folding';

/** What of a member is looked at, in one feed. */
export interface FamilyMember {
  readonly sku: string;
  readonly place: string | undefined;
  readonly brand: string;
  readonly title: string;
  /** One address for all pictures that are the same. */
  readonly picture: string;
  readonly number: string;
  /** Its values of the family's axes, in their order; empty where it has none. */
  readonly axes: readonly string[];
}

/** One axis of a family: our attribute, and what it is to the channel. */
export interface FamilyAxis {
  readonly attribute: string;
  readonly label: string;
  /** The fields that it fills there. */
  readonly fields: readonly string[];
  /** Whether one of them may tell variants apart in the branch; true where the sheet says nothing of it. */
  readonly allowed: boolean;
  /** Whether it stands in the title there, or parts the family: then it need not be an axis of the channel. */
  readonly told: boolean;
}

export interface FamilyView {
  readonly axes: readonly FamilyAxis[];
  readonly members: readonly FamilyMember[];
  /** Of the family itself, which is not for sale. */
  readonly number: string;
  /** Whether the channel shows it with a lead of its own. */
  readonly lead: boolean;
}

/** What is wrong with a family before it is sent. Facts; the words stand below. */
export type FamilyIssue =
  | { readonly fault: 'places'; readonly skus: readonly string[]; readonly place: string }
  | { readonly fault: 'sameVariant'; readonly skus: readonly string[]; readonly values: string }
  | { readonly fault: 'noAxis'; readonly skus: readonly string[]; readonly axis: string }
  | { readonly fault: 'notAllowed'; readonly axis: string }
  | { readonly fault: 'axisAlike'; readonly axis: string; readonly value: string }
  | { readonly fault: 'leadNumber'; readonly number: string }
  | { readonly fault: 'brands'; readonly brands: readonly string[] }
  | { readonly fault: 'alone' }
  | { readonly fault: 'noPicture'; readonly sku: string }
  | { readonly fault: 'samePicture'; readonly axis: string }
  | { readonly fault: 'sameTitle'; readonly skus: readonly string[]; readonly title: string }
  | { readonly fault: 'gap'; readonly values: readonly string[] };

export const familyIssueSeverity: Readonly<Record<FamilyIssue['fault'], 'risk' | 'tip'>> = {
  places: 'risk',
  sameVariant: 'risk',
  noAxis: 'risk',
  notAllowed: 'risk',
  axisAlike: 'tip',
  leadNumber: 'risk',
  brands: 'risk',
  alone: 'tip',
  noPicture: 'risk',
  samePicture: 'tip',
  sameTitle: 'risk',
  gap: 'tip',
};

const groupedBy = <T>(list: readonly T[], keyOf: (one: T) => string): Map<string, T[]> => {
  const groups = new Map<string, T[]>();
  for (const one of list) {
    const key = keyOf(one);
    const known = groups.get(key);
    if (known) known.push(one);
    else groups.set(key, [one]);
  }
  return groups;
};

/** Axes by which shoppers choose with their eyes: members that differ there and show one picture mislead. */
const seen: ReadonlySet<string> = new Set(['color', 'colour', 'glaze', 'pattern', 'material']);

/** Finds what is wrong with a family as one feed would show it. */
export function familyIssues({ axes, members, number, lead }: FamilyView): FamilyIssue[] {
  const faults: FamilyIssue[] = [];
  if (members.length === 0) return faults;
  const skusOf = (list: readonly FamilyMember[]) => list.map(({ sku }) => sku);

  // Those that lie elsewhere than most.
  const places = [...groupedBy(members, ({ place }) => place ?? '')].sort(
    ([, a], [, b]) => b.length - a.length,
  );
  for (const [place, list] of places.slice(1)) faults.push({ fault: 'places', skus: skusOf(list), place });

  axes.forEach((axis, at) => {
    const lacking = members.filter((member) => member.axes[at] === '');
    const values = new Set(members.map((member) => fold(member.axes[at] ?? '')));
    if (lacking.length === members.length || (values.size === 1 && members.length > 1))
      faults.push({ fault: 'axisAlike', axis: axis.label, value: members[0]?.axes[at] ?? '' });
    else if (lacking.length > 0) faults.push({ fault: 'noAxis', skus: skusOf(lacking), axis: axis.label });
    if (!axis.told && !axis.allowed) faults.push({ fault: 'notAllowed', axis: axis.label });
  });

  for (const list of groupedBy(
    members.filter((member) => member.axes.every((value) => value !== '')),
    (member) => member.axes.map(fold).join('\n'),
  ).values())
    if (list.length > 1)
      faults.push({ fault: 'sameVariant', skus: skusOf(list), values: list[0]?.axes.join(', ') ?? '' });

  for (const [title, list] of groupedBy(
    members.filter((member) => member.title !== ''),
    (member) => fold(member.title),
  ))
    if (list.length > 1 && title !== '')
      faults.push({ fault: 'sameTitle', skus: skusOf(list), title: list[0]?.title ?? '' });

  const brands = groupedBy(
    members.filter(({ brand }) => brand !== ''),
    ({ brand }) => fold(brand),
  );
  if (brands.size > 1)
    faults.push({ fault: 'brands', brands: [...brands.values()].map(([one]) => one?.brand ?? '') });

  if (lead) {
    if (number !== '') faults.push({ fault: 'leadNumber', number });
    const [first] = members;
    if (first && first.picture === '') faults.push({ fault: 'noPicture', sku: first.sku });
  }
  axes.forEach((axis, at) => {
    if (!seen.has(axis.attribute)) return;
    const byPicture = groupedBy(
      members.filter(({ picture }) => picture !== ''),
      ({ picture }) => picture,
    );
    const misleading = [...byPicture.values()].some(
      (list) => new Set(list.map((member) => fold(member.axes[at] ?? ''))).size > 1,
    );
    if (misleading) faults.push({ fault: 'samePicture', axis: axis.label });
  });
  if (members.length === 1) faults.push({ fault: 'alone' });
  // Where a member has no value of an axis, it may well be the one that seems to be missing.
  const gaps = members.every((member) => member.axes.every((value) => value !== '')) ? gapsOf(members) : [];
  if (gaps.length > 0 && gaps.length <= members.length / 2)
    faults.push({ fault: 'gap', values: gaps.map((values) => values.join(', ')) });
  return faults;
}

/** Combinations of the members' own axis values that no member has. */
export function gapsOf(members: readonly FamilyMember[]): string[][] {
  const count = members[0]?.axes.length ?? 0;
  if (count === 0) return [];
  const values = Array.from({ length: count }, (_, at) => [
    ...new Set(members.map((member) => member.axes[at] ?? '').filter((value) => value !== '')),
  ]);
  const all = values.reduce((product, { length }) => product * length, 1);
  // A family of which most is missing is no grid: its axes belong together.
  if (all > members.length * 4) return [];
  const there = new Set(members.map(({ axes }) => axes.join('\n')));
  return values
    .reduce<string[][]>((rows, list) => rows.flatMap((row) => list.map((value) => [...row, value])), [[]])
    .filter((row) => !there.has(row.join('\n')));
}

const named = (skus: readonly string[]): string =>
  skus.length <= 3 ? skus.join(', ') : `${skus.slice(0, 3).join(', ')} and ${skus.length - 3} more`;

/** A fault as a sentence. @param placeOf names a place of the channel's tree */
export function familyIssueText(fault: FamilyIssue, placeOf: (place: string) => string): string {
  switch (fault.fault) {
    case 'places':
      return fault.place === ''
        ? `${named(fault.skus)} ${plural(fault.skus.length, 'has', 'have')} no category`
        : `${named(fault.skus)} ${plural(fault.skus.length, 'is', 'are')} in another category, ${placeOf(fault.place)}`;
    case 'sameVariant':
      return `${named(fault.skus)} are both ${fault.values}`.replace(
        'are both',
        fault.skus.length === 2 ? 'are both' : 'are all',
      );
    case 'noAxis':
      return `${named(fault.skus)} ${plural(fault.skus.length, 'has', 'have')} no ${fault.axis}`;
    case 'notAllowed':
      return `${fault.axis} is not a variant axis there`;
    case 'axisAlike':
      return fault.value === ''
        ? `no variant has a ${fault.axis}, the family’s axis`
        : `all variants are “${fault.value}”: they do not differ in ${fault.axis}`;
    case 'leadNumber':
      return `the family has a barcode, ${fault.number}; only variants have one`;
    case 'brands':
      return `several brands: ${fault.brands.slice(0, 3).join(', ')}`;
    case 'alone':
      return 'a family of one, shown as a single listing';
    case 'noPicture':
      return `the parent has no picture because ${fault.sku}, its first variant, has none`;
    case 'samePicture':
      return `variants of different ${fault.axis} show the same picture`;
    case 'sameTitle':
      return `${fault.skus.length} variants have the same title: “${fault.title}”`;
    case 'gap':
      return `${fault.values.slice(0, 3).join('; ')}${fault.values.length > 3 ? ` and ${fault.values.length - 3} more` : ''} ${plural(fault.values.length, 'is', 'are')} missing; shoppers see a gap`;
  }
}
