import { cleanGoods } from '../../../tests/support/cleanGoods';
import { clean, stated, type Values } from '../../../tests/support/itemIssues';
import { monthsIn } from './goods/ageWarning';

test('an item with nothing wrong', () => {
  expect(stated(clean)).toEqual([]);
});

const german =
  'Ein leichter Hocker für den Kleingarten, mit einem Gestell aus Esche und einem Sitz aus gewachstem Tuch.';

// One thing wrong each; and beside it what looks alike and is right.
test.each<[wanted: string, Values]>([
  ['isbn gtin', { gtin: '9783161484100' }],
  ['isbn gtin', { gtin: '9791234567896', category: 'Stools' }],
  ['isbn gtin', { bookFormat: 'Paperback', category: 'Books' }],
  ['isbn gtin', { author: 'Oriel Pennack' }],
  ['', { gtin: '9783161484100', bookFormat: 'Hardcover', author: 'Oriel Pennack' }],
  ['', { gtin: '9783161484100', category: 'Bücher' }],
  ['', { gtin: '9783161484100', name: 'The sill garden, audiobook' }],
  ['', { gtin: '9790260000438', category: 'Sheet music' }],
  ['ownCode mpn', { mpn: 'T-100' }],
  ['ownCode mpn', { mpn: 't100', sku: 'T100' }],
  ['', { mpn: 'T-100', brand: 'Quillmoss' }],
  ['', { mpn: 'T-1001' }],
  ['bareTitle name', { name: 'Harnley' }],
  ['bareTitle name', { name: 'T-100' }],
  ['bareTitle name', { name: 'hn 4410' }],
  ['', { name: 'Harnley stool' }],
  ['onlyList description', { description: '<ul><li>Ash frame</li><li>Waxed canvas</li></ul>' }],
  ['onlyList description', { description: '- Ash frame\n- Waxed canvas\n- Folds flat' }],
  ['onlyList description', { description: '<ul><li>Ash</li></ul>\n<ol><li>Canvas</li></ol>' }],
  ['', { description: '<p>A stool for the allotment.</p><ul><li>Ash frame</li></ul>' }],
  ['', { description: '- as light as a bird' }],
  ['entryTwice highlights', { highlights: ['Ash frame', 'ash frame'] }],
  ['entryTwice image', { image: ['https://quillmoss.example/1.jpg', 'https://quillmoss.example/1.jpg'] }],
  ['', { highlights: ['Ash frame', 'Ash frame, folded'] }],
  ['orders least_order', { minimumOrder: '6', maximumOrder: '4' }],
  ['', { minimumOrder: '4', maximumOrder: '4' }],
  ['', { minimumOrder: '4' }],
  ['packing package_weight', { packageWeight: '0.9 kg' }],
  ['packing package_weight', { packageWeight: '1300 g' }],
  ['packing package_width', { packageWidth: '30 cm', packageHeight: '20 cm', packageDepth: '9 cm' }],
  ['', { packageWeight: '1.4 kg' }],
  ['', { packageWidth: '46 cm', packageHeight: '41 cm', packageDepth: '8 cm' }],
  ['', { packageWidth: '9 cm', packageHeight: '60 cm', packageDepth: '50 cm' }],
  ['unlikely weight|unlikely package_weight', { weight: '1400 kg', packageWeight: '1500 kg' }],
  ['unlikely width', { width: '400 m' }],
  ['', { weight: '95 kg', packageWeight: '99 kg' }],
  ['dangerousGoods dangerous_goods', { dangerousGoods: '3082' }],
  ['dangerousGoods dangerous_goods', { dangerousGoods: 'UN 12' }],
  ['dangerousGoods dangerous_goods', { dangerousGoods: 'UN 9999' }],
  ['dangerousGoods dangerous_goods', { dangerousGoods: 'flammable' }],
  ['', { dangerousGoods: 'UN 3082' }],
  ['', { dangerousGoods: 'UN1263, III' }],
  ['', { dangerousGoods: 'none' }],
  ['', { dangerousGoods: 'keine' }],
  ['customsCode customs_code', { customsCode: '94017' }],
  ['customsCode customs_code', { customsCode: '7700.00' }],
  ['customsCode customs_code', { customsCode: '9801.00' }],
  ['customsCode customs_code', { customsCode: '0012.00' }],
  ['customsCode customs_code', { customsCode: 'chair' }],
  ['', { customsCode: '9401 7900' }],
  ['', { customsCode: '0602909912' }],
  ['', { customsCode: '97019100000' }],
  ['origin origin', { countryOfOrigin: 'Atlantis' }],
  ['origin origin', { countryOfOrigin: 'XQ' }],
  ['origin origin', { countryOfOrigin: 'Europe' }],
  ['', { countryOfOrigin: 'Portugal' }],
  ['', { countryOfOrigin: 'Tschechien' }],
  ['', { countryOfOrigin: 'PRT' }],
  ['plug plug', { plug: 'Type G' }],
  ['plug plug', { plug: 'Type A' }],
  ['', { plug: 'Type C' }],
  ['', { plug: 'Type F' }],
  ['', { plug: 'C/G adapter set: C, G' }],
  ['ageWarning warning', { ageRange: '12 months and up' }],
  ['ageWarning warning', { ageRange: '2-5 years' }],
  ['ageWarning warning', { ageRange: 'ab 18 Monaten' }],
  ['', { ageRange: '3 years and up' }],
  ['', { ageRange: '36 months and up' }],
  ['', { ageRange: '1 year', warning: 'Small parts.' }],
  ['over sow_by', { sowBy: '2026-03-31' }],
  ['', { sowBy: '2026-11-26' }],
  ['', { sowBy: '2027-03-31' }],
  ['over price', { salePrice: '30.00', saleEnds: '2026-11-01' }],
  ['', { salePrice: '30.00', saleEnds: '2026-12-01' }],
  ['', { saleEnds: '2026-11-01' }],
  ['over availability', { availability: 'PreOrder', availabilityStarts: '2026-10-01', inventoryLevel: '0' }],
  ['', { availability: 'PreOrder', availabilityStarts: '2027-01-10', inventoryLevel: '0' }],
  ['', { availability: 'InStock', availabilityStarts: '2026-10-01' }],
  ['listPrice price', { listPrice: '380.00' }],
  ['listPrice price', { listPrice: '38.00' }],
  ['', { listPrice: '49.00' }],
  ['', { listPrice: '120.00' }],
  ['underCost price', { cost: '41.20' }],
  ['', { cost: '20.00' }],
  ['stock availability', { inventoryLevel: '0' }],
  ['stock availability', { availability: 'OutOfStock', inventoryLevel: '3' }],
  ['', { availability: 'OutOfStock', inventoryLevel: '0' }],
  ['placeholder description', { description: 'Lorem ipsum dolor sit amet, consectetur adipiscing elit.' }],
  ['placeholder description', { description: 'TODO: write about the stool' }],
  ['placeholder name', { name: '{{product.title}} stool' }],
  ['placeholder name', { name: 'Test' }],
  ['placeholder description', { description: 'n/a' }],
  ['', { name: 'Test tube vase' }],
  ['', { description: 'A to do list of boards {in oak}, for a wall by the sill.' }],
  ['link url', { url: 'https://quillmoss.example/stool?PHPSESSID=4f2a' }],
  ['link url', { url: 'https://quillmoss.example/stool?sid=99' }],
  ['link url', { url: 'https://localhost/stool' }],
  ['link url', { url: 'http://192.168.1.7/stool' }],
  ['link image', { image: ['https://shop.local/1.jpg'] }],
  ['', { url: 'https://quillmoss.example/stool?side=left&sessions=2' }],
  ['', { url: 'https://192.example/stool' }],
  ['language description', { description: german }],
  ['', { description: 'Hocker, Esche' }],
])('%s: %j', (wanted, change) => {
  expect(stated({ ...clean, ...change })).toEqual(wanted === '' ? [] : wanted.split('|'));
});

