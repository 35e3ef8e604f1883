/**
 * Writes demo/sources and demo/mappings from demo/world.ts: what the shop and its suppliers send, each in its own form and
 * with the damage such files have, and the mapping that makes the demo catalog of it. Run by `npm run demo:catalog`.
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import ExcelJS from 'exceljs';
import iconv from 'iconv-lite';
import { axisCodes, startingAttributes } from '../src/core/catalog/attributes';
import { type Composition, fromAttribute } from '../src/core/compose/composition';
import type { Step } from '../src/core/compose/steps';
import { type ImportMapping, importMappingSchema } from '../src/core/import/mapping/importMapping';
import { importSteps } from '../src/core/import/mapping/suggestMapping';
import type { DemoItem } from './world';

const pictureBase = 'https://quillmoss.example/pictures/';

const stepsOf = (code: string): Step[] => importSteps(startingAttributes.find((one) => one.code === code));
const from = (column: string, code: string, ...more: Step[]): Composition =>
  fromAttribute(column, [...stepsOf(code), ...more]);
/** A value that stands with the variant or, where it is the same for all, with the product. */
const eitherOf = (variant: string, product: string, code: string): Composition => ({
  alternatives: [variant, product].map((column) => ({
    parts: [{ attribute: column, glue: ' ', steps: stepsOf(code) }],
    steps: [],
  })),
  steps: [],
});
const commaNumber: Step = { step: 'number', decimalSign: ',' };

function families(items: readonly DemoItem[]): DemoItem[][] {
  const groups = new Map<string, DemoItem[]>();
  for (const item of items) groups.set(item.family ?? '', [...(groups.get(item.family ?? '') ?? []), item]);
  return [...groups.values()];
}

const comma = (amount: string): string => amount.replace('.', ',');
const codesOf = (items: readonly DemoItem[]): string[] =>
  [...new Set(items.flatMap((item) => Object.keys(item)))].filter((code) =>
    items.some((item) => item[code] !== undefined && item[code] !== ''),
  );
const without = (codes: readonly string[], ...taken: string[]): string[] =>
  codes.filter((code) => !taken.includes(code));

function save(name: string, bytes: string | Uint8Array, mapping: Partial<ImportMapping>): void {
  writeFileSync(`demo/sources/${name}`, bytes);
  const whole = importMappingSchema.parse({
    format: 'lively-cart/mapping@1',
    encoding: 'utf-8',
    separator: ',',
    ...mapping,
  });
  writeFileSync(`demo/mappings/${name}.json`, `${JSON.stringify(whole, null, 2)}\n`);
}

/** Tarnholt: an XML price list. Products hold their variants; pictures are relative; decimals have commas. */
function priceList(items: readonly DemoItem[]): void {
  const escaped = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/"/g, '&quot;');
  const element = (name: string, text: string | undefined, indent: string) =>
    text ? `${indent}<${name}>${escaped(text)}</${name}>\n` : '';
  const shared = ['name', 'brand', 'material', 'use', 'countryOfOrigin'];
  const own = without(
    codesOf(items),
    ...shared,
    'sku',
    'family',
    'description',
    'category',
    'price',
    'priceCurrency',
    'weight',
    'image',
    'gtin',
    'mpn',
  );
  const products = families(items).map((group) => {
    const [first] = group;
    const category = group.every((item) => item.category === first?.category) ? first?.category : undefined;
    return [
      `    <product code="${first?.family}">\n`,
      ...shared.map((code) => element(code, first?.[code], '      ')),
      element('group', category, '      '),
      `      <text><![CDATA[${first?.description}]]></text>\n      <variants>\n`,
      ...group.map((item) =>
        [
          `        <variant sku="${item.sku}" part="${item.mpn}">\n`,
          element('ean', item.gtin, '          '),
          category ? '' : element('group', item.category, '          '),
          `          <price currency="${item.priceCurrency}">${comma(item.price ?? '')}</price>\n`,
          item.weight ? `          <weight>${comma(item.weight)}</weight>\n` : '',
          ...own.map((code) => element(code, item[code], '          ')),
          '          <pictures>\n',
          ...(item.image ?? '')
            .split('|')
            .map((link) => element('picture', link.replace(pictureBase, ''), '            ')),
          '          </pictures>\n        </variant>\n',
        ].join(''),
      ),
      '      </variants>\n    </product>\n',
    ].join('');
  });
  const xml = `<?xml version="1.0" encoding="UTF-8"?>\n<pricelist supplier="Tarnholt" valid="2026-12-01">\n  <contact><name>Tarnholt Pottery</name><phone>n/a</phone></contact>\n  <products>\n${products.join('')}  </products>\n</pricelist>\n`;
  const variant = (name: string) => `variants/variant/${name}`;
  save('tarnholt-price-list.xml', xml, {
    kind: 'xml',
    list: 'pricelist/products/product',
    variants: 'variants/variant',
    grouping: { by: 'nesting' },
    fields: {
      sku: from(variant('@sku'), 'sku'),
      mpn: from(variant('@part'), 'mpn'),
      gtin: from(variant('ean'), 'gtin'),
      ...Object.fromEntries(shared.map((code) => [code, from(code, code)])),
      description: from('text', 'description'),
      category: eitherOf(variant('group'), 'group', 'category'),
      price: fromAttribute(variant('price'), [commaNumber]),
      priceCurrency: from(variant('price/@currency'), 'priceCurrency'),
      weight: from(variant('weight'), 'weight'),
      ...Object.fromEntries(own.map((code) => [code, from(variant(code), code)])),
      image: from(variant('pictures/picture'), 'image', { step: 'resolve', base: pictureBase }),
    },
  });
}

