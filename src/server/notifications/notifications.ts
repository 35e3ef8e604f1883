import { and, count, desc, eq, inArray, isNull, lt } from 'drizzle-orm';
import {
  type NotificationFacts,
  type NotificationKind,
  notificationText,
} from '../../core/notifications/notifications';
import { db, type Transaction } from '../db/connection';
import { feed, notification, webhook, webhookDelivery } from '../db/schema';
import { enqueue } from '../jobs/queue';
import { feedName } from '../plans/feedName';

/**
 * Tells what happened, in the transaction in which it did: a notice in the application, and a call of every hook that wants to
 * hear of it.
 * @param code the feed it happened to, where it is about one
 */
export async function notify<K extends NotificationKind>(
  tx: Transaction,
  kind: K,
  code: string | null,
  facts: NotificationFacts[K],
): Promise<void> {
  const at = new Date();
  const [made] = await tx.insert(notification).values({ at, kind, feed: code, facts }).$returningId();
  const id = made?.id ?? 0;
  const hooks = (await tx.select().from(webhook).where(eq(webhook.on, true))).filter(({ kinds }) =>
    kinds.includes(kind),
  );
  for (const one of hooks) {
    const body = JSON.stringify({
      type: kind,
      timestamp: at.toISOString(),
      data: { feed: code, words: notificationText(kind, facts), ...facts },
    });
    const [queued] = await tx
      .insert(webhookDelivery)
      .values({ webhookId: one.id, notificationId: id, at, body, state: 'queued', tries: 0 })
      .$returningId();
    await enqueue(tx, 'callHook', { delivery: queued?.id ?? 0 });
  }
}

export interface NotificationView {
  readonly id: number;
  readonly at: Date;
  readonly kind: NotificationKind;
  readonly feed: string | undefined;
  /** The feed's name, or what else it is about. */
  readonly about: string;
  readonly words: string;
  /** The submission or the source it leads to. */
  readonly submission: number | undefined;
  readonly source: number | undefined;
  readonly read: boolean;
}

/** The latest notices, the newest first. */
export async function listNotifications(most = 200): Promise<NotificationView[]> {
  const rows = await db.select().from(notification).orderBy(desc(notification.id)).limit(most);
  const codes = [...new Set(rows.flatMap((row) => (row.feed ? [row.feed] : [])))];
  const heads = codes.length === 0 ? [] : await db.select().from(feed).where(inArray(feed.code, codes));
  const names = new Map(
    await Promise.all(heads.map(async (head) => [head.code, await feedName(head)] as const)),
  );
  return rows.map(({ id, at, kind, feed: code, facts, readAt }) => ({
    id,
    at,
    kind,
    feed: code ?? undefined,
    about: code ? (names.get(code) ?? code) : kind === 'shopDiffers' ? 'Shop' : 'Sources',
    words: notificationText(kind, facts as never),
    submission: 'submission' in facts ? facts.submission : undefined,
    source: 'source' in facts ? facts.source : undefined,
    read: readAt !== null,
  }));
}

export async function unreadCount(): Promise<number> {
  const [found] = await db.select({ count: count() }).from(notification).where(isNull(notification.readAt));
  return found?.count ?? 0;
}

/** Marks notices as seen: one, or all there are by now. */
export async function markRead(id?: number): Promise<void> {
  await db
    .update(notification)
    .set({ readAt: new Date() })
    .where(and(isNull(notification.readAt), id === undefined ? undefined : eq(notification.id, id)));
}

/** Forgets notices that were told before a moment. @returns how many */
export async function deleteOldNotifications(before: Date): Promise<number> {
  const [done] = await db.delete(notification).where(lt(notification.at, before));
  return done.affectedRows;
}
