import { checkDigitHolds, readIdentifier } from '../identifiers/gtin';

/** What spreadsheets and wrong encodings do to values. Each is found with a proposed repair; none is carried out unasked. */
export const damages = [
  'scientific',
  'leadingZeros',
  'date',
  'encoding',
  'invisible',
  'decimalSign',
  'formula',
] as const;
export type Damage = (typeof damages)[number];

export interface Proposal {
  readonly damage: Damage;
  readonly from: string;
  /** What it would become; undefined where too much is lost and the source must be asked. */
  readonly to: string | undefined;
  readonly reason: string;
}

/** Characters that cannot be seen and do not belong in a code: zero-width signs, marks of direction, no-break spaces, controls. */
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
  const scientific = /^(\d)(?:[.,](\d+))?[eE]\+?(\d{1,2})$/.exec(clean);
  if (scientific) {
    const digits = `${scientific[1]}${scientific[2] ?? ''}`;
    const length = Number(scientific[3]) + 1;
    const whole = digits.padEnd(length, '0');
    // Only where every digit survived is the number whole; otherwise the end was rounded away and is never invented.
    if (digits.length >= length && readIdentifier(whole.slice(0, length)).normal !== '')
      return {
        damage: 'scientific',
        from: cell,
        to: whole.slice(0, length),
        reason: 'written in scientific notation with all its digits',
      };
    return {
      damage: 'scientific',
      from: cell,
      to: undefined,
      reason: `written in scientific notation: ${Math.min(digits.length, length)} of ${length} digits survived`,
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
            reason: `with ${length - clean.length} leading ${length - clean.length === 1 ? 'zero' : 'zeros'} the check digit holds`,
          };
      }
  }
  return undefined;
}

const months: Readonly<Record<string, number>> = {
  jan: 1,
  feb: 2,
  mar: 3,
  apr: 4,
  may: 5,
  jun: 6,
  jul: 7,
  aug: 8,
  sep: 9,
  oct: 10,
  nov: 11,
  dec: 12,
  mrz: 3,
  mai: 5,
  okt: 10,
  dez: 12,
};

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
  const spoken = /^(\d{1,2})[-. ]+([A-Za-z]{3})\.?$/.exec(clean);
  const month = spoken ? months[(spoken[2] ?? '').toLowerCase()] : undefined;
  if (spoken && month)
    return {
      damage: 'date',
      from: cell,
      to: `${Number(spoken[1])}-${month}`,
      reason: 'a code that was turned into a day and a month',
    };
  if (/^\d{4}-\d\d-\d\d( 00:00:00)?$/.test(clean))
    return { damage: 'date', from: cell, to: undefined, reason: 'a code that was turned into a date' };
  return undefined;
}

/** The look that fits an attribute: its GTIN, a code, or text. */
export function damageOf(attribute: string, cell: string): Proposal | undefined {
  if (attribute === 'gtin') return gtinDamage(cell);
  if (attribute === 'sku' || attribute === 'mpn') return codeDamage(cell);
  return encodingDamage(cell);
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
    reason: `the column writes decimals with a ${sign === ',' ? 'comma' : 'point'}; here the signs are swapped`,
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

/** Looks at a text: UTF-8 that was read as Windows-1252 ("StrÃ¤uÃŸe") is read back where all of it can be. */
export function encodingDamage(cell: string): Proposal | undefined {
  if (!/[\u00c2-\u00f4][\u0080-\u00bf€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ]/.test(cell)) return undefined;
  const bytes: number[] = [];
  for (const sign of cell) {
    const code = sign.codePointAt(0) ?? 0;
    const byte = highBytes.get(sign) ?? (code < 0x100 ? code : undefined);
    if (byte === undefined) return undefined;
    bytes.push(byte);
  }
  try {
    const to = new TextDecoder('utf-8', { fatal: true }).decode(new Uint8Array(bytes));
    return to === cell
      ? undefined
      : { damage: 'encoding', from: cell, to, reason: 'UTF-8 that was read as Windows-1252' };
  } catch {
    return undefined;
  }
}
