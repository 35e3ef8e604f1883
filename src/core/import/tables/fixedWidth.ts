import { DelimitedReader, type DelimitedRow } from './delimited';

/** Lines that are looked at to find where columns begin. */
const MAX_LOOKED = 200;
/** Fewer lines, or columns, are no table. */
const MIN_LINES = 3;
const MIN_COLUMNS = 3;
/** A gap of a single blank parts columns only where so many lines hold; else it may be chance. */
const linesForOneBlank = 20;
/** In so many lines of ten a column should leave room before the next, or it is only words that stand below each other. */
const room = 0.4;

const padding = / {2,}/;
/** Dashes under a heading or around a table, with blanks between those of each column. */
const drawn = /^[\s\-=_+|]+$/;
const dashes = /[-=_]+/g;

const isBlank = (line: string, at: number): boolean => at >= line.length || line[at] === ' ';

/**
 * Where the columns begin in a text whose cells are padded with blanks to the same place in every line, as old systems print
 * their lists; undefined where it is no such text. Titles above the table and notes below it do not matter.
 * @returns places in a line, 0 is the first
 */
export function columnStarts(text: string): number[] | undefined {
  if (text.includes('\t')) return undefined;
  const lines = text
    .split(/\r\n|\n|\r/)
    .slice(0, MAX_LOOKED)
    .map((line) => line.trimEnd())
    .filter((line) => line !== '');
  const ruler = lines.find((line) => drawn.test(line) && (line.match(dashes) ?? []).length >= MIN_COLUMNS);
  const table = lines.filter((line) => !drawn.test(line) && padding.test(line.trimStart()));
  if (table.length < MIN_LINES || table.length < lines.length * 0.6) return undefined;
  if (ruler && !ruler.includes('|') && !ruler.includes('+'))
    return [...ruler.matchAll(dashes)].map(({ index }) => index);
  const width = Math.max(...table.map((line) => line.length));
  // A title may be as padded as the table is, and a cell may be too long for its place.
  const mostAcross = Math.floor(table.length / 25);
  const isGap = (at: number) => table.filter((line) => !isBlank(line, at)).length <= mostAcross;
  const share = (test: (line: string) => boolean) => table.filter(test).length / table.length;
  const runs: { from: number; to: number }[] = [];
  for (let at = 0; at < width; at++) {
    if (isGap(at)) continue;
    const last = runs.at(-1);
    if (last?.to === at) last.to++;
    else runs.push({ from: at, to: at + 1 });
  }
  /** Whether a column begins with a run of signs, and not only another word of the one before. */
  const begins = (
    before: { from: number; to: number },
    { from, to }: { from: number; to: number },
  ): boolean => {
    const gap = from - before.to;
    if (gap === 1 && table.length < linesForOneBlank) return false;
    // The column before leaves room behind its words; or it holds amounts, which stand at its right end and leave room before them.
    return (
      share((line) => isBlank(line, from - 1) && isBlank(line, from - 2)) >= room ||
      (share((line) => !isBlank(line, before.to - 1)) >= 1 - room &&
        share((line) => isBlank(line, before.from)) >= room / 2) ||
      // Or this one does, and nearly every line has something there.
      (share((line) => isBlank(line, from)) >= room &&
        share((line) => line.slice(from, to).trim() !== '') >= 0.8)
    );
  };
  const starts: number[] = [];
  let column = runs[0];
  for (const run of runs.slice(1)) {
    if (column && begins(column, run)) {
      starts.push(run.from);
      column = run;
    } else if (column) column = { from: column.from, to: run.to };
  }
  return starts.length >= MIN_COLUMNS - 1 ? [0, ...starts] : undefined;
}

/** Splits text whose columns begin at the same place in every line; dashes that are drawn between rows are no rows. */
export class FixedWidthReader extends DelimitedReader {
  /** @param starts where columns begin, 0 is the first sign of a line */
  constructor(private readonly starts: readonly number[]) {
    super('\t');
  }

  protected override rowAt(at: number): { next: number; row: DelimitedRow | undefined } | undefined {
    const found = this.plainLine(at);
    if (!found || 'row' in found) return found;
    const { next, text, line } = found;
    if (drawn.test(text)) return { next, row: undefined };
    const across = this.starts.findIndex(
      (start, column) => column > 0 && !isBlank(text, start) && !isBlank(text, start - 1),
    );
    return {
      next,
      row: {
        line,
        // What runs across is a title or a note, if it is no fault.
        cells:
          across < 0
            ? this.starts.map((start, column) => text.slice(start, this.starts[column + 1]).trim())
            : [text.trim()],
        broken:
          across < 0
            ? undefined
            : `has no blank before column ${across + 1}, which starts at character ${(this.starts[across] ?? 0) + 1}, so the columns cannot be separated`,
      },
    };
  }
}
