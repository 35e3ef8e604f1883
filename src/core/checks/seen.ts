import type { PageSeen } from '../shop/page';

/** A picture as it was measured; `unreadable` where it was looked at and cannot be read. */
export type PictureSeen =
  | 'unreadable'
  | {
      readonly width: number;
      readonly height: number;
      /** `jpeg`, `png`, `webp` … */
      readonly format: string;
      /** Share of the outermost pixels that are pure white, 0 to 1. */
      readonly whiteBorder: number;
    };

/** What only the others of a catalog tell of an item. Each holds for the value it was said of, and for no other. */
export interface Remarks {
  /** A price far from those of its likes. */
  readonly price?: { readonly of: string; readonly usual: string; readonly alike: number };
  /** A brand of the catalog that stands in the name and is not the item's. */
  readonly brand?: { readonly of: string; readonly found: string };
}

/**
 * What checks know of the world outside a listing. Where any of it changes, the items it is about are counted anew: answers
 * may change between two questions.
 */
export interface Seen {
  picture(link: string): PictureSeen | undefined;
  page(address: string): PageSeen | undefined;
  remarks(sku: string): Remarks | undefined;
}

/** For listings of which nothing was looked at. */
export const nothingSeen: Seen = {
  picture: () => undefined,
  page: () => undefined,
  remarks: () => undefined,
};
