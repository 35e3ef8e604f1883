/**
 * The folder rule: who may import from whom, no circles, and a core that touches nothing outside itself.
 * Written here because the usual tools for it need TypeScript's old programming interface, which version 7 does not have.
 */
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { dirname, join, normalize, relative } from 'node:path';

const root = new URL('..', import.meta.url).pathname;
const source = join(root, 'src');

/** Each folder and the folders whose code it may load. */
const allowed = {
  app: ['app', 'ui', 'server', 'files', 'core'],
  ui: ['ui', 'core'],
  worker: ['worker', 'server', 'core'],
  cli: ['cli', 'server/channels', 'files', 'core'],
  standins: ['standins'],
  server: ['server', 'files', 'core'],
  files: ['files', 'core'],
  core: ['core'],
};
/** Exceptions, each with its reason. */
const exceptions = [
  {
    from: /^ui\/frame\/FeedFrame\.tsx$/,
    to: /^server\/feeds\//,
    why: 'a server component that every stage page stands in',
  },
  {
    from: /^ui\//,
    to: /^app\/((a|catalogA|channelA)ctions|told)\.ts$/,
    why: 'components call the server through these actions',
  },
  {
    from: /^server\/(setup|demo\/load)\.ts$/,
    to: /^\.\.\/demo\//,
    why: 'the start command draws the demo pictures and loads the demo',
  },
];
const notInCore =
  /^(react|next|drizzle-orm|mysql2|piscina|pino|sharp|server-only|node:.*|fs|net|http|https|os|child_process|worker_threads)(\/|$)/;
const statement =
  /(?:^|\n)\s*(?:import|export)\s+(type\s+)?((?:[^'";]|\n)*?)from\s+['"]([^'"]+)['"]|(?:^|[\s(])import\(\s*['"]([^'"]+)['"]\s*\)|(?:^|\n)\s*import\s+['"]([^'"]+)['"]/g;

const filesUnder = (folder) =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    return entry.isDirectory()
      ? filesUnder(path)
      : /\.tsx?$/.test(entry.name) && !/\.test\.tsx?$/.test(entry.name)
        ? [path]
        : [];
  });

function resolved(from, name) {
  const base = name.startsWith('@/') ? join(source, name.slice(2)) : normalize(join(dirname(from), name));
  return [`${base}.ts`, `${base}.tsx`, join(base, 'index.ts'), base].find(
    (path) => existsSync(path) && statSync(path).isFile(),
  );
}

const complaints = [];
const graph = new Map();
for (const file of filesUnder(source)) {
  const own = relative(source, file);
  const folder = own.split('/')[0];
  const edges = [];
  for (const match of readFileSync(file, 'utf8').matchAll(statement)) {
    const name = match[3] ?? match[4] ?? match[5];
    // `import { type A, type B }` loads nothing either.
    const names = /\{([\s\S]*)\}/
      .exec(match[2] ?? '')?.[1]
      ?.split(',')
      .map((one) => one.trim())
      .filter(Boolean);
    const typeOnly =
      Boolean(match[1]) ||
      (names?.length > 0 && !/^\s*\w+\s*,/.test(match[2]) && names.every((one) => one.startsWith('type ')));
    if (!name.startsWith('.') && !name.startsWith('@/')) {
      if (folder === 'core' && notInCore.test(name))
        complaints.push(`${own} loads ${name}; the core touches nothing outside itself`);
      continue;
    }
    const target = resolved(file, name);
    if (!target) {
      complaints.push(`${own} names ${name}, which does not exist`);
      continue;
    }
    const to = relative(source, target);
    if (!typeOnly) edges.push(target);
    // What a page shows may be described by the server's types; only code counts.
    if (typeOnly && folder === 'ui' && to.startsWith('server/')) continue;
    if (!/\.tsx?$/.test(to)) continue;
    const fine =
      allowed[folder]?.some((one) => to.startsWith(`${one}/`)) ||
      exceptions.some((one) => one.from.test(own) && one.to.test(to));
    if (!fine) complaints.push(`${own} may not import ${to}`);
  }
  graph.set(file, edges);
}

const done = new Set();
function walk(file, path) {
  const at = path.indexOf(file);
  if (at >= 0) {
    complaints.push(`a circle: ${[...path.slice(at), file].map((one) => relative(source, one)).join(' → ')}`);
    return;
  }
  if (done.has(file)) return;
  for (const next of graph.get(file) ?? []) walk(next, [...path, file]);
  done.add(file);
}
for (const file of graph.keys()) walk(file, []);

for (const one of complaints) console.error(one);
console.log(`${graph.size} files, ${complaints.length} against the folder rule`);
process.exitCode = complaints.length > 0 ? 1 : 0;
