import { SaxesParser } from 'saxes';
import { listSeparator } from '../formats/catalogCsv';
import { InputError } from '../formats/inputError';

/** One row of a source of any shape: values by path ("offer/price"), and the group its nesting puts it in. */
export interface SourceRecord {
  readonly cells: Readonly<Record<string, string>>;
  readonly group: string | undefined;
}

export interface SourceRecords {
  readonly columns: readonly string[];
  readonly records: readonly SourceRecord[];
  /** Where the records were found: a list's path in JSON, an element's path in XML. */
  readonly list: string;
  /** The nested list that holds variants, where there is one. */
  readonly nested: string | undefined;
}

type Tree = string | { [name: string]: Tree } | Tree[];

/** Deeper files are refused: no supplier nests like this, only an attack does. */
const mostDepth = 64;

const isObject = (tree: Tree | undefined): tree is { [name: string]: Tree } =>
  typeof tree === 'object' && !Array.isArray(tree);
const tooDeep = () =>
  new InputError(
    `The file is nested more than ${mostDepth} levels deep. Nothing was changed. Ask its sender for a flat export.`,
  );

/** A parsed JSON value with every scalar as text; null and empty texts fall out. */
function treeOfJson(value: unknown, depth = 0): Tree | undefined {
  if (depth > mostDepth) throw tooDeep();
  if (value === null || value === undefined || value === '') return undefined;
  if (Array.isArray(value)) return value.flatMap((entry) => treeOfJson(entry, depth + 1) ?? []);
  if (typeof value === 'object') {
    const entries = Object.entries(value).flatMap(([name, inner]) => {
      const tree = treeOfJson(inner, depth + 1);
      return tree === undefined ? [] : [[name, tree] as const];
    });
    return Object.fromEntries(entries);
  }
  return String(value);
}

/** Nesting is counted before the file is parsed, so that no parser has to go down that far. */
function refuseDepth(text: string): void {
  let depth = 0;
  let quoted = false;
  for (let i = 0; i < text.length; i++) {
    const sign = text.charCodeAt(i);
    if (quoted) {
      if (sign === 92) i++;
      else if (sign === 34) quoted = false;
    } else if (sign === 34) quoted = true;
    else if (sign === 123 || sign === 91) {
      if (++depth > mostDepth) throw tooDeep();
    } else if (sign === 125 || sign === 93) depth--;
  }
}

/** JSON, NDJSON and schema.org JSON-LD: finds the list of records, or takes the one at `list`. */
export function readJsonRecords(text: string, list?: string): SourceRecords {
  refuseDepth(text);
  let tree: Tree | undefined;
  try {
    tree = treeOfJson(JSON.parse(text));
  } catch (error) {
    if (error instanceof InputError) throw error;
    tree = ndjson(text);
  }
  const found = findList(tree ?? [], list);
  return recordsOf(found.entries, found.path);
}

function ndjson(text: string): Tree[] {
  return text.split('\n').flatMap((line, i) => {
    if (line.trim() === '') return [];
    try {
      return treeOfJson(JSON.parse(line)) ?? [];
    } catch (error) {
      throw new InputError(
        `Line ${i + 1} is not JSON: ${error instanceof Error ? error.message : error}. Nothing was changed.`,
      );
    }
  });
}

/** XML of any shape: finds the repeating element, or takes the one at `list`. No entities beyond XML's own five are read. */
export function readXmlRecords(text: string, list?: string): SourceRecords {
  const parser = new SaxesParser();
  const root: { [name: string]: Tree } = {};
  const stack: { name: string; node: { [name: string]: Tree }; text: string }[] = [
    { name: '', node: root, text: '' },
  ];
  parser.on('error', (error) => {
    throw new InputError(`The file is not well-formed XML: ${error.message}. Nothing was changed.`);
  });
  parser.on('doctype', (doctype) => {
    if (/<!ENTITY/i.test(doctype))
      throw new InputError(
        'The file defines entities of its own, which are not read: they can blow a file up or reach other files. Nothing was changed.',
      );
  });
  parser.on('opentag', ({ name, attributes }) => {
    if (stack.length > mostDepth) throw tooDeep();
    const node: { [name: string]: Tree } = {};
    for (const [key, value] of Object.entries(attributes)) if (value !== '') node[`@${key}`] = value;
    stack.push({ name, node, text: '' });
  });
  const addText = (data: string) => {
    const top = stack.at(-1);
    if (top) top.text += data;
  };
  parser.on('text', addText);
  parser.on('cdata', addText);
  parser.on('closetag', () => {
    const done = stack.pop();
    const parent = stack.at(-1);
    if (!done || !parent) return;
    const words = done.text.trim();
    const empty = Object.keys(done.node).length === 0;
    if (words !== '' && !empty) done.node['#text'] = words;
    const value: Tree = empty ? words : done.node;
    if (value === '') return;
    const known = parent.node[done.name];
    if (known === undefined) parent.node[done.name] = value;
    else if (Array.isArray(known)) known.push(value);
    else parent.node[done.name] = [known, value];
  });
  parser.write(text).close();
  const found = findList(root, list);
  return recordsOf(found.entries, found.path);
}

