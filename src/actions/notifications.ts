'use server';
import { z } from 'zod';
import { notificationKinds } from '@/core/notifications/notifications';
import { markRead } from '@/server/notifications/notifications';
import { addHook, callAgain, changeHook, removeHook, tryHook } from '@/server/notifications/webhooks';
import { action, done } from './action';
import { id } from './inputs';

export const markNotificationsRead = action('look', 'saw notices', z.tuple([id.nullable()]), (notice) =>
  done(markRead(notice ?? undefined)),
);

export const createWebhook = action(
  'change',
  'added an address that is told',
  z.tuple([z.string().trim().min(1).max(700)]),
  async (address) => ({ ok: true as const, ...(await addHook(address)) }),
);

export const editWebhook = action(
  'change',
  'changed an address that is told',
  z.tuple([
    id,
    z.strictObject({ kinds: z.array(z.enum(notificationKinds)).optional(), on: z.boolean().optional() }),
  ]),
  (hook, change) => done(changeHook(hook, change)),
);

const one = z.tuple([id]);
export const deleteWebhook = action('change', 'took away an address that is told', one, (hook) =>
  done(removeHook(hook)),
);
export const testWebhook = action('change', 'tried an address that is told', one, (hook) =>
  done(tryHook(hook)),
);
export const callWebhookAgain = action('change', 'called an address again', one, (delivery) =>
  done(callAgain(delivery)),
);
