/**
 * The folder rule: who may import from whom, no circles, and a core that touches nothing outside itself.
 * Written here because the usual tools for it need TypeScript's old programming interface, which version 7 does not have.
 */
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { dirname, join, normalize, relative } from 'node:path';

const root = new URL('..', import.meta.url).pathname;
/** The tree that is looked at: the project's own, or one that is named, for the test of this rule. */
const source = process.argv[2] ?? join(root, 'src');

/** Each folder and the folders whose code it may load. */
const allowed = {
  app: ['app', 'ui', 'actions', 'server', 'files', 'core'],
  ui: ['ui', 'actions', 'core'],
  actions: ['actions', 'server', 'core'],
  worker: ['worker', 'server', 'core'],
  evaluator: ['evaluator', 'server', 'core'],
  cli: ['cli', 'server/channels', 'files', 'core'],
  standins: ['standins'],
  server: ['server', 'files', 'core'],
  files: ['files', 'core'],
  core: ['core'],
};
/** The rooms of core in layers, the lowest first: a room takes from those below it, types included, and from no other. */
const coreLayers = [
  ['errors', 'forms', 'text', 'measures', 'identifiers', 'pictures'],
  ['schedule', 'words', 'notices', 'shop'],
  ['catalog'],
  ['conditions', 'compose'],
  ['titles', 'values', 'variants', 'categories', 'families', 'workbooks'],
  ['intake'],
  ['channels'],
  ['formats', 'checks', 'rules', 'ledger', 'keywords', 'pairing'],
  ['listing'],
  ['remedies'],
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

/** The rooms of the server in floors, the lowest first: a room takes from its own floor and from those below. */
const serverFloors = [
  ['db', 'net'],
  ['people', 'jobs', 'notices'],
  ['ways', 'catalog', 'channels'],
  ['evaluating', 'listings', 'sources', 'shop'],
  ['submissions', 'schedules'],
  ['feeds'],
  ['demo'],
];
/** How many imports still go up from one room to another: they may become fewer, never more. */
const upward = {
  'catalog to evaluating': 9,
  'catalog to listings': 3,
  'channels to evaluating': 2,
  'channels to feeds': 2,
  'channels to listings': 1,
  // The list of all questions.
  'evaluating to feeds': 3,
  'evaluating to submissions': 1,
  'listings to feeds': 4,
  'listings to submissions': 2,
  'notices to feeds': 1,
  'people to evaluating': 1,
  'people to listings': 1,
  'shop to submissions': 1,
  'submissions to feeds': 2,
  'ways to submissions': 1,
};
const floorOf = (room) => serverFloors.findIndex((floor) => floor.includes(room));
const roomOf = (path) => /^server\/([^/]+)\//.exec(path)?.[1];
/** Imports that go up, by the rooms between which they do. */
const found = new Map();

/** Files of a folder, tests left out; beyond that it is split by subject. */
const MAX_FILES = 12;
/** Folders that are larger by now: they may become smaller, never larger. */
const largeFolders = {
  'core/catalog': 15,
  'core/checks': 57,
  'core/intake': 25,
  'core/listing': 18,
  'core/text': 13,
  files: 14,
  'server/catalog': 19,
  'server/feeds': 36,
  'server/submissions': 15,
  'ui/intake': 13,
  'ui/kit': 35,
};

/** Exceptions, each with its reason. */
const exceptions = [
  {
    from: /^server\/(setup|demo\/load)\.ts$/,
    to: /^\.\.\/demo\//,
    why: 'the start command draws the demo pictures and loads the demo',
  },
];
const notInCore =
  /^(react|next|drizzle-orm|mysql2|piscina|pino|sharp|server-only|node:.*|fs|net|http|https|os|child_process|worker_threads)(\/|$)/;
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
    if (!typeOnly) edges.push(target);
    // What a page shows may be described by the server's types; only code counts.
    if (typeOnly && folder === 'ui' && to.startsWith('server/')) continue;
    if (!/\.tsx?$/.test(to)) continue;
    const fine =
      allowed[folder]?.some((one) => to.startsWith(`${one}/`)) ||
      exceptions.some((one) => one.from.test(own) && one.to.test(to));
    if (!fine) complaints.push(`${own} may not import ${to}`);
    const [room, above] = [roomOf(own), roomOf(to)];
    if (room && above && floorOf(room) < 0)
      complaints.push(`server/${room} stands on no floor; give it a place in scripts/folders.mjs`);
    else if (room && above && floorOf(above) > floorOf(room)) {
      const pair = `${room} to ${above}`;
      found.set(pair, [...(found.get(pair) ?? []), `${own} takes from ${to}`]);
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

for (const [pair, imports] of found)
  if (imports.length > (upward[pair] ?? 0))
    complaints.push(
      `${pair}: ${imports.length} imports go up, ${upward[pair] ?? 0} at most: ${imports.join('; ')}`,
    );

const sizes = new Map();
for (const file of graph.keys()) {
  const folder = relative(source, dirname(file));
  // Routes stand in folders of their own, as their addresses do.
  if (!folder.startsWith('app')) sizes.set(folder, (sizes.get(folder) ?? 0) + 1);
}
for (const [folder, size] of sizes) {
  const most = largeFolders[folder] ?? MAX_FILES;
  if (size > most) complaints.push(`${folder} has ${size} files, ${most} at most: split it by subject`);
}

for (const one of complaints) console.error(one);
console.log(`${graph.size} files, ${complaints.length} against the folder rule`);
process.exitCode = complaints.length > 0 ? 1 : 0;
