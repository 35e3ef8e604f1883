import type { Field } from '../../core/channels/sheet';
import type { Composition } from '../../core/compose/composition';
import { InputError } from '../../core/errors/inputError';
import { type PlanEdit, planEditSchema } from '../../core/plans/edit';
import { editWords } from '../../core/plans/editWords';
import type { Plan } from '../../core/plans/plan';
import { fold } from '../../core/text/folding';
import {
  suggestChoices,
  type ValueSuggestion,
  type WordElsewhere,
  withWordElsewhere,
} from '../../core/values/suggestions';
import { valueMappingOf } from '../../core/values/valueMappings';
import { currentExpander } from '../catalog/dictionaries';
import type { FeedContext } from '../evaluation/feedContext';
import { otherFeeds } from '../evaluation/otherFeeds';
import { editDraft, feedPlans } from '../plans/drafts';

/** A field of another feed that takes the same choices. */
export interface Sharing {
  readonly feed: string;
  readonly name: string;
  readonly field: string;
  readonly table: string;
}

export interface Mapped {
  readonly field: Field;
  readonly at: number;
  readonly composition: Composition;
}

export const choiceLabel = (
  { code, labels }: NonNullable<Field['choices']>[number],
  language: string,
): string => labels[language] ?? labels.en ?? Object.values(labels)[0] ?? code;

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
        table: valueMappingOf(one.code, plans.draft.fields[one.code]),
      })),
  );
}

/** What became of words in fields of other feeds that are filled from the same attributes. */
async function settledWords(
  work: FeedContext,
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
      for (const [word, to] of Object.entries(settled.tables[valueMappingOf(field.code, there)] ?? {})) {
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
function hexCodes({ snapshot }: FeedContext, { composition }: Mapped): Map<string, string> {
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
  work: FeedContext,
  field: Field,
): Promise<(word: string) => readonly ValueSuggestion[]> {
  const composition = work.plans.draft.fields[field.code];
  const at = work.sheet.fields.indexOf(field);
  const mapped = composition && { field, at, composition };
  const hexes = mapped ? hexCodes(work, mapped) : new Map<string, string>();
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

/** Words of a field as an edit of a plan, into the table that the field looks them up in. */
export const wordsEdit = (plan: Plan, field: string, words: Readonly<Record<string, string>>): PlanEdit =>
  planEditSchema.parse({ edit: 'words', field, table: valueMappingOf(field, plan.fields[field]), words });

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
