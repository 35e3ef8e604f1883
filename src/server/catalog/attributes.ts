import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import { type Attribute, attributeSchema, startingAttributes } from '../../core/catalog/attributes';
import { type Quality, qualityOf } from '../../core/catalog/quality/attributeQuality';
import { renameIn, type Term, termsWith, withTerm } from '../../core/catalog/terms';
import { asList, languageInCode } from '../../core/catalog/value';
import { InputError } from '../../core/errors/inputError';
import { foldAlike } from '../../core/text/folding';
import { currentUser, recordActivity } from '../auth/authorize';
import { db, type Transaction } from '../db/connection';
import { attribute, draft, family, workspace } from '../db/schema';
import { procedure } from '../rpc/rpc';
import { memoFor } from '../runtime/memo';
import { raiseRevision } from './changes';
import { type EditDone, editCatalog } from './editing';
import { currentSnapshot, loadAttributes, type Snapshot } from './snapshot';

/** How an attribute stands over the whole catalog; computed once for each snapshot. */
const qualityIn = (snapshot: Snapshot, one: Attribute): Quality =>
  memoFor(
    snapshot,
    'attribute quality',
    () => qualityOf(one, { ...snapshot, slotOf: snapshot.index.slotOf }),
    one.code,
  );

export interface AttributeLine extends Attribute {
  readonly quality: Quality;
}

/** Every attribute with how it stands. */
export const listAttributes = procedure('attributes', attributeLines);
async function attributeLines(): Promise<{ lines: AttributeLine[]; items: number }> {
  const snapshot = await currentSnapshot();
  const lines = snapshot.attributes.map((one) => ({ ...one, quality: qualityIn(snapshot, one) }));
  return { lines, items: snapshot.items.length };
}

export interface TermLine extends Term {
  readonly count: number;
  /** Whether the definition names it; the others are only found on items. */
  readonly known: boolean;
}

export interface AttributeDetail extends AttributeLine {
  readonly termLines: readonly TermLine[];
  readonly families: readonly string[];
}

function countWords(snapshot: Snapshot, code: string): Map<string, number> {
  const slot = snapshot.index.slotOf(code) ?? -1;
  const counts = new Map<string, number>();
  for (const row of snapshot.rows)
    for (const word of asList(row[slot])) counts.set(word, (counts.get(word) ?? 0) + 1);
  return counts;
}

export const findAttribute = procedure('attribute', attributeDetail);
async function attributeDetail(code: string): Promise<AttributeDetail | undefined> {
  const snapshot = await currentSnapshot();
  const found = snapshot.attributes.find((one) => one.code === code);
  if (!found) return undefined;
  const counts = found.kind === 'choice' ? countWords(snapshot, code) : new Map<string, number>();
  const known = new Set(found.terms?.map(({ term }) => term));
  return {
    ...found,
    quality: qualityIn(snapshot, found),
    termLines: termsWith(found, counts.keys()).map((one) => ({
      ...one,
      count: counts.get(one.term) ?? 0,
      known: known.has(one.term),
    })),
    families: [...snapshot.families.keys()].sort(),
  };
}

/** How many items and families have a value of an attribute; 0 where there is no such attribute. */
const countFilled = procedure('filled', async (code: string): Promise<number> => {
  const snapshot = await currentSnapshot();
  const found = snapshot.attributes.find((one) => one.code === code);
  return found ? qualityIn(snapshot, found).filled : 0;
});

/** The words that items have of an attribute, and the items that have one of them. */
const wordsAndHolders = procedure('wordsAndHolders', async (code: string, word: string) => {
  const snapshot = await currentSnapshot();
  return {
    words: [...countWords(snapshot, code).keys()],
    holders: snapshot.items.filter(({ values }) => asList(values[code]).includes(word)).map(({ sku }) => sku),
  };
});

/** Changes an attribute's definition, or adds a custom one. The kind of one that items have values of stays. */
export async function saveAttribute(given: Attribute, fresh: boolean): Promise<void> {
  const person = await currentUser();
  const definition = attributeSchema.parse(given);
  const attributes = await loadAttributes();
  const known = attributes.find(({ code }) => code === definition.code);
  if (fresh && known) throw new InputError('attributeThere', { code: definition.code, label: known.label });
  if (definition.code.includes('@')) throw new InputError('currencyAttribute');
  if (definition.code === 'family') throw new InputError('familyIsNoAttribute');
  if (attributes.some(({ code, label }) => code !== definition.code && label === definition.label))
    throw new InputError('labelTaken', { label: definition.label });
  if (known && known.kind !== definition.kind) {
    const filled = await countFilled(known.code);
    if (filled > 0) throw new InputError('kindStays', { count: filled, label: known.label });
  }
  await db.transaction(async (tx) => {
    const row = {
      label: definition.label,
      kind: definition.kind,
      unit: definition.unit ?? null,
      synonyms: definition.synonyms,
      terms: definition.terms ?? null,
      list: definition.list ?? false,
      family: definition.family ?? null,
      languages: definition.languages?.length ? definition.languages : null,
    };
    const [last] = await tx.select({ most: sql<number>`coalesce(max(position), 0)` }).from(attribute);
    await tx
      .insert(attribute)
      .values({ code: definition.code, position: Number(last?.most ?? 0) + 1, ...row })
      .onDuplicateKeyUpdate({ set: row });
    await raiseRevision(tx);
  });
  await recordActivity(person, `${fresh ? 'added' : 'changed'} an attribute`, definition.label);
}

