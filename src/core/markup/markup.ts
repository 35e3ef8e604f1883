import { Parser } from 'htmlparser2';

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
