import { z } from 'zod';
import { asText } from '../catalog/value';
import type { Sheet } from '../channels/sheet';
import { counted } from '../formatting/formatting';
import type { ListingState } from './evaluate';
import type { Listings } from './listings';

/** What a merchant expects of a feed whatever is changed in it: his own tests, run on every draft. */
export const expectationSchema = z.discriminatedUnion('expect', [
  z.strictObject({
    expect: z.literal('value'),
    sku: z.string().min(1),
    field: z.string().min(1),
    value: z.string().max(50_000),
  }),
  z.strictObject({ expect: z.literal('ready'), least: z.number().int().nonnegative() }),
  z.strictObject({ expect: z.literal('noneBlocked'), category: z.string() }),
]);
export type Expectation = z.infer<typeof expectationSchema>;

/** What became of an expectation. */
export interface Expected {
  readonly expectation: Expectation;
  readonly holds: boolean;
  /** What is expected, in words. */
  readonly words: string;
  /** What is so instead; empty where it holds. */
  readonly instead: string;
  /** The value that stands there, where another is expected. */
  readonly found: string | undefined;
}

/** What expectations are held against: the listings of a draft and the merchant's category of each. */
export interface ExpectedOf {
  readonly sheet: Sheet;
  readonly listings: Listings;
  positionOf(sku: string): number | undefined;
  categoryAt(position: number): string;
}

/** Holds expectations against the listings of a draft, in their order. */
export function checkExpectations(
  expectations: readonly Expectation[],
  { sheet, listings, positionOf, categoryAt }: ExpectedOf,
): Expected[] {
  const labelOf = (code: string) => sheet.fields.find((field) => field.code === code)?.label ?? code;
  const count = (wanted: (state: ListingState, position: number) => boolean): number => {
    let found = 0;
    for (let i = 0; i < listings.length; i++) if (wanted(listings.stateAt(i), i)) found++;
    return found;
  };
  const held = (expectation: Expectation): Expected => {
    const stated = (words: string, instead: string | undefined, found?: string): Expected => ({
      expectation,
      words,
      holds: instead === undefined,
      instead: instead ?? '',
      found,
    });
    switch (expectation.expect) {
      case 'value': {
        const { sku, field, value } = expectation;
        const words = `${labelOf(field)} of ${sku} stays “${value}”`;
        const position = positionOf(sku);
        const listing = position === undefined ? undefined : listings.at(position);
        if (!listing) return stated(words, 'the item was deleted');
        if (listing.state === 'leftOut') return stated(words, `it is excluded: ${listing.reason}`);
        const found = asText(listing.values[sheet.fields.findIndex(({ code }) => code === field)]);
        return stated(
          words,
          found === value ? undefined : found === '' ? 'it is empty' : `it is “${found}”`,
          found,
        );
      }
      case 'ready': {
        const ready = count((state) => state === 'ready');
        return stated(
          `at least ${expectation.least} listings are ready`,
          ready >= expectation.least ? undefined : `${ready} are`,
        );
      }
      case 'noneBlocked': {
        const { category } = expectation;
        const blocked = count((state, at) => state === 'blocked' && categoryAt(at) === category);
        return stated(
          `no listing of ${category || 'items without a category'} is blocked`,
          blocked === 0 ? undefined : `${counted(blocked, 'is', 'are')}`,
        );
      }
    }
  };
  return expectations.map(held);
}
