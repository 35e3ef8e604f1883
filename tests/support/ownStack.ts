/** A running application of a test's own, whose processes may be killed. */
import { chmodSync, cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';

interface Ports {
  readonly web: number;
  readonly database: number;
  readonly simulators: number;
}

interface OwnStack {
  readonly address: string;
  /** Of web processes beside the first. */
  readonly further: readonly string[];
  readonly env: Record<string, string>;
  readonly running: Map<string, { pid?: number }>;
  readonly databasePort: number;
  /** @param keep leaves its folder, so that it can start again */
  stop(keep?: boolean): Promise<void>;
  /** Starts it again after it was stopped, on its folder and its ports. */
  again(): Promise<OwnStack>;
}

/** A script of the start command, as it is. */
export const script = (name: string) => import(pathToFileURL(join(process.cwd(), 'scripts', name)).href);

/**
 * Starts one on the demo, from what scripts/test.mjs has prepared.
 * @param feeds all of the demo's, or the first alone
 * @param on the folder and the ports of one that was stopped
 * @param count how many processes of a kind, one where left out
 */
export async function startOwnStack(
  feeds: 'first' | 'all',
  more: Record<string, string>,
  count: { workers?: number; webs?: number; evaluators?: number } = {},
  on?: { readonly folder: string; readonly ports: Ports },
): Promise<OwnStack> {
  const folder = on?.folder ?? mkdtempSync(join(tmpdir(), 'lively-killing-'));
  const prepared = process.env.LIVELY_PREPARED;
  // Nobody looks at its pictures.
  const pictures = prepared && join(prepared, feeds, 'pictures');
  if (prepared && on === undefined)
    cpSync(join(prepared, feeds), folder, { recursive: true, filter: (path) => path !== pictures });
  chmodSync(folder, 0o711);
  const { startStack } = await script('stack.mjs');
  const { freePort } = await script('ports.mjs');
  const ports: Ports = on?.ports ?? {
    web: await freePort(),
    database: await freePort(),
    simulators: await freePort(),
  };
  const stack: Omit<OwnStack, 'databasePort' | 'again'> = await startStack({
    folder,
    ports,
    ...count,
    quick: true,
    onGivenUp: (words: string) => {
      throw new Error(words);
    },
    extraEnv: {
      LIVELY_LEASE_SECONDS: '2',
      LIVELY_DEMO: feeds,
      LIVELY_PICTURES: 'none',
      LIVELY_LOG: 'silent',
      ...more,
    },
  });
  return {
    address: stack.address,
    further: stack.further,
    env: stack.env,
    running: stack.running,
    databasePort: ports.database,
    again: () => startOwnStack(feeds, more, count, { folder, ports }),
    stop: async (keep = false) => {
      await stack.stop();
      if (!keep) rmSync(folder, { recursive: true, force: true });
    },
  };
}
