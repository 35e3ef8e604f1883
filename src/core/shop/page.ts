import { Parser } from 'htmlparser2';
import { currencyOf } from '../measures/currencies';
import { readAmount } from '../measures/money';

/** What a page of the shop says of one product, in the terms of schema.org. */
export interface PageProduct {
  readonly name?: string;
  readonly sku?: string;
  /** Digits alone. */
  readonly gtin?: string;
  /** A plain decimal with a point. */
  readonly price?: string;
  /** ISO 4217. */
  readonly currency?: string;
  /** A member of schema.org's `ItemAvailability`, without its address: `InStock`. */
  readonly availability?: string;
  /** A member of schema.org's `OfferItemCondition`, without its address: `NewCondition`. */
  readonly condition?: string;
}

/** What came of a visit: product data, a page without any, none (404, 410), one that moved for good, one that may not be visited. */
export type PageState = 'read' | 'silent' | 'gone' | 'moved' | 'forbidden';

/** A page of the shop as it was seen last. */
export interface PageFacts {
  readonly state: PageState;
  /** Where it leads, where it moved. */
  readonly words?: string;
  readonly products: readonly PageProduct[];
}

/** Further products of one page are not kept. */
const MAX_PRODUCTS = 300;
/** Data that is nested deeper is no product data. */
const MAX_DEPTH = 12;
const MAX_TEXT_LENGTH = 200;

type Found = { -readonly [K in keyof PageProduct]: PageProduct[K] };
type Node = Readonly<Record<string, unknown>>;

const isNode = (value: unknown): value is Node =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

const textOf = (value: unknown): string | undefined => {
  const one = Array.isArray(value) ? value[0] : value;
  if (typeof one === 'number' && Number.isFinite(one)) return String(one);
  if (isNode(one)) return textOf(one['@value'] ?? one['@id'] ?? one.name);
  const text = typeof one === 'string' ? one.trim() : '';
  return text === '' ? undefined : text.slice(0, MAX_TEXT_LENGTH);
};

