import type { EditDone } from '@/server/catalog/editing';
import { matchingSkus } from '@/server/items/items';
import { type ItemSelection, parseItemQuery } from './inputs';

/** What an edit of the catalog answers: what it did, and its number for undo. */
export const stated = async (work: Promise<EditDone>): Promise<{ ok: true; words: string; edit: number }> => {
  const { id: edit, words } = await work;
  return { ok: true, words: `${words.charAt(0).toUpperCase()}${words.slice(1)}`, edit };
};

/** What an action answers that has no number for undo. */
export const saying = async (
  work: Promise<unknown>,
  words = 'Saved',
): Promise<{ ok: true; words: string; edit?: number }> => {
  await work;
  return { ok: true, words };
};

/** The SKUs of a selection. */
export const skusOf = async (given: ItemSelection): Promise<string[]> =>
  'skus' in given ? given.skus : matchingSkus(parseItemQuery(given.query));
