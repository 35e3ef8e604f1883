import { axisCodes } from '../../core/catalog/attributes';
import type { Family, Item } from '../../core/catalog/item';
import { asText } from '../../core/catalog/value';
import type { CatalogProduct, Similarity } from '../../core/matching/comparing';
import { valuesAlone } from '../../core/variants/variants';
import { pictureFile } from '../pictures/pictures';

/** An item or a variant as it is shown beside another. */
export interface ProductView {
  readonly code: string;
  readonly name: string;
  /** What tells it from its siblings. */
  readonly axes: readonly string[];
  readonly picture: string | undefined;
  readonly price: string;
  readonly stock: string;
}

/** An item that is in doubt, with what it may be, the likeliest first. */
export interface CandidateMatchView {
  readonly item: ProductView;
  readonly candidates: readonly (Pick<Similarity, 'supports' | 'objects'> & {
    readonly variant: ProductView;
  })[];
}

/** An item as it is held against goods of others: with what its family shares. */
export const productOf = (item: Item, families: ReadonlyMap<string, Family>): CatalogProduct => ({
  code: item.sku,
  values: {
    ...valuesAlone(item, families.get(item.family ?? '')),
    ...(item.family ? { family: item.family } : {}),
  },
});

/** @param price the attribute that holds what it costs */
export function viewOf({ code, values }: CatalogProduct, price: string): ProductView {
  const text = (attribute: string) => asText(values[attribute]);
  const [picture] = typeof values.image === 'string' ? [values.image] : (values.image ?? []);
  return {
    code,
    name: text('name') || code,
    axes: axisCodes.map(text).filter((value) => value !== ''),
    picture: picture === undefined ? undefined : pictureFile(picture),
    price: text(price),
    stock: text('inventoryLevel'),
  };
}
