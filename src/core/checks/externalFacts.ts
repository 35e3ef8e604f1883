import type { ChannelStatus } from '../conditions/conditions';
import type { Overlay } from '../pictures/overlay';
import type { PageFacts } from '../shop/page';

/** A picture as it was measured; `unreadable` where it was looked at and cannot be read. */
export type PictureMeasurement =
  | 'unreadable'
  | {
      readonly width: number;
      readonly height: number;
      /** `jpeg`, `png`, `webp` … */
      readonly format: string;
      /** Share of the outermost pixels that are pure white, 0 to 1. */
      readonly whiteBorder: number;
      /** What was put on it beside the thing it shows; left out where nothing was. */
      readonly beside?: readonly Overlay[];
      /** The picture that was there before and is the same, scaled or saved anew; left out where it is the first. */
      readonly same?: string;
    };

/** What only the others of a catalog tell of an item. Each holds for the value it was said of, and for no other. */
export interface CatalogHints {
  /** A price far from those of its likes. */
  readonly price?: { readonly of: string; readonly usual: string; readonly alike: number };
  /** A brand of the catalog that stands in the name and is not the item's. */
  readonly brand?: { readonly of: string; readonly found: string };
}

/**
 * What checks know of the world outside a listing. Where any of it changes, the items it is about are counted anew: answers
 * may change between two questions.
 */
export interface ExternalFacts {
  /** Another one as soon as anything is known of a picture that was not before; undefined where that is not told. */
  readonly picturesAsOf?: object;
  picture(link: string): PictureMeasurement | undefined;
  page(address: string): PageFacts | undefined;
  hints(sku: string): CatalogHints | undefined;
  /** How a listing of a feed stands at its channel; undefined where that was not looked up. */
  standing(feed: string, sku: string): readonly ChannelStatus[] | undefined;
}

/** For listings of which nothing was looked at. */
export const noExternalFacts: ExternalFacts = {
  picture: () => undefined,
  page: () => undefined,
  hints: () => undefined,
  standing: () => undefined,
};

/** One name for a picture and all that are the same, scaled or saved anew: the address of the first. */
export function firstPicture(link: string, known: ExternalFacts): string {
  const found = known.picture(link);
  return (found !== 'unreadable' && found?.same) || link;
}
