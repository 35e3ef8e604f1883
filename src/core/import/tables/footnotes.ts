import { fold } from '../../text/folding';

/** Words that a sum below a table, or between its parts, begins with, in the nine languages. */
const sums = new Set(
  'total totals subtotal sum summe gesamt gesamtsumme zwischensumme ergebnis grand gesamtergebnis suma totale totaux somme sous subtotale totaal subtotaal som razem podsuma ogolem lacznie totais soma summa delsumma totalt'.split(
    ' ',
  ),
);

/**
 * Why a row of a table is no item but stands beside them: a note, a heading of a part, a sum. Undefined where it may be one.
 * @param columns how many the table has
 */
export function footnotesOf(cells: readonly (string | undefined)[], columns: number): string | undefined {
  if (columns < 3) return undefined;
  const filled = cells.flatMap((cell) => (cell?.trim() ? [cell.trim()] : []));
  if (filled.length === 1) return `has a single value, “${shown(filled[0])}”, probably a note or a heading`;
  const [first = ''] = filled;
  const others = filled.slice(1);
  const begins = fold(first).split(' ')[0] ?? '';
  if (
    sums.has(begins) &&
    others.length > 0 &&
    others.every((cell) => /^[\p{Sc}\s\d.,'’+-]+(\s?[A-Z]{3})?$/u.test(cell))
  )
    return `is probably a sum, “${shown(first)}”`;
  return undefined;
}

const shown = (text = ''): string => (text.length > 60 ? `${text.slice(0, 59)}…` : text);
