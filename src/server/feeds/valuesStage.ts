import { randomUUID } from 'node:crypto';
import { shownText } from '../../core/catalog/reading';
import { asText } from '../../core/catalog/value';
import type { Field } from '../../core/channels/sheet';
import type { Composition } from '../../core/compose/composition';
import { InputError } from '../../core/errors/inputError';
import { editWords, type PlanEdit, planEditSchema } from '../../core/listing/edit';
import type { Plan } from '../../core/listing/plan';
import { fold } from '../../core/text/folding';
import {
  suggestChoices,
  type ValueSuggestion,
  type WordElsewhere,
  withWordElsewhere,
} from '../../core/values/suggestions';
import { tableOf, wordsOfField } from '../../core/values/tables';
import { db } from '../db/connection';
import { currentExpander } from '../words';
import { type EditResult, editDraft, feedPlans } from './drafts';
import { otherFeeds } from './otherFeeds';
import type { FeedWork } from './work';

export interface WordLine {
  /** As the catalog keeps it. */
  readonly word: string;
  /** As people read it. */
  readonly shown: string;
  readonly count: number;
  /** The choice it becomes; undefined where it is left to do. */
  readonly choice: string | undefined;
  readonly suggestions: readonly { choice: string; label: string; score: number; reason: string }[];
  /** Address of the items that have it. */
  readonly items: string;
}

export interface ValueField {
  readonly code: string;
  readonly label: string;
  readonly open: number;
  readonly words: number;
}

/** A field of another feed that takes the same choices. */
export interface Sharing {
  readonly feed: string;
  readonly name: string;
  readonly field: string;
  readonly table: string;
}

export interface ValuesStage {
  readonly fields: readonly ValueField[];
  readonly current: string | undefined;
  readonly label: string;
  readonly table: string;
  readonly choices: readonly { code: string; label: string }[];
  readonly lines: readonly WordLine[];
  readonly sharing: readonly Sharing[];
}

interface Mapped {
  readonly field: Field;
  readonly at: number;
  readonly composition: Composition;
}

/** Choice fields that something of the catalog fills. */
const mappedChoices = ({ sheet, plans }: FeedWork): Mapped[] =>
  sheet.fields.flatMap((field, at) => {
    const composition = plans.draft.fields[field.code];
    const fromCatalog = composition?.alternatives.some(({ parts }) =>
      parts.some((part) => 'attribute' in part),
    );
    return field.choices && composition && fromCatalog ? [{ field, at, composition }] : [];
  });

const choiceLabel = ({ code, labels }: NonNullable<Field['choices']>[number], language: string): string =>
  labels[language] ?? labels.en ?? Object.values(labels)[0] ?? code;

/** The words of a field in the items this feed takes, with what each becomes. */
function usesOf({ draft, snapshot }: FeedWork, { at, composition }: Mapped) {
  const { listings } = draft;
  const taken = listings.taken();
  const { language, currency } = draft.compiled.plan.market;
  return wordsOfField(
    composition,
    { index: snapshot.index, language, currency, tables: {} },
    taken.map((i) => snapshot.rows[i] ?? []),
    taken.map((i) => listings.valueAt(i, at)),
  );
}

/** Fields of other feeds with the very same choices: what is said of a word here can be said of it there. */
export async function sharingOf(feed: string, field: Field): Promise<Sharing[]> {
  const codes = (one: Field) =>
    (one.choices ?? [])
      .map(({ code }) => code)
      .sort()
      .join('\n');
  const wanted = codes(field);
  return (await otherFeeds(feed)).flatMap(({ head, channel, plans, name }) =>
    channel.sheet.fields
      .filter((one) => one.choices && codes(one) === wanted)
      .map((one) => ({
        feed: head.code,
        name,
        field: one.code,
        table: tableOf(one.code, plans.draft.fields[one.code]),
      })),
  );
}

