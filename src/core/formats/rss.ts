import { asList, asText } from '../catalog/value';
import type { Sheet } from '../channels/sheet';
import { type FeedRow, nameIn, type TextFormat } from './format';
import { escapeXml, xmlText } from './xml';

const declaration = '<?xml version="1.0" encoding="UTF-8"?>\n';
const namespaceOf = (sheet: Sheet): string => sheet.delivery.namespace ?? `urn:lively-cart:${sheet.code}`;

/** The elements of a listing, one a value; `prefix` stands before their names. */
function elementsOf(sheet: Sheet, prefix: string, indent: string): (row: FeedRow) => string {
  const name = nameIn(sheet);
  const names = sheet.fields.map(({ code }) => `${prefix}${name(code)}`);
  return ({ values }) => {
    let text = '';
    for (const [at, element] of names.entries())
      for (const one of asList(values[at])) text += `${indent}<${element}>${escapeXml(one)}</${element}>\n`;
    return text;
  };
}

/** RSS 2.0: an item a listing, with its title, link and a guid that is no address; the channel's fields in its namespace. */
export const rss: TextFormat = {
  code: 'rss',
  mediaType: 'application/rss+xml',
  ending: 'xml',
  *write(sheet, head, rows) {
    const at = (role: 'id' | 'title' | 'link') => sheet.fields.findIndex((field) => field.role === role);
    const [idAt, titleAt, linkAt] = [at('id'), at('title'), at('link')];
    const elements = elementsOf(sheet, 'c:', '      ');
    yield `${declaration}<rss version="2.0" xmlns:c="${escapeXml(namespaceOf(sheet))}">\n  <channel>\n    <title>${escapeXml(head.title)}</title>\n    <link>${escapeXml(head.id)}</link>\n    <description>${escapeXml(`Listings of ${head.author}`)}</description>\n    <lastBuildDate>${new Date(head.updated).toUTCString()}</lastBuildDate>\n`;
    for (const row of rows) {
      const id = xmlText(asText(row.values[idAt]));
      const link = asText(row.values[linkAt]);
      yield `    <item>\n      <guid isPermaLink="false">${escapeXml(id)}</guid>\n      <title>${escapeXml(asText(row.values[titleAt]) || id)}</title>\n${link ? `      <link>${escapeXml(link)}</link>\n` : ''}${elements(row)}    </item>\n`;
    }
    yield '  </channel>\n</rss>\n';
  },
};

/** Plain XML: the sheet names the root and the element of a listing; fields are elements without a namespace unless it has one. */
export const xml: TextFormat = {
  code: 'xml',
  mediaType: 'application/xml',
  ending: 'xml',
  *write(sheet, _head, rows) {
    const { root, entry, namespace } = sheet.delivery;
    const elements = elementsOf(sheet, '', '    ');
    yield `${declaration}<${root}${namespace ? ` xmlns="${escapeXml(namespace)}"` : ''}>\n`;
    for (const row of rows) yield `  <${entry}>\n${elements(row)}  </${entry}>\n`;
    yield `</${root}>\n`;
  },
};
