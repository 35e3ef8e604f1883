import { emptyRecord, listSeparator } from '../../catalog/value';
import { InputError } from '../../errors/inputError';
import { MAX_NAME, noOption } from '../tables/nameValueColumns';
import { flatten } from './flattening';
import { calledBy, entryOf, identifies, join, naming, sells } from './keys';
import { isSection, withPath } from './sections';
import { anyKey, type Branch, isBranch, type Tree, withKey } from './tree';

/** One row of a source of any shape: values by column, or by path ("offer/price"), and the group its nesting puts it in. */
export interface SourceRecord {
  readonly cells: Readonly<Record<string, string>>;
  readonly group: string | undefined;
}

/** A place in a tree file that repeats: its path, and how often it was seen. */
export interface ListPlace {
  readonly path: string;
  readonly count: number;
}

/** One value of the records, as the tree of a file shows it. */
export interface OutlineLine {
  /** Below the record, names joined by `/`; attributes begin with `@`. */
  readonly path: string;
  readonly filled: number;
  readonly samples: readonly string[];
  /** Stands more than once in a record. */
  readonly repeated: boolean;
}

/** What the beginning of a tree file shows. */
export interface Outline {
  readonly list: string;
  readonly lists: readonly ListPlace[];
  /** The list inside a record that holds its variants; empty where there is none. */
  readonly variants: string;
  readonly variantLists: readonly ListPlace[];
  readonly lines: readonly OutlineLine[];
  readonly records: readonly SourceRecord[];
}

/** A language's tag as a key: what differs by language is one thing. */
const isLanguage = (name: string): boolean => /^[a-z]{2,3}([-_][a-z]{2,4})?$/i.test(name);

/**
 * Whether a branch holds things by their codes instead of in a list, as `{"A-1": {…}, "A-2": {…}}`: several, all of whose values
 * have the same names.
 */
function holdsByKey(node: Branch): boolean {
  const names = Object.keys(node);
  const entries = Object.values(node);
  if (names.length < 2 || names.every(isLanguage) || !entries.every(isBranch)) return false;
  const [first = {}, ...others] = entries.slice(0, 50);
  const known = Object.keys(first);
  // Two may be alike by chance: they say more.
  if (known.length < (names.length === 2 ? 3 : 2)) return false;
  return others.every((entry) => {
    const own = Object.keys(entry);
    return own.filter((name) => name in first).length * 2 > Math.max(own.length, known.length);
  });
}

/** The entries of a branch that holds them by their codes, each with its code. */
const byKey = (node: Branch): Branch[] =>
  Object.entries(node).flatMap(([key, entry]) => (isBranch(entry) ? [withKey(key, entry)] : []));

/** Every list of branches that stands in no other list. */
function listsIn(tree: Tree): { path: string; entries: Branch[] }[] {
  const lists: { path: string; entries: Branch[] }[] = [];
  const walk = (node: Tree, path: string) => {
    if (isBranch(node) && holdsByKey(node)) {
      lists.push({ path: join(path, anyKey), entries: byKey(node) });
      return;
    }
    if (Array.isArray(node)) {
      const entries = node.filter(isBranch);
      if (entries.length > 0) lists.push({ path, entries });
      return;
    }
    if (isBranch(node)) for (const [name, inner] of Object.entries(node)) walk(inner, join(path, name));
  };
  walk(tree, '');
  return lists;
}

/** How many values each of the first entries of a list holds, in the mean. */
function valuesEach(entries: readonly Branch[]): number {
  const values = (tree: Tree): number =>
    typeof tree === 'string' ? 1 : Object.values(tree).reduce((sum, inner) => sum + values(inner), 0);
  const some = entries.slice(0, 20);
  return some.reduce((sum, entry) => sum + values(entry), 0) / Math.max(1, some.length);
}

/** A file that is one record is that record: its root element in XML, the object itself in JSON. */
function onlyName(tree: Tree): string {
  const [[name, inner] = ['', undefined], ...others] = isBranch(tree) ? Object.entries(tree) : [];
  return others.length === 0 && isBranch(inner) ? name : '';
}

