import { createHmac, randomBytes } from 'node:crypto';
import { and, desc, eq, lt } from 'drizzle-orm';
import { InputError } from '../../core/errors/inputError';
import { type NotificationKind, notificationKinds } from '../../core/notifications/notifications';
import { currentUser, recordActivity } from '../auth/authorize';
import { db } from '../db/connection';
import { webhook, webhookDelivery } from '../db/schema';
import { enqueue } from '../jobs/queue';
import { guardAddress } from '../net/address';
import { fetchOutside } from '../net/fetching';
import { decrypt, encrypt } from '../storage/secrets';

/**
 * Calls to addresses of the merchant's that want to hear of notices, signed as the open Standard Webhooks specification says:
 * `webhook-id` is the same however often a call is repeated, `webhook-timestamp` is when this try left, and
 * `webhook-signature` is `v1,` and the base64 of HMAC-SHA256 over `id.timestamp.body`.
 */

/** How long a receiver has, and how long its answer may be. No redirect is followed: a signed call goes where it was meant to. */
const limits = { seconds: 15, bytes: 64 * 1024, redirects: 0 };
/** Waits between tries, in ms: a minute, five, half an hour, two hours, a day. */
const waits = [60_000, 300_000, 1_800_000, 7_200_000, 86_400_000];
const MAX_HOOKS = 20;

export interface HookView {
  readonly id: number;
  readonly address: string;
  readonly kinds: readonly NotificationKind[];
  readonly on: boolean;
}

export interface DeliveryView {
  readonly id: number;
  readonly hook: number;
  readonly at: Date;
  readonly type: string;
  readonly state: 'queued' | 'done' | 'failed';
  readonly status: number | undefined;
  readonly words: string | undefined;
  readonly tries: number;
}

export async function listHooks(): Promise<{ hooks: HookView[]; deliveries: DeliveryView[] }> {
  const [hooks, deliveries] = await Promise.all([
    db.select().from(webhook).orderBy(webhook.id),
    db.select().from(webhookDelivery).orderBy(desc(webhookDelivery.id)).limit(50),
  ]);
  return {
    hooks: hooks.map(({ id, address, kinds, on }) => ({ id, address, kinds, on })),
    deliveries: deliveries.map(({ id, webhookId, at, body, state, status, words, tries }) => ({
      id,
      hook: webhookId,
      at,
      type: String((JSON.parse(body) as { type?: unknown }).type ?? ''),
      state,
      status: status ?? undefined,
      words: words ?? undefined,
      tries,
    })),
  };
}

/** Adds an address that is called. @returns its secret, which is shown once and then kept encrypted */
export async function addHook(address: string): Promise<{ secret: string }> {
  const person = await currentUser();
  await guardAddress(address);
  if ((await db.select({ id: webhook.id }).from(webhook)).length >= MAX_HOOKS)
    throw new InputError('tooManyHooks', { most: MAX_HOOKS });
  const secret = `whsec_${randomBytes(32).toString('base64')}`;
  await db.insert(webhook).values({
    address,
    secret: await encrypt(secret),
    kinds: notificationKinds.filter((kind) => kind !== 'finished'),
    on: true,
    createdAt: new Date(),
  });
  await recordActivity(person, 'added a webhook', address);
  return { secret };
}

export async function changeHook(
  id: number,
  change: { readonly kinds?: readonly NotificationKind[] | undefined; readonly on?: boolean | undefined },
): Promise<void> {
  const [done] = await db
    .update(webhook)
    .set({
      ...(change.kinds && { kinds: [...change.kinds] }),
      ...(change.on === undefined ? {} : { on: change.on }),
    })
    .where(eq(webhook.id, id));
  if (done.affectedRows === 0) throw new InputError('noHook');
}

export async function removeHook(id: number): Promise<void> {
  const person = await currentUser();
  await db.transaction(async (tx) => {
    await tx.delete(webhookDelivery).where(eq(webhookDelivery.webhookId, id));
    await tx.delete(webhook).where(eq(webhook.id, id));
  });
  await recordActivity(person, 'deleted a webhook', String(id));
}

/** Calls a hook once, to try it. */
export async function tryHook(id: number): Promise<void> {
  await db.transaction(async (tx) => {
    const [found] = await tx.select().from(webhook).where(eq(webhook.id, id));
    if (!found) throw new InputError('noHook');
    const at = new Date();
    const body = JSON.stringify({
      type: 'trial',
      timestamp: at.toISOString(),
      data: { words: 'This is a test.' },
    });
    const [made] = await tx
      .insert(webhookDelivery)
      .values({ webhookId: id, at, body, state: 'queued', tries: 0 })
      .$returningId();
    await enqueue(tx, 'callHook', { delivery: made?.id ?? 0 });
  });
}

/** Calls again what was called before; its id stays, so that a receiver knows it again. */
export async function callAgain(delivery: number): Promise<void> {
  await db.transaction(async (tx) => {
    const [done] = await tx
      .update(webhookDelivery)
      .set({ state: 'queued', tries: 0, words: null })
      .where(eq(webhookDelivery.id, delivery));
    if (done.affectedRows === 0) throw new InputError('noHook');
    await enqueue(tx, 'callHook', { delivery });
  });
}

/** The signature of a call. @param secret as it was shown, with its prefix */
export function signatureOf(secret: string, id: string, timestamp: number, body: string): string {
  const key = Buffer.from(secret.replace(/^whsec_/, ''), 'base64');
  return `v1,${createHmac('sha256', key).update(`${id}.${timestamp}.${body}`).digest('base64')}`;
}

/**
 * Does a call. @param seconds how long the receiver has
 * @returns in how many ms it is tried again, where it came to nothing yet
 */
export async function callHook(id: number, seconds = limits.seconds): Promise<number | undefined> {
  const [found] = await db.select().from(webhookDelivery).where(eq(webhookDelivery.id, id));
  if (found?.state !== 'queued') return undefined;
  const [to] = await db.select().from(webhook).where(eq(webhook.id, found.webhookId));
  if (!to?.on) {
    await db
      .update(webhookDelivery)
      .set({ state: 'failed', words: 'switched off' })
      .where(eq(webhookDelivery.id, id));
    return undefined;
  }
  const timestamp = Math.floor(Date.now() / 1000);
  const name = `notice_${found.notificationId ?? 0}_${id}`;
  let status: number | undefined;
  let words: string | undefined;
  try {
    const answer = await fetchOutside(to.address, {
      ...limits,
      seconds,
      method: 'POST',
      body: Buffer.from(found.body),
      headers: {
        'content-type': 'application/json',
        'webhook-id': name,
        'webhook-timestamp': String(timestamp),
        'webhook-signature': signatureOf(await decrypt(to.secret), name, timestamp, found.body),
      },
    });
    status = answer.status;
    await answer.bytes();
    if (!answer.ok) words = `answered ${answer.status}`;
  } catch (error) {
    words = (error instanceof Error ? error.message : String(error)).slice(0, 300);
  }
  const wait = words === undefined ? undefined : waits[found.tries];
  await db
    .update(webhookDelivery)
    .set({
      tries: found.tries + 1,
      status: status ?? null,
      words: words ?? null,
      state: words === undefined ? 'done' : wait === undefined ? 'failed' : 'queued',
    })
    .where(and(eq(webhookDelivery.id, id), eq(webhookDelivery.state, 'queued')));
  return wait;
}

/** Forgets calls made before a moment. @returns how many */
export async function deleteOldCalls(before: Date): Promise<number> {
  const [done] = await db.delete(webhookDelivery).where(lt(webhookDelivery.at, before));
  return done.affectedRows;
}
