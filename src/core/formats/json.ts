import type { ItemAvailability, Offer, Product, ProductGroup, PropertyValue } from 'schema-dts';
import { asList, asText, type Value } from '../catalog/value';
import type { Field, Sheet } from '../channels/sheet';
import { readYesNo } from '../locale/yesNo';
import {
  extraCells,
  extraNames,
  type FeedHead,
  type FeedRow,
  type FeedRows,
  nameIn,
  type TextFormat,
} from './format';

type Json = string | number | boolean | readonly Json[] | { readonly [key: string]: Json };

/** A value as JSON has it: lists as arrays, whole and plain decimal numbers as numbers where none of their digits is lost. */
function jsonOf(field: Field, value: Value): Json {
  if (field.values) return asList(value);
  const text = asText(value);
  if (field.kind === 'number' && String(Number(text)) === text) return Number(text);
  const stated = field.kind === 'yesNo' ? readYesNo(text) : undefined;
  return stated === undefined ? text : stated === 'true';
}

/** A listing as an object by the file's names; what is empty is left out. */
function objectOf(sheet: Sheet, name: (code: string) => string): (row: FeedRow) => Json {
  const extras = extraNames(sheet);
  const extra = extraCells(sheet);
  return (row) =>
    Object.fromEntries([
      ...sheet.fields.flatMap((field, at) => {
        const value = row.values[at];
        return value === undefined ? [] : [[name(field.code), jsonOf(field, value)] as const];
      }),
      ...extra(row).flatMap((one, at) => (one === '' ? [] : [[extras[at] ?? '', one] as const])),
    ]);
}

/** Objects as an array, one a line, with what stands around it. */
async function* array(
  before: string,
  rows: AsyncIterable<object | Json>,
  after: string,
): AsyncGenerator<string> {
  yield before;
  let first = true;
  for await (const row of rows) {
    yield `${first ? '' : ','}\n${JSON.stringify(row)}`;
    first = false;
  }
  yield `\n${after}`;
}

async function* mapped<T>(rows: FeedRows, of: (row: FeedRow) => T): AsyncGenerator<T> {
  for await (const row of rows) yield of(row);
}

/** JSON (RFC 8259): an array of listings, under a key of the sheet's where it names one. */
export const json: TextFormat = {
  code: 'json',
  mediaType: 'application/json',
  ending: 'json',
  write: (sheet, _head, rows) => {
    const { envelope } = sheet.delivery;
    const [before, after] = envelope ? [`{${JSON.stringify(envelope)}:[`, ']}\n'] : ['[', ']\n'];
    return array(before, mapped(rows, objectOf(sheet, nameIn(sheet))), after);
  },
};

/** One JSON object a line. */
export const ndjson: TextFormat = {
  code: 'ndjson',
  mediaType: 'application/x-ndjson',
  ending: 'ndjson',
  write: (sheet, _head, rows) => {
    const of = objectOf(sheet, nameIn(sheet));
    return mapped(rows, (row) => `${JSON.stringify(of(row))}\n`);
  },
};

/** A field's amount and currency, as the money step writes them; undefined where it is something else. */
function amountOf(text: string): { price: string; currency: string } | undefined {
  const found = /^(\d+(?:\.\d+)?) ([A-Z]{3})$/.exec(text);
  return found ? { price: found[1] ?? '', currency: found[2] ?? '' } : undefined;
}

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

/**
 * JSON-LD by schema.org: a `Product` with its `Offer` a listing, by the roles of the sheet's fields; a member of a family
 * names it (`inProductGroupWithID`), and where families have leads those are the `ProductGroup` they are variants of. What has no role is a `PropertyValue` by its name.
 */
const productOf =
  (sheet: Sheet, name: (code: string) => string) =>
  ({ values, relation }: FeedRow): Product | ProductGroup => {
    const product: Mutable<Extract<Product, { '@type': 'Product' }>> = { '@type': 'Product' };
    const offer: Mutable<Extract<Offer, { '@type': 'Offer' }>> = { '@type': 'Offer' };
    const more: PropertyValue[] = [];
    for (const [at, field] of sheet.fields.entries()) {
      const value = values[at];
      if (value === undefined) continue;
      const text = asText(value);
      switch (field.role) {
        case 'id':
          product.sku = text;
          break;
        case 'title':
          product.name = text;
          break;
        case 'description':
          product.description = text;
          break;
        case 'brand':
          product.brand = { '@type': 'Brand', name: text };
          break;
        case 'gtin':
          product.gtin = text;
          break;
        case 'mpn':
          product.mpn = text;
          break;
        case 'link':
          product.url = text;
          offer.url = text;
          break;
        case 'image':
          product.image = asList(value);
          break;
        case 'category':
          product.category = text;
          break;
        case 'group':
          product.inProductGroupWithID = text;
          break;
        case 'price': {
          const amount = amountOf(text);
          offer.price = amount?.price ?? text;
          if (amount) offer.priceCurrency = amount.currency;
          break;
        }
        case 'availability':
          // A word of the channel's own is no address of schema.org's; it stands as it is.
          offer.availability = (
            /^[A-Z]\w+$/.test(text) ? `https://schema.org/${text}` : text
          ) as ItemAvailability;
          break;
        default:
          more.push({
            '@type': 'PropertyValue',
            name: name(field.code),
            value: jsonOf(field, value) as string,
          });
      }
    }
    // The lead of a family is the group itself; its members say that they are variants of it.
    if (relation === 'lead')
      return {
        ...product,
        '@type': 'ProductGroup',
        productGroupID: String(product.inProductGroupWithID ?? product.sku),
        ...(more.length > 0 ? { additionalProperty: more } : {}),
      };
    if (relation === 'member' && product.inProductGroupWithID)
      product.isVariantOf = { '@type': 'ProductGroup', productGroupID: String(product.inProductGroupWithID) };
    return {
      ...product,
      ...(Object.keys(offer).length > 1 ? { offers: offer } : {}),
      ...(more.length > 0 ? { additionalProperty: more } : {}),
    };
  };

export const jsonLd: TextFormat = {
  code: 'jsonLd',
  mediaType: 'application/ld+json',
  ending: 'jsonld',
  write: (sheet, head: FeedHead, rows) =>
    array(
      `{"@context":"https://schema.org","@id":${JSON.stringify(head.id)},"@graph":[`,
      mapped(rows, productOf(sheet, nameIn(sheet))),
      ']}\n',
    ),
};
