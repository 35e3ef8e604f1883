import { Tokenizer, TokenType } from '@streamparser/json';
import { SaxesParser } from 'saxes';
import { InputError } from '../errors/inputError';
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

/**
 * Reads JSON and NDJSON alike: one value, or one after another. Lists do not count in a path; their entries stand under
 * the list's own name. `null` and empty texts fall out.
 */
export function jsonReader(builder: TreeBuilder): TreeReader {
  /** What each open bracket is, and under which name its entries stand. */
  const open: { list: boolean; name: string }[] = [];
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
    return top.list ? { name: top.name, list: true } : { name: key ?? '', list: false };
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
    if (!right) throw wrong('a value stands where none can');
  };
  tokenizer.onError = (error) => {
    throw wrong(error.message.replace(/at chunk position.*/, '').trim());
  };
  tokenizer.onToken = ({ token, value }) => {
    switch (token) {
      case TokenType.LEFT_BRACE: {
        beforeValue();
        const { name, list } = nameHere();
        builder.open(name, list);
        open.push({ list: false, name });
        break;
      }
      case TokenType.LEFT_BRACKET: {
        beforeValue();
        if (open.length >= 64) throw new InputError('tooDeep64');
        open.push({ list: true, name: nameHere().name });
        break;
      }
      case TokenType.RIGHT_BRACE: {
        const top = open.pop();
        if (!top || top.list || pending || last === TokenType.COMMA || last === TokenType.COLON)
          throw wrong('“}” stands where it cannot');
        builder.close();
        break;
      }
      case TokenType.RIGHT_BRACKET: {
        const top = open.pop();
        if (!top?.list || last === TokenType.COMMA) throw wrong('“]” stands where it cannot');
        break;
      }
      case TokenType.COLON:
        if (!pending) throw wrong('“:” stands where it cannot');
        pending = false;
        break;
      case TokenType.COMMA:
        if (
          open.length === 0 ||
          pending ||
          last === undefined ||
          [TokenType.COMMA, TokenType.COLON, TokenType.LEFT_BRACE, TokenType.LEFT_BRACKET].includes(last)
        )
          throw wrong('“,” stands where it cannot');
        break;
      default:
        if (token === TokenType.STRING && expectsKey()) {
          key = String(value);
          pending = true;
          break;
        }
        beforeValue();
        if (value !== null && value !== undefined && open.length > 0) {
          const { name, list } = nameHere();
          // The entries of a list at the root have no name to stand under.
          if (name !== '') builder.value(name, String(value), list);
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
