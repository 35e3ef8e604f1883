import { and, asc, eq, inArray, ne, sql } from 'drizzle-orm';
import { axisCodes } from '../../core/catalog/attributes';
import { type Family, gatherFamilies, type Item, type Values } from '../../core/catalog/item';
import { readValue } from '../../core/catalog/reading';
import { asText, type Value } from '../../core/catalog/value';
import type { Composition } from '../../core/compose/composition';
import { InputError } from '../../core/errors/inputError';
import { formatNumber } from '../../core/formatting/formatting';
import { fold } from '../../core/text/folding';
import {
  type AxisChoice,
  MAX_VARIANTS,
  type PlannedVariant,
  planVariants,
  valuesAlone,
  valuesIn,
} from '../../core/variants/variants';
import { db, type Transaction } from '../db/connection';
import { type FamilyState, family, type ItemState, item } from '../db/schema';
import { procedure } from '../rpc/rpc';
import { type CatalogEditor, type EditDone, editCatalog, freshItem, readFamily } from './editing';
import { editable } from './itemEdits';
import { currentSnapshot, loadAttributes } from './snapshot';

export interface FamilyLine {
  readonly code: string;
  readonly name: string;
  readonly variesBy: readonly string[];
  readonly items: number;
}

/** Every family with the number of its items, by code. */
export const listFamilies = procedure('families', familyLines);
async function familyLines(): Promise<FamilyLine[]> {
  const { families, items } = await currentSnapshot();
  const counts = new Map<string, number>();
  for (const one of items) if (one.family) counts.set(one.family, (counts.get(one.family) ?? 0) + 1);
  return [...families.values()]
    .map(({ code, values, variesBy }) => ({
      code,
      name: asText(values.name) || code,
      variesBy,
      items: counts.get(code) ?? 0,
    }))
    .sort((a, b) => (a.code < b.code ? -1 : 1));
}

export interface FamilyDetail extends Family {
  readonly members: readonly Item[];
}

export async function findFamily(code: string): Promise<FamilyDetail | undefined> {
  const [found] = await db.select().from(family).where(eq(family.code, code));
  if (!found) return undefined;
  const members = await db
    .select({ sku: item.sku, values: item.values })
    .from(item)
    .where(and(eq(item.family, code), eq(item.archived, false)))
    .orderBy(asc(item.id));
  return { code, variesBy: found.variesBy, values: found.values, members };
}

const asFamily = (code: string, state: FamilyState): Family => ({ code, ...state });

async function needFamily(desk: CatalogEditor, code: string): Promise<FamilyState> {
  const state = await desk.family(code);
  if (!state) throw new InputError('noFamily', { family: code });
  return state;
}

async function membersOf(tx: Transaction, code: string): Promise<Map<string, ItemState>> {
  const rows = await tx.select().from(item).where(eq(item.family, code)).orderBy(asc(item.id)).for('update');
  return new Map(
    rows.map(({ sku, family: own, values, origins, archived, sourceId }) => [
      sku,
      { family: own, values, origins, archived, sourceId },
    ]),
  );
}

/** Adds a family without items. */
export async function createFamily(
  code: string,
  name: string,
  variesBy: readonly string[],
): Promise<EditDone> {
  const trimmed = code.trim();
  if (trimmed === '') throw new InputError('familyWithoutCode');
  if (name.trim() === '') throw new InputError('familyWithoutName');
  return editCatalog(async (desk) => {
    if (await desk.family(trimmed)) throw new InputError('familyThere', { family: trimmed });
    desk.putFamily(trimmed, { variesBy: [...variesBy], values: { name: name.trim() } });
    return `added the family ${trimmed}`;
  });
}

/** Sets a value for a whole family; items that have one of their own keep it. */
export async function editFamilyValue(code: string, attribute: string, text: string): Promise<EditDone> {
  const definition = editable(await loadAttributes(), attribute);
  const value = readValue(definition, text);
  return editCatalog(async (desk) => {
    const state = await needFamily(desk, code);
    desk.putFamily(code, { ...state, values: withValue(state.values, attribute, value) });
    return `changed ${definition.label} of the family ${code}`;
  });
}

