import { detectSeparator, type Separator } from '../encoding/decode';

/** One row of delimited text. */
export interface DelimitedRow {
  /** Line of the file where it begins; 1 is the first. */
  readonly line: number;
  readonly cells: readonly string[];
  /** Why it could not be read for certain; its cells are then those of its one line, marks and all. */
  readonly broken: string | undefined;
}

/** A quoted cell that runs over more signs than this is taken for a mark that was never closed. */
const MAX_QUOTED = 1024 * 1024;
/** What the limit falls to, by halves, in a file where many marks never close: so that no file takes for ever. */
const MIN_QUOTED = 16 * 1024;

/** Whether a line holds nothing but what is drawn: `|---|:---:|`. */
const isDrawn = (line: string): boolean =>
  line.includes('---') &&
  /^[|:\s-]+$/.test(line) &&
  line.split('|').every((cell) => /^(?::?-{3,}:?)?$/.test(cell.trim()));

/** Whether a backslash that stands for itself and what follows stands before a place of a text. */
function isEscaped(text: string, at: number): boolean {
  let before = at;
  while (text[before - 1] === '\\') before--;
  return (at - before) % 2 === 1;
}

const written: Readonly<Record<string, string>> = { n: '\n', r: '\r', t: '\t', b: '', 0: '', Z: '' };

/** A cell as it was before signs of it were written with a backslash, as databases do; `\N` is nothing. */
const unescaped = (cell: string): string =>
  !cell.includes('\\')
    ? cell
    : cell === '\\N'
      ? ''
      : cell.replace(/\\([\s\S])/g, (_, sign: string) => written[sign] ?? sign);

/**
 * Whether a text writes signs with a backslash: a cell is `\N`, or marks within quoted cells have one before them and none is
 * doubled.
 */
export function writesBackslashes(text: string, separator: Separator): boolean {
  const edge = separator === '|' || separator === '^' ? `\\${separator}` : separator;
  if (new RegExp(`(?:^|[${edge}\\n\\r])"?\\\\N"?(?=[${edge}\\n\\r]|$)`).test(text)) return true;
  return (
    new RegExp(`[^${edge}\\n\\r"\\\\]\\\\"[^${edge}\\n\\r]`).test(text) &&
    !new RegExp(`[^${edge}\\n\\r"]""[^${edge}\\n\\r"]`).test(text)
  );
}

/**
 * Splits delimited text into rows as it comes in (RFC 4180, and what is written instead of it): lines end with LF, CR LF or
 * CR, also mixed; a mark inside a cell that does not begin with one is text (`12" wheel`), and so is one inside a quoted cell
 * that no separator or line end follows. A mark that opens a cell and never closes costs the row of its line alone: reading
 * goes on with the line behind it. Memory is bounded by the longest row.
 */
export class DelimitedReader {
  private text = '';
  private line = 1;
  /** Whether the last piece ended with CR, whose LF may come with the next. */
  private afterReturn = false;
  private ended = false;
  private mostQuoted = MAX_QUOTED;
  /** Whether the rest of a row that is far too long is being left out. */
  private skipping = false;
  private readonly opening: string;

  /**
   * @param separator between the cells of a row
   * @param width cells that a row should have, once it is known: tells whether a cell over several lines swallowed rows
   * @param escapes whether a backslash stands before signs that would part the text otherwise
   */
  constructor(
    private readonly separator: Separator,
    public width?: number,
    private readonly escapes = false,
  ) {
    this.opening = `${separator}"`;
  }

  /** The rows that are whole with this piece of the text. Empty lines are no rows. */
  *push(piece: string): Generator<DelimitedRow> {
    this.text += this.afterReturn && piece.startsWith('\n') ? piece.slice(1) : piece;
    this.afterReturn = false;
    yield* this.rows();
  }

  /** The rows that are left. */
  *end(): Generator<DelimitedRow> {
    this.ended = true;
    yield* this.rows();
  }

