import { asList, asText, type Row, type Value } from '../catalog/value';
import type { Sheet } from '../channels/sheet';
import { type ExternalFacts, firstPicture } from './externalFacts';
import type { Severity } from './issue';
import type { SeverityResolver } from './severityOverrides';

/** Checks that compare listings of a feed with each other, and how serious they are where the merchant says nothing. */
const severityOfComparison = {
  duplicate: 'blocker',
  sameGtin: 'risk',
  sameTitle: 'risk',
  samePicture: 'risk',
  sameText: 'tip',
} as const satisfies Record<string, Severity>;
export type ComparedCheck = keyof typeof severityOfComparison;

/**
 * How serious it is on an item in the end; undefined where it is nothing there. Two listings with one number are two with one
 * number: that is not judged; and nothing else that is compared blocks, whatever is said of it.
 */
export function severityOfShared(
  judge: SeverityResolver | undefined,
  sku: string,
  check: ComparedCheck,
  field: string,
): Severity | undefined {
  const usual = severityOfComparison[check];
  if (!judge || check === 'duplicate') return usual;
  const found = judge(sku, check, field, usual);
  return found === 'blocker' ? 'risk' : found;
}

const compared: ReadonlySet<string> = new Set(Object.keys(severityOfComparison));
export const isCompared = (check: string): check is ComparedCheck => compared.has(check);

/** What must not be shared, and by whom. A new one is a line in {@link comparisonsOf} and its words. */
export interface Comparison {
  readonly check: ComparedCheck;
  readonly field: string;
  readonly at: number;
  /** What two have in common where it is the same; undefined where a listing takes no part. */
  keyOf(value: Value | undefined): string | undefined;
  /**
   * What that follows from beside the value, left out where it follows from the value alone: as long as this is the same thing, so is
   * what follows; undefined where that is not known.
   */
  beside?(): object | undefined;
  /** Whether variants of one family may share it. */
  readonly withinFamilies: boolean;
}

/** Shorter texts are no descriptions that one copies. */
const MIN_TEXT = 60;

const textOf = (value: Value | undefined) => (typeof value === 'string' ? value : undefined);

/** What the listings of a sheet are compared by. @param seen says which pictures are the same */
export function comparisonsOf({ fields }: Sheet, known: ExternalFacts): Comparison[] {
  return fields.flatMap((field, at): Comparison[] => {
    const { code, role, unique } = field;
    if (unique) return [{ check: 'duplicate', field: code, at, keyOf: textOf, withinFamilies: false }];
    switch (role) {
      // A GTIN names one item wherever it is sold, also where a channel's sheet does not ask that it be unique.
      case 'gtin':
        return [
          {
            check: 'sameGtin',
            field: code,
            at,
            keyOf: (value) => (typeof value === 'string' ? value.replace(/^0+/, '') : undefined),
            withinFamilies: false,
          },
        ];
      case 'title':
        return [
          {
            check: 'sameTitle',
            field: code,
            at,
            keyOf: (value) => textOf(value)?.toLowerCase(),
            withinFamilies: false,
          },
        ];
      case 'image':
        return [
          {
            check: 'samePicture',
            field: code,
            at,
            keyOf: (value) => {
              const [link] = asList(value);
              return link === undefined ? undefined : firstPicture(link, known);
            },
            beside: () => known.picturesAsOf,
            withinFamilies: true,
          },
        ];
      case 'pictureText':
        return [
          {
            check: 'sameText',
            field: code,
            at,
            keyOf: (value) => textOf(value)?.trim().toLowerCase(),
            withinFamilies: true,
          },
        ];
      case 'description':
        return [
          {
            check: 'sameText',
            field: code,
            at,
            keyOf: (value) => (typeof value === 'string' && value.length >= MIN_TEXT ? value : undefined),
            withinFamilies: true,
          },
        ];
      default:
        return [];
    }
  });
}

/** Those of one part are not compared with each other: an item alone, or its family. @param familySlot where a row holds it */
export function partOf(
  { withinFamilies }: Pick<Comparison, 'withinFamilies'>,
  sku: string,
  row: Row | undefined,
  familySlot: number | undefined,
): string {
  if (!withinFamilies || familySlot === undefined) return sku;
  const family = asText(row?.[familySlot]);
  return family === '' ? sku : `family ${family}`;
}

/** What is told of what is shared: a number; of texts and pictures it is told whose they are too, which is enough. */
export const shownOfShared = (check: ComparedCheck, value: Value | undefined): string =>
  check === 'duplicate' || check === 'sameGtin' ? asText(value).slice(0, 190) : '';