function withValue(values: Values, attribute: string, value: Value | undefined): Values {
  const { [attribute]: _before, ...others } = values;
  return value === undefined ? others : { ...others, [attribute]: value };
}

/** Sets which attributes tell a family's items apart, in their order. */
export async function setAxes(code: string, variesBy: readonly string[]): Promise<EditDone> {
  return editCatalog(async (desk) => {
    const state = await needFamily(desk, code);
    desk.putFamily(code, { ...state, variesBy: [...new Set(variesBy)] });
    return `changed the axes of ${code}: ${variesBy.join(', ') || 'none'}`;
  });
}

export interface VariantRequest {
  readonly axes: readonly AxisChoice[];
  readonly sku: Composition;
  readonly name: Composition | undefined;
}

/** Plans the variants of a family without making any. */
export const previewVariants = procedure('variants', plannedVariants);
async function plannedVariants(code: string, request: VariantRequest): Promise<PlannedVariant[]> {
  const found = await findFamily(code);
  if (!found) throw new InputError('noFamily', { family: code });
  refuseTooMany(request.axes);
  const snapshot = await currentSnapshot();
  const planned = planVariants(
    found,
    found.members,
    request.axes,
    request,
    (sku) => snapshot.positionOf(sku) !== undefined,
  );
  const wanted = planned.flatMap(({ existing, sku }) => (existing === undefined ? [sku] : []));
  // Archived items hold their SKUs as well.
  const taken =
    wanted.length === 0
      ? []
      : await db
          .select({ sku: item.sku })
          .from(item)
          .where(and(inArray(item.sku, wanted), eq(item.archived, true)));
  const archived = new Set(taken.map(({ sku }) => sku));
  return planned.map((one) => (archived.has(one.sku) && !one.existing ? { ...one, trouble: 'taken' } : one));
}

function refuseTooMany(axes: readonly AxisChoice[]): void {
  const count = axes.reduce((product, { terms }) => product * terms.length, axes.length === 0 ? 0 : 1);
  if (count > MAX_VARIANTS)
    throw new InputError('tooManyVariants', {
      count: formatNumber(count),
      most: formatNumber(MAX_VARIANTS),
    });
}

/** Makes the variants that are missing; existing ones keep their data. The chosen axes become the family's. */
export async function makeVariants(code: string, request: VariantRequest): Promise<EditDone> {
  const planned = await previewVariants(code, request);
  const bad = planned.find(({ trouble }) => trouble !== undefined);
  if (bad?.trouble === 'taken') throw new InputError('variantTaken', { sku: bad.sku });
  if (bad?.trouble === 'twice') throw new InputError('variantTwice', { sku: bad.sku });
  if (bad) throw new InputError('variantWithoutSku');
  return editCatalog(async (desk) => {
    const state = await needFamily(desk, code);
    const codes = request.axes.map(({ axis }) => axis);
    desk.putFamily(code, { ...state, variesBy: [...new Set([...codes, ...state.variesBy])] });
    const missing = planned.filter(({ existing }) => existing === undefined);
    for (const { sku, values } of missing) desk.putItem(sku, freshItem(values, code));
    return `made ${missing.length} variants of ${code}`;
  });
}

/**
 * Moves items into a family, or out of all families. They keep every value they show: what they shared goes along, what
 * they share anew need not stand twice.
 */
export async function moveItems(skus: readonly string[], to: string | null): Promise<EditDone> {
  return editCatalog(async (desk) => {
    const target = to === null ? undefined : await needFamily(desk, to);
    const states = await desk.items(skus);
    for (const [sku, state] of states) {
      const from = state.family ? await desk.family(state.family) : undefined;
      const complete = valuesAlone(state, from && asFamily(state.family ?? '', from));
      desk.putItem(sku, { ...state, family: to, values: target ? valuesIn(complete, target) : complete });
    }
    return to === null
      ? `removed ${states.size} items from their family`
      : `moved ${states.size} items to ${to}`;
  });
}

