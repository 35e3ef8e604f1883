'use server';
import { z } from 'zod';
import { saveWorkspace } from '@/server/workspace';
import { action } from './action';

const setup = z.strictObject({
  name: z.string().trim().min(1, 'Give the shop a name.').max(200),
  currency: z.string().trim().length(3, 'A currency has three letters, such as EUR.'),
  zone: z.string().min(1).max(60),
});

export const storeSetup = action('change', 'changed the setup', z.tuple([setup]), async (given) => {
  await saveWorkspace(given);
  return { ok: true as const, words: 'Saved' };
});
