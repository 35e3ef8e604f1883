import { asList, asText, type Value } from '../catalog/value';
import type { Sheet } from '../channels/sheet';
import { escapeXml, xmlText } from './xml';

export interface FeedHead {
  /** A permanent address of the feed (RFC 4287, 4.2.6). */
  readonly id: string;
  readonly title: string;
  readonly author: string;
  /** RFC 3339 date and time. */
  readonly updated: string;
}

/**
 * Writes listings as an Atom feed (RFC 4287), a piece at a time. The channel's fields are extension elements in the
 * sheet's namespace; a list becomes one element an entry. Each entry carries the required id, title and updated.
 */
export function* writeAtom(
  sheet: Sheet,
  head: FeedHead,
  listings: Iterable<{ values: readonly (Value | undefined)[] }>,
): Generator<string> {
  const namespace = sheet.delivery.namespace ?? `urn:lively-cart:${sheet.code}`;
  const position = (role: 'id' | 'title' | 'link') => sheet.fields.findIndex((field) => field.role === role);
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
        entry += `    <c:${field.code}>${escapeXml(text)}</c:${field.code}>\n`;
    });
    yield `${entry}  </entry>\n`;
  }
  yield '</feed>\n';
}