/** What stands at a path, whether alone or in a list, seen through the lists on the way. */
function entriesAt(tree: Tree, path: string): Branch[] {
  const names = path === '' ? [] : path.split('/');
  let nodes: Tree[] = Array.isArray(tree) ? tree : [tree];
  for (const name of names)
    nodes = nodes.flatMap((node) => {
      if (name === anyKey && isBranch(node)) return byKey(node);
      const inner = isBranch(node) ? node[name] : undefined;
      return inner === undefined ? [] : Array.isArray(inner) ? inner : [inner];
    });
  return nodes.filter(isBranch);
}

/** Keys under which records hold lists of things with codes of their own: their variants. */
function variantListsIn(entries: readonly Branch[]): ListPlace[] {
  const counts = new Map<string, number>();
  const look = (node: Tree, path: string, depth: number, within: boolean) => {
    if (!isBranch(node) || depth > 4) return;
    for (const [name, inner] of Object.entries(node)) {
      const here = join(path, name);
      const list = Array.isArray(inner) ? inner : [inner];
      // Below a list, where colourways hold their sizes, only what is sold by a number of its own is a variant.
      const tells = within ? sells : identifies;
      const coded = list.filter((entry) => isBranch(entry) && Object.keys(entry).some(tells)).length;
      if (coded > 0 && (Array.isArray(inner) || counts.has(here)))
        counts.set(here, (counts.get(here) ?? 0) + coded);
      for (const entry of list) look(entry, here, depth + 1, within || Array.isArray(inner));
    }
  };
  // Twice, so that a record with a single variant counts once another has shown that the key repeats.
  for (let pass = 0; pass < 2; pass++) {
    for (const path of counts.keys()) counts.set(path, 0);
    for (const entry of entries) look(entry, '', 0, false);
  }
  return [...counts]
    .map(([path, count]) => ({ path, count }))
    .sort((a, b) => b.count - a.count || b.path.length - a.path.length);
}

/**
 * Looks at a tree: which list the records are, where they hold their variants, which values they have.
 * Without a choice the list that tells most is taken, by how many records it has and how much each of them says, of equal ones the
 * one nearer to the root: what is sold says more than the groups and prices beside it. A file without any list is one record.
 * @throws InputError where the list asked for is not there, naming those that are
 */
export function outlineOf(tree: Tree, given: { list?: string; variants?: string } = {}): Outline {
  const lists = listsIn(tree)
    .map((one) => ({ ...one, tells: Math.log2(1 + one.entries.length) * valuesEach(one.entries) }))
    .sort((a, b) => b.tells - a.tells || a.path.length - b.path.length);
  const list = given.list ?? lists[0]?.path ?? onlyName(tree);
  const entries = entriesAt(tree, list);
  if (entries.length === 0)
    throw given.list === undefined
      ? new InputError('noList')
      : new InputError('noListAt', {
          list,
          known: lists.map(({ path }) => `“${path}”`).join(', ') || 'none',
        });
  const variantLists = variantListsIn(entries);
  const variants = given.variants ?? variantLists[0]?.path ?? '';
  const records = entries.flatMap((entry, i) => recordsOf(entry, variants, `${list || 'record'}-${i + 1}`));
  return {
    list,
    lists: lists.map(({ path, entries: found }) => ({ path, count: found.length })),
    variants,
    variantLists,
    lines: linesOf(records),
    records,
  };
}

/** The values of some records with their counts and samples, in the order in which they appear. */
export function linesOf(records: readonly SourceRecord[]): OutlineLine[] {
  const lines = new Map<string, { filled: number; samples: Set<string>; repeated: boolean }>();
  for (const { cells } of records)
    for (const [path, cell] of Object.entries(cells)) {
      if (cell.trim() === '') {
        if (!lines.has(path)) lines.set(path, { filled: 0, samples: new Set(), repeated: false });
        continue;
      }
      const line = lines.get(path) ?? { filled: 0, samples: new Set<string>(), repeated: false };
      line.filled++;
      if (line.samples.size < 3) line.samples.add(cell.slice(0, 80));
      if (cell.includes(listSeparator)) line.repeated = true;
      lines.set(path, line);
    }
  return [...lines].map(([path, { filled, samples, repeated }]) => ({
    path,
    filled,
    samples: [...samples],
    repeated,
  }));
}

/**
 * One entry of a list as rows: one for each of its variants, or one where it has none.
 * @param fallback the group's code where the entry has none of its own
 */
