import type { Oddity } from '@/core/catalog/quality/attributeQuality';
import { counted } from '@/core/formatting/formatting';

/** What is odd about some values, in words. */
export function oddWords({ kind, values, skus }: Oddity): string {
  const items = counted(skus.length, 'item');
  const list = values
    .slice(0, 4)
    .map((value) => `“${value.slice(0, 40)}”`)
    .join(', ');
  switch (kind) {
    case 'spellings':
      return `${list}: one word in ${values.length} spellings, ${items} off the most frequent`;
    case 'outliers':
      return `${list}: far from others of the same category, ${items}`;
    case 'unreadable':
      return `${list}: not a usable amount, ${items}`;
    case 'shared':
      return `${list} on ${items}`;
    case 'repeated':
      return `one text on ${items} of several families`;
  }
}

/** The grid with the items that are meant. */
export const itemsHref = (skus: readonly string[], column: string): string =>
  `/items?only=${skus.slice(0, 200).map(encodeURIComponent).join(',')}&columns=${[...new Set(['sku', 'name', column, 'category', 'family'])].join(',')}`;

/** The items that have one value of an attribute. */
export const valueHref = (code: string, value: string): string =>
  `/items?columns=sku,name,${code}&f.${code}=%3D${encodeURIComponent(value)}`;
