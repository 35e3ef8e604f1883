import { type LengthMeasure, lengthIn } from './length';
import { trimSigns } from './trimming';

const words = new Intl.Segmenter('en', { granularity: 'word' });
const signs = new Intl.Segmenter('en', { granularity: 'grapheme' });
const closing = /^[\p{Pe}\p{Pf}"'!?.%°]$/u;
/** What belongs to a word to a reader where it stands between letters without a blank. */
const inside = /[^\s,;:·|/&+–—()[\]]/u;
const trailing: ReadonlySet<string> = new Set(' \t\n\r\u00a0\u202f,;:·|/&+–—-');

/**
 * Texts of Latin letters, digits, blanks and signs that part words, and none that may stand inside one: there UAX #29 has a word
 * end where a run of letters and digits ends, and nothing need be segmented.
 */
const plain = /^(?:[A-Za-z0-9\u00c0-\u00d6\u00d8-\u00f6\u00f8-\u024f &+/|()[\]–—-]|[,;·:](?= )|(?<= )[·|])*$/;
const letterOrDigit = /[A-Za-z0-9\u00c0-\u024f]/;

/** Where the last word ends that fits, and closing signs behind it; of plain texts only. 0 where not even the first fits. */
function lastEnd(text: string, limit: number, measure: LengthMeasure): number {
  let fits = text.length;
  if (measure === 'bytes') {
    let used = 0;
    fits = 0;
    while (fits < text.length) {
      const unit = text.charCodeAt(fits);
      used += unit < 0x80 ? 1 : unit < 0x800 ? 2 : 3;
      if (used > limit) break;
      fits++;
    }
  } else fits = Math.min(limit, text.length);
  let end = fits;
  const closes = (at: number) => text[at] === ')' || text[at] === ']';
  if (end < text.length && letterOrDigit.test(text[end] as string))
    while (end > 0 && letterOrDigit.test(text[end - 1] as string)) end--;
  while (end > 0 && !letterOrDigit.test(text[end - 1] as string)) {
    if (closes(end - 1)) {
      let before = end - 1;
      while (before > 0 && closes(before - 1)) before--;
      if (before > 0 && letterOrDigit.test(text[before - 1] as string)) return end;
      end = before;
    } else end--;
  }
  return end;
}

/** The same of any text. */
function lastSegmentEnd(text: string, limit: number, measure: LengthMeasure): number {
  let end = 0;
  let used = 0;
  for (const { index, segment, isWordLike } of words.segment(text)) {
    used += lengthIn(segment, measure);
    if (used > limit) break;
    // Closing signs such as a bracket or a quotation mark belong to the word before them.
    if (isWordLike || (end === index && end > 0 && closing.test(segment))) end = index + segment.length;
  }
  return end;
}

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
  let end = plain.test(text) ? lastEnd(text, limit, measure) : lastSegmentEnd(text, limit, measure);
  if (end === 0) return undefined;
  // What stands between two letters or digits without a blank is one word to a reader: "12-piece", "T-shirt", "don't".
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
