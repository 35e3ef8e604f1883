import { startingAttributes } from '../../catalog/attributes';
import { termFinder } from '../../catalog/terms';
import { counted, formatNumber } from '../../formatting/formatting';
import { checkDigitHolds, readIdentifier } from '../../identifiers/gtin';
import { monthOf } from '../../measures/monthNames';

/** What spreadsheets and wrong encodings do to values. Each is found with a proposed repair; none is carried out unasked. */
export const damages = [
  'scientific',
  'leadingZeros',
  'date',
  'encoding',
  'invisible',
  'decimalSign',
  'formula',
  'apostrophe',
  'decimalZero',
  'checkDigit',
  'sheetError',
  'cut',
  'stockWord',
  'lostLetters',
] as const;
export type Damage = (typeof damages)[number];

export interface Proposal {
  readonly damage: Damage;
  readonly from: string;
  /** What it would become; undefined where too much is lost and the source must be asked. */
  readonly to: string | undefined;
  readonly reason: string;
}

/** Characters that cannot be seen and do not belong in a code: zero-width characters, marks of direction, no-break spaces, controls. */
const invisible =
  // biome-ignore lint/suspicious/noControlCharactersInRegex: these are the characters to find
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f\u00a0\u00ad\u200b-\u200f\u202a-\u202e\u2060\ufeff]/g;

/** Looks at a GTIN cell. */
export function gtinDamage(cell: string): Proposal | undefined {
  const clean = cell.replace(invisible, '').trim();
  if (clean !== cell && readIdentifier(clean).normal !== '')
    return {
      damage: 'invisible',
      from: cell,
      to: clean,
      reason: 'blanks or invisible characters around the digits',
    };
  const changed = rewrittenDamage(clean);
  if (changed) return changed;
  const scientific = /^(\d)(?:[.,](\d+))?\s?(?:[eE]\+?\s?|[×x*·]\s?10\^?\s?)(\d{1,2})$/.exec(clean);
  if (scientific) {
    const digits = `${scientific[1]}${scientific[2] ?? ''}`;
    const length = Number(scientific[3]) + 1;
    const complete = digits.padEnd(length, '0');
    // Only where every digit survived is the number whole; otherwise the end was rounded away and is never invented.
    if (digits.length >= length && readIdentifier(complete.slice(0, length)).normal !== '')
      return {
        damage: 'scientific',
        from: cell,
        to: complete.slice(0, length),
        reason: 'written in scientific notation with all its digits',
      };
    return {
      damage: 'scientific',
      from: cell,
      to: undefined,
      reason: `written in scientific notation: ${Math.min(digits.length, length)} of ${length} digits are left`,
    };
  }
  if (/^\d{6,12}$/.test(clean) && readIdentifier(clean).normal === '') {
    for (const length of [8, 12, 13])
      if (clean.length < length) {
        const restored = clean.padStart(length, '0');
        // A GTIN-8 lost to zeros alone is too short to be told from chance.
        if (length > 8 && checkDigitHolds(restored))
          return {
            damage: 'leadingZeros',
            from: cell,
            to: restored,
            reason: `with ${counted(length - clean.length, 'leading zero')} the check digit is right`,
          };
      }
  }
  // Told, never repaired: which digit is wrong cannot be known.
  if (/^(\d{8}|\d{12,14})$/.test(clean) && !checkDigitHolds(clean))
    return { damage: 'checkDigit', from: cell, to: undefined, reason: 'the check digit is wrong' };
  return undefined;
}

