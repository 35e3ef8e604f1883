import { rowOf } from '../../src/core/catalog/item';
import { attributeIndex, type Value } from '../../src/core/catalog/value';
import { readTree } from '../../src/core/categories/tree';
import { issueWords } from '../../src/core/checks/messages';
import { fromAttribute } from '../../src/core/compose/composition';
import { compile } from '../../src/core/listing/compile';
import { evaluate } from '../../src/core/listing/evaluate';
import { emptyPlan } from '../../src/core/plans/plan';
import { languageDetector } from '../../src/files/languageDetector';
import { trialField, trialSheet } from './sheets';

/** Every field is filled from the attribute of its name, as a feed's would be. */
const fields = [
  trialField('sku', 'text', { role: 'id' }),
  trialField('name', 'text', { role: 'title', length: { most: 150 } }),
  trialField('description', 'richText', { role: 'description' }),
  trialField('brand', 'text', { role: 'brand' }),
  trialField('mpn', 'text', { role: 'mpn' }),
  trialField('gtin', 'identifier', { role: 'gtin' }),
  trialField('price', 'money', { role: 'price' }),
  trialField('availability', 'text', { role: 'availability' }),
  trialField('url', 'link', { role: 'link' }),
  trialField('image', 'pictures', { role: 'image', values: { most: 9 } }),
  trialField('highlights', 'text', { values: { most: 9 } }),
  ...['weight', 'width', 'package_weight', 'package_width'].map((code) => trialField(code, 'measure')),
  ...[
    'material',
    'dangerous_goods',
    'customs_code',
    'origin',
    'plug',
    'warning',
    'age',
    'sow_by',
    'least_order',
  ].map((code) => trialField(code, 'text')),
];
const attributeOf: Readonly<Record<string, string>> = {
  package_weight: 'packageWeight',
  package_width: 'packageWidth',
  dangerous_goods: 'dangerousGoods',
  customs_code: 'customsCode',
  origin: 'countryOfOrigin',
  age: 'ageRange',
  sow_by: 'sowBy',
  least_order: 'minimumOrder',
};
const sheet = trialSheet(fields, { format: 'atom' });
const tree = readTree('code,parent,name_en\n1,,Garden\n');
const more = [
  'height',
  'depth',
  'packageHeight',
  'packageDepth',
  'maximumOrder',
  'bookFormat',
  'author',
  'category',
  'salePrice',
  'saleEnds',
  'saleStarts',
  'listPrice',
  'cost',
  'inventoryLevel',
  'availabilityStarts',
  'color',
  'size',
  'gender',
  'volume',
];
const index = attributeIndex([...fields.map(({ code }) => attributeOf[code] ?? code), ...more], 'EUR');

let languageOf: (text: string) => string | undefined;
beforeAll(async () => {
  languageOf = await languageDetector();
});

export type Values = Readonly<Record<string, Value>>;
/** What the checks say of an item, as "check field". */
export function stated(values: Values, { country = 'DE', language = 'en' } = {}): string[] {
  const plan = {
    ...emptyPlan('trial', { country, language, currency: 'EUR' }),
    fields: Object.fromEntries(
      fields.map(({ code, kind }) => [
        code,
        fromAttribute(attributeOf[code] ?? code, kind === 'money' ? [{ step: 'money' }] : []),
      ]),
    ),
  };
  const compiled = compile(plan, sheet, tree, index, {
    day: '2026-11-26',
    merchant: 'Quillmoss Indoor Garden',
    languageOf,
  });
  const listing = evaluate(
    compiled,
    String(values.sku),
    rowOf({ sku: String(values.sku), values }, undefined, index),
  );
  for (const issue of listing.issues) expect(issueWords(issue, (field) => field).length).toBeGreaterThan(10);
  return listing.issues.map(({ check, field }) => `${check} ${field}`);
}

export const clean: Values = {
  sku: 'T-100',
  name: 'Folding camp stool with canvas seat',
  description:
    'A light stool for the allotment, with an ash frame and a seat of waxed canvas. It folds flat and hangs on a nail when it is not in use.',
  brand: 'Harnley',
  mpn: 'HN-4410',
  gtin: '9520000030070',
  price: '38.00',
  availability: 'InStock',
  inventoryLevel: '12',
  url: 'https://quillmoss.example/camp-stool?colour=ash',
  image: ['https://quillmoss.example/pictures/stool-1.jpg', 'https://quillmoss.example/pictures/stool-2.jpg'],
  highlights: ['Ash frame', 'Folds flat'],
  weight: '1.4 kg',
  width: '40 cm',
  height: '45 cm',
  depth: '32 cm',
  packageWeight: '1.8 kg',
  packageWidth: '50 cm',
  packageHeight: '60 cm',
  packageDepth: '9 cm',
  customsCode: '9401.79',
  countryOfOrigin: 'CZ',
};
