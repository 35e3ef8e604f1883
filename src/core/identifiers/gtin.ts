/**
 * Global Trade Item Numbers and ISBNs.
 * Source of every rule here: GS1 General Specifications, sections 1.4 (prefixes) and 7.9 (check digit);
 * ISBN Users' Manual, 7th edition, for ISBN-10 and its conversion.
 */

export type IdentifierKind = 'GTIN-8' | 'GTIN-12' | 'GTIN-13' | 'GTIN-14' | 'ISBN-10' | 'ISBN-13' | 'unknown';

/** Why a code is not a usable identifier. One word each, so that it can stand in a column. */
export type IdentifierVerdict =
  | 'valid'
  /** nothing but white space */
  | 'empty'
  /** holds something that is neither digit nor separator */
  | 'characters'
  /** a number of digits that no kind has */
  | 'length'
  /** the last digit does not follow from the others */
  | 'checkdigit'
  /** well formed, but its prefix is kept for use inside one company (02, 04, 2) or for coupons (05, 98, 99) */
  | 'restricted';

export interface IdentifierReading {
  input: string;
  kind: IdentifierKind;
  /** 14 digits, filled with zeros on the left; empty unless the check digit holds. */
  normal: string;
  verdict: IdentifierVerdict;
}

/**
 * The GS1 check digit (modulo 10, weights 3 and 1 from the right).
 * @param body the digits before the check digit, of any length
 */
export function checkDigit(body: string): number {
  let sum = 0;
  for (let i = body.length - 1, weight = 3; i >= 0; i--, weight = 4 - weight) {
    sum += (body.charCodeAt(i) - 48) * weight;
  }
  return (10 - (sum % 10)) % 10;
}

/** Whether the last digit of a string of digits is the GS1 check digit of those before it. */
export function checkDigitHolds(digits: string): boolean {
  return checkDigit(digits.slice(0, -1)) === digits.charCodeAt(digits.length - 1) - 48;
}

/** Whether nine digits and a digit or X are an ISBN-10 (modulo 11, weights 10 to 1). */
function isbn10Holds(code: string): boolean {
  let sum = 0;
  for (let i = 0; i < 10; i++) {
    const digit = code[i] === 'X' || code[i] === 'x' ? 10 : code.charCodeAt(i) - 48;
    sum += digit * (10 - i);
  }
  return sum % 11 === 0;
}

/** ISBN-10 to ISBN-13: prefix 978, the first nine digits, a new check digit. */
export function isbn13From10(code: string): string {
  const body = `978${code.slice(0, 9)}`;
  return body + checkDigit(body);
}

const separators = /[\s\u00a0\u2010-\u2015-]+/g;

/** Prefixes that never identify goods in open trade, on the 13-digit form. 977 is ISSN, 978 and 979 books and music. */
function isRestricted(thirteen: string): boolean {
  return (
    thirteen.startsWith('02') ||
    thirteen.startsWith('04') ||
    thirteen.startsWith('05') ||
    thirteen.startsWith('2') ||
    thirteen.startsWith('98') ||
    thirteen.startsWith('99')
  );
}

/**
 * Reads one code as a person wrote it: spaces and hyphens are passed over, everything else counts.
 * Never throws; what is wrong is in `verdict`.
 */
export function readIdentifier(input: string): IdentifierReading {
  const code = input.replace(separators, '');
  if (code === '') return { input, kind: 'unknown', normal: '', verdict: 'empty' };
  if (code.length === 10 && /^\d{9}[\dXx]$/.test(code)) {
    const holds = isbn10Holds(code);
    return {
      input,
      kind: 'ISBN-10',
      normal: holds ? isbn13From10(code).padStart(14, '0') : '',
      verdict: holds ? 'valid' : 'checkdigit',
    };
  }
  if (!/^\d+$/.test(code)) return { input, kind: 'unknown', normal: '', verdict: 'characters' };
  const kind = kindOfLength(code);
  if (kind === 'unknown') return { input, kind, normal: '', verdict: 'length' };
  if (!checkDigitHolds(code)) return { input, kind, normal: '', verdict: 'checkdigit' };
  const normal = code.padStart(14, '0');
  // A GTIN-8 is told apart by its own first digit: RCN-8 begin with 0 or 2 (GS1 General Specifications 1.4.3).
  const restricted = kind === 'GTIN-8' ? /^[02]/.test(code) : isRestricted(normal.slice(1));
  return { input, kind, normal, verdict: restricted ? 'restricted' : 'valid' };
}

function kindOfLength(digits: string): IdentifierKind {
  switch (digits.length) {
    case 8:
      return 'GTIN-8';
    case 12:
      return 'GTIN-12';
    case 13:
      // 979-0 is printed music (ISMN), every other 978 and 979 a book.
      return /^97[89]/.test(digits) && !digits.startsWith('9790') ? 'ISBN-13' : 'GTIN-13';
    case 14:
      return 'GTIN-14';
    default:
      return 'unknown';
  }
}

/** The shortest usual form of a 14-digit number: 13 digits, or 14 where an indicator digit leads. */
export function shortForm(normal: string): string {
  return normal.startsWith('0') ? normal.slice(1) : normal;
}