/** Verrin: semicolons, Windows-1252, and what a spreadsheet did to it on the way. */
function lights(items: readonly DemoItem[]): void {
  const headings: Record<string, string> = {
    sku: 'Artikelnummer',
    name: 'Bezeichnung',
    gtin: 'EAN',
    price: 'Preis',
    priceCurrency: 'Währung',
    brand: 'Marke',
    category: 'Warengruppe',
    weight: 'Gewicht',
    availability: 'Verfügbarkeit',
    inventoryLevel: 'Bestand',
    mpn: 'Herstellernummer',
    family: 'Modell',
    description: 'Beschreibung',
    image: 'Bilder',
    url: 'Link',
    size: 'Länge',
    plug: 'Stecker',
    energyClass: 'Energieklasse',
    countryOfOrigin: 'Ursprungsland',
    material: 'Material',
    batteries: 'Batterien',
    itemCondition: 'Zustand',
    availabilityStarts: 'Lieferbar ab',
  };
  const words: Record<string, string> = { InStock: 'auf Lager', PreOrder: 'vorbestellbar' };
  const codes = codesOf(items);
  const rows = items.map((item, i) =>
    codes.map((code) => {
      const value = item[code] ?? '';
      if (code === 'gtin') {
        // Opened and saved again by a spreadsheet: wrapped, rounded to a power of ten with all its digits, a blank behind.
        if (i === 4 && value) return `="${value}"`;
        if (i === 7 && value) return `${value[0]},${value.slice(1)}E+${value.length - 1}`;
        if (i === 11 && value) return `${value}\u00a0`;
        return value;
      }
      if (code === 'price') return i === 9 || i === 15 ? value : comma(value);
      if (code === 'weight') return comma(value);
      if (code === 'availability') return words[value] ?? value;
      return value;
    }),
  );
  const quote = (cell: string) => (/[";\n]/.test(cell) ? `"${cell.replace(/"/g, '""')}"` : cell);
  const blank = (cells: Record<string, string>) => codes.map((code) => cells[code] ?? '');
  const lines = [
    codes.map((code) => headings[code] ?? code),
    ...rows,
    blank({ name: 'Summe', inventoryLevel: String(items.length) }),
  ];
  const text = `${lines.map((cells) => cells.map(quote).join(';')).join('\r\n')}\r\n`;
  const column = (code: string) => headings[code] ?? code;
  save('verrin-lights.csv', iconv.encode(text, 'windows-1252'), {
    kind: 'delimited',
    encoding: 'windows-1252',
    separator: ';',
    grouping: { by: 'sharedCode' },
    repairs: ['scientific', 'invisible', 'decimalSign', 'formula'],
    tables: { stock: Object.fromEntries(Object.entries(words).map(([ours, theirs]) => [theirs, ours])) },
    fields: {
      ...Object.fromEntries(codes.map((code) => [code, from(column(code), code)])),
      price: fromAttribute(column('price'), [commaNumber]),
      availability: from(column('availability'), 'availability', {
        step: 'lookUp',
        table: 'stock',
        otherwise: 'keep',
      }),
    },
  });
}

/** Sprigwell Press: JSON, each title with its editions; an author's name went through the wrong encoding. */
function titles(items: readonly DemoItem[]): void {
  const shared = ['name', 'author', 'description', 'brand', 'category', 'itemCondition'];
  const own = without(codesOf(items), ...shared, 'sku', 'family', 'gtin', 'price', 'priceCurrency', 'image');
  const broken = (text: string) => iconv.decode(Buffer.from(text, 'utf8'), 'windows-1252');
  const json = {
    publisher: 'Sprigwell Press',
    titles: families(items).map((group) => ({
      code: group[0]?.family,
      ...Object.fromEntries(
        shared.flatMap((code) => {
          const value = group[0]?.[code];
          return value ? [[code, code === 'author' ? broken(value) : value]] : [];
        }),
      ),
      editions: group.map((item) => ({
        sku: item.sku,
        isbn: item.gtin,
        price: { amount: item.price, currency: item.priceCurrency },
        ...Object.fromEntries(own.flatMap((code) => (item[code] ? [[code, item[code]]] : []))),
        pictures: item.image?.split('|') ?? [],
      })),
    })),
  };
  const edition = (name: string) => `editions/${name}`;
  save('sprigwell-titles.json', `${JSON.stringify(json, null, 1)}\n`, {
    kind: 'json',
    list: 'titles',
    variants: 'editions',
    grouping: { by: 'nesting' },
    repairs: ['encoding'],
    fields: {
      sku: from(edition('sku'), 'sku'),
      gtin: from(edition('isbn'), 'gtin'),
      ...Object.fromEntries(shared.map((code) => [code, from(code, code)])),
      price: fromAttribute(edition('price/amount'), [{ step: 'number', decimalSign: '.' }]),
      priceCurrency: from(edition('price/currency'), 'priceCurrency'),
      ...Object.fromEntries(own.map((code) => [code, from(edition(code), code)])),
      image: from(edition('pictures'), 'image'),
    },
  });
}

/** Ollobee: an item a line, each naming its parent; amounts in cents; the name begins with the brand's own word. */
function range(items: readonly DemoItem[]): void {
  const codes = without(codesOf(items), 'family', 'image', 'price');
  const lines = items.map((item) =>
    JSON.stringify({
      parent: item.family,
      ...Object.fromEntries(codes.flatMap((code) => (item[code] ? [[code, item[code]]] : []))),
      net: Number((Number(item.price) / 1.25).toFixed(4)),
      media: (item.image ?? '').split('|').map((link) => ({ type: 'picture', href: link })),
    }),
  );
  save('ollobee-range.ndjson', `${lines.join('\n')}\n`, {
    kind: 'json',
    list: '',
    grouping: { by: 'parentCode', column: 'parent' },
    fields: {
      ...Object.fromEntries(codes.map((code) => [code, from(code, code)])),
      // Their net price and a quarter on top is what the shop asks.
      price: fromAttribute('net', [
        { step: 'number', decimalSign: '.' },
        { step: 'adjust', percent: 25, amount: 0, roundTo: '0.01' },
        { step: 'number', decimals: 2 },
      ]),
      image: from('media/href', 'image'),
    },
  });
}

/** The shop's own export of what it makes itself: schema.org groups with their variants, as its pages carry them. */
function ownRange(items: readonly DemoItem[]): void {
  const shared = ['name', 'description', 'category', 'material', 'countryOfOrigin', 'use'];
  const rest = without(
    codesOf(items),
    ...shared,
    'sku',
    'family',
    'brand',
    'price',
    'priceCurrency',
    'availability',
    'availabilityStarts',
    'inventoryLevel',
    'itemCondition',
    'image',
    'url',
  );
  const json = {
    '@context': 'https://schema.org/',
    '@graph': families(items).map((group) => ({
      '@type': 'ProductGroup',
      productGroupID: group[0]?.family,
      brand: { '@type': 'Brand', name: group[0]?.brand },
      ...Object.fromEntries(shared.flatMap((code) => (group[0]?.[code] ? [[code, group[0][code]]] : []))),
      variesBy: axisCodes.filter((axis) => new Set(group.map((item) => item[axis])).size > 1),
      hasVariant: group.map((item) => ({
        '@type': 'Product',
        sku: item.sku,
        ...Object.fromEntries(rest.flatMap((code) => (item[code] ? [[code, item[code]]] : []))),
        image: item.image?.split('|') ?? [],
        offers: {
          '@type': 'Offer',
          url: item.url,
          price: item.price,
          priceCurrency: item.priceCurrency,
          ...(item.availability ? { availability: `https://schema.org/${item.availability}` } : {}),
          ...(item.availabilityStarts ? { availabilityStarts: item.availabilityStarts } : {}),
          ...(item.inventoryLevel
            ? { inventoryLevel: { '@type': 'QuantitativeValue', value: item.inventoryLevel } }
            : {}),
          ...(item.itemCondition ? { itemCondition: `https://schema.org/${item.itemCondition}` } : {}),
        },
      })),
    })),
  };
  const variant = (name: string) => `hasVariant/${name}`;
  const word: Step = { step: 'replace', find: 'https://schema.org/', with: '' };
  save('quillmoss-own-range.jsonld', `${JSON.stringify(json, null, 1)}\n`, {
    kind: 'json',
    list: '@graph',
    variants: 'hasVariant',
    grouping: { by: 'nesting' },
    fields: {
      sku: from(variant('sku'), 'sku'),
      brand: from('brand/name', 'brand'),
      ...Object.fromEntries(shared.map((code) => [code, from(code, code)])),
      ...Object.fromEntries(rest.map((code) => [code, from(variant(code), code)])),
      url: from(variant('offers/url'), 'url'),
      price: fromAttribute(variant('offers/price'), [{ step: 'number', decimalSign: '.' }]),
      priceCurrency: from(variant('offers/priceCurrency'), 'priceCurrency'),
      availability: from(variant('offers/availability'), 'availability', word),
      availabilityStarts: from(variant('offers/availabilityStarts'), 'availabilityStarts'),
      inventoryLevel: from(variant('offers/inventoryLevel/value'), 'inventoryLevel'),
      itemCondition: from(variant('offers/itemCondition'), 'itemCondition', word),
      image: from(variant('image'), 'image'),
    },
  });
}

