import { Tokenizer, TokenType } from '@streamparser/json';
import { SaxesParser } from 'saxes';
import { InputError } from '../../errors/inputError';
import type { TreeBuilder } from './tree';

/** Takes a file's text piece by piece and tells a {@link TreeBuilder} what stands in it. */
export interface TreeReader {
  write(text: string): void;
  /** @throws InputError where the file stops in the middle */
  end(): void;
}

/** Reads XML of any shape. Attributes are named with an `@`. No entities beyond XML's own five are read. */
export function xmlReader(builder: TreeBuilder): TreeReader {
  const parser = new SaxesParser();
  parser.on('error', (error) => {
    throw new InputError('xmlBroken', {
      line: parser.line,
      column: parser.column,
      why: error.message.replace(/^\d+:\d+: /, ''),
    });
  });
  parser.on('doctype', (doctype) => {
    if (/<!ENTITY/i.test(doctype)) throw new InputError('xmlEntities');
  });
  parser.on('opentag', ({ name, attributes }) => {
    builder.open(name);
    for (const [key, value] of Object.entries(attributes)) builder.value(`@${key}`, value);
  });
  const addText = (words: string) => builder.text(words);
  parser.on('text', addText);
  parser.on('cdata', addText);
  parser.on('closetag', () => builder.close());
  return {
    write: (text) => void parser.write(text),
    end: () => void parser.close(),
  };
}

/** Keys under which a file says what its rows hold, and keys under which the rows stand, each in the order of the other. */
const headingKey =
  /^(columns?|headers?|headings?|fields?|names|keys|spalten|kopf|felder|colonnes|columnas|colonne|kolommen|kolumny|colunas|kolumner)$/i;
const rowsKey =
  /^(data|rows|records|entries|items|products|articles|table|zeilen|daten|artikel|lignes|donn[eé]es|filas|datos|righe|dati|rijen|wiersze|dane|linhas|dados|rader)$/i;
/** Names that are kept of a list that may say what rows hold. */
const MAX_CELLS = 2000;

/** A bracket that is open. */
interface Open {
  readonly list: boolean;
  /** What its entries stand under. */
  readonly name: string;
  /** What the rows of a table in an object hold, once it has said so. */
  heading?: string[];
  /** Of a list: what its rows hold, where it is a table of lists. */
  columns?: string[];
  /** Of a row in such a table: how many cells it has had. */
  cells?: number;
  /** The first row of a table, whose columns are not known: it may be what names them. */
  first?: string[];
  /** An object that says nothing but what it holds, as `{"node": {…}}` in a list of edges: its values are those around it. */
  readonly through?: boolean;
  /** Of a list that may say what rows hold: its texts so far; undefined once something else stood in it. */
  texts?: string[] | undefined;
}

/**
 * Reads JSON and NDJSON alike: one value, or one after another. Lists do not count in a path; their entries stand under
 * the list's own name. A table, which is a list of lists, comes as records by the names that its first row or a list beside it
 * gives its columns. `null` and empty texts fall out.
 */
