import iconv from 'iconv-lite';
import { InputError } from '../../errors/inputError';
import { decodeBytes, detectEncoding, type Encoding, isSingleByte } from './encodings';

export { decodeBytes, detectEncoding, type Encoding, encodings } from './encodings';

/** How delimited text is written. */
export type Separator = ',' | ';' | '\t' | '|' | '^' | '~';
export const separators = [',', ';', '\t', '|', '^', '~'] as const satisfies readonly Separator[];

/** What a source file is; told from its first bytes, not from its name. */
export const sourceKinds = ['delimited', 'fixed', 'blocks', 'xlsx', 'html', 'xml', 'json'] as const;
export type SourceKind = (typeof sourceKinds)[number];

/** How a source is read: what delimited text needs, what a workbook needs, what a tree needs. */
export interface Form {
  readonly kind: SourceKind;
  readonly encoding: Encoding;
  readonly separator: Separator;
  /** Where the columns of text begin that are of fixed width; 0 is the first sign of a line. */
  readonly starts?: readonly number[];
  /** Where delimited text writes signs with a backslash before them, and `\\N` for nothing, as databases do. */
  readonly escapes?: 'backslash';
  /** What each block of a text begins with that has a line a value; empty where empty lines part them. */
  readonly begins?: string;
  /** The sheet of a workbook, by name. */
  readonly sheet?: string;
  /** Where the heading stands in delimited text and workbooks; 1 is the first row. */
  readonly headingRow?: number;
  /** Whether the heading goes on in the row below; 1 where left out. */
  readonly headingLines?: 1 | 2;
  /** Whether rows may end before the last column, as tables are written that leave out empty cells at the end. */
  readonly shortRows?: boolean;
  /** Columns of a table that are sizes, with how many there are of each: every one is an item. */
  readonly across?: readonly string[];
  /** Whether a table's items stand beside each other, a column each. */
  readonly turned?: boolean;
  /** Path of the records in a tree. */
  readonly list?: string;
  /** Path of a record's variants, below it; empty where each record is one item. */
  readonly variants?: string;
}

/**
 * Reads a stream of bytes as text. Bytes that are not of the encoding are told instead of replaced.
 * @throws InputError with the line they stand in
 */
export async function* decodeStream(
  chunks: AsyncIterable<Uint8Array>,
  encoding: Encoding,
): AsyncGenerator<string> {
  if (isSingleByte(encoding)) {
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

/** Kinds of source that are rows below a heading. */
export const isTable = (kind: SourceKind): boolean =>
  kind === 'delimited' || kind === 'fixed' || kind === 'xlsx' || kind === 'html';

/** What a page begins with, behind declarations and comments; some write its tables alone, whose names XML may have as well. */
const pageBegins = /^(?:\s|<\?[^>]*>|<!--[\s\S]*?-->)*<(?:!doctype\s+html|html)[\s>]/i;
const tableBegins = /^(?:\s|<!--[\s\S]*?-->)*<(?:head|body|meta|style|table|div|center)[\s>]/i;

const beginsWith = (sample: Uint8Array, bytes: readonly number[]): boolean =>
  bytes.every((byte, at) => sample[at] === byte);
/** A ZIP archive, an empty one too; and a compound file as [MS-CFB] has it, in which old workbooks stand. */
export const isArchive = (sample: Uint8Array): boolean =>
  beginsWith(sample, [0x50, 0x4b, 3, 4]) || beginsWith(sample, [0x50, 0x4b, 5, 6]);
export const isCompound = (sample: Uint8Array): boolean =>
  beginsWith(sample, [0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1]);
/** What workbooks written as XML say of themselves at their beginning: of 2003, and OpenDocument's in one piece. */
const sheetsAsXml =
  /^<\?xml[\s\S]*<(?:\w+:)?Workbook[\s\S]*urn:schemas-microsoft-com:office:spreadsheet|^<\?xml[\s\S]*<office:document[\s\S]*opendocument\.spreadsheet/;
export const isSheetsAsXml = (sample: Uint8Array): boolean =>
  sheetsAsXml.test(decodeBytes(sample.subarray(0, 4096), detectEncoding(sample)).trimStart());

/**
 * What a file is, from its first bytes: a workbook, of whatever kind, is an archive or a compound file, a page and XML begin with
 * `<`, JSON with a bracket.
 */
export function detectKind(sample: Uint8Array): SourceKind {
  if (isArchive(sample) || isCompound(sample) || isSheetsAsXml(sample)) return 'xlsx';
  const text = decodeBytes(sample.subarray(0, 4096), detectEncoding(sample)).replace(/^\ufeff/, '');
  if (pageBegins.test(text) || (tableBegins.test(text) && /<tr[\s>]/i.test(text))) return 'html';
  const first = text.trimStart()[0];
  return first === '<' ? 'xml' : first === '{' || first === '[' ? 'json' : 'delimited';
}

/** The separator that parts most lines into the same number of cells, quoted cells respected. */
export function detectSeparator(text: string): Separator {
  const named = /^sep=(.)[\r\n]/i.exec(text)?.[1];
  const known = separators.find((one) => one === named);
  if (known) return known;
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

/**
 * Whether a separator parts most lines of a text into as many cells: signs that only happen to stand in cells do not, such as the
 * commas of amounts.
 */
export function partsLines(text: string, separator: Separator): boolean {
  const lines = firstLines(text, separator);
  const counts = new Map<number, number>();
  for (const cells of lines) counts.set(cells, (counts.get(cells) ?? 0) + 1);
  const [[usual, share] = [1, 0]] = [...counts].sort(([, one], [, other]) => other - one);
  if (usual < 2 || share < lines.length * 0.6) return false;
  if (separator !== ',') return true;
  const all = text.split(',').length - 1;
  const inNumbers = text.match(/(?<=\d),(?=\d)/g)?.length ?? 0;
  return inNumbers < all * 0.8;
}

function firstLines(text: string, separator: string): number[] {
  const lines: number[] = [];
  let cells = 1;
  let quoted = false;
  for (let i = 0; i < text.length && lines.length < 60; i++) {
    const sign = text[i];
    if (sign === '"') quoted = !quoted;
    else if (!quoted && sign === separator) cells++;
    else if (!quoted && (sign === '\n' || (sign === '\r' && text[i + 1] !== '\n'))) {
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
  if (Buffer.from(sample.subarray(0, 5)).toString('latin1') === '%PDF-') return 'binary';
  if (sample.includes(0) && !detectEncoding(sample).startsWith('utf-16')) return 'binary';
  if (decodeBytes(sample, 'windows-1252').replace(/[\s\u00ef\u00bb\u00bf,;|"]/g, '') === '') return 'empty';
  return undefined;
}