/** What spreadsheets leave around a code's digits, which stand in the first group, each with its reason. */
const rewritten: readonly (readonly [Damage, RegExp, string])[] = [
  ['apostrophe', /^['’`´](\d[\d .-]*\d|\d)$/, 'a leading apostrophe'],
  ['decimalZero', /^(\d{2,14})[.,]0{1,2}$/, 'a code that was kept as a number with decimals'],
];

/** A code with something around its digits: "'00123", "1001.0". */
function rewrittenDamage(cell: string): Proposal | undefined {
  for (const [damage, pattern, reason] of rewritten) {
    const to = pattern.exec(cell)?.[1];
    if (to !== undefined) return { damage, from: cell, to, reason };
  }
  return undefined;
}

/** Cells of these lengths were cut by a database's or a spreadsheet's limit, where they end inside a sentence. */
const cutLengths = new Set([255, 256, 1023, 1024, 4000, 32_767]);

/** Looks at a long text that ends at such a limit without a closing sign. */
function cutDamage(cell: string): Proposal | undefined {
  return cutLengths.has(cell.length) && /[\p{L}\p{N},;(-]$/u.test(cell) && /\s/.test(cell)
    ? {
        damage: 'cut',
        from: cell.slice(-60),
        to: undefined,
        reason: `it ends in the middle of a sentence after exactly ${formatNumber(cell.length)} characters`,
      }
    : undefined;
}

/** What stands for no value: a spreadsheet's errors, a database's word for nothing, and dashes. */
const nothing =
  /^\s*(\\N|#N\/A|#NV|#NOM\?|#NAME\?|#REF!|#BEZUG!|#VALUE!|#WERT!|#VALEUR!|#¡VALOR!|#VALORE!|#DIV\/0!|#NUM!|#ZAHL!|#NULL!|\(?null\)?|NULL|n\/a|N\/A|NaN|undefined|k\. ?A\.|n\. ?v\.|[-–—]{1,3})\s*$/;
export const saysNothing = (cell: string): boolean => nothing.test(cell);

/** Looks at a cell that says nothing: a spreadsheet's error is told, since a value was meant to stand there. */
export const sheetErrorDamage = (cell: string): Proposal | undefined =>
  cell.trim().startsWith('#')
    ? {
        damage: 'sheetError',
        from: cell.trim(),
        to: undefined,
        reason: 'a spreadsheet error; read as empty',
      }
    : undefined;

/** Looks at a part number or SKU: spreadsheets turn "3-12" or "MAR-12" into dates. What it was cannot be known for sure. */
export function codeDamage(cell: string): Proposal | undefined {
  const clean = cell.replace(invisible, '');
  if (clean.trim() !== cell)
    return {
      damage: 'invisible',
      from: cell,
      to: clean.trim(),
      reason: 'blanks or invisible characters in a code',
    };
  const changed = rewrittenDamage(clean);
  if (changed) return changed;
  if (/^\d(?:[.,]\d+)?[eE]\+\d{1,2}$/.test(clean))
    return {
      damage: 'scientific',
      from: cell,
      to: undefined,
      reason: 'written in scientific notation; its last digits may be lost',
    };
  const date = dateDamage(clean, false);
  if (date) return { ...date, from: cell };
  return undefined;
}

/** Signs without width, marks of direction and controls: nobody writes them into a text on purpose. */
const unseen =
  // biome-ignore lint/suspicious/noControlCharactersInRegex: these are the characters to find
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f\u200b\u2060\u202a-\u202e\ufeff]/g;

/** Looks at a text for letters that an encoding could not hold (“gr?n”), and for invisible characters. */
export function letterDamage(cell: string): Proposal | undefined {
  if (/\ufffd|\p{L}\?\p{Ll}/u.test(cell) && !/:\/\/|\?\w+=/.test(cell))
    return {
      damage: 'lostLetters',
      from: cell.slice(0, 80),
      to: undefined,
      reason: 'letters were lost in another encoding',
    };
  const clean = cell.replace(unseen, '');
  return clean === cell
    ? undefined
    : { damage: 'invisible', from: cell, to: clean, reason: 'invisible characters in a text' };
}

/**
 * Looks at a code or a size that a spreadsheet took for a date: "3-4" becomes "03. Apr" or "Apr-03".
 * @param monthFirst whether "Apr-03" is one as well; part numbers are written so
 */
function dateDamage(cell: string, monthFirst = true): Proposal | undefined {
  const clean = cell.trim();
  // As spreadsheets write them; "3 set" and "Set 2" are sizes, whatever languages call September so.
  const before = /^(\d{1,2})(?:-|\. ?)(\p{L}{3})\.?$/u.exec(clean);
  const after = !monthFirst ? null : /^(\p{L}{3})\.?-(\d{1,2})$/u.exec(clean);
  const day = before?.[1] ?? after?.[2];
  const month = monthOf(before?.[2] ?? after?.[1] ?? '');
  if (day !== undefined && month)
    return {
      damage: 'date',
      from: cell,
      to: `${Number(day)}-${month}`,
      reason: 'it was turned into a day and a month',
    };
  if (/^\d{4}-\d\d-\d\d( 00:00:00)?$/.test(clean))
    return { damage: 'date', from: cell, to: undefined, reason: 'it was turned into a date' };
  return undefined;
}

/** Before a number, that there are more of them, and behind one, in the nine languages. */
const atLeast =
  /^(?:>=?|≥|over|more than|at least|min\.?|über|ueber|mehr als|mind(?:\.|estens)?|ab|plus de|au moins|m[aá]s de|al menos|oltre|più di|almeno|meer dan|minstens|ponad|powyżej|co najmniej|mais de|pelo menos|mer än|över|minst)\s*(\d{1,7})$|^(\d{1,7})\s*(?:\+|or more|und mehr|oder mehr|et plus|ou plus|o m[aá]s|e più|o più|en meer|of meer|i więcej|lub więcej|ou mais|e mais|eller fler|och fler)$/iu;
const stateOf = termFinder(startingAttributes.find(({ code }) => code === 'availability')?.terms ?? []);

/** Looks at a stock that is no number: "sold out" is none, "> 10" is ten at least; "in stock" does not say how many. */
export function stockDamage(cell: string): Proposal | undefined {
  const found = (to: string | undefined, reason: string): Proposal => ({
    damage: 'stockWord',
    from: cell,
    to,
    reason,
  });
  // No stock takes more to say.
  if (cell.length > 60) return undefined;
  const many = atLeast.exec(cell.trim());
  if (many) return found(many[1] ?? many[2], 'the stock is a minimum (“more than …”)');
  const state = stateOf(cell.trim());
  if (state === 'OutOfStock' || state === 'SoldOut' || state === 'Discontinued')
    return found('0', 'the stock is in words: none');
  return state === undefined ? undefined : found(undefined, 'the stock is in words, without a number');
}

/** The look that fits an attribute: its GTIN, a code, a stock, or text. */
export function damageOf(attribute: string, cell: string): Proposal | undefined {
  if (attribute === 'inventoryLevel') return stockDamage(cell);
  if (attribute === 'gtin') return gtinDamage(cell);
  if (attribute === 'sku' || attribute === 'mpn') return codeDamage(cell);
  if (attribute === 'size') return dateDamage(cell) ?? encodingDamage(cell);
  return encodingDamage(cell) ?? letterDamage(cell) ?? cutDamage(cell);
}

/** The bytes 80 to 9F of Windows-1252 by what they show as; WHATWG Encoding standard, index windows-1252. */
const highBytes = new Map(
  [...'€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ'].map((sign, i) => [sign, 0x80 + i]),
);

/**
 * Looks at a number in a column that writes its decimals with `sign`: "1.299,00" where the column has "1,299.00" was
 * written, or opened, in another country.
 */
export function decimalDamage(cell: string, sign: ',' | '.'): Proposal | undefined {
  const other = sign === ',' ? '.' : ',';
  const body = cell.replace(/[^\d.,]/g, '');
  const at = body.lastIndexOf(other);
  const own = body.lastIndexOf(sign);
  if (at < 0 || at < own) return undefined;
  // Three digits behind a single sign of the other kind are thousands, which the column's own form allows.
  if (own < 0 && (/^\d{3}$/.test(body.slice(at + 1)) || body.indexOf(other) !== at)) return undefined;
  return {
    damage: 'decimalSign',
    from: cell,
    to: cell.replace(/[.,]/g, (one) => (one === sign ? other : sign)),
    reason: `the column writes decimals with a ${sign === ',' ? 'comma' : 'point'}; here they are swapped`,
  };
}

/** Looks at any cell: digits wrapped in a formula to keep their zeros (`="0012"`) are taken out of it. */
export function formulaDamage(cell: string): Proposal | undefined {
  const wrapped = /^="([^"]*)"$/.exec(cell.trim());
  if (wrapped)
    return {
      damage: 'formula',
      from: cell,
      to: wrapped[1] ?? '',
      reason: 'text wrapped in a formula, to keep a spreadsheet from changing it',
    };
  return undefined;
}

/** A cell that a spreadsheet would run. It is never run, and no item takes it. */
export const isFormula = (cell: string): boolean => /^\s*=\s*[^\s=]/.test(cell);

/** UTF-8 characters of two and three bytes as Windows-1252 shows them. People hardly ever write these sequences. */
const asShown =
  /[ÂÃ][\u0080-\u00bf€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ]|â[\u0080-\u00bf€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ]{2}/;
const everyShown = new RegExp(`${asShown.source}|[ÄÅ][\u0080-\u00bf€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ]`, 'g');

/** Reads characters as the bytes of Windows-1252 in UTF-8; undefined where they are no valid UTF-8. */
function readAsUtf8(text: string): string | undefined {
  const bytes: number[] = [];
  for (const character of text) {
    const code = character.codePointAt(0) ?? 0;
    const byte = highBytes.get(character) ?? (code < 0x100 ? code : undefined);
    if (byte === undefined) return undefined;
    bytes.push(byte);
  }
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(new Uint8Array(bytes));
  } catch {
    return undefined;
  }
}

/**
 * Looks at a text: UTF-8 that was read as Windows-1252 ("StrÃ¤uÃŸe") is read back, in a text that is right elsewhere only
 * where it is damaged.
 */
export function encodingDamage(cell: string): Proposal | undefined {
  if (!/[\u00c2-\u00f4][\u0080-\u00bf€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ]/.test(cell)) return undefined;
  const complete = readAsUtf8(cell);
  const to =
    complete ?? (asShown.test(cell) ? cell.replace(everyShown, (found) => readAsUtf8(found) ?? found) : cell);
  return to === cell
    ? undefined
    : { damage: 'encoding', from: cell, to, reason: 'UTF-8 that was read as Windows-1252' };
}