/** The list with the most records; of equal ones the one nearer to the root. A single record counts as a list of one. */
function findList(tree: Tree, wanted: string | undefined): { path: string; entries: Tree[] } {
  const lists: { path: string; entries: Tree[] }[] = [];
  const walk = (node: Tree, path: string) => {
    if (Array.isArray(node)) {
      if (node.some(isObject)) lists.push({ path, entries: node.filter(isObject) });
      return;
    }
    if (isObject(node))
      for (const [name, inner] of Object.entries(node)) walk(inner, path === '' ? name : `${path}/${name}`);
  };
  walk(tree, '');
  const chosen =
    wanted === undefined
      ? [...lists].sort((a, b) => b.entries.length - a.entries.length || a.path.length - b.path.length)[0]
      : lists.find(({ path }) => path === wanted);
  if (chosen) return chosen;
  if (wanted !== undefined)
    throw new InputError(
      `There is no list at “${wanted}”; there are ${lists.map(({ path }) => `“${path}”`).join(', ') || 'none'}.`,
    );
  if (isObject(tree) && Object.keys(tree).length > 0) return { path: '', entries: [tree] };
  throw new InputError('The file holds no list of records. Nothing was changed.');
}

const identifying = /(^|[@/_-])(sku|code|id|ean|gtin\d*|mpn|number|nr|artnr|article)$/i;

/** The key under which most records hold a list of things with codes of their own: their variants. */
function nestedKey(entries: readonly Tree[]): string | undefined {
  const counts = new Map<string, number>();
  const look = (node: Tree, path: string, depth: number) => {
    if (!isObject(node) || depth > 3) return;
    for (const [name, inner] of Object.entries(node)) {
      const here = path === '' ? name : `${path}/${name}`;
      const list = Array.isArray(inner) ? inner : [inner];
      const coded = list.filter(
        (entry) => isObject(entry) && Object.keys(entry).some((key) => identifying.test(key)),
      ).length;
      if (coded > 0 && (Array.isArray(inner) || counts.has(here)))
        counts.set(here, (counts.get(here) ?? 0) + coded);
      if (isObject(inner)) look(inner, here, depth + 1);
    }
  };
  // Twice, so that a record with a single variant counts once another has shown that the key repeats.
  for (let pass = 0; pass < 2; pass++) for (const entry of entries) look(entry, '', 0);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
}

const at = (node: Tree, path: string): Tree | undefined =>
  path
    .split('/')
    .reduce<Tree | undefined>((inner, name) => (isObject(inner) ? inner[name] : undefined), node);

function recordsOf(entries: readonly Tree[], list: string): SourceRecords {
  const nested = nestedKey(entries);
  const columns = new Set<string>();
  const records: SourceRecord[] = [];
  entries.forEach((entry, i) => {
    const own: Record<string, string> = {};
    flatten(entry, '', own, nested);
    const inner = nested === undefined ? undefined : at(entry, nested);
    const variants = inner === undefined ? [] : Array.isArray(inner) ? inner : [inner];
    const group =
      variants.length > 0
        ? (Object.entries(own).find(([key]) => identifying.test(key))?.[1] ?? `${list || 'record'}-${i + 1}`)
        : undefined;
    for (const variant of variants.length > 0 ? variants : [undefined]) {
      const cells = { ...own };
      if (variant !== undefined) flatten(variant, nested ?? '', cells, undefined);
      for (const column of Object.keys(cells)) columns.add(column);
      records.push({ cells, group });
    }
  });
  return { columns: [...columns], records, list, nested };
}

function flatten(node: Tree, path: string, into: Record<string, string>, skip: string | undefined): void {
  if (path !== '' && path === skip) return;
  if (typeof node === 'string') {
    const column = path.replace(/\/#text$/, '');
    into[column] = into[column] === undefined ? node : `${into[column]}${listSeparator}${node}`;
  } else if (Array.isArray(node)) for (const entry of node) flatten(entry, path, into, skip);
  else
    for (const [name, inner] of Object.entries(node))
      flatten(inner, path === '' ? name : `${path}/${name}`, into, skip);
}
