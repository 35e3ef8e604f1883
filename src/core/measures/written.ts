/** A number as it stands in a cell: what is written before it, the number itself, what is written behind it. */
export interface WrittenNumber {
  readonly before: string;
  /** A plain decimal string with a point and, where it is below zero, a minus. */
  readonly number: string;
  readonly after: string;
}

/** Longer cells are no numbers; nothing is looked for in them. */
const MAX_LENGTH = 80;
const grouped =
  /^(?:\d{1,3}(?:([.,'’_\s\u00a0\u2007\u2009\u202f])\d{3}(?:\1\d{3})*)|\d{1,2}(?:,\d{2})+,\d{3})$/;

/**
 * Digits with separators as a plain decimal string. Groups are of three digits, or in the Indian way of two and a last one
 * of three (CLDR, number patterns `#,##0` and `#,##,##0`); anything else between digits is no number.
 */
function plainNumber(body: string, decimalSign: ',' | '.' | undefined): string | undefined {
  const comma = body.lastIndexOf(',');
  const point = body.lastIndexOf('.');
  let sign: ',' | '.' = decimalSign ?? '.';
  if (comma >= 0 && point >= 0) sign = comma > point ? ',' : '.';
  else if (comma >= 0 || point >= 0) {
    const only = comma >= 0 ? ',' : '.';
    const repeated = body.indexOf(only) !== body.lastIndexOf(only);
    // "1,250" is a thousand and some where the source writes its decimals with a point, and one and a quarter where not.
    const thousands = only !== sign && /^[1-9]\d{0,2}[.,]\d{3}$/.test(body);
    sign = (repeated || thousands) === (only === ',') ? '.' : ',';
  }
  const at = body.lastIndexOf(sign);
  const complete = at < 0 ? body : body.slice(0, at);
  const decimals = at < 0 ? '' : body.slice(at + 1);
  if (complete.includes(sign) || !/^\d*$/.test(decimals)) return undefined;
  if (complete === '' ? decimals === '' : !/^\d+$/.test(complete) && !grouped.test(complete))
    return undefined;
  const digits = complete.replace(/\D/g, '') || '0';
  return decimals === '' ? digits : `${digits}.${decimals}`;
}

/** For a single one of what is sold, in the nine languages: says nothing of the amount before it. */
const apiece =
  /\s*(?:\/|\b(?:per|pro|je|par|por|al|za))\s*(?:stück|stk|st|einheit|pieces?|pcs?|units?|item|each|ea|pièce|pce|unité|unidad|ud|uds|pieza|pezzo|pz|stuks?|szt|sztukę|sztuka|unidade|un|un|peça|styck)\.?$|(?:^|\s)(?:each|ea\.?|apiece)$/iu;

const minus = /[-−–]/;
const run = /[\d.,'’_\s\u00a0\u2007\u2009\u202f]*/y;

/**
 * Takes a cell apart that is one number with something before or behind it.
 * @param decimalSign the sign the source writes its decimals with; a point where left out
 * @returns undefined where the cell holds no number, or more than one
 */
export function writtenNumber(text: string, decimalSign?: ',' | '.'): WrittenNumber | undefined {
  if (text.length > MAX_LENGTH) return undefined;
  const cell = text.trim();
  let begin = cell.search(/\d/);
  if (begin < 0) return undefined;
  // ".5" and ",5" begin with their sign; the point of "Fr.5" belongs to the word.
  if (/[.,]/.test(cell[begin - 1] ?? '') && !/\p{L}/u.test(cell[begin - 2] ?? '')) begin--;
  run.lastIndex = begin;
  // Blanks, and marks for feet, that end the run of digits belong to what comes behind it.
  const body = (run.exec(cell)?.[0] ?? '').replace(/[^\d.,]+$/, '');
  let before = cell.slice(0, begin).trim();
  let after = cell.slice(begin + body.length).trim();
  if (after.length > 1) after = after.replace(apiece, '').trim();
  // Whole amounts are written "24,-", "24.–" and "24:-".
  if (/[.,]$/.test(body) || after.startsWith(':')) after = after.replace(/^:?[-–—]\s*/, '');
  let negative = false;
  const sign = [before.at(-1) ?? '', before[0] ?? ''].findIndex((one) => one === '+' || minus.test(one));
  if (sign >= 0) {
    negative = (sign === 0 ? before.at(-1) : before[0]) !== '+';
    before = (sign === 0 ? before.slice(0, -1) : before.slice(1)).trim();
  }
  const number = plainNumber(body, decimalSign);
  if (number === undefined) return undefined;
  return { before, number: negative ? `-${number}` : number, after };
}
