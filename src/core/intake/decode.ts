import iconv from 'iconv-lite';

/** How delimited text is written. */
export type Encoding = 'utf-8' | 'windows-1252';
export type Separator = ',' | ';' | '\t' | '|';
export const encodings: readonly Encoding[] = ['utf-8', 'windows-1252'];
export const separators: readonly Separator[] = [',', ';', '\t', '|'];

export interface Form {
  readonly encoding: Encoding;
  readonly separator: Separator;
}

/**
 * Bytes as text. Not the runtime's own decoder for Windows-1252: that of Node 20 reads bytes 80 to 9F (euro sign, dashes,
 * curly quotation marks) as control characters.
 */
export const decodeBytes = (bytes: Uint8Array, encoding: Encoding): string =>
  encoding === 'utf-8' ? new TextDecoder('utf-8').decode(bytes) : iconv.decode(Buffer.from(bytes), encoding);

/**
 * UTF-8 where the bytes are valid UTF-8 (with or without mark), else Windows-1252.
 * A sign cut in two at the end of the sample does not count against UTF-8.
 */
export function detectEncoding(sample: Uint8Array): Encoding {
  for (let cut = 0; cut <= 3 && cut < sample.length; cut++) {
    try {
      new TextDecoder('utf-8', { fatal: true }).decode(sample.subarray(0, sample.length - cut));
      return 'utf-8';
    } catch {
      // A multi-byte sign may be cut at the end of the sample; try with less.
    }
  }
  return sample.length === 0 ? 'utf-8' : 'windows-1252';
}

/** The separator that parts most lines into the same number of cells, quoted cells respected. */
export function detectSeparator(text: string): Separator {
  let best: Separator = ',';
  let bestScore = 0;
  for (const separator of separators) {
    const counts = new Map<number, number>();
    for (const cells of firstLines(text, separator)) counts.set(cells, (counts.get(cells) ?? 0) + 1);
    for (const [cells, lines] of counts) {
      const score = cells > 1 ? lines * Math.log2(cells) : 0;
      if (score > bestScore) {
        best = separator;
        bestScore = score;
      }
    }
  }
  return best;
}

function firstLines(text: string, separator: string): number[] {
  const lines: number[] = [];
  let cells = 1;
  let quoted = false;
  for (let i = 0; i < text.length && lines.length < 60; i++) {
    const sign = text[i];
    if (sign === '"') quoted = !quoted;
    else if (!quoted && sign === separator) cells++;
    else if (!quoted && sign === '\n') {
      lines.push(cells);
      cells = 1;
    }
  }
  return lines;
}

export type FileRefusal = 'empty' | 'zeros' | 'binary' | 'onlyHeading';

/** Why a file cannot be delimited text at all, from its first bytes; undefined where it can. */
export function refuseFile(sample: Uint8Array): FileRefusal | undefined {
  if (sample.length === 0) return 'empty';
  if (sample.every((byte) => byte === 0)) return 'zeros';
  if (sample.includes(0)) return 'binary';
  if (decodeBytes(sample, 'windows-1252').replace(/[\s\u00ef\u00bb\u00bf,;|"]/g, '') === '') return 'empty';
  return undefined;
}

/** What each refusal says: what happened, what was kept, what to do. */
export const refusalWords: Record<FileRefusal, string> = {
  empty:
    'The file is empty. Nothing was changed. Save it again from where it comes and check that it shows rows.',
  zeros:
    'The file holds nothing but zero bytes, as a broken copy does. Nothing was changed. Copy or download it again.',
  binary:
    'The file is not delimited text (it holds zero bytes). Nothing was changed. Export it as CSV and choose that file.',
  onlyHeading: 'The file has a heading row and nothing below it. Nothing was changed. Check the export.',
};
