/**
 * `npm test`: everything, on a machine with nothing but Node and apt. Types, lint, folder rule, unit tests, integration
 * tests against a MariaDB of their own, and browser tests against a real build, in lanes beside each other. Ends with the
 * time of each part, the names of tests that passed at a second try only, and a line `N passed, N failed`. `npm test -- unit` (or checks, integration, pages, killing) runs a part.
 */
import { spawn } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureDebian, ensurePackages, main, root, say } from './machine.mjs';
import { freePort } from './ports.mjs';

/** Parts that run beside each other: each waits for the database, for pages or for clocks a good part of its time. */
const lanes = 2;
/** Integration test files that run beside each other: they wait for the database more than they compute. */
const integrationWorkers = 3;

const total = { passed: 0, failed: 0 };
/** Tests that failed once and passed when they were tried once more. */
const secondTries = [];
const times = [];
const bin = (name) => join(root, 'node_modules', '.bin', name);

/** Runs a program; what it says is printed in one piece when it has ended, so that lanes do not mix. */
function run(command, words, env = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, words, {
      cwd: root,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, ...env },
    });
    const said = [];
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => said.push(chunk));
    child.once('close', (code) => resolve({ code: code ?? 1, said: Buffer.concat(said).toString() }));
  });
}

/** Runs a part with its time; prints what it said. */
async function part(name, work) {
  const begun = Date.now();
  const said = await work();
  const seconds = Math.round((Date.now() - begun) / 1000);
  times.push([name, seconds]);
  say(`\n── ${name}, ${seconds} s\n${said.trimEnd()}`);
}

/** A check that passes or fails as a whole. */
const whole = (name, command, words) =>
  part(name, async () => {
    const { code, said } = await run(command, words);
    if (code === 0) total.passed++;
    else total.failed++;
    return code === 0 ? 'fine' : `${said}\n${name}: failed`;
  });

const jest = (name, project, folder, env, workers) =>
  part(name, async () => {
    const report = join(folder, `${project}.json`);
    const { code, said } = await run(
      bin('jest'),
      [
        '--selectProjects',
        project,
        '--json',
        `--outputFile=${report}`,
        ...(process.env.LIVELY_ONLY ? ['--testPathPatterns', process.env.LIVELY_ONLY] : []),
        `--maxWorkers=${workers}`,
        // Limits that only catch what never ends, however busy the machine is.
        '--testTimeout=1200000',
      ],
      env,
    );
    const result = existsSync(report) ? JSON.parse(readFileSync(report, 'utf8')) : undefined;
    total.passed += result?.numPassedTests ?? 0;
    for (const { assertionResults } of result?.testResults ?? [])
      for (const { status, invocations, fullName } of assertionResults)
        if (status === 'passed' && invocations > 1) secondTries.push(fullName);
    // A file that cannot even be loaded counts as a failure of its own.
    total.failed += (result?.numFailedTests ?? 0) + (result?.numRuntimeErrorTestSuites ?? 0);
    if (code !== 0 && !(result?.numFailedTests || result?.numRuntimeErrorTestSuites)) total.failed++;
    return said;
  });

const specsOf = ({ specs = [], suites = [] }) => [...specs, ...suites.flatMap(specsOf)];

const playwright = (name, files, folder, env) =>
  part(name, async () => {
    const report = join(folder, `${name.replace(/\W/g, '')}.json`);
    const { code, said } = await run(
      bin('playwright'),
      ['test', ...files, `--output=${join(folder, name.replace(/\W/g, ''))}`],
      {
        ...env,
        LIVELY_PAGES_REPORT: report,
      },
    );
    const { stats, suites } = existsSync(report)
      ? JSON.parse(readFileSync(report, 'utf8'))
      : { stats: { expected: 0, unexpected: 1, flaky: 0 }, suites: [] };
    for (const { title, tests } of suites.flatMap(specsOf))
      if (tests.some(({ status }) => status === 'flaky')) secondTries.push(title);
    const passed = stats.expected + stats.flaky;
    total.passed += passed;
    total.failed += stats.unexpected || (code !== 0 || passed === 0 ? 1 : 0);
    return said;
  });

