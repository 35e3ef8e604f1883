import { and, desc, eq, sql } from 'drizzle-orm';
import {
  type Keyword,
  type KeywordLists,
  type RefusedKeyword,
  readKeywords,
} from '../../core/keywords/keyword';
import { currentUser, recordActivity } from '../auth/authorize';
import { insertRows } from '../db/bulk';
import { db } from '../db/connection';
import { keyword, workspace } from '../db/schema';
import { raiseRevision } from './changes';

/** What shoppers type: lists that a merchant brings in, by language, and everything that is made of them. */

export interface KeywordLine extends Keyword {
  readonly language: string;
}

export interface KeywordsView {
  readonly lines: readonly KeywordLine[];
  readonly total: number;
  /** With the number of terms. */
  readonly languages: readonly (readonly [language: string, count: number])[];
}

/** As many as a page shows, those searched most. */
const MAX_LINES = 5000;

/** The terms of a language, or of all. */
export async function keywordsView(language: string | undefined): Promise<KeywordsView> {
  const [lines, languages] = await Promise.all([
    db
      .select()
      .from(keyword)
      .where(language === undefined ? undefined : eq(keyword.language, language))
      .orderBy(desc(keyword.volume), keyword.term)
      .limit(MAX_LINES),
    db
      .select({ language: keyword.language, count: sql<number>`count(*)` })
      .from(keyword)
      .groupBy(keyword.language)
      .orderBy(keyword.language),
  ]);
  const counts = languages.map((one) => [one.language, Number(one.count)] as const);
  return {
    lines,
    languages: counts,
    total: counts.reduce(
      (sum, [code, count]) => sum + (language === undefined || language === code ? count : 0),
      0,
    ),
  };
}

export interface ImportedKeywords {
  readonly taken: number;
  readonly twice: number;
  readonly refused: readonly RefusedKeyword[];
}

/**
 * Takes a list in: what it says of a term replaces what was known of it, all others stay.
 * @param language what rows are in that name none
 * @throws InputError where no column of terms or volumes is found
 */
export async function importKeywords(text: string, language: string): Promise<ImportedKeywords> {
  const { keywords, refused, twice } = readKeywords(text, language);
  await db.transaction(async (tx) => {
    for (let at = 0; at < keywords.length; at += 1000)
      await insertRows(tx, keyword, keywords.slice(at, at + 1000), ['volume']);
    const revision = await raiseRevision(tx);
    await tx.update(workspace).set({ keywordsRevision: revision });
  });
  await recordActivity(await currentUser(), 'imported keywords', `${keywords.length} in ${language}`);
  return { taken: keywords.length, twice, refused };
}

/** Takes keywords away: one, or all of a language. @returns how many went */
export async function removeKeywords(
  language: string,
  one?: Pick<Keyword, 'term' | 'category'>,
): Promise<number> {
  const count = await db.transaction(async (tx) => {
    const [gone] = await tx
      .delete(keyword)
      .where(
        and(
          eq(keyword.language, language),
          ...(one ? [eq(keyword.term, one.term), eq(keyword.category, one.category)] : []),
        ),
      );
    const revision = await raiseRevision(tx);
    await tx.update(workspace).set({ keywordsRevision: revision });
    return gone.affectedRows;
  });
  await recordActivity(await currentUser(), 'deleted keywords', one ? one.term : `all in ${language}`);
  return count;
}

let read: { readonly revision: number; readonly lists: Promise<KeywordLists> } | undefined;

/** All keywords as of the revision at which they changed last; read once for each. */
export function keywordLists(revision: number): Promise<KeywordLists> {
  if (read?.revision !== revision) {
    const lists = readLists();
    // What failed is tried again.
    lists.catch(() => {
      read = undefined;
    });
    read = { revision, lists };
  }
  return read.lists;
}

async function readLists(): Promise<KeywordLists> {
  const rows = await db.select().from(keyword).orderBy(desc(keyword.volume), keyword.term, keyword.category);
  const lists = new Map<string, Keyword[]>();
  for (const { language, ...one } of rows) {
    const list = lists.get(language);
    if (list) list.push(one);
    else lists.set(language, [one]);
  }
  return lists;
}
