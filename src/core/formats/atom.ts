import { asText } from '../catalog/value';
import type { Sheet } from '../channels/sheet';
import type { FeedHead, FeedRows, TextFormat } from './format';
import { declaration, elementsOf, escapeXml, namespaceOf, positionOf, xmlText } from './xml';

/**
 * Writes listings as an Atom feed (RFC 4287), a piece at a time. The channel's fields are extension elements in the
 * sheet's namespace; a list becomes one element an entry. Each entry carries the required id, title and updated.
 */
async function* writeAtom(sheet: Sheet, head: FeedHead, listings: FeedRows): AsyncGenerator<string> {
  const at = positionOf(sheet);
  const [idAt, titleAt, linkAt] = [at('id'), at('title'), at('link')];
  const elements = elementsOf(sheet, 'c:', '    ');
  yield `${declaration}<feed xmlns="http://www.w3.org/2005/Atom" xmlns:c="${escapeXml(namespaceOf(sheet))}">\n`;
  yield `  <id>${escapeXml(head.id)}</id>\n  <title>${escapeXml(head.title)}</title>\n  <updated>${head.updated}</updated>\n${head.self ? `  <link rel="self" href="${escapeXml(head.self)}"/>\n` : ''}  <author><name>${escapeXml(head.author)}</name></author>\n`;
  for await (const row of listings) {
    const { values } = row;
    const id = xmlText(asText(values[idAt]));
    let entry = `  <entry>\n    <id>${escapeXml(`${head.id}:${encodeURIComponent(id)}`)}</id>\n    <title>${escapeXml(asText(values[titleAt]) || id)}</title>\n    <updated>${head.updated}</updated>\n`;
    const link = asText(values[linkAt]);
    entry += link ? `    <link rel="alternate" href="${escapeXml(link)}"/>\n` : `    <content/>\n`;
    yield `${entry}${elements(row)}  </entry>\n`;
  }
  yield '</feed>\n';
}

export const atom: TextFormat = {
  code: 'atom',
  mediaType: 'application/atom+xml',
  ending: 'xml',
  write: writeAtom,
};