export function recordsOf(entry: Branch, variants: string, fallback: string): SourceRecord[] {
  const names = variants === '' ? [] : variants.split('/');
  const own = emptyRecord<string>();
  flatten(entry, '', own, names[0]);
  if (names.length === 0 || entriesAt(entry, variants).length === 0) {
    const complete = emptyRecord<string>();
    flatten(entry, '', complete, undefined);
    return [{ cells: complete, group: undefined }];
  }
  const list = /([^/]*)-\d+$/.exec(fallback)?.[1] ?? '';
  if (isSection(list, names.at(-1) ?? '', own, entriesAt(entry, variants))) {
    const above = emptyRecord<string>();
    for (const [key, value] of Object.entries(own)) above[join(list, key)] = value;
    return leavesOf(entry, names, 0, above).map((cells) => ({
      cells: withPath(cells, join(list, calledBy(entry)?.[0] ?? ''), names),
      group: undefined,
    }));
  }
  const group = Object.entries(own).find(([key]) => identifies(key))?.[1] ?? fallback;
  const options = optionsOf(entry);
  return leavesOf(entry, names, 0, own).map((cells) => ({ cells: named(cells, variants, options), group }));
}

/** Names that a group gives its variants' options, which those have by number only: "option1" is the first of "options". */
interface Options {
  readonly key: string;
  readonly names: readonly string[];
}

/** What an option holds beside its name. */
const besideOption =
  /^@?(values?|options?|werte?|valeurs?|valor(es)?|valor[ei]|waarden?|warto[sś]ci?|v[aä]rden?|position|pos|id|\w+_id)$/i;

function optionsOf(entry: Branch): Options[] {
  return Object.entries(entry).flatMap(([key, list]): Options[] => {
    const alone = (one: Tree) =>
      isBranch(one) && Object.keys(one).every((name) => naming.test(name) || besideOption.test(name));
    if (!Array.isArray(list) || !list.every(alone)) return [];
    const names = list.map((one) => (isBranch(one) ? entryOf(one, naming)?.[1].trim() : undefined) ?? '');
    return names.every((name) => name !== '' && name.length <= MAX_NAME)
      ? [{ key: key.toLowerCase(), names }]
      : [];
  });
}

/** The name of an option by its number; undefined where a column is none. */
function optionNamed(column: string, options: readonly Options[]): string | undefined {
  const [, stem = '', number] = /^(\p{L}{3,})[ _-]?(\d{1,2})$/u.exec(column.toLowerCase()) ?? [];
  // One of several: "options" without its ending.
  const found = options.find(
    ({ key }) => stem !== '' && key.startsWith(stem) && key.length - stem.length <= 2,
  );
  return found?.names[Number(number) - 1];
}

/** Cells with the options of a variant under the names that its group gives them. */
function named(
  cells: Record<string, string>,
  variants: string,
  options: readonly Options[],
): Record<string, string> {
  if (options.length === 0) return cells;
  const result = emptyRecord<string>();
  for (const [column, cell] of Object.entries(cells)) {
    const last = column.startsWith(`${variants}/`) ? column.slice(variants.length + 1) : '';
    const found = optionNamed(last, options);
    if (found === undefined) result[column] ??= cell;
    else if (!noOption.test(found)) result[join(variants, found.replaceAll('/', '∕'))] = cell;
  }
  return result;
}

/** The innermost variants below a branch, each with what stands on the way down to it. */
function leavesOf(
  node: Branch,
  names: readonly string[],
  depth: number,
  above: Readonly<Record<string, string>>,
): Record<string, string>[] {
  const inner = node[names[depth] ?? ''];
  const entries = (Array.isArray(inner) ? inner : [inner]).filter(
    (one) => one !== undefined && isBranch(one),
  );
  if (entries.length === 0) return [{ ...above }];
  const path = names.slice(0, depth + 1).join('/');
  return entries.flatMap((entry) => {
    const cells = Object.assign(emptyRecord<string>(), above);
    const below = depth + 1 < names.length ? join(path, names[depth + 1] ?? '') : undefined;
    flatten(entry, path, cells, below);
    return depth + 1 < names.length ? leavesOf(entry as Branch, names, depth + 1, cells) : [cells];
  });
}
