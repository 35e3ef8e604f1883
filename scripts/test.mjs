/**
 * `npm test`: everything, on a machine with nothing but Node and apt. Types, lint, folder rule, unit tests, integration
 * tests against a MariaDB of their own, and browser tests against a real build. Ends with `N passed, N failed`.
 */
import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureDebian, ensurePackages, main, root, say } from './machine.mjs';

const total = { passed: 0, failed: 0 };
const bin = (name) => join(root, 'node_modules', '.bin', name);

function run(command, words, env = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, words, {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...env },
    });
    child.once('exit', (code) => resolve(code ?? 1));
  });
}

/** A check that passes or fails as a whole. */
async function whole(name, command, words) {
  say(`\n── ${name}`);
  const code = await run(command, words);
  if (code === 0) total.passed++;
  else {
    total.failed++;
    say(`${name}: failed`);
  }
}

async function jest(name, project, folder, env) {
  say(`\n── ${name}`);
  const report = join(folder, `${project}.json`);
  const code = await run(
    bin('jest'),
    [
      '--selectProjects',
      project,
      '--json',
      `--outputFile=${report}`,
      ...(process.env.LIVELY_ONLY ? ['--testPathPatterns', process.env.LIVELY_ONLY] : []),
      ...(project === 'integration' ? ['--runInBand', '--testTimeout=120000'] : ['--testTimeout=60000']),
    ],
    env,
  );
  const result = existsSync(report) ? JSON.parse(readFileSync(report, 'utf8')) : undefined;
  total.passed += result?.numPassedTests ?? 0;
  // A file that cannot even be loaded counts as a failure of its own.
  total.failed += (result?.numFailedTests ?? 0) + (result?.numRuntimeErrorTestSuites ?? 0);
  if (code !== 0 && !(result?.numFailedTests || result?.numRuntimeErrorTestSuites)) total.failed++;
}

const freePort = () =>
  new Promise((resolve) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });

await main(async () => {
  ensureDebian({
    mariadbd: 'mariadb-server-core',
    my_print_defaults: 'mariadb-client-core',
    chromium: 'chromium',
    eancheck: 'eancheck',
    xmllint: 'libxml2-utils',
    units: 'units',
    '/usr/bin/python3': 'python3',
    '/usr/lib/python3/dist-packages/openpyxl/__init__.py': 'python3-openpyxl',
  });
  ensurePackages();
  const { buildPages, buildPrograms } = await import('./build.mjs');
  const { startDatabase } = await import('./database.mjs');
  const { startStack } = await import('./stack.mjs');
  const folder = mkdtempSync(join(tmpdir(), 'lively-cart-'));
  const only = process.argv.slice(2);
  const wanted = (name) => only.length === 0 || only.includes(name);
  try {
    if (wanted('checks')) {
      await whole('Types', bin('tsc'), ['--noEmit']);
      await whole('Lint and format', bin('biome'), ['check', '--error-on-warnings']);
      await whole('Folder rule', process.execPath, ['scripts/folders.mjs']);
      await whole('Unused code', bin('knip'), []);
    }
    if (wanted('unit')) await jest('Unit tests', 'unit', folder, {});
    await buildPrograms();
    if (wanted('integration')) {
      const database = await startDatabase({
        folder: join(folder, 'integration'),
        port: await freePort(),
        quick: true,
      });
      try {
        const port = database.child.spawnargs.find((word) => word.startsWith('--port='))?.slice(7);
        await jest('Integration tests', 'integration', folder, {
          LIVELY_DATA: join(folder, 'integration'),
          LIVELY_DB_PORT: port,
          LIVELY_STANDINS_PORT: String(await freePort()),
          LIVELY_DB_PASSWORD: database.password,
        });
      } finally {
        await database.stop();
      }
    }
    if (wanted('pages')) {
      await buildPages();
      say('\n── Browser tests');
      const ports = { web: await freePort(), database: await freePort(), standins: await freePort() };
      const stack = await startStack({
        folder: join(folder, 'pages'),
        ports,
        quick: true,
        extraEnv: { LIVELY_STANDIN_SECONDS: '2' },
      });
      try {
        const report = join(folder, 'pages.json');
        await run(bin('playwright'), ['test'], {
          LIVELY_ADDRESS: stack.address,
          LIVELY_PAGES_REPORT: report,
        });
        const stats = existsSync(report)
          ? JSON.parse(readFileSync(report, 'utf8')).stats
          : { expected: 0, unexpected: 1, flaky: 0 };
        total.passed += stats.expected;
        total.failed += stats.unexpected + stats.flaky + (stats.expected + stats.unexpected === 0 ? 1 : 0);
      } finally {
        await stack.stop();
      }
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  process.stdout.write(`\n${total.passed} passed, ${total.failed} failed\n`);
  process.exitCode = total.failed > 0 ? 1 : 0;
});