/** What became of words in fields of other feeds that are filled from the same attributes. */
async function settledWords(
  work: FeedWork,
  { composition }: Mapped,
): Promise<(word: string) => WordElsewhere[]> {
  const reads = (one: Composition) =>
    one.alternatives.flatMap(({ parts }) =>
      parts.flatMap((part) => ('attribute' in part ? [part.attribute] : [])),
    );
  const own = new Set(reads(composition));
  const known = new Map<string, WordElsewhere[]>();
  for (const { channel, settled, name } of await otherFeeds(work.plans.head.code))
    for (const field of channel.sheet.fields) {
      const there = settled.fields[field.code];
      if (!field.choices || !there || !reads(there).some((attribute) => own.has(attribute))) continue;
      for (const [word, to] of Object.entries(settled.tables[tableOf(field.code, there)] ?? {})) {
        const choice = field.choices.find(({ code }) => code === to);
        if (!choice) continue;
        const called = [choiceLabel(choice, 'en'), choice.code, ...Object.values(choice.labels)];
        const key = fold(word);
        known.set(key, [...(known.get(key) ?? []), { names: called, where: name }]);
      }
    }
  return (word) => known.get(fold(word)) ?? [];
}

/** Hexadecimal codes that the merchant gave the terms of the attributes a field is filled from. */
function looks({ snapshot }: FeedWork, { composition }: Mapped): Map<string, string> {
  const attributes = new Set(
    composition.alternatives.flatMap(({ parts }) =>
      parts.flatMap((part) => ('attribute' in part ? [part.attribute] : [])),
    ),
  );
  return new Map(
    snapshot.attributes
      .filter(({ code }) => attributes.has(code))
      .flatMap(({ terms = [] }) =>
        terms.flatMap(({ term, hex }) => (hex ? [[fold(term), hex] as const] : [])),
      ),
  );
}

/** Which choices a word of a field may mean, the likeliest first: by its letters, its look, and by what was said of it elsewhere. */
export async function choicesFor(
  work: FeedWork,
  field: Field,
): Promise<(word: string) => readonly ValueSuggestion[]> {
  const composition = work.plans.draft.fields[field.code];
  const at = work.sheet.fields.indexOf(field);
  const mapped = composition && { field, at, composition };
  const hexes = mapped ? looks(work, mapped) : new Map<string, string>();
  const settled = mapped ? await settledWords(work, mapped) : () => [];
  return (word) =>
    withWordElsewhere(
      field,
      suggestChoices(field, word, {
        hex: hexes.get(fold(word)),
        english: (one) => currentExpander().translate(one),
      }),
      settled(word),
    );
}

/** The value tables: for each choice field every word of the catalog, left to do first, with the choices it may mean. */
export async function valuesStage(work: FeedWork, asked: string | undefined): Promise<ValuesStage> {
  const { language } = work.plans.head;
  const mapped = mappedChoices(work);
  const uses = mapped.map((one) => {
    const codes = new Set(one.field.choices?.map(({ code }) => code));
    const words = usesOf(work, one);
    return {
      ...one,
      codes,
      words,
      open: words.filter(({ becomes }) => !becomes || !codes.has(becomes)).length,
    };
  });
  const current =
    uses.find(({ field }) => field.code === asked) ?? [...uses].sort((a, b) => b.open - a.open)[0];
  const fields = uses
    .map(({ field, words, open }) => ({ code: field.code, label: field.label, open, words: words.length }))
    .sort((a, b) => Number(b.open > 0) - Number(a.open > 0));
  if (!current)
    return { fields, current: undefined, label: '', table: '', choices: [], lines: [], sharing: [] };
  const { field, composition, codes, words } = current;
  const labels = new Map(field.choices?.map((choice) => [choice.code, choiceLabel(choice, language)]));
  const suggest = await choicesFor(work, field);
  const [attribute = ''] = composition.alternatives.flatMap(({ parts }) =>
    parts.flatMap((part) => ('attribute' in part ? [part.attribute] : [])),
  );
  const kept = work.snapshot.attributes.find(({ code }) => code === attribute);
  const shown = (word: string) => (kept ? shownText(kept, word) : word);
  return {
    fields,
    current: field.code,
    label: field.label,
    table: tableOf(field.code, composition),
    choices: [...labels].map(([code, label]) => ({ code, label })),
    lines: words
      .map(({ word, count, becomes }): WordLine => {
        const choice = becomes !== undefined && codes.has(becomes) ? becomes : undefined;
        return {
          word,
          shown: shown(word),
          count,
          choice,
          suggestions: choice
            ? []
            : suggest(word).map((one) => ({
                choice: one.choice,
                label: labels.get(one.choice) ?? one.choice,
                score: one.score,
                reason: one.reasons.join('; '),
              })),
          items: `/items?columns=sku,name,${attribute}&f.${attribute}=${encodeURIComponent(`=${shown(word)}`)}`,
        };
      })
      .sort((a, b) => Number(a.choice !== undefined) - Number(b.choice !== undefined) || b.count - a.count),
    sharing: await sharingOf(work.plans.head.code, field),
  };
}