/** The last part of a term's address: `https://schema.org/InStock` and `schema:InStock` are `InStock`. */
const termOf = (value: unknown): string | undefined =>
  textOf(value)
    ?.split(/[/#:]/)
    .findLast((part) => part !== '');

const listOf = (value: unknown): readonly unknown[] =>
  value === undefined || value === null ? [] : Array.isArray(value) ? value : [value];

const typesOf = (node: Node): string[] => listOf(node['@type']).flatMap((type) => termOf(type) ?? []);

const isProduct = (node: Node): boolean =>
  typesOf(node).some((type) =>
    /^(Product|ProductModel|IndividualProduct|SomeProducts|Vehicle|Book)$/.test(type),
  );

const digitsOf = (value: unknown): string | undefined => {
  const digits = textOf(value)?.replace(/[\s-]/g, '');
  return digits && /^\d{8,14}$/.test(digits) ? digits : undefined;
};

/** An amount as pages write it, which is not always as schema.org asks: "1.234,50 €" is 1234.50. */
function amountOf(value: unknown): { price: string; currency: string | undefined } | undefined {
  const text = textOf(value);
  if (text === undefined) return undefined;
  // schema.org: a point, and no signs for thousands; what ends in a comma and two digits is written otherwise.
  const sign = /,\d{1,2}\D*$/.test(text) ? ',' : '.';
  const amount = readAmount(text, undefined, sign);
  return amount && { price: amount.amount, currency: amount.currency };
}

/** What offers say: the first price that stands there, of several the lowest that is said to be one. */
function offerOf(offers: unknown, depth = 0): Found {
  const found: Found = {};
  for (const offer of listOf(offers)) {
    if (!isNode(offer) || depth > MAX_DEPTH) continue;
    const specified = listOf(offer.priceSpecification).filter(isNode);
    // A list price that is struck through is no price.
    const usual = specified.find(
      (one) => !/ListPrice|StrikethroughPrice|MSRP/i.test(termOf(one.priceType) ?? ''),
    );
    const amount = amountOf(offer.price ?? offer.lowPrice ?? usual?.price);
    const currency = textOf(offer.priceCurrency ?? usual?.priceCurrency);
    const set = amount?.currency ?? (currency === undefined ? undefined : currencyOf(currency));
    if (amount && found.price === undefined) {
      found.price = amount.price;
      if (set) found.currency = set;
    }
    found.availability ??= termOf(offer.availability);
    found.condition ??= termOf(offer.itemCondition);
    if (found.price === undefined && offer.offers !== undefined)
      Object.assign(found, { ...offerOf(offer.offers, depth + 1), ...present(found) });
  }
  return present(found);
}

const present = (found: Found): Found =>
  Object.fromEntries(Object.entries(found).filter(([, value]) => value !== undefined)) as Found;

function productOf(node: Node): Found {
  const gtin = ['gtin', 'gtin13', 'gtin14', 'gtin12', 'gtin8', 'isbn'].flatMap(
    (name) => digitsOf(node[name]) ?? [],
  )[0];
  const condition = termOf(node.itemCondition);
  return present({
    name: textOf(node.name),
    sku: textOf(node.sku),
    gtin,
    ...(condition ? { condition } : {}),
    ...offerOf(node.offers),
  });
}

/** The products in data of schema.org, wherever in it they stand; the variants of a group stand for the group. */
function productsIn(data: unknown, into: Found[], depth = 0): void {
  if (depth > MAX_DEPTH || into.length >= MAX_PRODUCTS) return;
  if (Array.isArray(data)) {
    for (const one of data) productsIn(one, into, depth + 1);
    return;
  }
  if (!isNode(data)) return;
  const variants = listOf(data.hasVariant).filter(isNode);
  if (variants.length > 0) {
    // What a variant does not say itself, its group says.
    const shared = offerOf(data.offers);
    for (const variant of variants)
      if (into.length < MAX_PRODUCTS) into.push({ ...shared, ...productOf(variant) });
    return;
  }
  if (isProduct(data)) {
    // Offers with codes of their own are of variants.
    const offers = listOf(data.offers).filter(isNode);
    const own = offers.filter(
      (offer) => textOf(offer.sku) !== undefined || digitsOf(offer.gtin13 ?? offer.gtin),
    );
    if (offers.length > 1 && own.length === offers.length)
      for (const offer of own.slice(0, MAX_PRODUCTS - into.length))
        into.push(
          present({
            ...productOf({ ...data, ...offer, '@type': 'Product', offers: offer }),
            name: textOf(data.name),
          }),
        );
    else into.push(productOf(data));
    return;
  }
  for (const name of ['@graph', 'mainEntity', 'itemListElement', 'item', 'about'])
    productsIn(data[name], into, depth + 1);
}

/** Text that stands between comment or CDATA marks, as some pages write scripts. */
const bare = (text: string): string =>
  text.replace(/^\s*(?:\/\/\s*)?(?:<!--|<!\[CDATA\[)/, '').replace(/(?:\/\/\s*)?(?:-->|\]\]>)\s*$/, '');

/** Names of the Open Graph protocol and its `product` type, and what they say. */
const openGraph: Readonly<Record<string, keyof PageProduct>> = {
  'og:title': 'name',
  'product:price:amount': 'price',
  'og:price:amount': 'price',
  'product:price:currency': 'currency',
  'og:price:currency': 'currency',
  'product:availability': 'availability',
  'og:availability': 'availability',
  'product:condition': 'condition',
  'product:retailer_item_id': 'sku',
  'product:ean': 'gtin',
  'product:gtin': 'gtin',
};
/** The words in which Open Graph says what schema.org has terms for. */
const graphTerms: Readonly<Record<string, string>> = {
  instock: 'InStock',
  availablefororder: 'InStock',
  outofstock: 'OutOfStock',
  oos: 'OutOfStock',
  preorder: 'PreOrder',
  backorder: 'BackOrder',
  discontinued: 'Discontinued',
  new: 'NewCondition',
  used: 'UsedCondition',
  refurbished: 'RefurbishedCondition',
};

/** One `itemscope` of microdata while it is open. */
interface Scope {
  readonly node: Record<string, unknown>;
  readonly depth: number;
}

/** Elements that never have an end. */
const voidElements = new Set('area base br col embed hr img input link meta source track wbr'.split(' '));

/**
 * Reads what a page of a shop says of its products: JSON-LD and microdata of schema.org, and, where those say nothing, Open
 * Graph. Whatever cannot be read is passed over.
 * @param html the page, or its beginning
 */
export function readPage(html: string): PageProduct[] {
  const scripts: string[] = [];
  let script: string | undefined;
  const graph: Found = {};
  const tops: Record<string, unknown>[] = [];
  const scopes: Scope[] = [];
  /** Microdata whose value is the text of the element that is open. */
  let reported: { readonly name: string; readonly depth: number; text: string } | undefined;
  let depth = 0;
  const say = (name: string, value: unknown) => {
    const node = scopes.at(-1)?.node;
    if (!node) return;
    for (const one of name.split(/\s+/).filter((word) => word !== ''))
      if (!Object.hasOwn(node, one)) node[one] = value;
      else if (one === 'offers' || one === 'hasVariant') node[one] = [...listOf(node[one]), value];
  };
  const meta = (name: string, content: string) => {
    const key = Object.hasOwn(openGraph, name) ? openGraph[name] : undefined;
    const text = content.trim().slice(0, MAX_TEXT_LENGTH);
    if (key === undefined || text === '' || graph[key] !== undefined) return;
    if (key === 'price') {
      const amount = amountOf(text);
      if (amount) graph.price = amount.price;
      if (amount?.currency) graph.currency ??= amount.currency;
    } else if (key === 'availability' || key === 'condition') {
      const word = (termOf(text) ?? '').toLowerCase().replace(/[^a-z]/g, '');
      graph[key] = graphTerms[word] ?? termOf(text);
    } else if (key === 'currency') graph.currency = currencyOf(text);
    else if (key === 'gtin') graph.gtin = digitsOf(text);
    else graph[key] = text;
  };
  const parser = new Parser({
    onopentag(tag, attributes) {
      depth++;
      if (tag === 'script' && /^\s*application\/ld\+json/i.test(attributes.type ?? '')) script = '';
      if (tag === 'meta')
        meta((attributes.property ?? attributes.name ?? '').toLowerCase(), attributes.content ?? '');
      const { itemprop } = attributes;
      if (attributes.itemscope !== undefined) {
        const node: Record<string, unknown> = { '@type': (attributes.itemtype ?? '').split(/\s+/) };
        if (itemprop !== undefined) say(itemprop, node);
        else if (tops.length < MAX_PRODUCTS) tops.push(node);
        if (!voidElements.has(tag)) scopes.push({ node, depth });
      } else if (itemprop !== undefined) {
        const given = attributes.content ?? attributes.href ?? attributes.value ?? attributes.datetime;
        if (given !== undefined) say(itemprop, given);
        else if (!voidElements.has(tag) && reported === undefined)
          reported = { name: itemprop, depth, text: '' };
      }
    },
    ontext(text) {
      if (script !== undefined) script += text;
      else if (reported && reported.text.length < MAX_TEXT_LENGTH) reported.text += text;
    },
    onclosetag(tag) {
      if (tag === 'script' && script !== undefined) {
        scripts.push(script);
        script = undefined;
      }
      if (reported?.depth === depth) {
        say(reported.name, reported.text);
        reported = undefined;
      }
      while ((scopes.at(-1)?.depth ?? 0) >= depth && scopes.length > 0) scopes.pop();
      depth--;
    },
  });
  parser.end(html);
  const found: Found[] = [];
  for (const text of scripts)
    try {
      productsIn(JSON.parse(bare(text)), found);
    } catch {
      // A page whose data is broken says as much as one without.
    }
  if (found.length === 0) productsIn(tops, found);
  const graphed = present(graph);
  // Open Graph speaks of the page, which is that of one product.
  if (found.length === 1) return [{ ...graphed, ...found[0] }];
  if (found.length > 1) return found;
  return graphed.price !== undefined || graphed.availability !== undefined ? [graphed] : [];
}

/** What a visit saw, in a form that is the same wherever it saw the same. */
export const pageText = ({ state, words, products }: PageFacts): string =>
  JSON.stringify([state, words ?? '', products.map((one) => Object.entries(one).sort())]);

/** A term of schema.org as words: `InStock` is "in stock". */
export const termWords = (term: string): string => term.replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2').toLowerCase();