test.each([
  ['de', german],
  [
    'es',
    'Un taburete ligero para el huerto, con un bastidor de fresno y un asiento de lona encerada que se pliega del todo.',
  ],
  [
    'fr',
    'Un tabouret léger pour le potager, avec un cadre en frêne et une assise en toile cirée qui se plie à plat.',
  ],
  [
    'it',
    'Uno sgabello leggero per l’orto, con un telaio di frassino e una seduta di tela cerata che si piega del tutto.',
  ],
  [
    'nl',
    'Een lichte kruk voor de moestuin, met een frame van essenhout en een zitting van gewaxt doek dat plat opvouwt.',
  ],
  [
    'pl',
    'Lekki stołek na działkę, z ramą z jesionu i siedziskiem z woskowanego płótna, który składa się na płasko.',
  ],
  [
    'pt',
    'Um banco leve para a horta, com uma armação de freixo e um assento de lona encerada que se dobra por completo.',
  ],
  [
    'sv',
    'En lätt pall för odlingslotten, med en ram av ask och en sits av vaxad duk som fälls ihop helt platt.',
  ],
])('a text in the feed’s own language: %s', (language, description) => {
  expect(stated({ ...clean, description }, { language })).toEqual([]);
  expect(stated({ ...clean, description }, { language: 'en' })).toEqual(['language description']);
});

test('a plug that fits here fits elsewhere or does not', () => {
  expect(stated({ ...clean, plug: 'Type G' }, { country: 'GB' })).toEqual([]);
  expect(stated({ ...clean, plug: 'Type C' }, { country: 'GB' })).toEqual(['plug plug']);
  expect(stated({ ...clean, plug: 'Type G' }, { country: 'VA' })).toEqual([]);
});

test.each([
  ['3 years and up', 36],
  ['6-18 months', 6],
  ['ab 2 Jahren', 24],
  ['18 Monate', 18],
  ['1,5 ans', 18],
  ['12 meses', 12],
  ['grown-ups', undefined],
])('the youngest of “%s” is %s months old', (text, months) => {
  expect(monthsIn(text)).toBe(months);
});

test('of two hundred further goods with nothing wrong, in nine languages, nothing is said', () => {
  expect(cleanGoods.length).toBeGreaterThanOrEqual(200);
  const found = cleanGoods.flatMap(({ language, values }) =>
    stated(values, { language }).map((issue) => `${String(values.sku)} ${String(values.name)}: ${issue}`),
  );
  expect(found).toEqual([]);
});
