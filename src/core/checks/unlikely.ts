import { convert, readMeasure } from '../measures/units';
import { onEach, type ValueCheckMaker } from './check';

/** From here on a measure is rather written in the wrong unit than true of goods that are sent in a parcel; common practice. */
const bounds = [
  { unit: 'kg', most: 500, least: 0.0001 },
  { unit: 'm', most: 20, least: 0.0001 },
  { unit: 'l', most: 1000, least: 0.00001 },
] as const;

/** Grams written as kilograms, millimetres as metres. */
export const unlikely: ValueCheckMaker = (field) => {
  const measures = ['weight', 'width', 'height', 'depth', 'length', 'peso', 'ancho', 'alto', 'fondo'];
  if (field.kind !== 'measure' && !measures.includes(field.code)) return undefined;
  return onEach((text, report) => {
    const measure = readMeasure(text);
    if (!measure) return;
    for (const { unit, most, least } of bounds) {
      const amount = convert(measure, unit);
      if (amount === undefined) continue;
      const value = Number(amount);
      if (value > most || (value > 0 && value < least))
        report('unlikely', 'risk', field.code, { found: text, large: value > most });
    }
  });
};
