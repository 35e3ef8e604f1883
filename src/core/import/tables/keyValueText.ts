import { emptyRecord, listSeparator } from '../../catalog/value';

/** What a block says of one thing, a line a value: `Colour: moss`. */
export interface KeyValueBlock {
  readonly cells: Record<string, string>;
  /** Why it cannot be read. */
  readonly broken: string | undefined;
}

/** Lines that are looked at to find out whether a text is of blocks. */
const MAX_LOOKED = 400;
/** A block that says more is none. */
const MAX_CHARACTERS = 1024 * 1024;
const MAX_NAMES = 2000;

/** A line that names its value: "Colour: moss", "colour=moss", "- sku: A-1". A web address and a time of day name nothing. */
const named = /^(\s*)(-\s+)?(["']?)(\p{L}[\p{L}\p{N} ._()/-]{0,50}?)\3\s*(?::(?=\s|$)|=)/u;
/** In which a name stands, if there is one. */
const MAX_NAME = 200;
/** "[A-1]" above the lines of one thing. */
const titled = /^\s*\[([^[\]]{1,60})\]\s*$/;
const comment = /^\s*(?:#|\/\/|---\s*$|\.\.\.\s*$)/;
/** An entry of a list below a name that has no value of its own. */
const entry = /^\s+-\s+(.+)$/;

/** The column of what stands in brackets above a block. */
export const titleColumn = 'Title above';

interface Line {
  readonly begins: boolean;
  readonly name: string;
  readonly value: string;
}

function lineOf(text: string): Line | undefined {
  const found = named.exec(text.slice(0, MAX_NAME));
  if (!found) return undefined;
  const [whole, , dash, , name = ''] = found;
  return {
    begins: dash !== undefined,
    name: name.trim().replaceAll('/', '∕'),
    value: bare(text.slice(whole.length)),
  };
}

/** A value without the marks that some put around it, and without the sign that says it goes on below. */
function bare(value: string): string {
  const text = value.trim();
  if (/^[|>][+-]?$/.test(text)) return '';
  const quoted = /^"(.*)"$|^'(.*)'$/s.exec(text);
  return quoted ? (quoted[1] ?? quoted[2] ?? '') : text;
}

/** How blocks are told apart: by the name each begins with, or, where it is empty, by empty lines. */
export type BlocksBegin = string;

/**
 * Whether a text is of blocks, a thing each, a line a value, as notes, settings and lists for machines are written; and what
 * tells them apart. Undefined where it is no such text.
 */
export function findBlocks(text: string): BlocksBegin | undefined {
  const lines = text.split(/\r\n|\n|\r/).slice(0, MAX_LOOKED);
  // What goes on with the line above it, further in, says nothing for or against.
  const stated = lines.filter(
    (line) =>
      line.trim() !== '' &&
      !comment.test(line) &&
      !titled.test(line) &&
      (lineOf(line) || !/^\s{2,}/.test(line)),
  );
  const read = stated.flatMap((line) => lineOf(line) ?? []);
  if (read.length < 4 || read.length < stated.length * 0.7) return undefined;
  const counts = new Map<string, number>();
  for (const { name } of read) counts.set(name, (counts.get(name) ?? 0) + 1);
  // The same few names come again and again, or these are settings of one thing, or only lines with a colon in them.
  if (counts.size < 2 || counts.size > read.length / 2 + 1) return undefined;
  const first = read[0]?.name ?? '';
  const apart = apartByEmptyLines(lines);
  // Blocks that say the same in another order each.
  const ordered = apart.filter((names) => names[0] === first).length >= apart.length / 2;
  const each = apart.every((names) => names.includes(first) && new Set(names).size === names.length);
  if (apart.length > 2 && each && !ordered) return '';
  if ((counts.get(first) ?? 0) >= Math.max(2, Math.max(...counts.values()) * 0.8)) return first;
  return apart.length > 1 ? '' : undefined;
}

/** The names of each run of lines between empty ones. */
function apartByEmptyLines(lines: readonly string[]): string[][] {
  const runs: string[][] = [[]];
  for (const line of lines) {
    const name = lineOf(line)?.name;
    if (line.trim() === '') runs.push([]);
    else if (name !== undefined) runs.at(-1)?.push(name);
  }
  return runs.filter((names) => names.length > 0);
}

/** Reads a text of blocks as it comes in; memory is bounded by the longest block. */
export class BlockReader {
  private rest = '';
  private cells = emptyRecord<string>();
  private last: string | undefined;
  private signs = 0;
  private tooLong = false;

  /** @param begins what tells blocks apart, as {@link findBlocks} found it */
  constructor(private readonly begins: BlocksBegin) {}

  /** The blocks that are whole with this piece of the text. */
  *push(piece: string): Generator<KeyValueBlock> {
    const lines = (this.rest + piece).split(/\r\n|\n|\r(?!$)/);
    this.rest = lines.pop() ?? '';
    for (const line of lines) yield* this.take(line);
    if (this.rest.length > MAX_CHARACTERS) {
      this.tooLong = true;
      this.rest = '';
    }
  }

  /** The block that is left. */
  *end(): Generator<KeyValueBlock> {
    yield* this.take(this.rest.replace(/\r$/, ''));
    this.rest = '';
    yield* this.done();
  }

  private *take(text: string): Generator<KeyValueBlock> {
    if (text.trim() === '') {
      if (this.begins === '') yield* this.done();
      return;
    }
    if (comment.test(text)) return;
    const title = titled.exec(text)?.[1]?.trim();
    if (title !== undefined) {
      yield* this.done();
      this.put(titleColumn, title);
      return;
    }
    const line = lineOf(text);
    if (line) {
      if (line.begins || (this.begins !== '' && line.name === this.begins && line.name in this.cells))
        yield* this.done();
      this.put(line.name, line.value);
      return;
    }
    // What names nothing goes on with what stands above it; before the first name it is a title of the whole.
    const { last } = this;
    if (last === undefined) return;
    const listed = entry.exec(text)?.[1];
    if (listed !== undefined) this.put(last, bare(listed));
    else {
      const words = text.trim();
      this.signs += words.length;
      if (this.signs <= MAX_CHARACTERS)
        this.cells[last] = [this.cells[last], words].filter(Boolean).join('\n');
    }
  }

  private put(name: string, value: string): void {
    this.last = name;
    this.signs += name.length + value.length;
    if (this.signs > MAX_CHARACTERS) this.tooLong = true;
    else if (!(name in this.cells) && Object.keys(this.cells).length >= MAX_NAMES) this.tooLong = true;
    else if (!this.cells[name]) this.cells[name] = value;
    else if (value !== '') this.cells[name] += `${listSeparator}${value}`;
  }

  private *done(): Generator<KeyValueBlock> {
    if (Object.values(this.cells).some((cell) => cell.trim() !== ''))
      yield {
        cells: this.cells,
        broken:
          this.tooLong || this.signs > MAX_CHARACTERS
            ? 'is too long: 1 MB or 2,000 names are the maximum'
            : undefined,
      };
    this.cells = emptyRecord<string>();
    this.last = undefined;
    this.signs = 0;
    this.tooLong = false;
  }
}