/**
 * Says what words of a field mean, and says it to the feeds that take the same choices as well.
 * @returns the result of this feed's draft, and the names of the others that were told
 */
export async function saveWords(
  { plans, sheet }: Pick<FeedWork, 'plans' | 'sheet'>,
  revision: number,
  field: string,
  words: Readonly<Record<string, string>>,
  share: boolean,
  joint: string = randomUUID(),
): Promise<EditResult & { elsewhere?: Awaited<ReturnType<typeof shareWords>> }> {
  const own = sheet.fields.find(({ code }) => code === field);
  if (!own) return { ok: false, reason: 'nothing' };
  return db.transaction(async () => {
    const edit = wordsEdit(plans.draft, field, words);
    const result = await editDraft(plans.head.code, revision, edit, joint);
    return result.ok && share
      ? { ...result, elsewhere: await shareWords(plans.head.code, own, words, joint) }
      : result;
  });
}

/** Words of a field as an edit of a plan, into the table that the field looks them up in. */
export const wordsEdit = (plan: Plan, field: string, words: Readonly<Record<string, string>>): PlanEdit =>
  planEditSchema.parse({ edit: 'words', field, table: tableOf(field, plan.fields[field]), words });

/** Says words in the other feeds that take the same choices, as far as they say nothing of them. @returns what was changed where */
export async function shareWords(
  feed: string,
  own: Field,
  words: Readonly<Record<string, string>>,
  joint: string,
): Promise<{ feed: string; name: string; words: string }[]> {
  const changed: { feed: string; name: string; words: string }[] = [];
  for (const other of await sharingOf(feed, own)) {
    const there = await feedPlans(other.feed);
    if (!there) continue;
    // What somebody decided there stays as it is.
    const known = new Set(Object.keys(there.draft.tables[other.table] ?? {}).map(fold));
    const fresh = Object.entries(words).filter(([word]) => !known.has(fold(word)));
    if (fresh.length === 0) continue;
    const edit = planEditSchema.parse({
      edit: 'words',
      field: other.field,
      table: other.table,
      words: Object.fromEntries(fresh),
    });
    const done = await editDraft(other.feed, there.revision, edit, joint);
    if (!done.ok) throw new InputError('draftChangedMeanwhile', { name: other.name });
    changed.push({
      feed: other.feed,
      name: other.name,
      words: editWords(edit, there.draft, () => own.label),
    });
  }
  return changed;
}

/** The item a value table's tray shows first: one that has the first word left to do. */
export function firstItemWith(work: FeedWork, stage: ValuesStage): string | undefined {
  const at = work.sheet.fields.findIndex(({ code }) => code === stage.current);
  const { listings } = work.draft;
  const open = listings.first((i) =>
    listings.issuesAt(i).some(({ check, field }) => check === 'choice' && field === stage.current),
  );
  return listings.at(open >= 0 ? open : listings.first((i) => asText(listings.valueAt(i, at)) !== ''))?.sku;
}
