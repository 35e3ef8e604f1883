import type { Composition } from '../../compose/composition';
import { isAmbiguousDate, readDate } from '../../measures/dates';

/** In so many of the filled cells. */
const MOST = 0.8;
const filledIn = (cells: readonly string[]): string[] =>
  cells.map((cell) => cell.trim()).filter((cell) => cell !== '');

/** Whether a column holds dates. Eight digits by themselves are codes as often as dates. */
export function looksDated(cells: readonly string[]): boolean {
  const filled = filledIn(cells);
  const dates = filled.filter((cell) => !/^\d+$/.test(cell) && readDate(cell) !== undefined);
  return dates.length > 0 && dates.length >= filled.length * MOST;
}

/** Whether the dates of a column that fills an attribute could all be read with the month first as well as with the day first. */
export function orderUnknown({ alternatives, steps }: Composition, cells: readonly string[]): boolean {
  const all = [
    ...steps,
    ...alternatives.flatMap((one) => [
      ...one.steps,
      ...one.parts.flatMap((part) => ('steps' in part ? part.steps : [])),
    ]),
  ];
  const read = all.find((step) => step.step === 'date');
  if (read === undefined || read.monthFirst !== undefined) return false;
  const filled = filledIn(cells);
  const numeric = filled.filter((cell) => /^\d{1,2}[./-]\d{1,2}[./-]\d{2,4}\b/.test(cell));
  // A column in which one says its order has that order. Dots are written where the day comes first.
  return (
    numeric.some((cell) => isAmbiguousDate(cell) && !cell.includes('.')) &&
    numeric.every(
      (cell) => Number(/^\d+/.exec(cell)?.[0]) <= 12 && Number(/^\d+\D(\d+)/.exec(cell)?.[1]) <= 12,
    )
  );
}
