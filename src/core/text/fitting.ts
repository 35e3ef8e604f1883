import { type LengthMeasure, lengthIn } from './length';
import { trimSigns } from './trimming';

const words = new Intl.Segmenter('en', { granularity: 'word' });
const signs = new Intl.Segmenter('en', { granularity: 'grapheme' });
const closing = /^[\p{Pe}\p{Pf}"'!?.%°]$/u;
const trailing: ReadonlySet<string> = new Set(' \t\n\r\u00a0\u202f,;:·|/&+–—-');

/**
 * Shortens a text to a limit, between words; separators left dangling at the end go too.
 * @param limit in the given measure
 * @returns undefined where not even the first word fits
 */
export function shortenBetweenWords(
  text: string,
  limit: number,
  measure: LengthMeasure = 'characters',
): string | undefined {
  // Only bytes can be more than UTF-16 units.
  if ((measure !== 'bytes' && text.length <= limit) || lengthIn(text, measure) <= limit) return text;
  let end = 0;
  let used = 0;
  for (const { index, segment, isWordLike } of words.segment(text)) {
    used += lengthIn(segment, measure);
    if (used > limit) break;
    // Closing signs such as a bracket or a quotation mark belong to the word before them.
    if (isWordLike || (end === index && end > 0 && closing.test(segment))) end = index + segment.length;
  }
  if (end === 0) return undefined;
  // What stands between two letters or digits without a blank is one word to a reader: "12-piece", "T-shirt", "don't".
  const inside = /[^\s,;:·|/&+–—()[\]]/u;
  if (end < text.length && inside.test(text[end] as string) && !closing.test(text[end] as string)) {
    let back = end;
    while (back > 0 && inside.test(text[back - 1] as string)) back--;
    if (back === 0) return undefined;
    end = back;
  }
  return trimSigns(closeBrackets(text.slice(0, end)), trailing, false) || undefined;
}

/** {@link shortenBetweenWords}; a first word longer than the limit is cut between graphemes, since nothing else would be left. */
export const shortenAtWord = (text: string, limit: number, measure: LengthMeasure = 'characters'): string =>
  shortenBetweenWords(text, limit, measure) ?? cutAtGrapheme(text, limit, measure);

/** The longest prefix within the limit that does not split a grapheme cluster. */
export function cutAtGrapheme(text: string, limit: number, measure: LengthMeasure): string {
  let used = 0;
  let end = 0;
  for (const { segment } of signs.segment(text)) {
    used += measure === 'graphemes' ? 1 : lengthIn(segment, measure);
    if (used > limit) break;
    end += segment.length;
  }
  return text.slice(0, end).trimEnd();
}

/** A bracket opened but not closed by the cut goes, with what follows it. */
function closeBrackets(text: string): string {
  const open = Math.max(text.lastIndexOf('('), text.lastIndexOf('['));
  if (open <= 0) return text;
  const close = text[open] === '(' ? ')' : ']';
  return text.indexOf(close, open) === -1 ? text.slice(0, open) : text;
}