/** Has attributes written in the further languages that some codes name: `name@de` makes `name` one written in German. */
export async function declareLanguages(tx: Transaction, codes: Iterable<string>): Promise<void> {
  const wanted = new Map<string, Set<string>>();
  for (const code of codes) {
    const named = languageInCode(code);
    if (named) wanted.set(named.of, (wanted.get(named.of) ?? new Set()).add(named.language));
  }
  if (wanted.size === 0) return;
  const rows = await tx
    .select({ code: attribute.code, languages: attribute.languages })
    .from(attribute)
    .where(inArray(attribute.code, [...wanted.keys()]));
  let changed = false;
  for (const { code, languages } of rows) {
    const all = [...new Set([...(languages ?? []), ...(wanted.get(code) ?? [])])].sort();
    if (all.length === (languages ?? []).length) continue;
    changed = true;
    await tx.update(attribute).set({ languages: all }).where(eq(attribute.code, code));
  }
  if (changed) await raiseRevision(tx);
}

/** Puts the terms of a choice in an order. */
export async function setTerms(code: string, terms: readonly Term[]): Promise<void> {
  const found = (await loadAttributes()).find((one) => one.code === code);
  if (!found) throw new InputError('noAttribute');
  await saveAttribute({ ...found, terms: [...terms] }, false);
}

export interface TermTouch {
  readonly items: number;
  readonly families: number;
  /** Feeds whose value tables look the old word up. */
  readonly feeds: readonly string[];
  /** Whether the new word is a term already, so that the two become one. */
  readonly merges: boolean;
}

/** What renaming a term would touch. */
export const previewRename = procedure('rename', touchedBy);
async function touchedBy(code: string, from: string, to: string): Promise<TermTouch> {
  const snapshot = await currentSnapshot();
  const found = snapshot.attributes.find((one) => one.code === code);
  const holds = (values: Readonly<Record<string, unknown>>) =>
    asList(values[code] as string | undefined).includes(from);
  const counts = countWords(snapshot, code);
  const drafts = await db.select().from(draft);
  return {
    items: counts.get(from) ?? 0,
    families: [...snapshot.families.values()].filter(({ values }) => holds(values)).length,
    feeds: drafts
      .filter(({ plan }) =>
        Object.values(plan.tables ?? {}).some((table) =>
          Object.keys(table).some((word) => foldAlike(word, from)),
        ),
      )
      .map((one) => one.feed),
    merges: counts.has(to) || (found?.terms?.some(({ term }) => term === to) ?? false),
  };
}

/** Renames a term wherever it stands; where the new word is a term already the two become one. The old word stays as a synonym. */
export async function renameTerm(code: string, from: string, to: string): Promise<EditDone> {
  const word = to.trim();
  if (word === '' || word === from) throw new InputError('noWord');
  const found = (await loadAttributes()).find((one) => one.code === code);
  if (!found) throw new InputError('noAttribute');
  const { words, holders } = await wordsAndHolders(code, from);
  const done = await editCatalog(async (desk) => {
    const states = await desk.items(holders);
    for (const [sku, state] of states) {
      const value = withTerm(state.values[code], from, word);
      if (value !== undefined) desk.putItem(sku, { ...state, values: { ...state.values, [code]: value } });
    }
    for (const one of await familiesWith(desk.tx, code, from)) {
      const value = withTerm(one.values[code], from, word);
      if (value !== undefined)
        desk.putFamily(one.code, { variesBy: one.variesBy, values: { ...one.values, [code]: value } });
    }
    return `renamed ${found.label} “${from}” to “${word}”`;
  });
  const terms = found.terms ?? termsWith({}, words);
  await setTerms(code, renameIn(terms, from, word));
  return done;
}

async function familiesWith(tx: Transaction, code: string, word: string) {
  const rows = await tx.select().from(family);
  return rows.filter(({ values }) => asList(values[code]).includes(word));
}

/** Takes an attribute away that no item has a value of. */
export async function removeAttribute(code: string): Promise<void> {
  const person = await currentUser();
  const found = (await loadAttributes()).find((one) => one.code === code);
  if (!found || code === 'sku' || code === 'name') throw new InputError('attributeStays');
  const filled = await countFilled(code);
  if (filled > 0) throw new InputError('attributeFilled', { count: filled, label: found.label });
  await db.transaction(async (tx) => {
    await tx.delete(attribute).where(eq(attribute.code, code));
    await raiseRevision(tx);
  });
  await recordActivity(person, 'deleted an attribute', found.label);
}

/** A starting attribute as its row. */
export const startingRow = (one: Attribute, position: number): typeof attribute.$inferInsert => ({
  ...one,
  unit: one.unit ?? null,
  terms: one.terms ?? null,
  list: one.list ?? false,
  family: one.family ?? null,
  position,
});

/**
 * Gives a workspace the attributes that came with a later version, and those it has the terms they lacked; what else it has
 * under their codes stays.
 */
export async function addStartingAttributes(): Promise<void> {
  const [known] = await db.select().from(workspace);
  if (!known) return;
  await db
    .insert(attribute)
    .ignore()
    .values(startingAttributes.map((one, position) => startingRow(one, 1000 + position)));
  for (const { code, terms, list } of startingAttributes) {
    if (terms)
      await db
        .update(attribute)
        .set({ terms })
        .where(and(eq(attribute.code, code), isNull(attribute.terms)));
    if (list) await db.update(attribute).set({ list }).where(eq(attribute.code, code));
  }
}
