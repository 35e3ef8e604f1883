import type { Attribute } from '../catalog/attributes';
import { readYesNo } from '../catalog/yesNo';
import { readIdentifier } from '../identifiers/gtin';
import { minorUnits } from '../measures/currencies';
import { readNumber } from '../measures/numbers';
import { nameMatcher, spokenName } from '../text/similarity';
import { headingWords } from './headings';

export interface ColumnSuggestion {
  readonly column: string;
  readonly attribute: string;
  readonly score: number;
  readonly reasons: readonly string[];
}

/** What the cells of a column look like, each as the share of filled cells. */
interface Evidence {
  readonly filled: number;
  readonly distinct: number;
  readonly gtin: number;
  readonly number: number;
  readonly currency: number;
  readonly link: number;
  readonly picture: number;
  readonly markup: number;
  readonly long: number;
  readonly date: number;
  readonly availability: number;
  readonly yesNo: number;
}

function evidenceOf(cells: readonly string[]): Evidence {
  const filled = cells.map((cell) => cell.trim()).filter((cell) => cell !== '');
  const share = (test: (cell: string) => boolean) =>
    filled.length === 0 ? 0 : filled.filter(test).length / filled.length;
  return {
    filled: filled.length,
    distinct: filled.length === 0 ? 0 : new Set(filled).size / filled.length,
    gtin: share((cell) => ['valid', 'restricted'].includes(readIdentifier(cell).verdict)),
    number: share((cell) => readNumber(cell) !== undefined),
    yesNo: share((cell) => readYesNo(cell) !== undefined),
    currency: share((cell) => /^[A-Z]{3}$/.test(cell) && minorUnits(cell) !== undefined),
    link: share((cell) => /^https?:\/\//.test(cell)),
    picture: share((cell) => /\.(jpe?g|png|webp|gif|tiff?)(\?|$|[|,; ])/i.test(cell)),
    markup: share((cell) => /<[a-z]+[\s>/]/i.test(cell)),
    long: share((cell) => cell.length > 120),
    date: share((cell) => /^\d{4}-\d\d-\d\d/.test(cell)),
    // schema.org ItemAvailability, with or without its address.
    availability: share((cell) =>
      /^(https?:\/\/schema\.org\/)?(InStock|OutOfStock|PreOrder|BackOrder|SoldOut|LimitedAvailability|Discontinued)$/i.test(
        cell.replace(/[\s_-]/g, ''),
      ),
    ),
  };
}

const lastName = (column: string): string => (column.split('/').at(-1) ?? column).replace(/^[@#]/, '');

/** What values say for (above 0) or against (below 0) an attribute. */
function valueWeight(attribute: Attribute, evidence: Evidence): { weight: number; reason?: string } {
  if (evidence.filled === 0) return { weight: 0 };
  switch (attribute.kind) {
    case 'money':
      return { weight: evidence.number < 0.6 ? -50 : 5 };
    case 'number':
      return { weight: evidence.number < 0.6 ? -40 : 5 };
    case 'yesNo':
      return { weight: evidence.yesNo < 0.6 ? -50 : 5 };
    case 'date':
      return { weight: evidence.date > 0.6 ? 15 : -10 };
    case 'pictures':
      return evidence.picture > 0.5
        ? { weight: 45, reason: 'the cells are addresses of pictures' }
        : { weight: -20 };
    case 'link':
      return evidence.link > 0.6 && evidence.picture < 0.3
        ? { weight: 50, reason: 'the cells are page addresses' }
        : { weight: -40 };
    case 'richText':
      return evidence.markup > 0.3 || evidence.long > 0.5
        ? { weight: 30, reason: 'the cells are long texts' }
        : { weight: 0 };
    default:
      break;
  }
  switch (attribute.code) {
    case 'gtin':
      return evidence.gtin > 0.7
        ? { weight: 85, reason: `the check digit holds in ${Math.round(evidence.gtin * 100)} % of the cells` }
        : { weight: evidence.gtin > 0.3 ? 10 : -40 };
    case 'sku':
      if (evidence.distinct === 1) return { weight: 10, reason: 'every cell is different' };
      // A few rows may repeat a code or lack one; those are rejected one by one later.
      return { weight: evidence.distinct > 0.6 ? -5 : -30 };
    case 'mpn':
      // A part number names one item; a code that many rows share is a product's or a group's.
      return { weight: evidence.distinct < 0.7 ? -40 : 0 };
    case 'availability':
      return evidence.availability > 0.6
        ? { weight: 60, reason: 'the cells are words for stock' }
        : { weight: 0 };
    case 'priceCurrency':
      return evidence.currency > 0.8
        ? { weight: 60, reason: 'the cells are currency codes' }
        : { weight: -50 };
    default:
      return { weight: 0 };
  }
}

/** From this score on a column is matched without being asked. */
const certainFrom = 45;

/**
 * Matches columns to attributes by heading (names, synonyms, any language) and by what the cells look like.
 * Each attribute and each column is used once; the surest pairs are taken first.
 * @param sample the first rows, by column
 */
export function suggestColumns(
  columns: readonly string[],
  sample: readonly Readonly<Record<string, string>>[],
  attributes: readonly Attribute[],
): ColumnSuggestion[] {
  const pairs: ColumnSuggestion[] = [];
  const names = attributes.map((attribute) => ({
    attribute,
    matchers: [attribute.label, spokenName(attribute.code), ...attribute.synonyms].map(
      (name) => [name, nameMatcher(name)] as const,
    ),
  }));
  // Many columns of one name are compared by their name once.
  const known = new Map<string, { likeness: number; name: string }[]>();
  const likenessOf = (column: string) => {
    const heading = column.replace(/ \(\d+\)$/, '');
    const found =
      known.get(heading) ??
      names.map(({ matchers }) => {
        let best = { likeness: 0, name: '' };
        const whole = spokenName(heading);
        const bare = spokenName(headingWords(heading).name);
        const last = spokenName(lastName(heading));
        for (const [name, match] of matchers) {
          // In a tree ("variant/price") the last name says what the value is; the way there says a little less.
          const likeness = Math.max(
            match(whole),
            bare === whole ? 0 : 0.99 * match(bare),
            last === whole ? 0 : 0.97 * match(last),
          );
          if (likeness > best.likeness) best = { likeness, name };
        }
        return best;
      });
    known.set(heading, found);
    return found;
  };
  for (const column of columns) {
    const evidence = evidenceOf(sample.map((record) => record[column] ?? ''));
    const likenesses = likenessOf(column);
    attributes.forEach((attribute, i) => {
      const { likeness, name } = likenesses[i] as { likeness: number; name: string };
      const reasons = likeness >= 0.4 ? [`“${column}” is like “${name}”`] : [];
      const { weight, reason } = valueWeight(attribute, evidence);
      if (reason) reasons.push(reason);
      // A barcode column heading over cells whose check digits fail stays a barcode column: the damage is found later.
      const named = likeness === 1 && attribute.code === 'gtin' ? Math.max(weight, -20) : weight;
      const score = Math.round((likeness >= 0.4 ? likeness * 75 : 0) + named);
      if (score >= certainFrom)
        pairs.push({ column, attribute: attribute.code, score: Math.min(score, 100), reasons });
    });
  }
  const place = new Map(columns.map((column, at) => [column, at]));
  pairs.sort((a, b) => b.score - a.score || (place.get(a.column) ?? 0) - (place.get(b.column) ?? 0));
  const usedColumns = new Set<string>();
  const usedAttributes = new Set<string>();
  return pairs.filter((pair) => {
    if (usedColumns.has(pair.column) || usedAttributes.has(pair.attribute)) return false;
    usedColumns.add(pair.column);
    usedAttributes.add(pair.attribute);
    return true;
  });
}
