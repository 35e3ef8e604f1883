import { demoItems } from '../demo/world';
import { codesIn, type Item, rowOf } from '../src/core/catalog/item';
import { attributeIndex, type Value } from '../src/core/catalog/value';
import { checkDigit } from '../src/core/identifiers/gtin';

/** A large catalog made of the demo's items: SKUs, names, prices, GTINs and addresses differ, everything else repeats as in a shop. */
export function largeCatalog(count: number) {
  const base = demoItems();
  const records: Record<string, Value>[] = [];
  for (let i = 0; i < count; i++) {
    const { image, highlights: _none, ...one } = base[i % base.length] ?? {};
    const round = Math.floor(i / base.length);
    const body = `952${String(i).padStart(9, '0')}`;
    records.push({
      ...one,
      sku: `${one.sku}-${round}`,
      name: `${one.name}${round % 3 === 0 ? '' : ` no ${round}`}`,
      ...(one.gtin ? { gtin: body + checkDigit(body) } : {}),
      price: (5 + (i % 9000) / 100).toFixed(2),
      url: `${one.url}-${round}`,
      ...(image ? { image: image.split('|').map((link) => link.replace('.jpg', `-${round}.jpg`)) } : {}),
    });
  }
  const items: Item[] = records.map(({ sku, ...values }) => ({ sku: String(sku), values }));
  const index = attributeIndex([...codesIn(items, [])]);
  return {
    records,
    items,
    index,
    skus: items.map(({ sku }) => sku),
    rows: items.map((item) => rowOf(item, undefined, index)),
  };
}
