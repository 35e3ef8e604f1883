import sanitizeHtml from 'sanitize-html';

/** What a product text needs: paragraphs, lists, headings, emphasis, tables and links to the web. */
const usualTags = 'p br ul ol li strong b em i u h2 h3 h4 table thead tbody tr th td a'.split(' ');

/** Whether a text holds no tag but bare ones of a list, so that nothing need be cleaned. */
function holdsOnly(markup: string, tags: ReadonlySet<string>): boolean {
  for (let at = markup.indexOf('<'); at >= 0; at = markup.indexOf('<', at + 1)) {
    const end = markup.indexOf('>', at);
    if (end < 0 || end - at > 16) return false;
    const name = /^<\/?([a-z][a-z0-9]*) ?\/?>$/.exec(markup.slice(at, end + 1))?.[1];
    if (name === undefined || !tags.has(name)) return false;
  }
  return true;
}

/**
 * Markup with only what a field takes. Everything else loses its tags, scripts and styles their contents; links go to the
 * web only.
 * @param tags the tags it takes; those of product texts where left out
 */
export function safeMarkup(markup: string, tags: readonly string[] = usualTags): string {
  if (!markup.includes('<') || holdsOnly(markup, new Set(tags))) return markup;
  return sanitizeHtml(markup, {
    allowedTags: [...tags],
    allowedAttributes: { a: ['href'] },
    allowedSchemes: ['http', 'https', 'mailto'],
    allowProtocolRelative: false,
  });
}

/** Markup as it is kept: {@link safeMarkup} without empty paragraphs. */
export const cleanMarkup = (markup: string): string =>
  safeMarkup(markup)
    .replace(/<p>(\s|&nbsp;|<br \/>)*<\/p>/g, '')
    .trim();
