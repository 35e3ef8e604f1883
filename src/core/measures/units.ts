import { Decimal } from 'decimal.js';
import { readLanguages } from '../formatting/readLanguages';
import { writtenNumber } from './written';

/**
 * Units of length, mass, volume and number as multiples of one base unit a dimension.
 * Source of every factor: NIST SP 811 (2008), appendix B.8; those marked exact there are exact here, and all of these are.
 */
const dimensions = {
  length: {
    mm: '0.001',
    cm: '0.01',
    dm: '0.1',
    m: '1',
    km: '1000',
    in: '0.0254',
    ft: '0.3048',
    yd: '0.9144',
  },
  mass: { mg: '0.000001', g: '0.001', kg: '1', t: '1000', oz: '0.028349523125', lb: '0.45359237' },
  volume: { ml: '0.001', cl: '0.01', dl: '0.1', l: '1', 'fl oz': '0.0295735295625', gal: '3.785411784' },
  number: { pcs: '1' },
} as const;

/** Every unit there is, as it is written here. */
export const unitNames = [
  'mm',
  'cm',
  'dm',
  'm',
  'km',
  'in',
  'ft',
  'yd',
  'mg',
  'g',
  'kg',
  't',
  'oz',
  'lb',
  'ml',
  'cl',
  'dl',
  'l',
  'fl oz',
  'gal',
  'pcs',
] as const;

/** A unit as it is written here. */
export type Unit = (typeof unitNames)[number];

const factors = new Map<string, { dimension: string; factor: Decimal }>(
  Object.entries(dimensions).flatMap(([dimension, units]) =>
    Object.entries(units).map(
      ([unit, factor]) => [unit, { dimension, factor: new Decimal(factor) }] as const,
    ),
  ),
);

/**
 * Other ways people write the units: names and short forms in English, German, French, Spanish, Italian, Dutch, Polish,
 * Portuguese and Swedish (Unicode CLDR, unit display names), and the codes of UN/ECE Recommendation 20.
 */
const names: Readonly<Record<Unit, string>> = {
  mm: 'milimetra|millimeter|millimeters|millimetre|millimetres|millimètre|millimètres|milímetro|milímetros|millimetro|millimetri|milimetr|milimetry|milimetrów|mmt',
  cm: 'centymetra|centimeter|centimeters|centimetre|centimetres|zentimeter|centimètre|centimètres|centímetro|centímetros|centimetro|centimetri|centymetr|centymetry|centymetrów|cms|cmt',
  dm: 'decimeter|decimetre|dezimeter|décimètre|decímetro|decimetro|decymetr|dmt',
  m: 'metra|meter|meters|metre|metres|mètre|mètres|metro|metros|metri|metr|metry|metrów|mtr|mtrs',
  km: 'kilometer|kilometers|kilometre|kilometres|kilomètre|kilómetro|quilómetro|chilometro|kilometr|kmt',
  in: "po|pol|cala|inch|inches|zoll|pouce|pouces|pulgada|pulgadas|pollice|pollici|duim|cal|cale|cali|polegada|polegadas|tum|\"|″|”|''|inh",
  ft: "pi|stóp|foot|feet|fuß|fuss|pied|pieds|pie|pies|piede|piedi|voet|stopa|stopy|pé|pés|fot|'|′|’|fot",
  yd: 'yard|yards|yarda|yardas|iarda|iarde|yrd',
  mg: 'milligram|milligrams|milligramm|milligramme|milligrammes|miligramo|miligramos|milligrammo|milligrammi|miligram|miligrama|miligramas|mgm',
  g: 'gram|grams|gramm|gramme|grammes|gramo|gramos|grammo|grammi|gramy|gramów|grama|gramas|gr|grs|grm',
  kg: 'kilograma|kilo|kilos|kilogram|kilograms|kilogramm|kilogramme|kilogrammes|kilogramo|kilogramos|chilogrammo|chilogrammi|chilo|chili|kilogramy|kilogramów|quilograma|quilogramas|quilo|quilos|kgs|kgm',
  t: 'tonne|tonnes|tonnen|tonelada|toneladas|tonnellata|tonnellate|tona|tony|ton|tne',
  oz: 'uncji|ounce|ounces|unze|unzen|once|onces|onza|onzas|oncia|once|ons|uncja|uncje|onça|onças|uns|onz',
  lb: '#|funtów|funta|pound|pounds|lbs|pfund|livre|livres|libra|libras|libbra|libbre|pond|funt|funty|pund|lbr',
  ml: 'mililitra|milliliter|milliliters|millilitre|millilitres|mililitro|mililitros|millilitro|millilitri|mililitr|mililitry|mililitrów|mls|mlt',
  cl: 'centiliter|centilitre|centilitres|zentiliter|centilitro|centilitros|centylitr|clt',
  dl: 'deciliter|decilitre|deziliter|décilitre|decilitro|decylitr|dlt',
  l: 'litra|liter|liters|litre|litres|litro|litros|litri|litr|litry|litrów|lt|ltr|ltrs',
  'fl oz': 'floz|fl. oz|fl.oz|fluid ounce|fluid ounces|us fl oz|oza',
  gal: 'gallon|gallons|gallone|gallonen|galón|galones|gallone|galloni|galon|galão|us gal|gll',
  pcs: 'piece|pieces|pc|pce|stück|stueck|stk|st|pièce|pièces|pcs|pieza|piezas|pza|pzas|unidad|unidades|ud|uds|pezzo|pezzi|pz|stuks|stuk|sztuka|sztuki|sztuk|szt|peça|peças|pç|styck|h87|c62|ea|each|unit|units|un|ks|kus|kusy|kusů|kpl|db|darab|buc|bucată|bucăți|τεμ|τεμάχιο|τεμάχια|adet|stykke|stykker',
};

