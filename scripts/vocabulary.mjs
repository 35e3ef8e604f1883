/**
 * The vocabulary check of names: old words may become fewer, never more; `texts.mjs --check` does the same for texts. How often each is still there stands
 * in `vocabulary.json`; `node scripts/vocabulary.mjs --write` writes down what has become fewer.
 */
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';

const root = new URL('..', import.meta.url).pathname;
const given = process.argv.slice(2).filter((word) => !word.startsWith('--'));
/** The tree that is looked at and the list of counts: the project's own, or those named, for the test of this check. */
const source = given[0] ?? join(root, 'src');
const list = given[1] ?? join(root, 'scripts/vocabulary.json');

/** What code calls a thing instead, by what it called it; looked for in names that are declared. */
const inNames = {
  said: 'the thing itself',
  told: 'the thing itself',
  kept: 'stored, cached, retained',
  held: 'blocked, accepted, locked',
  whole: 'complete, full',
  asked: 'requested, procedure',
  made: 'created, result',
  standing: 'status',
  seen: 'externalFacts',
  way: 'transport',
  door: 'environment',
  remedy: 'fix',
  remedies: 'fixes',
  likes: 'similarItems',
  knot: 'LineageStep',
  letIn: 'authorize',
  whoAsks: 'currentUser',
  // Gone: none of these may come back.
  AskWord: 'PromptButton',
  Judgement: 'CheckSettings',
  Knot: 'LineageStep',
  SaidLists: 'IssueListPool',
  Spine: 'Sidebar',
  Tick: 'CheckboxField',
  Tray: 'SamplePanel',
  Ware: 'CatalogProduct',
  beat: 'renewLease',
  doorOf: 'environmentOf',
  glance: 'poll',
  keptFor: 'memoFor',
  lendFile: 'createTempDownload',
  mostSigns: 'MAX_CHARACTERS',
  oncePerQuestion: 'memoPerRequest',
  openLent: 'openTempDownload',
  standins: 'simulators',
  takeTurn: 'acquire',
  twinsOf: 'duplicateTitles',
  useDoing: 'useAction',
  useEarly: 'usePreHydrationValue',
  useLane: 'useSaveQueue',
  useStanding: 'useKeepPrevious',
  wayOf: 'transportOf',
};
/** What no file or folder is called. */
const inPaths =
  /(?:^|\/)(?:utils?|helpers?|misc|common|managers?|intake|remedies|pairing|notices|standins|people|ways|evaluating)(?:\.tsx?$|\/|$)/;

const escaped = (text) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
const namePattern = (name) =>
  new RegExp(`(?:const|let|function|class|interface|type)\\s+(?:\\{[^}]*)?\\b${escaped(name)}\\b`, 'g');

/** Every source file below a folder. */
function filesIn(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return filesIn(path);
    return /\.tsx?$/.test(entry.name) ? [path] : [];
  });
}
const counts = {};
const places = {};
const wrongPaths = filesIn(source)
  .map((path) => relative(source, path))
  .filter((path) => inPaths.test(path));
if (wrongPaths.length > 0) {
  process.stderr.write(`No file or folder is called so: ${wrongPaths.join(', ')}\n`);
  process.exit(1);
}
for (const path of filesIn(source)) {
  const code = readFileSync(path, 'utf8');
  const looked = Object.keys(inNames).map((name) => [`name: ${name}`, code.match(namePattern(name))]);
  for (const [key, found] of looked) {
    if (!found) continue;
    counts[key] = (counts[key] ?? 0) + found.length;
    places[key] = [...(places[key] ?? []), relative(source, path)];
  }
}
const before = existsSync(list) ? JSON.parse(readFileSync(list, 'utf8')) : {};
if (process.argv.includes('--write')) {
  const sorted = Object.entries(counts)
    .map(([key, count]) => [key, before[key] === undefined ? count : Math.min(count, before[key])])
    .sort(([a], [b]) => (a < b ? -1 : 1));
  writeFileSync(list, `${JSON.stringify(Object.fromEntries(sorted), null, 2)}\n`);
}
const instead = (key) => inNames[key.slice('name: '.length)];
const more = Object.entries(counts).filter(([key, count]) => count > (before[key] ?? 0));
if (!process.argv.includes('--write') && more.length > 0) {
  for (const [key, count] of more)
    process.stderr.write(
      `${key}: ${count} times, ${before[key] ?? 0} before. Say instead: ${instead(key)}. In ${[...new Set(places[key])].slice(0, 8).join(', ')}\n`,
    );
  process.exit(1);
}
const left = Object.values(counts).reduce((sum, count) => sum + count, 0);
process.stdout.write(`${left} words of the old vocabulary are left, none of them new\n`);
