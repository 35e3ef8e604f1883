import { listSeparator } from '../../catalog/value';
import { readNumber } from '../../measures/numbers';
import { unitOf } from '../../measures/units';
import { MAX_NAME } from '../tables/nameValueColumns';
import {
  currencyKey,
  entriesOf,
  entryOf,
  holding,
  join,
  languageKey,
  naming,
  orderKey,
  textOf,
  typeKey,
  unitKey,
} from './keys';
import type { Branch, Tree } from './tree';

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

/** Names and values that follow each other under two names: `<key>sku</key><val>A-1</val><key>title</key><val>Pot</val>`. */
function pairsOf(node: Branch): [string, string][] | undefined {
  const [one, other, ...more] = Object.entries(node);
  if (!one || !other || more.length > 0 || !naming.test(one[0]) || !holding.test(other[0])) return undefined;
  const [names, values] = [one[1], other[1]];
  if (!Array.isArray(names) || !Array.isArray(values) || names.length !== values.length) return undefined;
  const texts = names.map((name) => (textOf(name) ?? '').trim().replaceAll('/', '∕'));
  if (texts.some((name) => name === '' || name.length > MAX_NAME) || new Set(texts).size < texts.length)
    return undefined;
  if (values.some((value) => textOf(value) === undefined)) return undefined;
  return texts.map((name, at) => [name, textOf(values[at]) ?? '']);
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
export function flatten(
  node: Tree,
  path: string,
  into: Record<string, string>,
  skip: string | undefined,
): void {
  if (path !== '' && path === skip) return;
  const put = (column: string, text: string) => {
    into[column] = into[column] === undefined ? text : `${into[column]}${listSeparator}${text}`;
  };
  if (typeof node === 'string') put(path.replace(/\/#text$/, ''), node);
  else if (Array.isArray(node)) for (const entry of node) flatten(entry, path, into, skip);
  else {
    const pairs = pairsOf(node);
    if (pairs) {
      for (const [name, value] of pairs) put(join(path, name), value);
      return;
    }
    const stated = path === '' ? undefined : statedBy(node);
    const kind = stated || path === '' ? undefined : kindOf(node);
    const unit = stated || kind !== undefined || path === '' ? undefined : unitAbove(node);
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
    else if (unit)
      for (const [name, inner] of Object.entries(node)) {
        if (name !== unit[0]) put(join(path, name), `${(inner as string).trim()} ${unit[1]}`);
      }
    else
      for (const [name, inner] of Object.entries(node))
        if ((!typeKey.test(name) || name === '@id') && !(name === 'type' && isResource(node)))
          flatten(inner, join(path, name), into, skip);
  }
}
