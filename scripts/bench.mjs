/** `npm run bench [evaluate|impact|rules|placement|sources|suggestions|formats|import|fixes|checks|scale|submissions]`: every measurement, as ratios in one run. */
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildPages, buildPrograms, forNode } from './build.mjs';
import { ensureDebian, ensurePackages, main, root } from './machine.mjs';
import { evaluatorFlags, workerEnv, workerFlags } from './worker.mjs';

/** Measurements of the core alone, and those that need a database. */
const alone = ['evaluate', 'impact', 'rules', 'placement', 'sources', 'suggestions', 'formats', 'fixes'];
const databased = ['import', 'checks', 'scale', 'submissions'];
const known = [...alone, ...databased];

await main(async () => {
  ensurePackages();
  const words = process.argv.slice(2);
  const named = words.filter((word) => known.includes(word));
  const wanted = named.length > 0 ? named : known;
  const options = words.filter((word) => !known.includes(word));
  const { build } = await import('esbuild');
  mkdirSync(join(root, 'dist'), { recursive: true });
  await build({
    absWorkingDir: root,
    entryPoints: wanted.map((name) => `bench/${name}.ts`),
    outdir: 'dist/bench',
    ...forNode,
    packages: 'external',
  });
  /** What the evaluator does is measured as it is run. */
  const flagsOf = { impact: evaluatorFlags };
  const run = (name, env = {}) => {
    const done = spawnSync(
      process.execPath,
      [...(flagsOf[name] ?? ['--max-old-space-size=8192']), join(root, `dist/bench/${name}.js`), ...options],
      { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } },
    );
    if (done.status !== 0) process.exitCode = done.status ?? 1;
  };
  for (const name of alone) if (wanted.includes(name)) run(name);
  const inDatabase = databased.filter((name) => wanted.includes(name));
  if (inDatabase.length > 0) {
    ensureDebian({ mariadbd: 'mariadb-server-core', my_print_defaults: 'mariadb-client-core' });
    const { startDatabase } = await import('./database.mjs');
    await buildPrograms();
    if (wanted.includes('scale')) await buildPages();
    const folder = mkdtempSync(join(tmpdir(), 'lively-bench-'));
    const port = 33391;
    // As the application runs it, with its safety, but for the load of a file, which only the measurement uses.
    const database = await startDatabase({ folder, port, localFiles: true });
    try {
      for (const name of inDatabase)
        run(name, {
          LIVELY_DATA: folder,
          LIVELY_DB_PORT: String(port),
          LIVELY_DB_PASSWORD: database.password,
          LIVELY_WORKER_FLAGS: workerFlags.join(' '),
          LIVELY_EVALUATOR_FLAGS: process.env.LIVELY_EVALUATOR_FLAGS ?? evaluatorFlags.join(' '),
          LIVELY_LOG: process.env.LIVELY_LOG ?? 'silent',
          ...workerEnv,
        });
    } finally {
      await database.stop();
      rmSync(folder, { recursive: true, force: true });
    }
  }
});
