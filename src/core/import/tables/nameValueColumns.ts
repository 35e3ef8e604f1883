import { fold } from '../../text/folding';

/** Two columns of which one names what the other holds: "Option1 Name" and "Option1 Value", "Merkmal 2" and "Wert 2". */
export interface ColumnPair {
  readonly name: string;
  readonly value: string;
}

/** Words for what is named, and for what it is, in the nine languages. */
const naming =
  /\b(name|names|label|attribute?|attributname|property|merkmal|merkmalsname|eigenschaft|bezeichnung|nom|caracteristique|attribut|nombre|caracteristica|atributo|nome|caratteristica|attributo|naam|kenmerk|eigenschap|nazwa|cecha|parametr|atrybut|namn|egenskap)\b/;
const holding =
  /\b(values?|wert|werte|auspragung|valeurs?|valor(es)?|valor[ei]|waardes?|waarde|wartosc|wartosci|varden?|varde)\b/;

/** An option that stands for none: a thing of one kind is given its own title as its only choice. */
export const noOption = /^(title|titel|titre|t[ií]tulo|titolo|tytu[lł]|default\b.*)$/i;

/** Longer names are no names of columns. */
export const MAX_NAME = 60;

/** A heading by its number, and its words without it. */
function numbered(column: string): { number: string; words: string } | undefined {
  const spoken = fold(column)
    .replace(/(\p{L})(\d)/gu, '$1 $2')
    .replace(/(\d)(\p{L})/gu, '$1 $2')
    .replace(/[^\p{L}\d]+/gu, ' ')
    .trim();
  const number = /(?:^| )(\d{1,2})(?: |$)/.exec(spoken)?.[1];
  return number === undefined
    ? undefined
    : { number, words: spoken.replace(number, ' ').replace(/ +/g, ' ').trim() };
}

/** What a heading says beside that it names something, or holds it. */
const about = (words: string): string =>
  words
    .replace(new RegExp(`${naming.source}|${holding.source}|\\b(s|of|der|des|de|du|da|do|van)\\b`, 'g'), '')
    .replace(/ +/g, ' ')
    .trim();

/** The pairs among the columns of a table. */
export function pairsIn(columns: readonly string[]): ColumnPair[] {
  const all = columns.flatMap((column) => {
    const found = numbered(column);
    return found ? [{ column, ...found }] : [];
  });
  return all.flatMap(({ column: value, number, words }): ColumnPair[] => {
    if (!holding.test(words)) return [];
    const partner = all.find(
      (one) =>
        one.number === number &&
        !holding.test(one.words) &&
        naming.test(one.words) &&
        about(one.words) === about(words),
    );
    return partner ? [{ name: partner.column, value }] : [];
  });
}

/**
 * Gives the cells of a table's rows the columns that its pairs name, beside those that are there. A row that leaves a name out, as
 * the further variants of a group do, is read under the one before it.
 * @param columns of the table
 */
export function pairReader(columns: readonly string[]): (cells: Record<string, string>) => void {
  const pairs = pairsIn(columns);
  const known = new Set(columns);
  const last = new Map<string, string>();
  return (cells) => {
    for (const pair of pairs) {
      const written = cells[pair.name]?.trim() ?? '';
      if (written !== '') last.set(pair.name, written);
      const name = (written || last.get(pair.name) || '').replaceAll('/', '∕');
      const value = cells[pair.value]?.trim() ?? '';
      if (name === '' || value === '' || name.length > MAX_NAME || noOption.test(name)) continue;
      if (!known.has(name)) cells[name] ??= value;
    }
  };
}