  private *rows(): Generator<DelimitedRow> {
    let at = 0;
    for (;;) {
      if (this.skipping) {
        const rest = this.lineEnd(at);
        if (rest === undefined) {
          this.text = '';
          return;
        }
        this.skipping = false;
        this.line++;
        at = rest.next;
      }
      const found = this.rowAt(at);
      if (found === undefined) break;
      const { next, row } = found;
      at = next;
      if (row) yield row;
    }
    this.text = this.text.slice(at);
  }

  /** Where the line that holds a place ends, and where the next begins; undefined where that is not known yet. */
  private lineEnd(at: number): { end: number; next: number } | undefined {
    const { text } = this;
    const feed = text.indexOf('\n', at);
    // Only as far as the next line feed: a file without any carriage return is not searched to its end for each line.
    let end = feed;
    const back = feed < 0 ? text.indexOf('\r', at) : text.slice(at, feed).indexOf('\r');
    if (back >= 0) end = feed < 0 ? back : at + back;
    if (end < 0) return this.ended && at < text.length ? { end: text.length, next: text.length } : undefined;
    if (text[end] === '\n') return { end, next: end + 1 };
    if (end + 1 < text.length) return { end, next: end + (text[end + 1] === '\n' ? 2 : 1) };
    // A carriage return as the last sign: its line feed may still come.
    this.afterReturn = !this.ended;
    return { end, next: end + 1 };
  }

  /** The line at a place, counted; a row where it is far too long, and none where it is empty. Undefined until it is whole. */
  protected plainLine(
    at: number,
  ):
    | { next: number; row: DelimitedRow | undefined }
    | { next: number; text: string; line: number }
    | undefined {
    const { text, line } = this;
    const first = this.lineEnd(at);
    if (first === undefined) {
      if (text.length - at <= MAX_QUOTED) return undefined;
      this.skipping = true;
      return { next: text.length, row: { line, cells: [], broken: 'is longer than 1 MB' } };
    }
    this.line++;
    if (first.end === at) return { next: first.next, row: undefined };
    return { next: first.next, text: text.slice(at, first.end), line };
  }

  protected rowAt(at: number): { next: number; row: DelimitedRow | undefined } | undefined {
    const { text, separator } = this;
    const first = this.plainLine(at);
    if (!first || 'row' in first) return first;
    const { text: plain, line } = first;
    // Drawn below the heading of a table, as in Markdown.
    if (separator === '|' && isDrawn(plain)) return { next: first.next, row: undefined };
    if (!plain.includes('"') || (this.escapes && !this.opens(plain)))
      return { next: first.next, row: { line, cells: this.split(plain), broken: undefined } };
    // It is counted by the lines it takes.
    this.line = line;
    const quoted = this.quotedRow(at);
    if (quoted === 'more' && text.length - at <= 2 * MAX_QUOTED) return undefined;
    if (quoted !== 'unclosed' && quoted !== 'more') {
      this.line += quoted.lines;
      return { next: quoted.next, row: { line, cells: quoted.cells, broken: undefined } };
    }
    this.line++;
    return {
      next: first.next,
      row: {
        line,
        cells: this.split(plain),
        broken: `opens a quotation mark in line ${line} that is never closed. Close or double it`,
      },
    };
  }

  /** Whether a cell of a line begins with a mark. */
  private opens(plain: string): boolean {
    return plain.startsWith('"') || plain.includes(this.opening);
  }

  /** A line without quoted cells as its cells. */
  private split(plain: string): string[] {
    const cells = plain.split(this.separator);
    if (!this.escapes || !plain.includes('\\')) return cells;
    const complete: string[] = [];
    for (let at = 0; at < cells.length; at++) {
      let cell = cells[at] ?? '';
      // A separator behind a backslash is a sign of the cell.
      while (isEscaped(cell, cell.length) && at + 1 < cells.length) cell += `${this.separator}${cells[++at]}`;
      complete.push(unescaped(cell));
    }
    return complete;
  }

