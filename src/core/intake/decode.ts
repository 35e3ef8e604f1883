import iconv from 'iconv-lite';
import { InputError } from '../errors/inputError';

/** How delimited text is written. */
export type Encoding = 'utf-8' | 'windows-1252' | 'utf-16le';
export type Separator = ',' | ';' | '\t' | '|';
export const encodings = ['utf-8', 'windows-1252', 'utf-16le'] as const satisfies readonly Encoding[];
export const separators = [',', ';', '\t', '|'] as const satisfies readonly Separator[];

/** What a source file is; told from its first bytes, not from its name. */
export const sourceKinds = ['delimited', 'xlsx', 'xml', 'json'] as const;
export type SourceKind = (typeof sourceKinds)[number];

/** How a source is read: what delimited text needs, what a workbook needs, what a tree needs. */
export interface Form {
  readonly kind: SourceKind;
  readonly encoding: Encoding;
  readonly separator: Separator;
  /** The sheet of a workbook, by name. */
  readonly sheet?: string;
  /** Where the heading stands in delimited text and workbooks; 1 is the first row. */
  readonly headingRow?: number;
  /** Path of the records in a tree. */
  readonly list?: string;
  /** Path of a record's variants, below it; empty where each record is one item. */
  readonly variants?: string;
}

/**
 * Bytes as text. Not the runtime's own decoder for Windows-1252: that of Node 20 reads bytes 80 to 9F (euro sign, dashes,
 * curly quotation marks) as control characters.
 */
export const decodeBytes = (bytes: Uint8Array, encoding: Encoding): string =>
  encoding === 'windows-1252'
    ? iconv.decode(Buffer.from(bytes), encoding)
    : new TextDecoder(encoding).decode(bytes);

/**
 * Reads a stream of bytes as text. Bytes that are not of the encoding are told instead of replaced.
 * @throws InputError with the line they stand in
 */
export async function* decodeStream(
  chunks: AsyncIterable<Uint8Array>,
  encoding: Encoding,
): AsyncGenerator<string> {
  if (encoding === 'windows-1252') {
    for await (const chunk of chunks) yield iconv.decode(Buffer.from(chunk), encoding);
    return;
  }
  const decoder = new TextDecoder(encoding, { fatal: true });
  let line = 1;
  const decode = (chunk?: Uint8Array) => {
    try {
      return chunk ? decoder.decode(chunk, { stream: true }) : decoder.decode();
    } catch {
      const good = chunk ? Buffer.from(chunk).toString('latin1').search(badUtf8) : 0;
      const lines = chunk
        ? countLines(Buffer.from(chunk.subarray(0, Math.max(good, 0))).toString('latin1'))
        : 0;
      throw new InputError('notInEncoding', { line: line + lines, encoding: encoding.toUpperCase() });
    }
  };
  for await (const chunk of chunks) {
    const text = decode(chunk);
    line += countLines(text);
    yield text;
  }
  const rest = decode();
  if (rest !== '') yield rest;
}

/** The first byte that no UTF-8 sequence has, as a Latin-1 sign: RFC 3629. */
const badUtf8 = /[\xc0\xc1\xf5-\xff]|[\xc2-\xf4](?![\x80-\xbf])|(?<![\x80-\xf4])[\x80-\xbf]/;

function countLines(text: string): number {
  let lines = 0;
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) lines++;
  return lines;
}

/**
 * UTF-8 where the bytes are valid UTF-8 (with or without mark), else Windows-1252.
 * A sign cut in two at the end of the sample does not count against UTF-8.
 */
export function detectEncoding(sample: Uint8Array): Encoding {
  if (sample[0] === 0xff && sample[1] === 0xfe) return 'utf-16le';
  const declared = /^<\?xml[^>]*encoding=["']([\w-]+)["']/.exec(
    Buffer.from(sample.subarray(0, 200)).toString('latin1'),
  )?.[1];
  if (declared && /^(iso-8859-1|latin-?1|windows-1252|cp1252)$/i.test(declared)) return 'windows-1252';
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

/** What a file is, from its first bytes: a workbook is a zip archive, XML begins with `<`, JSON with a bracket. */
export function detectKind(sample: Uint8Array): SourceKind {
  if (sample[0] === 0x50 && sample[1] === 0x4b && sample[2] === 3 && sample[3] === 4) return 'xlsx';
  const first = decodeBytes(sample.subarray(0, 4096), detectEncoding(sample))
    .replace(/^\ufeff/, '')
    .trimStart()[0];
  return first === '<' ? 'xml' : first === '{' || first === '[' ? 'json' : 'delimited';
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
  if (sample.includes(0) && detectEncoding(sample) !== 'utf-16le') return 'binary';
  if (decodeBytes(sample, 'windows-1252').replace(/[\s\u00ef\u00bb\u00bf,;|"]/g, '') === '') return 'empty';
  return undefined;
}
