import { emptyRecord, listSeparator } from '../../catalog/value';
import { InputError } from '../../errors/inputError';
import { readNumber } from '../../measures/numbers';
import { unitOf } from '../../measures/units';
import { MAX_NAME, noOption } from './nameValueColumns';
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

const join = (path: string, name: string): string => (path === '' ? name : `${path}/${name}`);

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

/** Whether a name says that its value tells one thing from another: "sku", "@code", "productGroupID". */
const identifies = (name: string): boolean =>
  !ofKinds.test(name) &&
  (/(^|[@/_-])(sku|code|id|ean|gtin\d*|mpn|number|nr|artnr|article)$/i.test(name) ||
    /[a-z](ID|Id|Code|Number|Sku)$/.test(name));
/** Codes that many things share: of languages, countries, currencies and units. */
const ofKinds = /(lang(uage)?|locale|currency|country|region|market|unit|uom|tax)[_-]?(code|id|number)$/i;

/** Whether a name is one that a thing is sold by. */
const sells = (name: string): boolean =>
  /(^|[@/_-])(sku|ean|gtin\d*|barcode|upc|artnr|article(number)?|artikel(nummer|nr)?)$/i.test(name) ||
  /[a-z]Sku$/.test(name);

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

/** What gathers things of many kinds is called, perhaps with another word before it: “productGroup”, “categories”. */
const sections =
  /(^|[a-z_@-])(groups?|categor(?:y|ies)|sections?|departments?|ranges?|gruppen?|kategorien?|warengruppen?|abteilung(?:en)?|rubrik(?:en)?|sortimente?|groupes?|cat[eé]gories?|rayons?|familles?|grupos?|categor[ií]as?|secci[oó]n(?:es)?|grupp[oi]|reparti?o?|groep(?:en)?|categorie[eë]n|grup[ay]|kategori[aeiy]|dzia[lł]y?|sec[cç][aãoõ]+(?:es)?|grupp(?:er)?|kategorier?|avdelning(?:ar)?|varegrupper?|afdeling(?:er)?|avdeling(?:er)?|ryhm[aä]t?|osastot?|skupin[ay]|csoport(?:ok)?|kateg[oó]ri[aá]k?|categorii|ομ[αά]δ(?:α|ες)|κατηγορ[ιί](?:α|ες)|gruplar|kategoriler)$/iu;
/** What a list of things that are sold is called, where another list holds it. */
const itemLists =
  /^(products?|items?|articles?|goods|skus|artikel|produkte?|waren|produits?|productos?|art[ií]culos?|prodott[oi]|articol[oi]|producten|produkty|produtos?|artigos?|produkter|varer?|varor|tuotteet|tuote|zbo[zž][ií]|term[eé]k(?:ek)?|cikk(?:ek)?|produse|προϊ[οό]ντα|[uü]r[uü]nler)$/iu;
/** What things are called by: their names and titles. */
const calledBy = (node: Branch): [string, string] | undefined =>
  entryOf(node, naming) ?? entryOf(node, titling);
const titling = /^@?(title|titel|titre|t[ií]tulo|titolo|tytu[lł]|heading|text)$/i;
const MAX_SECTION = 3;

/**
 * Whether an entry is no thing with variants but the heading above several things: it is called so, or holds what items are called,
 * says hardly more than its name, and not all of what stands below it is called by that.
 */
function isSection(
  list: string,
  inner: string,
  own: Readonly<Record<string, string>>,
  below: readonly Branch[],
): boolean {
  const values = Object.entries(own);
  const gathers = sections.test(list) || (itemLists.test(inner) && !itemLists.test(list));
  if (!gathers || values.length === 0 || values.length > MAX_SECTION) return false;
  const name = (values.find(([key]) => naming.test(key)) ?? values.find(([key]) => titling.test(key)))?.[1]
    .trim()
    .toLowerCase();
  const theirs = below.map((one) => calledBy(one)?.[1].trim().toLowerCase());
  return (
    name !== undefined &&
    theirs.every((one) => one !== undefined && one !== '') &&
    !theirs.every((one) => one?.includes(name))
  );
}

