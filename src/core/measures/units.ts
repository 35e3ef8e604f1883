import { Decimal } from 'decimal.js';
import { readNumber } from './money';

/**
 * Units of length, mass and volume as multiples of one base unit a dimension.
 * Source of every factor: NIST SP 811 (2008), appendix B.8; those marked exact there are exact here, and all of these are.
 */
const dimensions = {
  length: { mm: '0.001', cm: '0.01', m: '1', in: '0.0254', ft: '0.3048', yd: '0.9144' },
  mass: { mg: '0.000001', g: '0.001', kg: '1', oz: '0.028349523125', lb: '0.45359237' },
  volume: { ml: '0.001', cl: '0.01', l: '1', 'fl oz': '0.0295735295625', gal: '3.785411784' },
} as const;

/** Every unit there is, as it is written here. */
export const unitNames = [
  'mm',
  'cm',
  'm',
  'in',
  'ft',
  'yd',
  'mg',
  'g',
  'kg',
  'oz',
  'lb',
  'ml',
  'cl',
  'l',
  'fl oz',
  'gal',
] as const;

const factors = new Map<string, { dimension: string; factor: Decimal }>(
  Object.entries(dimensions).flatMap(([dimension, units]) =>
    Object.entries(units).map(
      ([unit, factor]) => [unit, { dimension, factor: new Decimal(factor) }] as const,
    ),
  ),
);

/** Other ways people write the units, in the languages suppliers write in. */
const spellings: Readonly<Record<string, string>> = {
  millimeter: 'mm',
  millimetre: 'mm',
  centimeter: 'cm',
  centimetre: 'cm',
  zentimeter: 'cm',
  meter: 'm',
  metre: 'm',
  metro: 'm',
  inch: 'in',
  inches: 'in',
  zoll: 'in',
  '"': 'in',
  '″': 'in',
  pulgadas: 'in',
  foot: 'ft',
  feet: 'ft',
  "'": 'ft',
  yard: 'yd',
  gram: 'g',
  grams: 'g',
  gramm: 'g',
  gr: 'g',
  kilo: 'kg',
  kilos: 'kg',
  kilogram: 'kg',
  kilogramm: 'kg',
  ounce: 'oz',
  ounces: 'oz',
  unze: 'oz',
  pound: 'lb',
  pounds: 'lb',
  lbs: 'lb',
  liter: 'l',
  litre: 'l',
  litro: 'l',
  litros: 'l',
  milliliter: 'ml',
  millilitre: 'ml',
  floz: 'fl oz',
  gallon: 'gal',
};

/** The unit a word stands for; undefined where it is none we know. */
function unitOf(word: string): string | undefined {
  const plain = word.trim().toLowerCase().replace(/\.$/, '').replace(/\s+/g, ' ');
  return factors.has(plain) ? plain : spellings[plain];
}

export interface Measure {
  /** A decimal string with a point. */
  readonly amount: string;
  readonly unit: string;
}

/** Reads "1,5 kg", "12 in", `5"`, "0.75l"; undefined where there is no single number with a unit we know. */
export function readMeasure(text: string, decimalSign?: ',' | '.'): Measure | undefined {
  const parts = /^\s*([+-]?[\d.,\s\u00a0]*\d)\s*([^\d\s][^\d]*)$/.exec(text);
  const amount = parts?.[1] === undefined ? undefined : readNumber(parts[1].trim(), decimalSign);
  const unit = parts?.[2] === undefined ? undefined : unitOf(parts[2]);
  return amount === undefined || unit === undefined ? undefined : { amount, unit };
}

/**
 * Converts an amount exactly, in decimals.
 * @returns a decimal string without needless zeros; undefined where the units measure different things
 */
export function convert({ amount, unit }: Measure, to: string): string | undefined {
  const [from, target] = [factors.get(unit), factors.get(to)];
  if (!from || !target || from.dimension !== target.dimension) return undefined;
  return new Decimal(amount).times(from.factor).div(target.factor).toDecimalPlaces(12).toFixed();
}
