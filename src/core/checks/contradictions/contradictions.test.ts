import { clean, stated, type Values } from '../../../../tests/support/itemIssues';
import { sumOfShares } from './composition';

// One thing wrong each, and beside it what looks alike and is right; in five languages. As a careful person would say.
test.each<[wanted: string, Values]>([
  ['titleAgainst name', { name: 'Folding camp stool, red', color: 'blue' }],
  ['titleAgainst name', { name: 'Klapphocker, rot', color: 'Blau' }],
  ['titleAgainst name', { name: 'Tabouret pliant, rouge', color: 'bleu' }],
  ['titleAgainst name', { name: 'Taburete plegable · rojo', color: 'azul' }],
  ['titleAgainst name', { name: 'Składany stołek (czerwony)', color: 'niebieski' }],
  ['', { name: 'Folding camp stool, red', color: 'Red' }],
  ['', { name: 'Klapphocker, rot', color: 'rouge' }],
  ['', { name: 'Klapphocker, grün', color: 'moosgrün' }],
  ['', { name: 'White oak stool', color: 'black' }],
  ['', { name: 'Stool, red', color: 'red and blue' }],
  ['', { name: 'Stool, red', color: 'rust' }],
  ['titleAgainst name', { name: 'Wool jumper, size M', size: 'L' }],
  ['titleAgainst name', { name: 'Wollpullover, Größe 42', size: '44' }],
  ['titleAgainst name', { name: 'Pull en laine, taille S', size: 'M' }],
  ['titleAgainst name', { name: 'Jersey de lana, talla XL', size: 'L' }],
  ['titleAgainst name', { name: 'Sweter, rozmiar M', size: 'S' }],
  ['', { name: 'Wool jumper, size M', size: 'm' }],
  ['', { name: 'Wollpullover, Größe 42', size: '42 regular' }],
  ['', { name: 'King size throw', size: 'L' }],
  ['titleAgainst name', { name: 'Women’s wool jumper', gender: 'male' }],
  ['titleAgainst name', { name: 'Herren Wollpullover', gender: 'female' }],
  ['titleAgainst name', { name: 'Pull femme en laine', gender: 'homme' }],
  ['titleAgainst name', { name: 'Jersey de mujer', gender: 'male' }],
  ['titleAgainst name', { name: 'Maglione uomo', gender: 'female' }],
  ['', { name: 'Wool jumper for women and men', gender: 'female' }],
  ['', { name: 'Man-made fibre jumper', gender: 'female' }],
  ['', { name: 'Herren Wollpullover', gender: 'Herren' }],
  ['titleAgainst name', { name: 'Hand soap, 500 ml', volume: '250 ml' }],
  ['titleAgainst name', { name: 'Handseife, 0,5 l', volume: '1 l' }],
  ['', { name: 'Hand soap, 500 ml', volume: '0.5 l' }],
  ['', { name: 'Hand soap, 2 x 250 ml', volume: '500 ml' }],
  ['composition material', { material: '60 % cotton, 30 % linen' }],
  ['composition material', { material: '80% Baumwolle 30% Leinen' }],
  ['composition material', { material: '50 % coton, 40 % lin' }],
  ['composition material', { material: '70 % algodón, 20 % lino' }],
  ['composition material', { material: '55 % bawełna, 55 % len' }],
  ['', { material: '60 % cotton, 40 % linen' }],
  ['', { material: '33,3 % Wolle, 33,3 % Seide, 33,3 % Leinen' }],
  ['', { material: 'shell: 60 % cotton, 40 % linen; lining: 50 % viscose' }],
  ['', { material: '100 % wool' }],
  ['partNumber mpn', { mpn: 'Harnley' }],
  ['partNumber mpn', { mpn: '9520000030070' }],
  ['', { mpn: 'Harnley 4410' }],
  ['', { mpn: '30070' }],
  ['cartonGtin gtin', { gtin: '19520000030077' }],
  ['', { gtin: '09520000030070' }],
  ['beyondReason availability', { inventoryLevel: '9999999' }],
  [
    'beyondReason availability',
    { availability: 'PreOrder', availabilityStarts: '2072-01-10', inventoryLevel: '0' },
  ],
  ['', { inventoryLevel: '12000' }],
])('%s: %j', (wanted, change) => {
  expect(stated({ ...clean, ...change }).filter((issue) => !/^(language|choice|form)/.test(issue))).toEqual(
    wanted === '' ? [] : [wanted],
  );
});

test.each([
  ['60 % cotton, 40 % linen', 100],
  ['cotton', undefined],
  ['100 % wool', undefined],
  ['at least 30 % recycled', undefined],
  ['outer: 60 % wool, 40 % silk', undefined],
])('the shares of “%s” are %s', (text, sum) => {
  expect(sumOfShares(text)).toBe(sum);
});
