import { asList } from '../catalog/value';
import type { FieldRole, Sheet } from '../channels/sheet';
import { extraCells, extraNames, type FeedRow, nameIn } from './format';

/** Signs that XML 1.0 does not allow at all, section 2.2. */
const forbidden =
  // biome-ignore lint/suspicious/noControlCharactersInRegex: these are the characters to take out
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;
const special = /[&<>"]/;

/** A text without what XML cannot hold. */
export const xmlText = (text: string): string => text.replace(forbidden, '');

/** Text as XML character data or attribute value; what XML cannot hold falls out. */
export function escapeXml(text: string): string {
  const clean = xmlText(text);
  if (!special.test(clean)) return clean;
  return clean.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
}

export const declaration = '<?xml version="1.0" encoding="UTF-8"?>\n';
/** The namespace of a channel's elements: the sheet's, else one of ours. */
export const namespaceOf = (sheet: Sheet): string =>
  sheet.delivery.namespace ?? `urn:lively-cart:${sheet.code}`;

/** The elements of a listing, one a value; `prefix` stands before their names. */
export function elementsOf(sheet: Sheet, prefix: string, indent: string): (row: FeedRow) => string {
  const name = nameIn(sheet);
  const names = sheet.fields.map(({ code }) => `${prefix}${name(code)}`);
  const extras = extraNames(sheet).map((one) => `${prefix}${one}`);
  const extra = extraCells(sheet);
  return (row) => {
    let text = '';
    for (const [at, element] of names.entries())
      for (const one of asList(row.values[at]))
        text += `${indent}<${element}>${escapeXml(one)}</${element}>\n`;
    for (const [at, one] of extra(row).entries())
      if (one !== '') text += `${indent}<${extras[at]}>${escapeXml(one)}</${extras[at]}>\n`;
    return text;
  };
}

/** Where the field of a role stands in a sheet; -1 where none has it. */
export const positionOf =
  (sheet: Sheet) =>
  (role: FieldRole): number =>
    sheet.fields.findIndex((field) => field.role === role);
