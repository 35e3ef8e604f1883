import { randomUUID } from 'node:crypto';
import { shownText } from '../../core/catalog/reading';
import { asText } from '../../core/catalog/value';
import { valueMappingOf, wordsOfField } from '../../core/values/valueMappings';
import { db } from '../db/connection';
import type { FeedContext } from '../evaluation/feedContext';
import {
  choiceLabel,
  choicesFor,
  type Mapped,
  type Sharing,
  shareWords,
  sharingOf,
  wordsEdit,
} from '../fixes/valueChoices';
import { type EditResult, editDraft } from '../plans/drafts';

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

export interface ValuesStage {
  readonly fields: readonly ValueField[];
  readonly current: string | undefined;
  readonly label: string;
  readonly table: string;
  readonly choices: readonly { code: string; label: string }[];
  readonly lines: readonly WordLine[];
  readonly sharing: readonly Sharing[];
}

/** Choice fields that something of the catalog fills. */
const mappedChoices = ({ sheet, plans }: FeedContext): Mapped[] =>
  sheet.fields.flatMap((field, at) => {
    const composition = plans.draft.fields[field.code];
    const fromCatalog = composition?.alternatives.some(({ parts }) =>
      parts.some((part) => 'attribute' in part),
    );
    return field.choices && composition && fromCatalog ? [{ field, at, composition }] : [];
  });

/** The words of a field in the items this feed takes, with what each becomes. */
function usesOf({ draft, snapshot }: FeedContext, { at, composition }: Mapped) {
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

/** The value tables: for each choice field every word of the catalog, left to do first, with the choices it may mean. */
export async function valuesStage(work: FeedContext, requested: string | undefined): Promise<ValuesStage> {
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
    uses.find(({ field }) => field.code === requested) ?? [...uses].sort((a, b) => b.open - a.open)[0];
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
  const stored = work.snapshot.attributes.find(({ code }) => code === attribute);
  const shown = (word: string) => (stored ? shownText(stored, word) : word);
  return {
    fields,
    current: field.code,
    label: field.label,
    table: valueMappingOf(field.code, composition),
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
  { plans, sheet }: Pick<FeedContext, 'plans' | 'sheet'>,
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

/** The item a value table's tray shows first: one that has the first word left to do. */
export function firstItemWith(work: FeedContext, stage: ValuesStage): string | undefined {
  const at = work.sheet.fields.findIndex(({ code }) => code === stage.current);
  const { listings } = work.draft;
  const open = listings.first((i) =>
    listings.issuesAt(i).some(({ check, field }) => check === 'choice' && field === stage.current),
  );
  return listings.at(open >= 0 ? open : listings.first((i) => asText(listings.valueAt(i, at)) !== ''))?.sku;
}
