/** Builds what runs outside Next (worker, simulators, setup, terminal) and the pages, each only where its source changed. */
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { root, say, Trouble } from './machine.mjs';

function filesUnder(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    return entry.isDirectory() ? filesUnder(path) : [path];
  });
}

function digestOf(paths) {
  const hash = createHash('sha256');
  for (const path of paths.sort()) hash.update(relative(root, path)).update('\0').update(readFileSync(path));
  return hash.digest('hex');
}

const sources = (...folders) =>
  folders.flatMap((folder) => filesUnder(join(root, folder))).filter((path) => !/\.test\.tsx?$/.test(path));

/** Runs a build where the digest of its sources differs from the one at its last success. */
async function whenChanged(name, paths, product, build) {
  const mark = join(root, 'dist', `${name}.digest`);
  const digest = digestOf([...paths, join(root, 'package-lock.json')]);
  if (existsSync(mark) && existsSync(join(root, product)) && readFileSync(mark, 'utf8') === digest) return;
  await build();
  mkdirSync(join(root, 'dist'), { recursive: true });
  writeFileSync(mark, digest);
}

/** How programs are built, those of the measurements too. */
export const forNode = {
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  // Node knows \p{…} of what is used here; the first of version 20 lacks names that were added later. Written as a literal, an
  // expression inside a function is made once, and not at every call.
  supported: { 'regexp-unicode-property-escapes': true },
  logLevel: 'warning',
};

export const buildPrograms = () =>
  whenChanged(
    'programs',
    [
      join(root, 'scripts/build.mjs'),
      ...sources(
        'src/core',
        'src/files',
        'src/server',
        'src/worker',
        'src/evaluator',
        'src/cli',
        'src/simulators',
        'demo',
      ),
    ],
    'dist/cart.js',
    async () => {
      const { build } = await import('esbuild');
      rmSync(join(root, 'dist/parts'), { recursive: true, force: true });
      await build({
        absWorkingDir: root,
        entryPoints: {
          worker: 'src/worker/main.ts',
          reader: 'src/server/import/readerMain.ts',
          evaluator: 'src/evaluator/main.ts',
          simulators: 'src/simulators/main.ts',
          setup: 'src/server/setup.ts',
          cart: 'src/cli/main.ts',
        },
        outdir: 'dist',
        chunkNames: 'parts/[name]-[hash]',
        ...forNode,
        splitting: true,
        // Packages come along, so that a program starts at once; those that read files of their own stay where they are.
        external: ['sharp', 'mysql2', 'pino', 'undici', 'piscina'],
        banner: {
          js: "import{createRequire as requireFrom}from'node:module';const require=requireFrom(import.meta.url);",
        },
        sourcemap: 'linked',
      });
    },
  );

export const buildPages = () =>
  whenChanged('pages', [...sources('src'), join(root, 'next.config.ts')], '.next/BUILD_ID', async () => {
    say('Building the pages …');
    // Not waited for in place: other parts of the tests go on meanwhile.
    const child = spawn(process.execPath, [join(root, 'node_modules/next/dist/bin/next'), 'build'], {
      cwd: root,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
    });
    const said = [];
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => said.push(chunk));
    const code = await new Promise((resolve) => child.once('close', resolve));
    if (code !== 0) throw new Trouble(`The pages could not be built:\n${Buffer.concat(said)}`);
  });
