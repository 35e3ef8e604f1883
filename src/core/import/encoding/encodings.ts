import iconv from 'iconv-lite';

/** How text is written in bytes. ISO-8859-1 is read as Windows-1252, which has its letters and more. */
export const encodings = [
  'utf-8',
  'utf-16le',
  'utf-16be',
  'windows-1252',
  'windows-1250',
  'windows-1251',
  'iso-8859-2',
  'iso-8859-15',
  'macintosh',
] as const;
export type Encoding = (typeof encodings)[number];

/** Encodings of one byte a sign, the most frequent first: of equals the first counts. */
const singleByte = encodings.slice(3) as readonly Encoding[];

/** Letters beyond ASCII of the languages that files of trade are written in, as their small forms. */
const alphabets = [
  'äöüßé',
  // Without æ, which French hardly writes: as Windows-1252 the ć of Polish reads as one.
  'àâçéèêëîïôœùûüÿ',
  'áéíóúüñªº',
  'áâãàçéêíóôõúüªº',
  'àèéìíîòóù',
  'áéëèïóöü',
  'åäöé',
  'æøåéö',
  'ąćęłńóśźż',
  'áčďéěíňóřšťúůýž',
  'áäčďéíĺľňóôŕšťúýž',
  'áéíóöőúüű',
  'ăâîșțşţ',
  'čćđšž',
  'абвгдежзийклмнопрстуфхцчшщъыьэюяёіїєґ',
].map((letters) => new Set(letters));

/** Signs that stand between words and beside numbers. */
const signs = new Set('€£°²³½¼¾×µ–—’‘“”„‚…«»®™©·•±§\u00a0');

const isLetter = (sign: string | undefined): boolean => sign !== undefined && /\p{L}/u.test(sign);
const isUpper = (sign: string): boolean => sign !== sign.toLowerCase();

/** Whether a digit stands before or behind a sign, or behind a blank beside it. */
const besideNumber = (text: string, at: number): boolean =>
  /\d\s?$/.test(text.slice(Math.max(0, at - 2), at)) || /^\s?\d/.test(text.slice(at + 1, at + 3));

/** How much some text looks as people of one language or another write it, by its signs beyond ASCII and their company. */
function likeness(text: string): number {
  let score = 0;
  const letters = new Map<string, number>();
  for (let at = 0; at < text.length; at++) {
    const sign = text[at] as string;
    const code = sign.charCodeAt(0);
    if (code < 0x80) continue;
    const [before, after] = [text[at - 1], text[at + 1]];
    if (code < 0xa0 || code === 0xfffd) score -= 6;
    else if (isLetter(sign)) {
      const small = sign.toLowerCase();
      letters.set(small, (letters.get(small) ?? 0) + 1);
      const cyrillic = code >= 0x400 && code < 0x500;
      // A capital by itself beside a number is the sign of a currency, read wrongly.
      if (isUpper(sign) && !isLetter(before) && !isLetter(after) && besideNumber(text, at)) score -= 6;
      // A capital in the middle of small letters, Cyrillic among Latin letters, and three accents in a row are not written.
      if (isUpper(sign) && before && isLetter(before) && !isUpper(before)) score -= 5;
      for (const beside of [before, after]) if (beside && cyrillic && /[a-z]/i.test(beside)) score -= 4;
      if (!cyrillic && isAccented(before) && isAccented(text[at - 2])) score -= 5;
    } else if (signs.has(sign)) {
      // Signs stand at the ends of words, not in them; an apostrophe does.
      score += isLetter(before) && isLetter(after) && sign !== '’' ? -4 : 1;
    } else score -= 3;
  }
  const inLanguage = (alphabet: ReadonlySet<string>) => {
    let sum = 0;
    for (const [letter, count] of letters) sum += count * (alphabet.has(letter) ? 3 : -2);
    return sum;
  };
  return score + Math.max(...alphabets.map(inLanguage));
}

const isAccented = (sign: string | undefined): boolean =>
  sign !== undefined && sign.charCodeAt(0) >= 0x80 && isLetter(sign);

/**
 * Bytes without their UTF-8 characters of two and three bytes: a cell that was damaged earlier is no evidence of the file's
 * encoding. All bytes where no other evidence would be left.
 */
function withoutDamage(bytes: Buffer): Buffer {
  const stored: number[] = [];
  const isRest = (byte: number | undefined) => byte !== undefined && byte >= 0x80 && byte < 0xc0;
  for (let at = 0; at < bytes.length; at++) {
    const byte = bytes[at] as number;
    if (byte >= 0xc2 && byte <= 0xc5 && isRest(bytes[at + 1])) at++;
    else if (byte === 0xe2 && isRest(bytes[at + 1]) && isRest(bytes[at + 2])) at += 2;
    else stored.push(byte);
  }
  return stored.some((byte) => byte >= 0x80) ? Buffer.from(stored) : bytes;
}

