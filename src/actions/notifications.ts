'use server';
import { z } from 'zod';
import { notificationKinds } from '@/core/notifications/notifications';
import { markRead } from '@/server/notifications/notifications';
import { addHook, callAgain, changeHook, removeHook, tryHook } from '@/server/notifications/webhooks';
import { action, done } from './action';
import { id } from './inputs';

export const markNotificationsRead = action(
  'look',
  'read notifications',
  z.tuple([id.nullable()]),
  (notice) => done(markRead(notice ?? undefined)),
);

export const createWebhook = action(
  'change',
  'added a webhook',
  z.tuple([z.string().trim().min(1).max(700)]),
  async (address) => ({ ok: true as const, ...(await addHook(address)) }),
);

export const editWebhook = action(
  'change',
  'changed a webhook',
  z.tuple([
    id,
    z.strictObject({ kinds: z.array(z.enum(notificationKinds)).optional(), on: z.boolean().optional() }),
  ]),
  (hook, change) => done(changeHook(hook, change)),
);

const one = z.tuple([id]);
export const deleteWebhook = action('change', 'deleted a webhook', one, (hook) => done(removeHook(hook)));
export const testWebhook = action('change', 'tested a webhook', one, (hook) => done(tryHook(hook)));
export const callWebhookAgain = action('change', 'called a webhook again', one, (delivery) =>
  done(callAgain(delivery)),
);