/** Splits a family into one for each value of an axis; the first keeps the family's code. */
export async function splitFamily(code: string, axis: string): Promise<EditDone> {
  return editCatalog(async (desk) => {
    const state = await needFamily(desk, code);
    const members = await membersOf(desk.tx, code);
    const groups = new Map<string, [string, ItemState][]>();
    for (const [sku, one] of members) {
      const term = asText(one.values[axis] ?? state.values[axis]);
      groups.set(term, [...(groups.get(term) ?? []), [sku, one]]);
    }
    if (groups.size < 2) throw new InputError('nothingToSplit', { family: code });
    const variesBy = state.variesBy.filter((one) => one !== axis);
    let first = true;
    for (const [term, list] of groups) {
      const part = first
        ? code
        : `${code}-${fold(term || 'none')
            .replace(/ /g, '-')
            .toUpperCase()}`;
      if (!first && (await desk.family(part))) throw new InputError('splitTaken', { family: part });
      first = false;
      const values = withValue(state.values, axis, term || undefined);
      desk.putFamily(part, { variesBy, values });
      for (const [sku, one] of list)
        desk.putItem(sku, { ...one, family: part, values: withValue(one.values, axis, undefined) });
    }
    return `split ${code} into ${groups.size} families`;
  });
}

/** Makes one family of items that have none; what all of them share moves up to it. */
export async function mergeItems(skus: readonly string[], code: string): Promise<EditDone> {
  const trimmed = code.trim();
  if (trimmed === '') throw new InputError('newFamilyWithoutCode');
  if (skus.length < 2) throw new InputError('familyOfOne');
  return editCatalog(async (desk) => {
    if (await desk.family(trimmed)) throw new InputError('mergeIntoThere', { family: trimmed });
    const states = await desk.items(skus);
    const blocked = [...states].find(([, state]) => state.family !== null);
    if (blocked) throw new InputError('memberElsewhere', { sku: blocked[0], family: blocked[1].family });
    const gathered = gatherFamilies(
      [...states].map(([sku, { values }]) => ({ sku, values, family: trimmed })),
      axisCodes,
    );
    const [made] = gathered.families;
    desk.putFamily(trimmed, { variesBy: [...(made?.variesBy ?? [])], values: made?.values ?? {} });
    for (const { sku, values } of gathered.items) {
      const state = states.get(sku);
      if (state) desk.putItem(sku, { ...state, family: trimmed, values });
    }
    return `created the family ${trimmed} of ${states.size} items`;
  });
}

/** Takes an empty family away, or copies one under another code with its values and axes but without its items. */
export async function removeFamily(code: string): Promise<EditDone> {
  return editCatalog(async (desk) => {
    await needFamily(desk, code);
    const members = await membersOf(desk.tx, code);
    if (members.size > 0) throw new InputError('familyHasItems', { family: code, count: members.size });
    desk.putFamily(code, null);
    return `deleted the family ${code}`;
  });
}

export async function copyFamily(code: string, to: string): Promise<EditDone> {
  const trimmed = to.trim();
  if (trimmed === '') throw new InputError('copyWithoutCode');
  return editCatalog(async (desk) => {
    const state = await needFamily(desk, code);
    if (await readFamily(desk.tx, trimmed)) throw new InputError('familyThere', { family: trimmed });
    desk.putFamily(trimmed, state);
    return `copied the family ${code} to ${trimmed}`;
  });
}

/** Items that stand alone, for making a family of them. */
export async function looseCount(): Promise<number> {
  const [row] = await db
    .select({ count: sql<number>`count(*)` })
    .from(item)
    .where(and(sql`${item.family} is null`, ne(item.archived, true)));
  return Number(row?.count ?? 0);
}