  /** A row with marks in it, which may run over several lines. */
  private quotedRow(start: number): { next: number; cells: string[]; lines: number } | 'more' | 'unclosed' {
    const { text, separator } = this;
    const cells: string[] = [];
    let lines = 1;
    let swallowed = false;
    let at = start;
    for (;;) {
      if (text[at] === '"') {
        const cell = this.quotedCell(at + 1);
        if (typeof cell === 'string') return cell;
        if (cell.lines > 0) {
          lines += cell.lines;
          swallowed ||= this.holdsRows(text.slice(at + 1, cell.end));
        }
        cells.push(cell.value);
        at = cell.end + 1;
      } else {
        const end = this.plainEnd(at);
        cells.push(this.escapes ? unescaped(text.slice(at, end)) : text.slice(at, end));
        at = end;
      }
      if (text[at] === separator) {
        at++;
        continue;
      }
      // A line end, or the end of all.
      if (at >= text.length && !this.ended) return 'more';
      if (lines > 1 && (swallowed || (this.width !== undefined && cells.length !== this.width)))
        return 'unclosed';
      const next = at >= text.length ? { next: at } : this.lineEnd(at);
      return next === undefined ? 'more' : { next: next.next, cells, lines };
    }
  }

  /** The end of a cell that does not begin with a mark. */
  private plainEnd(at: number): number {
    const { text, separator } = this;
    let end = at;
    while (end < text.length && text[end] !== separator && text[end] !== '\n' && text[end] !== '\r') end++;
    return end;
  }

  /** A quoted cell from behind its mark: its value, the place of its closing mark, and the line ends in it. */
  private quotedCell(begin: number): { value: string; end: number; lines: number } | 'more' | 'unclosed' {
    const { text, separator } = this;
    let at = begin;
    let doubled = false;
    // How far line ends were looked for: nothing is looked at twice, however many marks there are.
    let looked = begin;
    let severalLines = false;
    for (;;) {
      const mark = text.indexOf('"', at);
      if (mark < 0 || mark - begin > this.mostQuoted) {
        if (!this.ended && text.length - begin <= this.mostQuoted) return 'more';
        this.mostQuoted = Math.max(MIN_QUOTED, this.mostQuoted / 2);
        return 'unclosed';
      }
      if (this.escapes && isEscaped(text, mark)) {
        at = mark + 1;
        continue;
      }
      const behind = text[mark + 1];
      if (behind === '"') {
        doubled = true;
        at = mark + 2;
        continue;
      }
      if (behind === undefined && !this.ended) return 'more';
      // Only what a separator or a line end follows closes the cell.
      if (behind !== undefined && behind !== separator && behind !== '\n' && behind !== '\r') {
        const before = text[mark - 1];
        // One that opens a cell of its own, in a later line: this one was never closed.
        if (mark > begin && (before === separator || before === '\n' || before === '\r')) {
          severalLines ||= /[\n\r]/.test(text.slice(looked, mark));
          looked = mark;
          if (severalLines) return 'unclosed';
        }
        at = mark + 1;
        continue;
      }
      const value = text.slice(begin, mark);
      const complete = doubled ? value.replaceAll('""', '"') : value;
      return {
        value: this.escapes ? unescaped(complete) : complete,
        end: mark,
        lines: value.match(/\r\n|\n|\r/g)?.length ?? 0,
      };
    }
  }

  /**
   * Whether the inside of a quoted cell over several lines looks like rows of the file that an unclosed mark swallowed: a
   * line in it has as many cells as a row, or another cell opens in it with a mark that is not doubled.
   */
  private holdsRows(inside: string): boolean {
    const opens = inside.indexOf(this.opening);
    for (let at = opens; at >= 0; at = inside.indexOf(this.opening, at + 1))
      if (inside[at + 2] !== '"') return true;
    const { width } = this;
    if (width === undefined || width < 3) return false;
    const lines = inside.split(/\r\n|\n|\r/).slice(1, -1);
    return lines.some((one) => one.split(this.separator).length === width);
  }
}

/** The rows of a small table as text, with whatever parts its cells; those that say something. */
export const tableRows = (text: string): DelimitedRow[] =>
  delimitedRows(text.replace(/^\ufeff/, ''), detectSeparator(text.slice(0, 20_000))).filter(({ cells }) =>
    cells.some((cell) => cell.trim() !== ''),
  );

/** All rows of some text that is known whole. */
export function delimitedRows(text: string, separator: Separator, width?: number): DelimitedRow[] {
  const reader = new DelimitedReader(separator, width);
  return [...reader.push(text), ...reader.end()];
}