const spellings = new Map<string, Unit>(
  unitNames.flatMap((unit) => [unit, ...names[unit].split('|')].map((word) => [word, unit] as const)),
);

/** The units that ECMA-402 formats, by its names for them. */
const formatted: Readonly<Partial<Record<Unit, string>>> = {
  mm: 'millimeter',
  cm: 'centimeter',
  m: 'meter',
  km: 'kilometer',
  in: 'inch',
  ft: 'foot',
  yd: 'yard',
  g: 'gram',
  kg: 'kilogram',
  oz: 'ounce',
  lb: 'pound',
  ml: 'milliliter',
  l: 'liter',
};
const MAX_UNIT = 20;
const plainUnit = (word: string): string => word.trim().toLowerCase().replace(/\.$/, '').replace(/\s+/g, ' ');

let further: ReadonlyMap<string, Unit> | undefined;
/** The names and short forms of CLDR in all languages read, for one of a thing and for several. Made once, when first needed. */
function furtherSpellings(): ReadonlyMap<string, Unit> {
  if (further) return further;
  const found = new Map<string, Unit>();
  for (const language of readLanguages)
    for (const [unit, name] of Object.entries(formatted))
      for (const unitDisplay of ['long', 'short'] as const) {
        const format = new Intl.NumberFormat(language, { style: 'unit', unit: name, unitDisplay });
        for (const count of [1, 2, 5, 1.5]) {
          const word = plainUnit(
            format.formatToParts(count).find(({ type }) => type === 'unit')?.value ?? '',
          );
          if (word !== '' && !found.has(word)) found.set(word, unit as Unit);
        }
      }
  further = found;
  return found;
}

/** The unit a word, short form or UN/ECE code stands for; undefined where it is none we know. */
export function unitOf(word: string): Unit | undefined {
  const plain = plainUnit(word);
  return spellings.get(plain) ?? (plain.length > MAX_UNIT ? undefined : furtherSpellings().get(plain));
}

export interface Measure {
  /** A decimal string with a point. */
  readonly amount: string;
  readonly unit: Unit;
}

/**
 * Reads "1,5 kg", "12 in", `5"`, "0.75l"; undefined where the cell is not one number with a unit we know.
 * @param decimalSign the sign the source uses; a point where left out
 * @param unit what a number without a unit is in, as a column's heading may say
 */
export function readMeasure(text: string, decimalSign?: ',' | '.', unit?: string): Measure | undefined {
  const found = writtenNumber(text, decimalSign);
  if (found?.before !== '') return undefined;
  const known = unitOf(found.after === '' ? (unit ?? '') : found.after);
  return known === undefined ? undefined : { amount: found.number, unit: known };
}

/**
 * Converts an amount exactly, in decimals.
 * @returns a decimal string without needless zeros; undefined where the units measure different things
 */
export function convert({ amount, unit }: { amount: string; unit: string }, to: string): string | undefined {
  const [from, target] = [factors.get(unit), factors.get(to)];
  if (!from || !target || from.dimension !== target.dimension) return undefined;
  return new Decimal(amount).times(from.factor).div(target.factor).toDecimalPlaces(12).toFixed();
}
