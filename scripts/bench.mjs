/** `npm run bench`: every measurement, as ratios in one run. */
import { spawnSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { ensurePackages, main, root } from './machine.mjs';

await main(async () => {
  ensurePackages();
  const { build } = await import('esbuild');
  mkdirSync(join(root, 'dist'), { recursive: true });
  await build({
    absWorkingDir: root,
    entryPoints: ['bench/evaluate.ts'],
    outdir: 'dist/bench',
    bundle: true,
    packages: 'external',
    platform: 'node',
    target: 'node20',
    format: 'esm',
    logLevel: 'warning',
  });
  const done = spawnSync(
    process.execPath,
    ['--max-old-space-size=8192', join(root, 'dist/bench/evaluate.js'), ...process.argv.slice(2)],
    { cwd: root, stdio: 'inherit' },
  );
  process.exitCode = done.status ?? 1;
});
