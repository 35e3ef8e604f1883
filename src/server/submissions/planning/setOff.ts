import { after, emptyEntry } from '../../../core/ledger/ledger';
import type { Transaction } from '../../db/connection';
import { feedSchedule } from '../../db/schema';
import { lockedLedger, writeLedger } from '../../ledger/ledger';
import { type EntryRow, still } from './choosing';

/** Puts some of what a submission takes along on its way, in the ledger. */
export async function setOff(
  tx: Transaction,
  code: string,
  id: number,
  entries: readonly Pick<EntryRow, 'sku' | 'digest' | 'due'>[],
) {
  const moving = entries.filter(({ due }) => !still.has(due ?? 'new'));
  if (moving.length === 0) return;
  const known = await lockedLedger(
    tx,
    code,
    moving.map(({ sku }) => sku),
  );
  await writeLedger(
    tx,
    code,
    moving.map(({ sku, digest }) => {
      const event =
        digest == null
          ? ({ event: 'removalSent', submission: id } as const)
          : ({ event: 'sent', submission: id, digest } as const);
      return [sku, after(known.get(sku) ?? emptyEntry, event)];
    }),
  );
}

/** Has a feed not sent by itself any more, until somebody lets it go on. */
export async function pauseSchedule(tx: Transaction, code: string): Promise<void> {
  await tx
    .insert(feedSchedule)
    .values({ feed: code, revision: 1, beganAt: new Date(), paused: true })
    .onDuplicateKeyUpdate({ set: { paused: true } });
}
