import { Parser } from 'htmlparser2';
import { InputError } from '../core/errors/inputError';
import type { SheetRow } from './workbooks/binarySheets';

/** More columns than a table of things has, and wider cells than any text. */
const MAX_CELLS = 2000;
const MAX_CHARACTERS = 1_000_000;
/** No page that people made nests elements so deep; the parser's time grows with the square of the depth. */
const MAX_DEPTH = 1000;
/** Cells that spans may fill beyond those that are written. */
const MAX_SPANNED = 1_000_000;

const spanOf = (written = ''): number => Math.max(1, Math.min(Number.parseInt(written, 10) || 1, MAX_CELLS));

/**
 * Streams the rows of a page's tables, table after table, as inventory systems write them under a workbook's name. What stands in
 * a table inside another is text of its cell; a cell that reaches over rows stands in each of them. Scripts and styles are no text.
 * @param page its text, in pieces
 * @param wanted only this table, by the name it has here: "Table 2"; all where undefined
 */
export async function* readTables(page: AsyncIterable<string>, wanted?: string): AsyncGenerator<SheetRow> {
  let done: SheetRow[] = [];
  let [tables, depth, row] = [0, 0, 0];
  let cells: string[] | undefined;
  let text: string | undefined;
  let [across, down] = [1, 1];
  let silent = 0;
  let nested = 0;
  let spanned = 0;
  /** Counts cells that nothing is written for. */
  const span = (count: number) => {
    spanned += count;
    if (spanned > MAX_SPANNED)
      throw new InputError('workbookRefused', {
        why: `has cells in table ${tables} that reach over more than a million others; save it without merged cells`,
      });
  };
  /** Cells that reach into further rows, by column, and how many. */
  const reaching = new Map<number, { text: string; rows: number }>();
  const takeReaching = () => {
    for (let above = reaching.get(cells?.length ?? 0); cells && above; above = reaching.get(cells.length)) {
      if (above.rows === 1) reaching.delete(cells.length);
      else reaching.set(cells.length, { ...above, rows: above.rows - 1 });
      cells.push(above.text);
      span(1);
    }
  };
  const endCell = () => {
    if (text === undefined || !cells) return;
    const words = text.replace(/[\s\u00a0]+/g, ' ').trim();
    span(across - 1);
    for (let n = 0; n < across && cells.length < MAX_CELLS; n++) {
      if (down > 1) reaching.set(cells.length, { text: n === 0 ? words : '', rows: down - 1 });
      cells.push(n === 0 ? words : '');
    }
    text = undefined;
    takeReaching();
  };
  const endRow = () => {
    endCell();
    const sheet = `Table ${tables}`;
    if (cells?.length && (wanted === undefined || wanted === sheet))
      done.push({ sheet, row, cells, formula: undefined, calculated: [] });
    cells = undefined;
  };
  const parser = new Parser({
    onopentag: (name, { colspan, rowspan }) => {
      if (++nested > MAX_DEPTH)
        throw new InputError('workbookRefused', {
          why: `nests its elements more than ${MAX_DEPTH} deep, as no table does`,
        });
      if (name === 'script' || name === 'style') silent++;
      if (name === 'table' && depth++ === 0) {
        [tables, row] = [tables + 1, 0];
        reaching.clear();
      }
      if (depth !== 1) return;
      if (name === 'tr') {
        endRow();
        row++;
        cells = [];
        takeReaching();
      } else if ((name === 'td' || name === 'th') && cells && cells.length < MAX_CELLS) {
        endCell();
        text = '';
        across = spanOf(colspan);
        down = spanOf(rowspan);
      } else if (name === 'br' && text !== undefined) text += ' ';
    },
    ontext: (words) => {
      if (silent === 0 && text !== undefined && text.length < MAX_CHARACTERS) text += words;
    },
    onclosetag: (name) => {
      nested--;
      if (name === 'script' || name === 'style') silent--;
      if (depth === 1 && (name === 'td' || name === 'th')) endCell();
      if (depth === 1 && (name === 'tr' || name === 'table')) endRow();
      if (name === 'table') depth--;
    },
  });
  for await (const piece of page) {
    parser.write(piece);
    yield* done;
    done = [];
  }
  parser.end();
  endRow();
  yield* done;
}
