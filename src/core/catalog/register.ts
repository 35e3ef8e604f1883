import { InputError } from '../errors/inputError';
import { checkDigit, readIdentifier } from '../identifiers/gtin';

/** Numbers that were bought together: so many, one after another. GS1 General Specifications, section 1.4. */
export interface GtinBlock {
  /** The first of them without its check digit. */
  readonly firstNumber: string;
  readonly count: number;
}

/** No block that is sold holds more. */
const MAX_BLOCK = 100_000;

/**
 * A block from its first number and how many there are.
 * @param first a GTIN-8, -12, -13 or -14, or an ISBN-13, with its check digit @throws InputError where it is none, or the block leaves its length
 */
export function readBlock(first: string, count: number): GtinBlock {
  const { verdict, kind } = readIdentifier(first);
  if (!(kind.startsWith('GTIN') || kind === 'ISBN-13') || (verdict !== 'valid' && verdict !== 'restricted'))
    throw new InputError('blockNumber', { found: first, verdict });
  if (verdict === 'restricted') throw new InputError('blockRestricted', { found: first });
  if (!Number.isInteger(count) || count < 1 || count > MAX_BLOCK)
    throw new InputError('blockCount', { count, most: MAX_BLOCK });
  const firstNumber = first.replace(/\D/g, '').slice(0, -1);
  if (
    String(BigInt(firstNumber) + BigInt(count - 1)).length > firstNumber.replace(/^0+/, '').length &&
    !firstNumber.startsWith('0')
  )
    throw new InputError('blockTooFar', { found: first, count });
  return { firstNumber, count };
}

/** The number at a place of a block, with its check digit. @param at from 0 */
export function numberAt({ firstNumber }: GtinBlock, at: number): string {
  const next = String(BigInt(firstNumber) + BigInt(at)).padStart(firstNumber.length, '0');
  return `${next}${checkDigit(next)}`;
}

/** The place of a number in a block; undefined where it is of another. @param number with its check digit, of any length */
export function positionIn({ firstNumber, count }: GtinBlock, number: string): number | undefined {
  const { normal, verdict } = readIdentifier(number);
  if (verdict !== 'valid') return undefined;
  const at = BigInt(normal.slice(0, -1)) - BigInt(firstNumber);
  return at >= 0n && at < BigInt(count) ? Number(at) : undefined;
}

/** Lengths in which a number may be written: without the zeros before it, or with so many as a GTIN-14 has. */
const lengths = [8, 9, 10, 11, 12, 13, 14];

/**
 * Between which texts the numbers of a block lie as they may be written in digits alone, the first and the last of each length:
 * for those who look numbers up in an order of texts. What lies between may be none of it ({@link positionIn} tells).
 */
export function rangesOf(block: GtinBlock): readonly (readonly [first: string, last: string])[] {
  const [first = '', last = ''] = [0, block.count - 1].map((at) => numberAt(block, at).replace(/^0+/, ''));
  return lengths.flatMap((length) =>
    first.length > length
      ? []
      : [
          [
            first.padStart(length, '0'),
            last.length > length ? '9'.repeat(length) : last.padStart(length, '0'),
          ] as const,
        ],
  );
}

/** The free places of a block, the lowest first. */
export function* freePositions(block: GtinBlock, used: ReadonlySet<number>): Generator<number> {
  for (let at = 0; at < block.count; at++) if (!used.has(at)) yield at;
}
