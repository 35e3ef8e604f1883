/** Cells that a workbook may hold by saying that others come again; no list of items has more. */
import { formatNumber } from '../core/formatting/formatting';

const MAX_REPEATED = 2_000_000;
/** A cell may stand in one of so many columns. */
const MAX_COLUMN = 16_384;

/** Longest piece of a tag that is carried into the next chunk. */
const MAX_TAG = 4096;

/**
 * Counts the cells that the rows of an OpenDocument table come to, as they stream by: a cell and a row may be said to come a
 * million times in a few bytes. Empty ones behind the last cell count for nothing, as every program writes them.
 * Source: OpenDocument 1.3, 19.675 (number-columns-repeated) and 19.679 (number-rows-repeated).
 */
export class RepeatCounter {
  /** Cells that come again, over all rows. */
  repeated = 0;
  /** The farthest column that a cell with something in it stands in. */
  farthest = 0;
  private rest = '';
  private rowRepeat = 1;
  private rowCells = 0;
  private column = 0;

  push(chunk: string): void {
    const text = this.rest + chunk;
    const tags = /<(\/?)table:(table-row|table-cell|covered-table-cell)\b([^>]*?)(\/?)>/g;
    let end = 0;
    for (let tag = tags.exec(text); tag; tag = tags.exec(text)) {
      end = tags.lastIndex;
      const [, closes, name, attributes = '', empty] = tag;
      if (name === 'table-row') this.endRow(closes === '' ? repeatIn(attributes, 'rows') : 1);
      else if (closes === '') this.cell(repeatIn(attributes, 'columns'), empty === '');
    }
    const open = text.lastIndexOf('<');
    this.rest = text.slice(Math.max(end, open < 0 ? text.length : open, text.length - MAX_TAG));
  }

  private cell(repeat: number, filled: boolean): void {
    this.column += repeat;
    if (!filled) return;
    this.farthest = Math.max(this.farthest, this.column);
    this.rowCells += repeat;
  }

  private endRow(repeat: number): void {
    if (this.rowRepeat > 1 || this.rowCells > MAX_COLUMN) this.repeated += this.rowCells * this.rowRepeat;
    this.rowRepeat = repeat;
    this.rowCells = 0;
    this.column = 0;
  }

  /** What is wrong with what went by, in words; undefined where nothing is. */
  trouble(): string | undefined {
    this.endRow(1);
    if (this.repeated > MAX_REPEATED)
      return `says that its cells come ${formatNumber(this.repeated)} times, as only a file made to fill a machine does; save it as CSV`;
    if (this.farthest > MAX_COLUMN) return 'has a cell beyond column 16,384; remove it, or save it as CSV';
    return undefined;
  }
}

function repeatIn(attributes: string, of: 'rows' | 'columns'): number {
  const found = new RegExp(`table:number-${of}-repeated\\s*=\\s*["'](\\d{1,15})["']`).exec(attributes);
  return Math.max(1, Number(found?.[1] ?? 1));
}