async function integration(folder, prepared) {
  const { startDatabase } = await import('./database.mjs');
  const { copyDemo } = await import('./prepared.mjs');
  // Each file works on a copy of the demo. Nobody looks at its pictures here.
  const database = await startDatabase({
    folder: copyDemo(prepared, 'bare', join(folder, 'integration')),
    port: await freePort(),
    quick: true,
    databases: ['lively\\_%'],
  });
  const port = database.child.spawnargs.find((word) => word.startsWith('--port='))?.slice(7);
  const env = {
    LIVELY_DATA: join(folder, 'integration'),
    LIVELY_DB_PORT: port,
    LIVELY_DB_PASSWORD: database.password,
    LIVELY_PICTURES: 'none',
    LIVELY_WORDS: 'none',
    LIVELY_HOURS: 'none',
    LIVELY_LOG: 'silent',
    LIVELY_SIMULATORS_PORTS: (await Promise.all(Array.from({ length: integrationWorkers }, freePort))).join(),
  };
  try {
    await jest('Integration tests', 'integration', folder, env, integrationWorkers);
  } finally {
    await database.stop();
  }
}

/** Browser test files by the application that they run against: each begins with one of the demos. */
const applications = {
  // These look at the demo with all of its feeds; the others make feeds of their own.
  shown: { demo: 'all', files: ['sending', 'views'], env: { LIVELY_MINUTE: '4' } },
  made: { demo: 'first', files: ['catalog', 'channels', 'access', 'mapping', 'path', 'together'] },
  large: { demo: 'first', files: ['keyboard', 'workload', 'written', 'locales'] },
};

async function pages(folder, prepared, name) {
  const { demo, files, env } = applications[name];
  const only = process.env.LIVELY_ONLY?.split('|');
  const some = files.filter((file) => !only || only.includes(file));
  if (some.length === 0) return;
  const { startStack } = await import('./stack.mjs');
  const { copyDemo } = await import('./prepared.mjs');
  const stack = await startStack({
    folder: copyDemo(prepared, demo, join(folder, `pages-${name}`)),
    ports: { web: await freePort(), database: await freePort(), simulators: await freePort() },
    quick: true,
    extraEnv: { LIVELY_SIMULATOR_SECONDS: '2', ...env },
  });
  try {
    await playwright(
      `Browser tests, ${name}`,
      some.map((file) => `tests/pages/${file}.test.ts`),
      folder,
      {
        LIVELY_ADDRESS: stack.address,
        LIVELY_DB_PORT: stack.env.LIVELY_DB_PORT,
        LIVELY_DB_PASSWORD: stack.env.LIVELY_DB_PASSWORD,
      },
    );
  } finally {
    await stack.stop();
  }
}

/** Work of the run. @param after names of what has to be done before it */
const task = (name, after, work) => ({ name, after, work });

/**
 * Does all of it, so much at a time, so that both processors have work until the end: a lane that is free takes the first that
 * waits for nothing any more. What waits for something that failed is left out.
 * @returns what went wrong
 */
async function inLanes(count, tasks) {
  const waiting = [...tasks];
  const running = new Map();
  const done = new Set();
  const failures = [];
  while (waiting.length > 0 || running.size > 0) {
    const at = waiting.findIndex(({ after }) => after.every((name) => done.has(name)));
    if (at >= 0 && running.size < count) {
      const [{ name, work }] = waiting.splice(at, 1);
      running.set(
        name,
        work()
          .then(
            () => done.add(name),
            (error) => failures.push(error),
          )
          .finally(() => running.delete(name)),
      );
    } else if (running.size > 0) await Promise.race(running.values());
    else break;
  }
  return failures;
}

/** Processes that are killed at any moment, with applications of their own. */
const killing = (folder, prepared) =>
  playwright(
    'Killing every process',
    ['tests/pages/killing.test.ts', 'tests/pages/killingSends.test.ts', 'tests/pages/outages.test.ts'],
    folder,
    { LIVELY_ADDRESS: 'http://127.0.0.1:1', LIVELY_PREPARED: prepared },
  );

