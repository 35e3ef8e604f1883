import { asText } from '../catalog/value';
import type { TextFormat } from './format';
import { declaration, elementsOf, escapeXml, namespaceOf, positionOf, xmlText } from './xml';

/** RSS 2.0: an item a listing, with its title, link and a guid that is no address; the channel's fields in its namespace. */
export const rss: TextFormat = {
  code: 'rss',
  mediaType: 'application/rss+xml',
  ending: 'xml',
  async *write(sheet, head, rows) {
    const at = positionOf(sheet);
    const [idAt, titleAt, linkAt] = [at('id'), at('title'), at('link')];
    const elements = elementsOf(sheet, 'c:', '      ');
    yield `${declaration}<rss version="2.0" xmlns:c="${escapeXml(namespaceOf(sheet))}">\n  <channel>\n    <title>${escapeXml(head.title)}</title>\n    <link>${escapeXml(head.id)}</link>\n    <description>${escapeXml(`Listings of ${head.author}`)}</description>\n    <lastBuildDate>${new Date(head.updated).toUTCString()}</lastBuildDate>\n${head.self ? `    <atom:link xmlns:atom="http://www.w3.org/2005/Atom" rel="self" type="application/rss+xml" href="${escapeXml(head.self)}"/>\n` : ''}`;
    for await (const row of rows) {
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
  async *write(sheet, _head, rows) {
    const { root, entry, namespace } = sheet.delivery;
    const elements = elementsOf(sheet, '', '    ');
    yield `${declaration}<${root}${namespace ? ` xmlns="${escapeXml(namespace)}"` : ''}>\n`;
    for await (const row of rows) yield `  <${entry}>\n${elements(row)}  </${entry}>\n`;
    yield `</${root}>\n`;
  },
};
