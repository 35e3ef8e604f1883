'use server';
import { z } from 'zod';
import { noticeKinds } from '@/core/notifications/notifications';
import { markSeen } from '@/server/notifications/notifications';
import { addHook, callAgain, changeHook, removeHook, tryHook } from '@/server/notifications/webhooks';
import { action, done } from './action';
import { id } from './inputs';

export const see = action('look', 'saw notices', z.tuple([id.nullable()]), (notice) =>
  done(markSeen(notice ?? undefined)),
);

export const addAddressToTell = action(
  'change',
  'added an address that is told',
  z.tuple([z.string().trim().min(1).max(700)]),
  async (address) => ({ ok: true as const, ...(await addHook(address)) }),
);

export const changeAddressToTell = action(
  'change',
  'changed an address that is told',
  z.tuple([
    id,
    z.strictObject({ kinds: z.array(z.enum(noticeKinds)).optional(), on: z.boolean().optional() }),
  ]),
  (hook, change) => done(changeHook(hook, change)),
);

const one = z.tuple([id]);
export const removeAddressToTell = action('change', 'took away an address that is told', one, (hook) =>
  done(removeHook(hook)),
);
export const tryAddressToTell = action('change', 'tried an address that is told', one, (hook) =>
  done(tryHook(hook)),
);
export const tellAgain = action('change', 'called an address again', one, (delivery) =>
  done(callAgain(delivery)),
);