/** The encoding of one byte a sign in which the bytes make the most sense. */
function likeliest(sample: Uint8Array): Encoding {
  const bytes = withoutDamage(Buffer.from(sample.subarray(0, 200_000)));
  let best: Encoding = 'windows-1252';
  let most = Number.NEGATIVE_INFINITY;
  for (const encoding of singleByte) {
    const score = likeness(iconv.decode(bytes, encoding));
    if (score > most) [best, most] = [encoding, score];
  }
  return best;
}

/** UTF-16 without a mark: there are zeros, which no other text has, and read so nearly all signs are letters or plain. */
function wideOf(sample: Uint8Array): Encoding | undefined {
  const part = sample.subarray(0, Math.min(sample.length, 4000) & ~1);
  if (part.length < 4 || !part.includes(0)) return undefined;
  const plain = (encoding: 'utf-16le' | 'utf-16be') => {
    const signs = [...new TextDecoder(encoding).decode(part)];
    return (
      signs.filter((sign) => /[\t\n\r -~\u00a0-\u017f\u0400-\u04ff\u2010-\u2122]/.test(sign)).length /
      signs.length
    );
  };
  const [little, big] = [plain('utf-16le'), plain('utf-16be')];
  if (Math.max(little, big) < 0.95) return undefined;
  return little >= big ? 'utf-16le' : 'utf-16be';
}

const isUtf8 = (sample: Uint8Array): boolean => {
  // A sign of several bytes may be cut where the sample ends.
  for (let cut = 0; cut <= 3 && cut < Math.max(sample.length, 1); cut++)
    try {
      new TextDecoder('utf-8', { fatal: true }).decode(sample.subarray(0, sample.length - cut));
      return true;
    } catch {
      // Once more with less.
    }
  return false;
};

const declaredNames: Readonly<Record<string, Encoding>> = {
  'utf-8': 'utf-8',
  utf8: 'utf-8',
  'iso-8859-1': 'windows-1252',
  'latin-1': 'windows-1252',
  latin1: 'windows-1252',
  'us-ascii': 'windows-1252',
  cp1252: 'windows-1252',
  cp1250: 'windows-1250',
  cp1251: 'windows-1251',
  macroman: 'macintosh',
  'x-mac-roman': 'macintosh',
};

/** The encoding that an XML file names in its first line. */
function declaredIn(sample: Uint8Array): Encoding | undefined {
  const name = /^(?:\xef\xbb\xbf)?<\?xml[^>]*encoding=["']([\w-]+)["']/
    .exec(Buffer.from(sample.subarray(0, 200)).toString('latin1'))?.[1]
    ?.toLowerCase();
  if (name === undefined) return undefined;
  return declaredNames[name] ?? encodings.find((one) => one === name);
}

/**
 * How some bytes are written: by their mark, as UTF-16 by its zeros, as UTF-8 where they are valid, else in the encoding in
 * which their letters make words. What a file declares is honoured as long as it makes sense.
 * @param sample the first bytes; a sign cut in two at the end does not count
 */
export function detectEncoding(sample: Uint8Array): Encoding {
  if (sample[0] === 0xff && sample[1] === 0xfe) return 'utf-16le';
  if (sample[0] === 0xfe && sample[1] === 0xff) return 'utf-16be';
  const wide = wideOf(sample);
  if (wide) return wide;
  // What is valid UTF-8 with signs beyond ASCII is UTF-8, whatever it says of itself.
  const valid = isUtf8(sample);
  const declared = declaredIn(sample);
  const plain = sample.every((byte) => byte < 0x80);
  if (valid && !plain) return 'utf-8';
  if (declared && declared !== 'utf-8') {
    const bytes = Buffer.from(sample.subarray(0, 200_000));
    return plain || likeness(iconv.decode(bytes, declared)) >= 0 ? declared : likeliest(sample);
  }
  return valid ? 'utf-8' : likeliest(sample);
}

/**
 * Bytes as text. Not the runtime's own decoder for single bytes: that of Node 20 reads bytes 80 to 9F of Windows-1252 (euro
 * sign, dashes, curly quotation marks) as control characters.
 */
export const decodeBytes = (bytes: Uint8Array, encoding: Encoding): string =>
  isSingleByte(encoding)
    ? iconv.decode(Buffer.from(bytes), encoding)
    : new TextDecoder(encoding).decode(bytes);

export const isSingleByte = (encoding: Encoding): boolean => singleByte.includes(encoding);
