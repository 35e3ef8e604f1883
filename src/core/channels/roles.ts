import type { FieldRole } from './sheet';

/** The attribute that each role is for; schema.org names. */
export const roleAttributes: Partial<Record<FieldRole, string>> = {
  id: 'sku',
  description: 'description',
  gtin: 'gtin',
  brand: 'brand',
  mpn: 'mpn',
  price: 'price',
  link: 'url',
  image: 'image',
  availability: 'availability',
  title: 'name',
};
