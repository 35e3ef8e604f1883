/**
 * Takes files in and checks them, in a process of its own whose heap is fixed: what would fill memory ends it. Told on its
 * command line which files; writes a line of JSON for each.
 */
import { createReadStream } from 'node:fs';
import { closePools } from '../../src/server/db/connection';
import { checkRun } from '../../src/server/import/checking';
import { failRun, findRun, startRun } from '../../src/server/import/runs';
import { listRejections, takeFile } from '../../src/server/import/sources';
import { unattended } from '../../src/server/jobs/queue';

export interface HostileOutcome {
  readonly file: string;
  /** Why it was not taken in. */
  readonly refused?: string;
  /** What became of it. */
  readonly state?: string;
  readonly error?: string | null;
  readonly counts?: Record<string, number>;
  readonly reasons?: readonly string[];
}

const words = (error: unknown) => (error instanceof Error ? error.message : String(error));

async function outcomeOf(file: string): Promise<HostileOutcome> {
  let id: number;
  try {
    id = await takeFile(file.split('/').at(-1) ?? file, createReadStream(file));
  } catch (error) {
    return { file, refused: words(error) };
  }
  try {
    await startRun(id, 'check');
    await checkRun(id, unattended);
  } catch (error) {
    await failRun(id, words(error));
  }
  const run = await findRun(id);
  return {
    file,
    state: run?.state ?? 'gone',
    error: run?.error ?? null,
    counts: { ...run?.counts },
    reasons: (await listRejections(id, 10)).map(({ reason }) => reason),
  };
}

for (const file of process.argv.slice(2)) process.stdout.write(`${JSON.stringify(await outcomeOf(file))}\n`);
await closePools();
