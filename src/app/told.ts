import { z } from 'zod';
import { InputError } from '@/core/formats/inputError';

/** What an action gives back: what came of it, or in words why it was refused. */
export type Told<T = { words: string }> = ({ ok: true } & T) | { ok: false; words: string };

/** Runs an action's work; bad input becomes words, everything else goes on as an error. */
export async function told<T extends object>(work: () => Promise<T>): Promise<Told<T>> {
  try {
    return { ok: true, ...(await work()) };
  } catch (error) {
    if (error instanceof InputError) return { ok: false, words: error.message };
    if (error instanceof z.ZodError) return { ok: false, words: z.prettifyError(error) };
    throw error;
  }
}
