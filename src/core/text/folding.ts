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
