/**
 * Text length in the three measures channels count in.
 * Bytes: UTF-8, RFC 3629. Characters: Unicode code points. Graphemes: what a reader sees as one sign, UAX #29.
 */
export type LengthMeasure = 'characters' | 'bytes' | 'graphemes';

// biome-ignore lint/suspicious/noControlCharactersInRegex: the range is all of ASCII on purpose
const ascii = /^[\x00-\x7f]*$/;
const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** UTF-8 bytes of a text; a lone surrogate counts as the three bytes of U+FFFD, as encoders write it. */
export function byteLength(text: string): number {
  let bytes = 0;
  for (let i = 0; i < text.length; i++) {
    const unit = text.charCodeAt(i);
    if (unit < 0x80) bytes += 1;
    else if (unit < 0x800) bytes += 2;
    else if (unit >= 0xd800 && unit <= 0xdbff && (text.charCodeAt(i + 1) & 0xfc00) === 0xdc00) {
      bytes += 4;
      i++;
    } else bytes += 3;
  }
  return bytes;
}

/** Code points of a text. */
export function characterLength(text: string): number {
  let count = text.length;
  for (let i = 0; i < text.length - 1; i++) {
    if ((text.charCodeAt(i) & 0xfc00) === 0xd800 && (text.charCodeAt(i + 1) & 0xfc00) === 0xdc00) {
      count--;
      i++;
    }
  }
  return count;
}

/** Grapheme clusters of a text. */
export function graphemeLength(text: string): number {
  if (ascii.test(text) && !text.includes('\r\n')) return text.length;
  let count = 0;
  for (const _ of graphemes.segment(text)) count++;
  return count;
}

/** Length of a text in the given measure. */
export function lengthIn(text: string, measure: LengthMeasure): number {
  return measure === 'bytes'
    ? byteLength(text)
    : measure === 'graphemes'
      ? graphemeLength(text)
      : characterLength(text);
}
