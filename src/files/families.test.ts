import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { axisCodes, startingAttributes } from '../core/catalog/attributes';
import { type GroupRow, groupKeyOf, groupRows } from '../core/catalog/grouping';
import { gatherFamilies, type Item, type Values } from '../core/catalog/item';
import { compileMapping } from '../core/import/mapping/mapping';
import { readHead } from './head';
import { readSource } from './reading';
import { suggestMapping } from './suggesting';

const folder = mkdtempSync(join(tmpdir(), 'lively-families-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** The same two products, four items, in every way that suppliers write them. */
const shapes: Record<string, string> = {
  'nested.xml': `<products>
    <product code="P1"><name>Ridge pot</name><brand>Tarnholt</brand><material>clay</material><variants>
      <variant><sku>P1-M-14</sku><colour>moss</colour><size>14 cm</size><price>12.90</price></variant>
      <variant><sku>P1-I-14</sku><colour>ink</colour><size>14 cm</size><price>13.90</price></variant></variants></product>
    <product code="P2"><name>Fern apron</name><brand>Tarnholt</brand><material>linen</material><variants>
      <variant><sku>P2-M-S</sku><colour>moss</colour><size>S</size><price>24.90</price></variant>
      <variant><sku>P2-M-L</sku><colour>moss</colour><size>L</size><price>26.90</price></variant></variants></product>
  </products>`,
  'parents-first.xml': `<items>
    <item><sku>P1</sku><parent_sku/><name>Ridge pot</name><brand>Tarnholt</brand><material>clay</material></item>
    <item><sku>P1-M-14</sku><parent_sku>P1</parent_sku><colour>moss</colour><size>14 cm</size><price>12.90</price></item>
    <item><sku>P1-I-14</sku><parent_sku>P1</parent_sku><colour>ink</colour><size>14 cm</size><price>13.90</price></item>
    <item><sku>P2</sku><parent_sku/><name>Fern apron</name><brand>Tarnholt</brand><material>linen</material></item>
    <item><sku>P2-M-S</sku><parent_sku>P2</parent_sku><colour>moss</colour><size>S</size><price>24.90</price></item>
    <item><sku>P2-M-L</sku><parent_sku>P2</parent_sku><colour>moss</colour><size>L</size><price>26.90</price></item>
  </items>`,
  'parents-last.xml': `<items>
    <item><sku>P1-M-14</sku><parent_sku>P1</parent_sku><colour>moss</colour><size>14 cm</size><price>12.90</price></item>
    <item><sku>P1-I-14</sku><parent_sku>P1</parent_sku><colour>ink</colour><size>14 cm</size><price>13.90</price></item>
    <item><sku>P2-M-S</sku><parent_sku>P2</parent_sku><colour>moss</colour><size>S</size><price>24.90</price></item>
    <item><sku>P2-M-L</sku><parent_sku>P2</parent_sku><colour>moss</colour><size>L</size><price>26.90</price></item>
    <item><sku>P1</sku><name>Ridge pot</name><brand>Tarnholt</brand><material>clay</material></item>
    <item><sku>P2</sku><name>Fern apron</name><brand>Tarnholt</brand><material>linen</material></item>
  </items>`,
  'pairs.xml': `<articles>${[
    ['P1-M-14', 'P1', 'Ridge pot', 'clay', 'moss', '14 cm', '12.90'],
    ['P1-I-14', 'P1', 'Ridge pot', 'clay', 'ink', '14 cm', '13.90'],
    ['P2-M-S', 'P2', 'Fern apron', 'linen', 'moss', 'S', '24.90'],
    ['P2-M-L', 'P2', 'Fern apron', 'linen', 'moss', 'L', '26.90'],
  ]
    .map(
      ([sku, group, name, material, colour, size, price]) =>
        `<article><sku>${sku}</sku><group_code>${group}</group_code><name>${name}</name><price>${price}</price>
        <features><feature name="Brand">Tarnholt</feature><feature name="Material">${material}</feature>
        <feature name="Colour">${colour}</feature><feature name="Size">${size}</feature></features></article>`,
    )
    .join('')}</articles>`,
  'two-levels.json': JSON.stringify({
    styles: [
      {
        code: 'P1',
        name: 'Ridge pot',
        brand: 'Tarnholt',
        material: 'clay',
        colourways: [
          { colour: 'moss', sizes: [{ sku: 'P1-M-14', size: '14 cm', price: '12.90' }] },
          { colour: 'ink', sizes: [{ sku: 'P1-I-14', size: '14 cm', price: '13.90' }] },
        ],
      },
      {
        code: 'P2',
        name: 'Fern apron',
        brand: 'Tarnholt',
        material: 'linen',
        colourways: [
          {
            colour: 'moss',
            sizes: [
              { sku: 'P2-M-S', size: 'S', price: '24.90' },
              { sku: 'P2-M-L', size: 'L', price: '26.90' },
            ],
          },
        ],
      },
    ],
  }),
  'groups.jsonld': JSON.stringify({
    '@context': 'https://schema.org',
    '@graph': [
      [
        'P1',
        'Ridge pot',
        'clay',
        ['P1-M-14', 'moss', '14 cm', '12.90'],
        ['P1-I-14', 'ink', '14 cm', '13.90'],
      ],
      ['P2', 'Fern apron', 'linen', ['P2-M-S', 'moss', 'S', '24.90'], ['P2-M-L', 'moss', 'L', '26.90']],
    ].map(([id, name, material, ...variants]) => ({
      '@type': 'ProductGroup',
      productGroupID: id,
      name,
      material,
      brand: { '@type': 'Brand', name: 'Tarnholt' },
      hasVariant: (variants as string[][]).map(([sku, color, size, price]) => ({
        '@type': 'Product',
        sku,
        color,
        size,
        offers: { '@type': 'Offer', price, priceCurrency: 'EUR' },
      })),
    })),
  }),
  'flat.csv': [
    'sku,group code,name,brand,material,colour,size,price',
    'P1-M-14,P1,Ridge pot,Tarnholt,clay,moss,14 cm,12.90',
    'P1-I-14,P1,Ridge pot,Tarnholt,clay,ink,14 cm,13.90',
    'P2-M-S,P2,Fern apron,Tarnholt,linen,moss,S,24.90',
    'P2-M-L,P2,Fern apron,Tarnholt,linen,moss,L,26.90',
  ].join('\n'),
  'once-a-group.csv': [
    'sku;group code;name;brand;material;colour;size;price',
    'P1-M-14;P1;Ridge pot;Tarnholt;clay;moss;14 cm;12,90',
    'P1-I-14;P1;;;;ink;14 cm;13,90',
    'P2-M-S;P2;Fern apron;Tarnholt;linen;moss;S;24,90',
    'P2-M-L;P2;;;;moss;L;26,90',
  ].join('\n'),
};

/** A file's families as the catalog would hold them, by the suggested mapping alone. */
async function familiesOf(file: string) {
  const path = join(folder, file);
  writeFileSync(path, shapes[file] ?? '');
  const head = await readHead(path);
  const mapping = suggestMapping(head, startingAttributes);
  const route = mapping.grouping?.by;
  if (!route) throw new Error(`${file} is not grouped`);
  const read = compileMapping(mapping, startingAttributes);
  const rows: GroupRow[] = [];
  for await (const chunk of readSource(path, mapping, 100, () => undefined))
    for (const { record, broken } of chunk) {
      if (!record || broken) throw new Error(broken);
      const item = read(record.cells);
      if ('reason' in item) throw new Error(JSON.stringify(item));
      const column = mapping.grouping?.column;
      rows.push({
        sku: item.sku,
        values: item.values,
        group: item.family ?? record.group,
        parent: column === undefined ? undefined : record.cells[column],
      });
    }
  const { families } = groupRows(rows, route, axisCodes);
  const items = families.flatMap(({ code, skus, shared }) =>
    skus.map((sku): Item => {
      const own = rows.find((row) => row.sku === sku)?.values ?? {};
      return { sku, family: code, values: { ...shared, ...own } };
    }),
  );
  const wanted = ['name', 'brand', 'material', 'color', 'size', 'price'];
  const only = (values: Values) =>
    Object.fromEntries(
      wanted.flatMap((code) =>
        values[code] === undefined ? [] : [[code, String(values[code]).replace(/ [A-Z]{3}$/, '')]],
      ),
    );
  const gathered = gatherFamilies(items, axisCodes);
  return {
    families: gathered.families.map(({ code, variesBy, values }) => ({
      code,
      variesBy,
      values: only(values),
    })),
    items: gathered.items.map(({ sku, family, values }) => ({ sku, family, values: only(values) })),
    whole: rows.every((row) => groupKeyOf(row, route, axisCodes) !== undefined || route === 'parentCode'),
  };
}

test.each(Object.keys(shapes))('%s gives the families that a careful person would make', async (file) => {
  expect(await familiesOf(file)).toEqual({
    families: [
      {
        code: 'P1',
        variesBy: ['color'],
        values: { name: 'Ridge pot', brand: 'Tarnholt', material: 'clay', size: '14 cm' },
      },
      {
        code: 'P2',
        variesBy: ['size'],
        values: { name: 'Fern apron', brand: 'Tarnholt', material: 'linen', color: 'moss' },
      },
    ],
    items: [
      { sku: 'P1-M-14', family: 'P1', values: { color: 'moss', price: '12.90' } },
      { sku: 'P1-I-14', family: 'P1', values: { color: 'ink', price: '13.90' } },
      { sku: 'P2-M-S', family: 'P2', values: { size: 'S', price: '24.90' } },
      { sku: 'P2-M-L', family: 'P2', values: { size: 'L', price: '26.90' } },
    ],
    whole: true,
  });
});
