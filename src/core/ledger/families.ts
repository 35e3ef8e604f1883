import { asList, asText, type Value } from '../catalog/value';
import { fieldWithRole, type Sheet } from '../channels/sheet';
import type { FamilyChoice } from '../families/shape';
import { withoutWords } from '../text/withoutWords';
import { sameValue } from './ledger';

/** A listing as it leaves: an item's, or the lead of a family, which is no item. */
export interface Outgoing {
  /** The SKU; of a lead, what it is called to the channel. */
  readonly sku: string;
  readonly values: readonly (Value | undefined)[];
  readonly relation: 'lead' | 'member' | undefined;
}

interface Given {
  readonly sku: string;
  readonly values: readonly (Value | undefined)[];
}

/** A sheet as a feed has families stand there: where the channel shows single listings, one entry each, if the merchant wishes. */
export const sheetAsShown = (sheet: Sheet, choice: FamilyChoice | undefined): Sheet =>
  choice?.asOne && sheet.delivery.families === 'singles'
    ? { ...sheet, delivery: { ...sheet.delivery, families: 'oneEntry' } }
    : sheet;

/**
 * The entry of a file under which each ready listing leaves: its family's where the sheet gives families one entry, else its own.
 * @returns by SKU, the SKU of the entry
 */
export function entryOfEach(sheet: Sheet, ready: readonly Given[]): ReadonlyMap<string, string> {
  const group = fieldWithRole(sheet, 'group');
  const groupAt = group && sheet.delivery.families === 'oneEntry' ? sheet.fields.indexOf(group) : -1;
  const groupOf = ({ values }: Given) => (groupAt < 0 ? '' : asText(values[groupAt]));
  const sizes = new Map<string, number>();
  for (const one of ready) sizes.set(groupOf(one), (sizes.get(groupOf(one)) ?? 0) + 1);
  return new Map(
    ready.map((one) => {
      const own = groupOf(one);
      return [one.sku, own !== '' && (sizes.get(own) ?? 0) > 1 ? `family ${own}` : one.sku];
    }),
  );
}

/** The part of two titles that both begin with, up to a word's end and without the marks behind it. */
function commonBeginning(texts: readonly string[]): string {
  const [first = ''] = texts;
  let length = first.length;
  for (const text of texts) {
    let at = 0;
    while (at < length && text[at] === first[at]) at++;
    length = at;
  }
  const complete = texts.every((text) => text.length === length || /[\s\p{P}]/u.test(text[length] ?? ' '));
  const shared = complete ? first.slice(0, length) : first.slice(0, length).replace(/[^\s]+$/u, '');
  return shared.replace(/[\s\p{P}]+$/u, '');
}

/**
 * Listings as a sheet wants families shown. Each by itself; or with a lead before its members: an entry with a key of its own,
 * no product number and nothing that only what is sold has, with the values that all members share, what their titles begin
 * with and the first member's picture; or one entry a family, that of its first member under the
 * family's key, with the main pictures of all.
 * A family of one is a single listing.
 * @param skus what no lead may be called
 * @param variantWords what tells an item apart from its siblings, by its SKU: no title of the family says it
 */
export function shaped(
  sheet: Sheet,
  ready: readonly Given[],
  skus: ReadonlySet<string> = new Set(),
  variantWords: (sku: string) => readonly string[] = () => [],
): Outgoing[] {
  const { families } = sheet.delivery;
  const at = (role: Parameters<typeof fieldWithRole>[1]) => {
    const field = fieldWithRole(sheet, role);
    return field ? sheet.fields.indexOf(field) : -1;
  };
  const [groupAt, idAt, titleAt, imageAt] = [at('group'), at('id'), at('title'), at('image')];
  const moreAt = sheet.fields.findIndex(({ kind, role }) => kind === 'pictures' && role !== 'image');
  const alone = (one: Given): Outgoing => ({ sku: one.sku, values: one.values, relation: undefined });
  if (families === 'singles' || groupAt < 0) return ready.map(alone);
  const groups = new Map<string, Given[]>();
  for (const one of ready) {
    const group = asText(one.values[groupAt]);
    if (group === '') continue;
    const members = groups.get(group);
    if (members) members.push(one);
    else groups.set(group, [one]);
  }
  const taken = new Set(ready.map(({ values }) => asText(values[idAt])));
  const keyOf = (group: string): string => {
    let key = group;
    while (taken.has(key) || skus.has(key)) key += '-family';
    return key;
  };
  /** What all titles begin with, without a word of one member alone. */
  const titleOf = (members: readonly Given[], i: number): string | undefined => {
    const common = commonBeginning(members.map((one) => asText(one.values[i])));
    const reported = members.flatMap(({ sku }) => variantWords(sku));
    return withoutWords(common, reported) || common || asText(members[0]?.values[i]) || undefined;
  };
  const leadOf = (group: string, members: readonly Given[]): Outgoing => {
    const key = keyOf(group);
    const [first] = members;
    const values = sheet.fields.map((field, i): Value | undefined => {
      if (i === idAt) return key;
      if (field.role === 'gtin' || field.role === 'mpn' || field.notForFamilies) return undefined;
      const own = first?.values[i];
      if (i === imageAt) return field.values ? asList(own).slice(0, 1) : own;
      if (i === titleAt) return titleOf(members, i);
      return members.every((one) => sameValue(one.values[i], own)) ? own : undefined;
    });
    return { sku: key, values, relation: 'lead' };
  };
  /** The one entry of a family: its first member, under what all titles begin with, and with the main pictures of all. */
  const entryOf = (group: string, members: readonly Given[]): Outgoing => {
    const key = keyOf(group);
    const [first] = members;
    const mains = members.flatMap(({ values }) => asList(values[imageAt]).slice(0, 1));
    const values = sheet.fields.map((field, i): Value | undefined => {
      const own = first?.values[i];
      if (i === idAt) return key;
      if (i === titleAt) return titleOf(members, i);
      // Beside the main one stand those of the others, before what else there is of the first.
      const inOne = i === imageAt && moreAt < 0 && field.values !== undefined;
      if (!inOne && i !== moreAt) return own;
      const pictures = [...new Set([...mains, ...asList(own)])].filter((link) => inOne || link !== mains[0]);
      return pictures.length === 0 ? undefined : pictures.slice(0, field.values?.most);
    });
    return { sku: key, values, relation: undefined };
  };
  const done = new Set<string>();
  return ready.flatMap((one): Outgoing[] => {
    const group = asText(one.values[groupAt]);
    const members = groups.get(group);
    if (!members || members.length < 2) return [alone(one)];
    if (families === 'oneEntry') {
      if (done.has(group)) return [];
      done.add(group);
      return [entryOf(group, members)];
    }
    const member: Outgoing = { ...alone(one), relation: 'member' };
    if (done.has(group)) return [member];
    done.add(group);
    return [leadOf(group, members), member];
  });
}
