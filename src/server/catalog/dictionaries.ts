import { desc, eq } from 'drizzle-orm';
import { type CategorySearch, searchTree } from '../../core/categories/search';
import type { CategoryTree } from '../../core/categories/tree';
import type { Expander } from '../../core/words/thesaurus';
import { dictionariesIn, dictionaryLanguages, expanderWith, fetchDictionaries } from '../../files/words';
import { db } from '../db/connection';
import { job } from '../db/schema';
import { enqueue } from '../jobs/queue';
import { WeakMemo } from '../runtime/memo';
import { settings } from '../runtime/settings';

/** Names read with all that is known about words by now. */
export const currentExpander = (): Expander => expanderWith(settings.wordsFolder);

/** Other words in English for one, as far as dictionaries are there: what a heading or the name of a field may be about. */
export const inEnglish = (word: string): readonly string[] => currentExpander().otherWords(word);

const searches = new WeakMemo<CategoryTree, { expander: Expander; search: CategorySearch }>(
  'category searches',
);

/** The search over a tree, built once, and again when dictionaries have come. */
export function searchOf(tree: CategoryTree): CategorySearch {
  const expander = currentExpander();
  const known = searches.get(tree);
  if (known?.expander === expander) return known.search;
  const search = searchTree(tree, expander);
  searches.set(tree, { expander, search });
  return search;
}

export interface DictionariesState {
  /** Languages whose dictionary is there, by their tags. */
  readonly there: readonly string[];
  readonly missing: readonly string[];
  readonly state: 'complete' | 'fetching' | 'failed' | 'missing';
  /** Share fetched, 0 to 1. */
  readonly progress: number;
  readonly error: string | undefined;
}

/** Which dictionaries are there, and how far fetching the others is. */
export async function dictionariesState(): Promise<DictionariesState> {
  const there: readonly string[] = dictionariesIn(settings.wordsFolder);
  const missing = Object.keys(dictionaryLanguages).filter((language) => !there.includes(language));
  const [last] = await db.select().from(job).where(eq(job.kind, 'fetchWords')).orderBy(desc(job.id)).limit(1);
  const under = last?.state === 'queued' || last?.state === 'running';
  return {
    there,
    missing,
    state:
      missing.length === 0
        ? 'complete'
        : under
          ? 'fetching'
          : last?.state === 'failed'
            ? 'failed'
            : 'missing',
    progress: last?.progress ?? 0,
    error: last?.error ?? undefined,
  };
}

/** Has the dictionaries that are missing fetched, unless that is under way. @returns whether there was something to do */
export async function requestDictionaries(): Promise<boolean> {
  const { state } = await dictionariesState();
  if (state === 'complete' || state === 'fetching') return false;
  await db.transaction((tx) => enqueue(tx, 'fetchWords', {}));
  return true;
}

/** The job's work. @param told called after each language, with the share done */
export const downloadDictionaries = (reported: (share: number) => Promise<void>): Promise<void> =>
  fetchDictionaries(settings.wordsFolder, (done, of) => reported(done / of));
