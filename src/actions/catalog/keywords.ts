'use server';
import { z } from 'zod';
import { counted } from '@/core/formatting/formatting';
import { importKeywords, removeKeywords } from '@/server/catalog/keywords';
import { action } from '../action';

const language = z.string().regex(/^[a-z]{2,3}$/);

/** Takes a list of keywords in, as the text of a delimited file. */

export const importKeywordList = action(
  'change',
  'imported keywords',
  z.tuple([z.string().max(5_000_000), language]),
  async (list, inLanguage) => ({ ok: true as const, ...(await importKeywords(list, inLanguage)) }),
);

export const deleteKeywords = action(
  'change',
  'deleted keywords',
  z.tuple([language, z.strictObject({ term: z.string(), category: z.string() }).optional()]),
  async (inLanguage, one) => {
    const count = await removeKeywords(inLanguage, one);
    return { ok: true as const, words: `${counted(count, 'keyword')} deleted` };
  },
);
