// biome-ignore lint/suspicious/noControlCharactersInRegex: the range is all of ASCII on purpose
const ascii = /^[\x00-\x7f]*$/;

/** Case, accents and doubled spaces taken away, for comparing words across spellings. `ß` becomes `ss`. */
export function fold(text: string): string {
  // Nothing to take apart there, and this is asked of every value.
  if (ascii.test(text))
    return text
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, ' ')
      .trim();
  return text
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .replace(/ß/g, 'ss')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
}

/** The code of a small letter or digit of ASCII, of a capital too; undefined of anything else. */
const codeOf = (code: number): number | undefined =>
  (code >= 97 && code <= 122) || (code >= 48 && code <= 57)
    ? code
    : code >= 65 && code <= 90
      ? code + 32
      : undefined;

/**
 * Whether two texts say the same, see {@link fold}. Most do not even begin and end alike, and are not folded for it: an ASCII letter at
 * either end is there after folding too.
 */
export function foldAlike(a: string, b: string): boolean {
  if (a === b) return true;
  const [head, other] = [codeOf(a.charCodeAt(0)), codeOf(b.charCodeAt(0))];
  if (head !== undefined && other !== undefined && head !== other) return false;
  const [tail, last] = [codeOf(a.charCodeAt(a.length - 1)), codeOf(b.charCodeAt(b.length - 1))];
  if (tail !== undefined && last !== undefined && tail !== last) return false;
  return fold(a) === fold(b);
}
