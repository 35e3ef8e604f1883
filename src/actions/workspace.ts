'use server';
import { z } from 'zod';
import { retentionSchema } from '@/core/forms/retention';
import { shopVisitsSchema } from '@/core/forms/shopVisits';
import { requestDictionaries } from '@/server/catalog/dictionaries';
import { saveWorkspace } from '@/server/catalog/workspace';
import { saveRetention } from '@/server/schedules/retention';
import { saveVisits, visitAllNow } from '@/server/shop/visits';
import { action, done } from './action';

const setup = z.strictObject({
  name: z.string().trim().min(1, 'Give the shop a name.').max(200),
  currency: z.string().trim().length(3, 'A currency has three letters, such as EUR.'),
  zone: z.string().min(1).max(60),
  locale: z.string().min(2).max(20),
  language: z.string().regex(/^[a-z]{2,3}$/, 'A language has two or three letters, such as en.'),
});

export const storeSetup = action('change', 'changed the settings', z.tuple([setup]), async (given) => {
  await saveWorkspace(given);
  return { ok: true as const, words: 'Saved' };
});

export const storeRetention = action('change', 'changed the retention', z.tuple([retentionSchema]), (given) =>
  done(saveRetention(given)),
);

export const storeVisits = action('change', 'changed the shop visits', z.tuple([shopVisitsSchema]), (given) =>
  done(saveVisits(given)),
);

export const visitShopNow = action('change', 'started a shop visit', z.tuple([]), () => done(visitAllNow()));

export const fetchDictionaries = action(
  'change',
  'started to download dictionaries',
  z.tuple([]),
  async () => {
    await requestDictionaries();
    return { ok: true as const, words: 'Downloading' };
  },
);