export function jsonReader(builder: TreeBuilder): TreeReader {
  /** What each open bracket is, and under which name its entries stand. */
  const open: Open[] = [];
  let key: string | undefined;
  /** A key that waits for its colon. */
  let pending = false;
  let lines = 1;
  let last: TokenType | undefined;
  const wrong = (what: string) => new InputError('jsonBroken', { line: lines, what });
  const tokenizer = new Tokenizer();
  const nameHere = (): { name: string; list: boolean } => {
    const top = open.at(-1);
    if (!top) return { name: '', list: false };
    if (top.cells !== undefined) return { name: cellName(top), list: false };
    return top.list ? { name: top.name, list: true } : { name: key ?? '', list: false };
  };
  /** The name of the next cell of the row that is open. */
  const cellName = (row: Open): string => {
    const at = row.cells ?? 0;
    row.cells = at + 1;
    return open.at(-2)?.columns?.[at] ?? `Column ${at + 1}`;
  };
  /** Gives out what was held back of a first row that names nothing. */
  const release = (row: Open) => {
    const blocked = row.first ?? [];
    delete row.first;
    for (const text of blocked) {
      const name = cellName(row);
      if (text !== '') builder.value(name, text);
    }
  };
  const openList = () => {
    const top = open.at(-1);
    const { name } = top?.list ? top : nameHere();
    // A list right inside a list is the row of a table, where rows can stand or their columns are told.
    if (top?.list && top.cells === undefined) {
      const around = open.at(-2);
      const known = top.columns ?? around?.heading;
      if (known || (open.length === 1 && top.texts?.length === 0) || rowsKey.test(top.name)) {
        top.texts = undefined;
        const first = known === undefined && top.columns === undefined;
        if (known) top.columns = known;
        else top.columns = [];
        builder.open(name, true);
        open.push({ list: true, name, cells: 0, ...(first ? { first: [] } : {}) });
        return;
      }
    }
    if (top?.first) release(top);
    const own = top?.cells === undefined ? name : nameHere().name;
    if (top) top.texts = undefined;
    open.push({ list: true, name: own, texts: [] });
  };
  const closeRow = (row: Open) => {
    const table = open.at(-2);
    const names = (row.first ?? []).map((text) => text.trim());
    // Words, each for itself: what the columns are called.
    const naming =
      names.length > 1 &&
      new Set(names).size === names.length &&
      names.every((text) => /\p{L}/u.test(text) && text.length <= 60);
    if (row.first && naming && table) table.columns = names.map((text) => text.replaceAll('/', '∕'));
    else release(row);
    open.pop();
    builder.close();
  };
  const expectsKey = () => {
    const top = open.at(-1);
    return top !== undefined && !top.list && (last === TokenType.LEFT_BRACE || last === TokenType.COMMA);
  };
  const beforeValue = () => {
    const top = open.at(-1);
    if (!top) return;
    const right = top.list
      ? last === TokenType.LEFT_BRACKET || last === TokenType.COMMA
      : last === TokenType.COLON;
    if (!right) throw wrong('a value in the wrong position');
  };
  tokenizer.onError = (error) => {
    throw wrong(error.message.replace(/at chunk position.*/, '').trim());
  };
  tokenizer.onToken = ({ token, value }) => {
    switch (token) {
      case TokenType.LEFT_BRACE: {
        beforeValue();
        const top = open.at(-1);
        if (top?.first) release(top);
        if (top) top.texts = undefined;
        // What GraphQL's connections hold, an edge each, is the node in it.
        if (top && !top.list && key === 'node' && open.at(-2)?.list && open.at(-2)?.name === 'edges') {
          open.push({ list: false, name: top.name, through: true });
          break;
        }
        const { name, list } = nameHere();
        builder.open(name, list);
        open.push({ list: false, name });
        break;
      }
      case TokenType.LEFT_BRACKET: {
        beforeValue();
        if (open.length >= 64) throw new InputError('tooDeep64');
        openList();
        break;
      }
      case TokenType.RIGHT_BRACE: {
        const top = open.pop();
        if (!top || top.list || pending || last === TokenType.COMMA || last === TokenType.COLON)
          throw wrong('“}” in the wrong position');
        if (!top.through) builder.close();
        break;
      }
      case TokenType.RIGHT_BRACKET: {
        const top = open.at(-1);
        if (!top?.list || last === TokenType.COMMA) throw wrong('“]” in the wrong position');
        if (top.cells !== undefined) closeRow(top);
        else {
          open.pop();
          const around = open.at(-1);
          if (around && !around.list && top.texts && top.texts.length > 1 && headingKey.test(top.name))
            around.heading = top.texts.map((text) => text.replaceAll('/', '∕'));
        }
        break;
      }
      case TokenType.COLON:
        if (!pending) throw wrong('“:” in the wrong position');
        pending = false;
        break;
      case TokenType.COMMA:
        if (
          open.length === 0 ||
          pending ||
          last === undefined ||
          [TokenType.COMMA, TokenType.COLON, TokenType.LEFT_BRACE, TokenType.LEFT_BRACKET].includes(last)
        )
          throw wrong('“,” in the wrong position');
        break;
      default: {
        if (token === TokenType.STRING && expectsKey()) {
          key = String(value);
          pending = true;
          break;
        }
        beforeValue();
        const top = open.at(-1);
        if (top?.first) {
          if (token === TokenType.STRING || token === TokenType.NUMBER) top.first.push(String(value));
          else top.first.push('');
          break;
        }
        if (top?.texts && token === TokenType.STRING && top.texts.length < MAX_CELLS)
          top.texts.push(String(value));
        else if (top) top.texts = undefined;
        if (top?.cells !== undefined && (value === null || value === undefined)) {
          cellName(top);
          break;
        }
        if (value !== null && value !== undefined && open.length > 0) {
          const { name, list } = nameHere();
          // The entries of a list at the root have no name to stand under.
          if (name !== '') builder.value(name, String(value), list);
        }
      }
    }
    last = token;
  };
  return {
    write(text) {
      tokenizer.write(text);
      for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) lines++;
    },
    end() {
      if (open.length > 0) throw wrong(`the file ends inside ${open.length} open brackets`);
      tokenizer.end();
    },
  };
}
