import { Parser } from 'htmlparser2';
import type { SheetRow } from './xlsx';

/** More columns than a table of things has, and wider cells than any text. */
const mostCells = 2000;
const mostSigns = 1_000_000;

/**
 * Streams the rows of a page's tables, table after table, as inventory systems write them under a workbook's name. What stands in
 * a table inside another is text of its cell. Scripts and styles are no text.
 * @param page its text, in pieces
 * @param wanted only this table, by the name it has here: "Table 2"; all where undefined
 */
export async function* readTables(page: AsyncIterable<string>, wanted?: string): AsyncGenerator<SheetRow> {
  let done: SheetRow[] = [];
  let [tables, depth, row] = [0, 0, 0];
  let cells: string[] | undefined;
  let text: string | undefined;
  let across = 1;
  let silent = 0;
  const endCell = () => {
    if (text === undefined || !cells) return;
    cells.push(text.replace(/[\s\u00a0]+/g, ' ').trim());
    for (; across > 1 && cells.length < mostCells; across--) cells.push('');
    text = undefined;
  };
  const endRow = () => {
    endCell();
    const sheet = `Table ${tables}`;
    if (cells?.length && (wanted === undefined || wanted === sheet))
      done.push({ sheet, row, cells, formula: undefined });
    cells = undefined;
  };
  const parser = new Parser({
    onopentag: (name, { colspan }) => {
      if (name === 'script' || name === 'style') silent++;
      if (name === 'table' && depth++ === 0) [tables, row] = [tables + 1, 0];
      if (depth !== 1) return;
      if (name === 'tr') {
        endRow();
        row++;
        cells = [];
      } else if ((name === 'td' || name === 'th') && cells && cells.length < mostCells) {
        endCell();
        text = '';
        across = Math.min(Number.parseInt(colspan ?? '', 10) || 1, mostCells);
      } else if (name === 'br' && text !== undefined) text += ' ';
    },
    ontext: (words) => {
      if (silent === 0 && text !== undefined && text.length < mostSigns) text += words;
    },
    onclosetag: (name) => {
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
