import { asText } from '../../core/catalog/value';
import { InputError } from '../../core/errors/inputError';
import type { ListingState } from '../../core/listing/evaluate';
import { type Piece, wordDifference } from '../../core/text/difference';
import { itemNameIn } from '../catalog/snapshot';
import { planOfVersion } from '../plans/drafts';
import { type Evaluation, evaluationOf } from './evaluation';
import { differencesBetween, type FeedContext } from './feedContext';

export interface DifferenceLine {
  readonly sku: string;
  /** With what tells it from its siblings. */
  readonly name: string;
  readonly before: ListingState;
  readonly after: ListingState;
  readonly fields: readonly { label: string; pieces: readonly Piece[] }[];
  readonly cleared: readonly string[];
  readonly appeared: readonly string[];
  /** The entries in which the listing leaves, where the draft changes these. */
  readonly entry: { readonly before: string; readonly after: string } | undefined;
}

export interface DifferencesPage {
  /** What is compared, where it is not the draft with what is published. */
  readonly compared: { readonly old: string; readonly new: string } | undefined;
  /** All listings that the draft changes. */
  readonly total: number;
  /** The fields that change, with how many listings each. */
  readonly counts: readonly { key: string; label: string; count: number }[];
  /** The lines shown, from one place to another of those that match. */
  readonly lines: readonly DifferenceLine[];
  readonly from: number;
  readonly last: number;
  readonly matching: number;
  /** How many lines are shown at once. */
  readonly atOnce: number;
}

const atOnce = 60;

interface DifferencesQuery {
  readonly [name: string]: string | undefined;
  readonly only?: string | undefined;
  readonly from?: string | undefined;
  /** Versions that are compared, over the catalog as it is now; what is published and the draft where left out. */
  readonly old?: string | undefined;
  readonly new?: string | undefined;
}

/** An entry in words: none, the listing's own, or that of its family. */
const entryWords = (entry: string, sku: string): string =>
  entry === '' ? 'no entry' : entry === sku ? 'its own entry' : `the entry of ${entry}`;

/** What lies between two versions of a plan. @throws InputError where there is no such version */
async function betweenVersions(work: FeedContext, query: DifferencesQuery) {
  const of = async (text: string | undefined, otherwise: Evaluation): Promise<Evaluation> => {
    const version = Number(text);
    if (!text || !Number.isInteger(version)) return otherwise;
    const plan = await planOfVersion(work.plans.head.code, version);
    if (!plan) throw new InputError('noVersion', { version });
    return evaluationOf(plan, work.channel, work.snapshot);
  };
  const [before, after] = await Promise.all([of(query.old, work.published), of(query.new, work.draft)]);
  return before === after ? [] : differencesBetween(before, after).found;
}

/** Every value that the draft, or a version, changes against another, before and after, some at a time. */
export async function differencesPage(work: FeedContext, query: DifferencesQuery): Promise<DifferencesPage> {
  const { sheet, wordsOf, snapshot } = work;
  const nameOf = itemNameIn(snapshot);
  const compared = query.old || query.new;
  const found = compared ? await betweenVersions(work, query) : work.found();
  const counts = new Map<number, number>();
  for (const { fields } of found) for (const at of fields) counts.set(at, (counts.get(at) ?? 0) + 1);
  const only = sheet.fields.findIndex(({ code }) => code === query.only);
  const shown = found.filter(({ fields }) => only < 0 || fields.includes(only));
  const from = Math.max(0, Math.floor(Number(query.from)) || 0);
  const last = Math.min(from + atOnce, shown.length);
  return {
    compared: compared
      ? {
          old: query.old ? `version ${query.old}` : 'what is published',
          new: query.new ? `version ${query.new}` : 'the draft',
        }
      : undefined,
    total: found.length,
    counts: [...counts].flatMap(([at, count]) => {
      const field = sheet.fields[at];
      return field ? [{ key: field.code, label: field.label, count }] : [];
    }),
    lines: shown.slice(from, last).map(({ sku, before, after, fields, cleared, appeared, entry }) => ({
      sku,
      name: nameOf(snapshot.positionOf(sku) ?? -1),
      before: before.state,
      after: after.state,
      fields: fields
        .filter((at) => only < 0 || at === only)
        .map((at) => ({
          label: sheet.fields[at]?.label ?? '',
          pieces: wordDifference(asText(before.values[at]), asText(after.values[at])),
        })),
      cleared: cleared.map(wordsOf),
      appeared: appeared.map(wordsOf),
      entry: entry && { before: entryWords(entry.before, sku), after: entryWords(entry.after, sku) },
    })),
    from,
    last,
    matching: shown.length,
    atOnce,
  };
}
