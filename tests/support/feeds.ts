import { spawnSync } from 'node:child_process';
import { feedPlans } from '@/server/plans/drafts';

/** The plans of a feed that a test needs to be there. */
export async function plansOf(feed: string) {
  const found = await feedPlans(feed);
  if (!found) throw new Error(`the feed ${feed} is gone`);
  return found;
}

/** Runs `cart evaluate` with a plan file and a catalog file; what it writes goes to the folder out. */
export const cartEvaluate = (plan: string, catalog: string, out: string, ...more: string[]) =>
  spawnSync(
    process.execPath,
    ['dist/cart.js', 'evaluate', '--plan', plan, '--catalog', catalog, '--out', out, ...more],
    { encoding: 'utf8', env: { ...process.env, INIT_CWD: process.cwd() } },
  );
