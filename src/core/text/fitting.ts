import { type LengthMeasure, lengthIn } from './length';
import { trimCharacters } from './trimming';

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
  end = beforeSize(text, end);
  const cut = trimCharacters(closeBrackets(text.slice(0, end)), trailing, false);
  return withoutDangling(cut) || undefined;
}

/** A size is one word: "3/4" and "S/M" are not cut at their slash. @returns where the text ends instead */
function beforeSize(text: string, end: number): number {
  if (text[end] !== '/') return end;
  const [left = ''] = /[\p{L}\p{N}]+(?:\/[\p{L}\p{N}]+)*$/u.exec(text.slice(0, end)) ?? [];
  const [right = ''] = /^[\p{L}\p{N}]+/u.exec(text.slice(end + 1)) ?? [];
  const isSize = left !== '' && right !== '' && left.length <= 3 && right.length <= 3;
  return isSize ? end - left.length : end;
}

/** Words that lead on to others and end no phrase, in the nine languages that suggestions know. */
const leadingOn = new Set(
  (
    'a an and as at by for from in into of on or the to with without ' +
    'aus bei das dem den der des die ein eine für im in mit oder ohne und vom von zu zum zur ' +
    'au aux avec dans de des du en et la le les ou par pour sans sur un une ' +
    'al con de del el en la las los o para por sin un una y ' +
    'a al alla con da dal dei del della di e il in la lo o per senza un una ' +
    'de een en het in met of op te van voor zonder ' +
    'bez dla do i ' +
    'com da das do dos e em o os ou para por sem ' +
    'av en ett för i med och på till utan'
  ).split(' '),
);

/** A text that was cut, without the words at its end that lead on to what is gone: "shelf for" is "shelf". */
function withoutDangling(text: string): string {
  for (let rest = text; ; ) {
    const at = rest.lastIndexOf(' ');
    const last = rest.slice(at + 1);
    // A single capital is a size or a letter of a name.
    if (at <= 0 || last.length === 0 || /^\p{Lu}/u.test(last) || !leadingOn.has(last.toLowerCase()))
      return rest;
    rest = trimCharacters(rest.slice(0, at), trailing, false);
  }
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
