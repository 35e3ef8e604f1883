import { asList, asText } from '../catalog/value';
import type { Sheet } from '../channels/sheet';
import { type FeedHead, type FeedRow, nameIn, type TextFormat } from './format';
import { escapeXml, xmlText } from './xml';

/**
 * Writes listings as an Atom feed (RFC 4287), a piece at a time. The channel's fields are extension elements in the
 * sheet's namespace; a list becomes one element an entry. Each entry carries the required id, title and updated.
 */
function* writeAtom(sheet: Sheet, head: FeedHead, listings: Iterable<FeedRow>): Generator<string> {
  const namespace = sheet.delivery.namespace ?? `urn:lively-cart:${sheet.code}`;
  const position = (role: 'id' | 'title' | 'link') => sheet.fields.findIndex((field) => field.role === role);
  const name = nameIn(sheet);
  const [idAt, titleAt, linkAt] = [position('id'), position('title'), position('link')];
  yield `<?xml version="1.0" encoding="UTF-8"?>\n<feed xmlns="http://www.w3.org/2005/Atom" xmlns:c="${escapeXml(namespace)}">\n`;
  yield `  <id>${escapeXml(head.id)}</id>\n  <title>${escapeXml(head.title)}</title>\n  <updated>${head.updated}</updated>\n  <author><name>${escapeXml(head.author)}</name></author>\n`;
  for (const { values } of listings) {
    const id = xmlText(asText(values[idAt]));
    let entry = `  <entry>\n    <id>${escapeXml(`${head.id}:${encodeURIComponent(id)}`)}</id>\n    <title>${escapeXml(asText(values[titleAt]) || id)}</title>\n    <updated>${head.updated}</updated>\n`;
    const link = asText(values[linkAt]);
    entry += link ? `    <link rel="alternate" href="${escapeXml(link)}"/>\n` : `    <content/>\n`;
    sheet.fields.forEach((field, at) => {
      for (const text of asList(values[at]))
        entry += `    <c:${name(field.code)}>${escapeXml(text)}</c:${name(field.code)}>\n`;
    });
    yield `${entry}  </entry>\n`;
  }
  yield '</feed>\n';
}

export const atom: TextFormat = {
  code: 'atom',
  mediaType: 'application/atom+xml',
  ending: 'xml',
  write: writeAtom,
};
