import { rowOf } from '../../core/catalog/item';
import { asText, type Value } from '../../core/catalog/value';
import { suggestCategories } from '../../core/categories/search';
import { pathName } from '../../core/categories/tree';
import type { Field, Sheet } from '../../core/channels/sheet';
import { suggestForField } from '../../core/channels/suggestions';
import { compile } from '../../core/listing/compile';
import { emptyPlan } from '../../core/plans/plan';
import { inEnglish, searchOf } from '../catalog/dictionaries';
import { currentSnapshot } from '../catalog/snapshot';
import { db } from '../db/connection';
import { sheetVersion } from '../db/schema';
import { procedure } from '../rpc/rpc';
import { channelOf, findChannel } from './channels';

export interface ChannelLine {
  readonly code: string;
  readonly name: string;
  readonly about: string;
  readonly bundled: boolean;
  /** The version that counts; undefined where none was taken on yet. */
  readonly version: number | undefined;
  readonly fields: number;
  readonly musts: number;
  readonly categories: number;
  readonly markets: Sheet['markets'];
  /** A version that waits to be looked at and taken on. */
  readonly open: { readonly version: number; readonly effective: string } | undefined;
}

/** Every channel with what a merchant compares them by, by name. */
export async function listChannels(): Promise<ChannelLine[]> {
  const rows = await db
    .select({
      code: sheetVersion.channel,
      version: sheetVersion.version,
      sheet: sheetVersion.sheet,
      bundled: sheetVersion.bundled,
      takenOnAt: sheetVersion.takenOnAt,
    })
    .from(sheetVersion)
    .orderBy(sheetVersion.version);
  const lines = new Map<string, ChannelLine>();
  for (const { code, version, sheet, bundled, takenOnAt } of rows) {
    const line = lines.get(code);
    if (takenOnAt === null && line) {
      lines.set(code, { ...line, open: { version, effective: sheet.effective } });
      continue;
    }
    const channel = takenOnAt === null ? undefined : await findChannel(code);
    lines.set(code, {
      code,
      name: sheet.name,
      about: sheet.about,
      bundled,
      version: takenOnAt === null ? undefined : version,
      fields: sheet.fields.length,
      musts: sheet.fields.filter(({ need }) => need === 'must').length,
      categories: channel?.tree.byCode.size ?? 0,
      markets: sheet.markets,
      open: takenOnAt === null ? { version, effective: sheet.effective } : undefined,
    });
  }
  return [...lines.values()].sort((a, b) => a.name.localeCompare(b.name));
}

export interface NeedLine {
  readonly field: Field;
  /** Label of the attribute that would fill it, and the item's value there. */
  readonly from: string | undefined;
  readonly value: string;
}

export interface NeedsOfItem {
  readonly sku: string;
  readonly name: string;
  /** The place in the tree that its category suggests. */
  readonly place: string | undefined;
  readonly lines: readonly NeedLine[];
}

/** What a channel would ask of an item in a country, were it placed where its category suggests. */
export const needsOfItem = procedure('needsOfItem', needsOf);
async function needsOf(code: string, country: string, sku: string): Promise<NeedsOfItem | undefined> {
  const { sheet, tree } = await channelOf(code);
  const snapshot = await currentSnapshot();
  const at = snapshot.positionOf(sku);
  const item = at === undefined ? undefined : snapshot.items[at];
  const market = sheet.markets.find((one) => one.country === country) ?? sheet.markets[0];
  if (!item || !market) return undefined;
  const family = item.family ? snapshot.families.get(item.family) : undefined;
  const row = rowOf(item, family, snapshot.index);
  const read = (attribute: string) => asText(row[snapshot.index.slotOf(attribute) ?? -1]);
  const category = read('category');
  const [place] =
    category === ''
      ? []
      : suggestCategories(searchOf(tree), tree, { name: category, itemNames: [read('name')] }, 1);
  const language = market.languages[0] ?? 'en';
  const plan = {
    ...emptyPlan(code, { country: market.country, language, currency: market.currency }),
    placements: place ? { [category]: { category: place.code } } : {},
  };
  const compiled = compile(plan, sheet, tree, snapshot.index);
  const all = new Map(snapshot.attributes.map((one) => [one.code, 1]));
  const categoryAt = sheet.fields.findIndex(({ kind }) => kind === 'category');
  const values: (Value | undefined)[] = new Array(sheet.fields.length).fill(undefined);
  if (categoryAt >= 0) values[categoryAt] = place?.code;
  const lines = sheet.fields.flatMap((field, i): NeedLine[] => {
    if (field.need !== 'must' && !compiled.mustHere[i]?.(row, values)) return [];
    if (field.kind === 'category')
      return [{ field, from: undefined, value: place ? pathName(tree, place.code, language) : '' }];
    const found = suggestForField(field, snapshot.attributes, all, undefined, 3, inEnglish);
    // Of attributes that fit about as well, the one the item has.
    const best =
      found.find((one) => one.score >= (found[0]?.score ?? 0) - 10 && read(one.attribute) !== '') ?? found[0];
    const attribute = snapshot.attributes.find((one) => one.code === best?.attribute);
    return [{ field, from: attribute?.label, value: attribute ? read(attribute.code) : '' }];
  });
  return {
    sku,
    name: read('name'),
    place: place && pathName(tree, place.code, language),
    lines,
  };
}
