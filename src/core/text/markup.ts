import { Parser } from 'htmlparser2';
import sanitizeHtml from 'sanitize-html';

const blocks = new Set(
  'p div br li ul ol h1 h2 h3 h4 h5 h6 tr table section article blockquote hr'.split(' '),
);
const hidden = new Set(['script', 'style', 'noscript', 'template']);

/**
 * Text of a piece of HTML: tags go, entities are read, blocks and breaks become single line ends,
 * scripts and styles vanish with their contents.
 */
export function textOfMarkup(markup: string): string {
  if (!/[<&]/.test(markup)) return markup;
  let text = '';
  let depth = 0;
  const parser = new Parser(
    {
      onopentag: (name) => {
        if (hidden.has(name)) depth++;
        else if (blocks.has(name)) text += '\n';
      },
      ontext: (data) => {
        if (depth === 0) text += data;
      },
      onclosetag: (name) => {
        if (hidden.has(name)) depth--;
        else if (blocks.has(name) && name !== 'br') text += '\n';
      },
    },
    { decodeEntities: true },
  );
  parser.write(markup);
  parser.end();
  return text
    .replace(/[ \t\u00a0]+/g, ' ')
    .replace(/ ?\n[ \n]*/g, '\n')
    .trim();
}

/** The addresses of the pictures in a piece of HTML, in their order. */
export function pictureLinksOf(markup: string): string[] {
  const links: string[] = [];
  const parser = new Parser({
    onopentag: (name, { src }) => {
      if (name === 'img' && src) links.push(src.trim());
    },
  });
  parser.write(markup);
  parser.end();
  return links;
}

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
