import { open } from 'node:fs/promises';
import { and, eq, gt, sql } from 'drizzle-orm';
import {
  changesBeyond,
  endsWithinRecord,
  type ImportAlarm,
  type ImportLimits,
  importAlarms,
} from '../../core/import/importReview';
import type { ImportMapping } from '../../core/import/mapping/importMapping';
import { db } from '../db/connection';
import { type RunCounts, run, runItem } from '../db/schema';

/** Bytes at the end of a file that are looked at for its last records. */
const tailBytes = 65_536;
const BATCH_ROWS = 5000;

async function tailOf(path: string): Promise<string> {
  const file = await open(path);
  try {
    const { size } = await file.stat();
    const length = Math.min(size, tailBytes);
    const { buffer } = await file.read(Buffer.alloc(length), 0, length, size - length);
    // Separators and line ends are single bytes in every encoding but UTF-16, which is not looked at.
    return buffer.includes(0) ? '' : buffer.toString('latin1');
  } finally {
    await file.close();
  }
}

/** How many items a checked run gives a price that differs by more than so many per cent. */
async function pricesBeyond(id: number, limit: number): Promise<number> {
  let count = 0;
  for (let after = Number.MIN_SAFE_INTEGER; ; ) {
    const rows = await db
      .select({ row: runItem.row, changes: runItem.changes })
      .from(runItem)
      .where(and(eq(runItem.runId, id), eq(runItem.kind, 'changed'), gt(runItem.row, after)))
      .orderBy(runItem.row)
      .limit(BATCH_ROWS);
    for (const { changes } of rows)
      if (
        changes.some(
          ([attribute, before, now]) => /^price(@|$)/.test(attribute) && changesBeyond(before, now, limit),
        )
      )
        count++;
    const last = rows.at(-1);
    if (!last) return count;
    after = last.row;
  }
}

/** What looks wrong about a run that was just checked: an automatic import is held for review by it. */
export async function alarmsOfRun(
  { id, sourceId, path, mapping }: { id: number; sourceId: number; path: string; mapping: ImportMapping },
  counts: RunCounts,
  limits: ImportLimits,
): Promise<ImportAlarm[]> {
  const [earlier] = await db
    .select({ fewest: sql<number | null>`min(json_value(${run.counts}, '$.rows'))` })
    .from(run)
    .where(and(eq(run.sourceId, sourceId), eq(run.state, 'done')));
  const fewest = earlier?.fewest === null || earlier === undefined ? undefined : Number(earlier.fewest);
  return importAlarms(
    {
      rows: counts.rows,
      known: counts.unchanged + counts.changed + counts.missing,
      fresh: counts.new,
      missing: mapping.missing === 'leave' ? 0 : counts.missing,
      prices: await pricesBeyond(id, limits.price),
      rejected: counts.rejected,
      fewest,
      cutOff: mapping.kind === 'delimited' && endsWithinRecord(await tailOf(path), mapping.separator),
    },
    limits,
  );
}