await main(async () => {
  const begun = Date.now();
  ensureDebian({
    mariadbd: 'mariadb-server-core',
    my_print_defaults: 'mariadb-client-core',
    // Debian's Chromium without windows: a sixth less to compute, and no desktop's packages with it.
    'chromium-headless-shell': 'chromium-headless-shell',
    eancheck: 'eancheck',
    xmllint: 'libxml2-utils',
    units: 'units',
    '/usr/share/iso-codes/json/iso_3166-1.json': 'iso-codes',
    '/usr/bin/python3': 'python3',
    '/usr/lib/python3/dist-packages/openpyxl/__init__.py': 'python3-openpyxl',
  });
  ensurePackages();
  times.push(['Installing', Math.round((Date.now() - begun) / 1000)]);
  const { buildPages, buildPrograms } = await import('./build.mjs');
  const { demos } = await import('./prepared.mjs');
  const folder = mkdtempSync(join(tmpdir(), 'lively-cart-'));
  // The database runs as another user, who must be able to pass through.
  chmodSync(folder, 0o711);
  const only = process.argv.slice(2);
  const wanted = (name) => only.length === 0 || only.includes(name);
  const prepared = join(folder, 'prepared');
  mkdirSync(prepared, { mode: 0o711 });
  const prepare = (name, work) => () =>
    part(name, async () => {
      await work();
      return 'done';
    });
  const checks = [
    task('types', [], () => whole('Types', bin('tsc'), ['--noEmit'])),
    task('lint', [], () => whole('Lint and format', bin('biome'), ['check', '--error-on-warnings'])),
    task('folders', [], () => whole('Folder rule', process.execPath, ['scripts/folders.mjs'])),
    task('vocabulary', [], () => whole('Vocabulary', process.execPath, ['scripts/vocabulary.mjs'])),
    task('texts', [], () => whole('Texts', process.execPath, ['scripts/texts.mjs', '--check'])),
    task('unused', [], () => whole('Unused code', bin('knip'), [])),
  ];
  try {
    await buildPrograms();
    const browsing = wanted('pages') || wanted('killing');
    const browser = (name) =>
      task(name, ['build', applications[name].demo], () => pages(folder, prepared, name));
    // The longest come first.
    const failures = await inLanes(lanes, [
      ...(browsing ? [task('build', [], prepare('Building the pages', buildPages))] : []),
      ...(browsing || wanted('integration')
        ? [
            task(
              'bare',
              [],
              prepare('Loading the demo', () => demos.bare(prepared)),
            ),
          ]
        : []),
      ...(browsing
        ? [
            task(
              'first',
              ['bare'],
              prepare('Looking at its pictures', () => demos.first(prepared)),
            ),
            task(
              'all',
              ['first'],
              prepare('Adding its other feeds', () => demos.all(prepared)),
            ),
          ]
        : []),
      ...(wanted('pages') ? [browser('shown')] : []),
      ...(wanted('integration') ? [task('integration', ['bare'], () => integration(folder, prepared))] : []),
      ...(wanted('pages') ? [browser('made')] : []),
      ...(wanted('killing') ? [task('killing', ['build', 'all'], () => killing(folder, prepared))] : []),
      ...(wanted('unit') ? [task('unit', [], () => jest('Unit tests', 'unit', folder, {}, 2))] : []),
      ...(wanted('pages') ? [browser('large')] : []),
      ...(wanted('checks') ? checks : []),
    ]);
    for (const error of failures) {
      total.failed++;
      say(String(error?.stack ?? error));
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  say(
    `\n${times.map(([name, seconds]) => `${name} ${seconds} s`).join(', ')}; all ${Math.round((Date.now() - begun) / 1000)} s`,
  );
  for (const name of secondTries) say(`Passed at the second try only: ${name}`);
  process.stdout.write(`\n${total.passed} passed, ${total.failed} failed\n`);
  process.exitCode = total.failed > 0 ? 1 : 0;
});