/** The stockroom's spreadsheet: two rows above the heading, a sheet of notes, numbers as numbers, categories in short. */
async function stockroom(items: readonly DemoItem[]): Promise<void> {
  const book = new ExcelJS.Workbook();
  book.creator = 'Quillmoss';
  book.created = new Date('2026-11-01T08:00:00Z');
  book.modified = book.created;
  const notes = book.addWorksheet('Notes');
  notes.addRow(['Stockroom list; the items are on the second sheet.']);
  const sheet = book.addWorksheet('Items');
  sheet.addRow(['Quillmoss stockroom', '', '', 'counted 2026-11-01']);
  sheet.addRow([]);
  const codes = codesOf(items);
  const short: Record<string, string> = { 'Plant food': 'FOOD', 'Watering cans': 'CANS' };
  const numeric = new Set(['price', 'inventoryLevel', 'gtin']);
  sheet.addRow(codes.map((code) => startingAttributes.find((one) => one.code === code)?.label ?? 'Family'));
  for (const item of items)
    sheet.addRow(
      codes.map((code) => {
        const value = item[code] ?? '';
        if (value === '') return null;
        if (code === 'category') return short[value] ?? value;
        // A full stop keeps an amount as text where a cell was typed in by hand.
        if (numeric.has(code) && /^\d+(\.\d+)?$/.test(value)) return Number(value);
        return value;
      }),
    );
  const label = (code: string) => startingAttributes.find((one) => one.code === code)?.label ?? 'Family';
  save('quillmoss-stockroom.xlsx', new Uint8Array(await book.xlsx.writeBuffer()), {
    kind: 'xlsx',
    sheet: 'Items',
    headingRow: 3,
    grouping: { by: 'sharedCode' },
    tables: { categories: Object.fromEntries(Object.entries(short).map(([ours, theirs]) => [theirs, ours])) },
    fields: {
      ...Object.fromEntries(codes.map((code) => [code, from(label(code), code)])),
      price: fromAttribute(label('price'), [{ step: 'number', decimals: 2, decimalSign: '.' }]),
      category: from(label('category'), 'category', {
        step: 'lookUp',
        table: 'categories',
        otherwise: 'keep',
      }),
    },
  });
}

/** Writes all six. @returns how many items each holds */
export async function writeSources(items: readonly DemoItem[]): Promise<Record<string, number>> {
  mkdirSync('demo/sources', { recursive: true });
  mkdirSync('demo/mappings', { recursive: true });
  const of = (...brands: string[]) => items.filter((item) => brands.includes(item.brand ?? ''));
  const own = of('Quillmoss');
  const made = new Set(['Aprons', 'Gloves', 'Cloches', 'Printables', 'Gift wrap']);
  const parts = {
    tarnholt: of('Tarnholt'),
    verrin: of('Verrin'),
    sprigwell: of('Sprigwell Press'),
    ollobee: of('Ollobee'),
    own: own.filter((item) => made.has(item.category ?? '')),
    stockroom: own.filter((item) => !made.has(item.category ?? '')),
  };
  priceList(parts.tarnholt);
  lights(parts.verrin);
  titles(parts.sprigwell);
  range(parts.ollobee);
  ownRange(parts.own);
  await stockroom(parts.stockroom);
  return Object.fromEntries(Object.entries(parts).map(([name, list]) => [name, list.length]));
}