/** Cells with the names of all headings above them as one path, “Tents > Two-person”, under the uppermost one's column. */
function withPath(
  cells: Record<string, string>,
  column: string,
  names: readonly string[],
): Record<string, string> {
  const path = [cells[column] ?? ''];
  for (let depth = 1; depth < names.length; depth++) {
    const below = `${names.slice(0, depth).join('/')}/`;
    const key = Object.keys(cells).find((one) => {
      const last = one.startsWith(below) ? one.slice(below.length) : '';
      return naming.test(last) || titling.test(last);
    });
    if (key === undefined) continue;
    path.push(cells[key] ?? '');
    delete cells[key];
  }
  cells[column] = path.filter((one) => one !== '').join(' > ');
  return cells;
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

/** Keys that name what another key of the same branch holds, and keys that hold it, in the words of several languages. */
const naming =
  /^@?(name|key|label|attribute|attributename|property|propertyname|propertyid|bezeichnung|merkmal|nom|nombre|nome|naam|nazwa|namn|n|k|dt|term|navn|egenskab|egenskap|nimi|ominaisuus|n[aá]zev|vlastnost|n[eé]v|jellemz[oő]|denumire|nume|όνομα|ονομα|ad[ıi]?|isim|[oö]zellik)$/iu;
const holding =
  /^(@|#)?(value|text|val|content|wert|valeur|valor|valore|waarde|warto[sś][cć]|v[aä]rde|v|dd|v[aæä]rdi|verdi|arvo|hodnota|[eé]rt[eé]k|valoare|τιμ[ηή]|de[gğ]er|amount|betrag|montant|importe|importo|bedrag|kwota|belopp)$/iu;
const unitKey =
  /^@?(unit|units|unitcode|unittext|uom|einheit|unit[eé]|unidad|unit[aà]|eenheid|jednostka|unidade|enhet)$/i;
const currencyKey =
  /^@?(currency|currencycode|pricecurrency|w[aä]e?hrung|devise|moneda|divisa|valuta|waluta|moeda)$/i;
const typeKey = /^@(type|context|id)$/i;
const languageKey =
  /^@?(xml:lang|lang|language|languagecode|language_code|locale|sprache|langue|idioma|lingua|taal|j[eę]zyk|spr[aå]k)$/i;

/** Where a thing stands among others like it: nothing of what it is. */
const orderKey = /^@?(?:[a-z]+[_-]|sort|display|list)?(?:order|position|pos|sort|sequence|rank|index)$/i;

/** The beginning that all names of a branch share, as in FNAME, FVALUE, FUNIT; empty where that leaves nothing of one. */
function prefixOf(names: readonly string[]): string {
  const [first = '', ...others] = names;
  // What is read here is bounded, however long somebody's names are.
  if (names.some((name) => name.length > MAX_NAME)) return '';
  let shared = others.length === 0 ? '' : first;
  for (const name of others)
    while (!name.toLowerCase().startsWith(shared.toLowerCase())) shared = shared.slice(0, -1);
  return names.some((name) => name.length === shared.length) ? '' : shared;
}

const textOf = (tree: Tree | undefined): string | undefined => (typeof tree === 'string' ? tree : undefined);
const entryOf = (node: Branch, keys: RegExp): [string, string] | undefined => {
  for (const [name, inner] of Object.entries(node))
    if (keys.test(name) && textOf(inner) !== undefined) return [name, inner as string];
  return undefined;
};
/** The same where it may be several texts, as one. */
const entriesOf = (node: Branch, keys: RegExp): [string, string] | undefined => {
  for (const [name, inner] of Object.entries(node)) {
    const texts = (Array.isArray(inner) ? inner : [inner]).map(textOf);
    if (keys.test(name) && texts.every((text) => text !== undefined))
      return [name, texts.join(listSeparator)];
  }
  return undefined;
};

/** What a branch with nothing but a value, its unit, its name and its language says; undefined where it says more. */
function statedBy(written: Branch): Stated | undefined {
  const plain = statedPlainly(written) ?? typedBy(written);
  if (plain) return plain;
  const prefix = prefixOf(Object.keys(written));
  if (prefix === '') return undefined;
  const stated = statedPlainly(
    Object.fromEntries(Object.entries(written).map(([name, inner]) => [name.slice(prefix.length), inner])),
  );
  // Without its beginning a name may be about anything: only what names its value says it for certain.
  return stated?.name === undefined ? undefined : stated;
}

interface Stated {
  readonly name: string | undefined;
  readonly language: string | undefined;
  readonly value: string;
}

/** A name that says of what type what stands beside it is: "MeasureType", "id_type"; a type alone may be of anything. The type is a code. */
const typeOfIt = /^\w+Type$|^\w+_type$/;
const typeCode = /^[A-Z\d_-]{1,20}$/;
const unitOfIt = /^\w*unit(_?code|_?text)?$/i;

/** What a branch says that holds one value with its type, and perhaps its unit: `<Measure><MeasureType>01<Measurement>234<…Unit>mm`. */
function typedBy(node: Branch): Stated | undefined {
  const [key, type = ''] = entryOf(node, typeOfIt) ?? [];
  if (key === undefined || !typeCode.test(type.trim())) return undefined;
  const unit = entryOf(node, unitOfIt);
  const rest = Object.entries(node).filter(
    ([name]) => name !== key && name !== unit?.[0] && !orderKey.test(name),
  );
  const [value] = rest;
  if (rest.length !== 1 || value === undefined || textOf(value[1]) === undefined) return undefined;
  const text = (value[1] as string).trim();
  return {
    name: type.trim().replaceAll('/', '∕'),
    language: undefined,
    value: unit && text !== '' ? `${text} ${unit[1].trim()}` : text,
  };
}

function statedPlainly(node: Branch): Stated | undefined {
  const value = entriesOf(node, holding);
  if (!value) return undefined;
  // In XML a mark of kind names the value of its element; in JSON-LD it names a type.
  const name = entryOf(node, naming) ?? (value[0] === '#text' ? entryOf(node, kindKey) : undefined);
  // The currency of a price that has no name of its own stays a column beside it.
  const unit = entryOf(node, unitKey) ?? (name ? entryOf(node, currencyKey) : undefined);
  const language = entryOf(node, languageKey);
  const known = new Set([value[0], name?.[0], unit?.[0], language?.[0]]);
  if (!name && !unit && !language) return undefined;
  if (Object.keys(node).some((key) => !known.has(key) && !typeKey.test(key) && !orderKey.test(key)))
    return undefined;
  if (name && (name[1].trim() === '' || name[1].length > 60)) return undefined;
  const text = unit && value[1].trim() !== '' ? `${value[1].trim()} ${unit[1].trim()}` : value[1];
  return {
    name: name?.[1].trim().replaceAll('/', '∕'),
    language: language?.[1].trim().toLowerCase().replaceAll('_', '-'),
    value: text,
  };
}

/** The unit that a branch names for all numbers it holds: `<size unit="mm"><width>220</width>…`; undefined where it holds others. */
function unitAbove(node: Branch): [string, string] | undefined {
  const entry = entryOf(node, unitKey);
  const unit = entry && unitOf(entry[1]);
  if (!entry || unit === undefined) return undefined;
  const others = Object.entries(node).filter(([name]) => name !== entry[0]);
  const numbers = others.filter(([, inner]) => readNumber(textOf(inner) ?? '') !== undefined);
  return numbers.length > 1 && numbers.length === others.length ? [entry[0], unit] : undefined;
}

const kindKey = /^@(\w+[_-])?(type|kind|art|typ|tipo|soort|rodzaj|typ[eé])$/i;

/** An amount of money among what a branch says. */
const amountKey =
  /(^|[_-]|price|net|gross|tax)(amount|price|betrag|preis|montant|prix|importe|precio|importo|prezzo|bedrag|prijs|kwota|cena|valor|preço|belopp|pris)$/i;

/**
 * Of what kind an XML element says its text or its amount is, where it says more of it too: `<price type="net" unit="piece">`,
 * `<price price_type="net"><amount>`.
 */
function kindOf(node: Branch): string | undefined {
  if (Object.values(node).some((one) => textOf(one) === undefined)) return undefined;
  const [key, written = ''] = entryOf(node, kindKey) ?? entryOf(node, typeOfIt) ?? [];
  // "Offer" is a type of schema.org's, and says no kind of price.
  const ofText = textOf(node['#text']) !== undefined;
  if (!ofText && (!entryOf(node, amountKey) || (key === '@type' && /^\p{Lu}\p{Ll}/u.test(written))))
    return undefined;
  const kind = written.trim();
  return kind === '' || kind.length > 60 || kind.includes('/') ? undefined : kind;
}

/** Whether a branch is a resource, or names one, as JSON:API 1.1 writes it: its type is the name of a list, and no value. */
const isResource = (node: Branch): boolean =>
  'id' in node && Object.keys(node).every((name) => resourceKey.test(name));
const resourceKey = /^(type|id|lid|attributes|relationships|links|meta)$/;

/**
 * The values of a branch by their paths. A list of attributes, each with its name and value, becomes a column for each
 * name; a value with its unit is written as one; what differs by a mark of its language becomes a column for each language
 * ("title@de"); types of JSON-LD are no values.
 */
function flatten(node: Tree, path: string, into: Record<string, string>, skip: string | undefined): void {
  if (path !== '' && path === skip) return;
  const put = (column: string, text: string) => {
    into[column] = into[column] === undefined ? text : `${into[column]}${listSeparator}${text}`;
  };
  if (typeof node === 'string') put(path.replace(/\/#text$/, ''), node);
  else if (Array.isArray(node)) for (const entry of node) flatten(entry, path, into, skip);
  else {
    const stated = path === '' ? undefined : statedBy(node);
    const kind = stated || path === '' ? undefined : kindOf(node);
    if (stated)
      put(
        `${stated.name ? join(path, stated.name) : path}${stated.language ? `@${stated.language}` : ''}`,
        stated.value,
      );
    else if (kind !== undefined)
      for (const [name, inner] of Object.entries(node)) {
        if (kindKey.test(name) || typeOfIt.test(name)) continue;
        if (name === '#text') put(join(path, kind), inner as string);
        // Of an amount in a branch of its own the kind is a part of its name: “net_list PRICE_AMOUNT”.
        else
          put(
            node['#text'] === undefined ? join(path, `${kind} ${name}`) : join(join(path, kind), name),
            inner as string,
          );
      }
    else if (path !== '' && unitAbove(node) !== undefined) {
      const [key, unit] = unitAbove(node) as [string, string];
      for (const [name, inner] of Object.entries(node))
        if (name !== key) put(join(path, name), `${(inner as string).trim()} ${unit}`);
    } else
      for (const [name, inner] of Object.entries(node))
        if ((!typeKey.test(name) || name === '@id') && !(name === 'type' && isResource(node)))
          flatten(inner, join(path, name), into, skip);
  }
}
