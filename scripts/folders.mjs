/**
 * The folder rule: who may import from whom, no circles, and a core that touches nothing outside itself.
 * Written here because the usual tools for it need TypeScript's old programming interface, which version 7 does not have.
 */
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, normalize, relative } from 'node:path';

const root = new URL('..', import.meta.url).pathname;
/** The tree that is looked at: the project's own, or one that is named, for the test of this rule. */
const source = process.argv.slice(2).find((word) => !word.startsWith('--')) ?? join(root, 'src');

/** Each folder and the folders whose code it may load. */
const allowed = {
  app: ['app', 'ui', 'actions', 'server', 'files', 'core'],
  ui: ['ui', 'actions', 'core'],
  actions: ['actions', 'server', 'core'],
  worker: ['worker', 'server', 'core'],
  evaluator: ['evaluator', 'server', 'core'],
  cli: ['cli', 'server/channels', 'files', 'core'],
  simulators: ['simulators'],
  server: ['server', 'files', 'core'],
  files: ['files', 'core'],
  core: ['core'],
};
/** The rooms of core in layers, the lowest first: a room takes from those below it, types included, and from no other. */
const coreLayers = [
  ['formatting'],
  ['errors', 'forms', 'text', 'markup', 'measures', 'identifiers', 'pictures'],
  ['schedule', 'words', 'notifications', 'shop', 'locale', 'workspace'],
  ['catalog'],
  ['conditions', 'compose'],
  ['titles', 'values', 'variants', 'categories', 'families', 'workbooks'],
  ['import'],
  ['channels'],
  ['formats', 'checks', 'rules', 'ledger', 'keywords', 'matching'],
  ['plans'],
  ['listing'],
  ['fixes'],
];
const layerOf = (room) => coreLayers.findIndex((layer) => layer.includes(room));

/** Why one room of core may not take from another; undefined where it may. */
function layerComplaint(own, to) {
  const [from, target] = [own.split('/')[1], to.split('/')[1]];
  if (from === target) return undefined;
  if (layerOf(from) < 0) return `core/${from} stands in no layer; give it a place in scripts/folders.mjs`;
  return layerOf(target) < layerOf(from)
    ? undefined
    : `${own} stands below ${to}, or beside it, and may not import it`;
}

/**
 * The rooms of the server in floors, the lowest first: a room takes from its own floor and from those below. No two rooms import each
 * other, not even through a third.
 */
const serverFloors = [
  ['runtime', 'db', 'net', 'storage', 'monitoring', 'rpc', 'jobs', 'auth'],
  ['catalog', 'channels', 'pictures', 'items', 'transports', 'ledger', 'plans', 'suppliers', 'notifications'],
  ['listings', 'evaluation', 'import', 'shop', 'schedules'],
  ['fixes', 'submissions'],
  ['stages'],
  ['pages'],
  ['demo'],
];
const floorOf = (room) => serverFloors.findIndex((floor) => floor.includes(room));
const roomOf = (path) => /^server\/([^/]+)\//.exec(path)?.[1];
/** Rooms of the server and the rooms they take from, each with one import that does. */
const rooms = new Map();

/** Files of a folder, tests left out; beyond that it is split by subject. */
const MAX_FILES = 12;

/** Lines of a file, tests left out; beyond that it is split. */
const MAX_LINES = 300;
/** Files that are longer by now, with their lines: they may become shorter, never longer. `--write` writes down what became shorter. */
const longFilesPath = join(root, 'scripts/longFiles.json');
const isOwnTree = source === join(root, 'src');
const longFiles = isOwnTree ? JSON.parse(readFileSync(longFilesPath, 'utf8')) : {};

/** Exceptions, each with its reason. */
const exceptions = [
  {
    from: /^server\/(setup|demo\/load)\.ts$/,
    to: /^\.\.\/demo\//,
    why: 'the start command draws the demo pictures and loads the demo',
  },
];
const notInCore =
  /^(react|next|drizzle-orm|mysql2|pino|sharp|server-only|node:.*|fs|net|http|https|os|child_process|worker_threads)(\/|$)/;
const statement =
  /(?:^|\n)\s*(?:import|export)\s+(type\s+)?([^'";]*?)from\s+['"]([^'"]+)['"]|(?:^|[\s(])import\(\s*['"]([^'"]+)['"]\s*\)|(?:^|\n)\s*import\s+['"]([^'"]+)['"]/g;

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
    if (/\.tsx?$/.test(to)) edges.push(target);
    // What a page shows may be described by the server's types; only code counts.
    if (typeOnly && folder === 'ui' && to.startsWith('server/')) continue;
    if (!/\.tsx?$/.test(to)) continue;
    const fine =
      allowed[folder]?.some((one) => to.startsWith(`${one}/`)) ||
      exceptions.some((one) => one.from.test(own) && one.to.test(to));
    if (!fine) complaints.push(`${own} may not import ${to}`);
    const [room, other] = [roomOf(own), roomOf(to)];
    if (room && other && room !== other) {
      if (floorOf(room) < 0)
        complaints.push(`server/${room} stands on no floor; give it a place in scripts/folders.mjs`);
      else if (floorOf(other) > floorOf(room))
        complaints.push(`${own} takes from ${to}, which is on a floor above`);
      rooms.set(room, (rooms.get(room) ?? new Map()).set(other, `${own} takes from ${to}`));
    }
    const layer = folder === 'core' && to.startsWith('core/') ? layerComplaint(own, to) : undefined;
    if (layer) complaints.push(layer);
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

const cleared = new Set();
function walkRooms(room, path) {
  const at = path.indexOf(room);
  if (at >= 0) {
    const circle = [...path.slice(at), room];
    const why = circle.slice(1).map((next, n) => rooms.get(circle[n]).get(next));
    complaints.push(`rooms in a circle: ${circle.join(' → ')} (${why.join('; ')})`);
    return;
  }
  if (cleared.has(room)) return;
  for (const next of rooms.get(room)?.keys() ?? []) walkRooms(next, [...path, room]);
  cleared.add(room);
}
for (const room of rooms.keys()) walkRooms(room, []);

const sizes = new Map();
for (const file of graph.keys()) {
  const folder = relative(source, dirname(file));
  // Routes stand in folders of their own, as their addresses do.
  if (!folder.startsWith('app')) sizes.set(folder, (sizes.get(folder) ?? 0) + 1);
}
for (const [folder, size] of sizes) {
  if (size > MAX_FILES)
    complaints.push(`${folder} has ${size} files, ${MAX_FILES} at most: split it by subject`);
}

const longer = {};
for (const file of graph.keys()) {
  const path = relative(source, file);
  const lines = readFileSync(file, 'utf8').split('\n').length - 1;
  if (lines <= MAX_LINES) continue;
  longer[path] = Math.min(lines, longFiles[path] ?? lines);
  const most = longFiles[path] ?? MAX_LINES;
  if (lines > most && !process.argv.includes('--write'))
    complaints.push(`${path} has ${lines} lines, ${most} at most: split it by subject`);
}
if (isOwnTree && process.argv.includes('--write'))
  writeFileSync(
    longFilesPath,
    `${JSON.stringify(Object.fromEntries(Object.entries(longer).sort()), null, 2)}\n`,
  );

for (const one of complaints) console.error(one);
console.log(`${graph.size} files, ${complaints.length} against the folder rule`);
process.exitCode = complaints.length > 0 ? 1 : 0;
