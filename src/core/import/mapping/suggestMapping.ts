import { type Attribute, isList } from '../../catalog/attributes';
import { listSeparator } from '../../catalog/value';
import { type Composition, fromAttribute } from '../../compose/composition';
import type { Step } from '../../compose/steps';
import { readNumber } from '../../measures/numbers';
import { fold } from '../../text/folding';
import { spokenName } from '../../text/similarity';
import { type ColumnSuggestion, isUnitAlone } from '../columns/columnEvidence';
import type { Form } from '../encoding/decode';
import { headingMeaning } from '../headings/headingLexicon';
import { headingWords } from '../headings/headings';
import { joinedSizes, type Side } from '../tables/joinedSizes';
import { sizeColumnNames } from '../tables/sizeColumns';
import type { SourceRecord } from '../trees/records';
import { importKinds } from './attributeKinds';
import { type ImportMapping, importMappingSchema } from './importMapping';
import { columnsOf } from './mapping';

/**
 * The steps that bring a cell into the form an attribute is kept in.
 * @param heading the column's, which may name a unit or a currency for cells that name none
 * @param cells of the first rows, as far as they are known
 */
export function importSteps(
  attribute: Attribute | undefined,
  heading = '',
  cells: readonly string[] = [],
): Step[] {
  if (!attribute) return [{ step: 'trim' }];
  if (isList(attribute)) return [{ step: 'split', at: '|' }];
  return importKinds[attribute.kind].steps(heading, cells);
}

/** The decimal signs that cells show: a sign with other than three digits behind it, or the last of two kinds. */
const tellingSigns = (cells: readonly string[]): string[] =>
  cells.flatMap((cell) => {
    const body = cell.length > 80 ? '' : cell.replace(/[^\d.,]/g, '');
    const last = /[.,](?=\d*$)/.exec(body);
    if (!last) return [];
    const decimals = body.length - last.index - 1;
    const other = last[0] === ',' ? '.' : ',';
    const once = body.indexOf(last[0]) === last.index;
    return once && (decimals !== 3 || body.includes(other) || /^0?[.,]/.test(body)) ? [last[0]] : [];
  });

/** The decimal sign that most of what tells one agrees on. */
function agreedSign(telling: readonly string[]): ',' | '.' | undefined {
  const commas = telling.filter((sign) => sign === ',').length;
  if (telling.length === 0) return undefined;
  return commas >= telling.length * 0.8 ? ',' : commas <= telling.length * 0.2 ? '.' : undefined;
}

/** The attribute of a side that a heading speaks of: a parcel's is not the thing's. */
function sideOf(heading: string, side: Side): string {
  const about = headingMeaning(spokenName(heading.replace(/\(.*\)/, '')))?.about.split(' ') ?? [];
  return about.includes('package') ? `package${side[0]?.toUpperCase()}${side.slice(1)}` : side;
}

/** A heading without its number: "photo" of "Photo 2" and of "photo_3_url" without the rest. */
const unnumbered = (column: string): string =>
  fold(column)
    .replace(/\d{1,2}/, ' ')
    .replace(/[^\p{L}\d]+/gu, ' ')
    .trim();

const numberOf = (column: string): number => Number(/\d{1,2}/.exec(column)?.[0] ?? 0);

/** Columns of one name in the order of their numbers; one without any is the first. */
const byNumber = (a: string, b: string): number => numberOf(a) - numberOf(b);

/**
 * The column that names the unit of a measure's numbers: one of units alone, called as the measure is, or the next one to its right
 * that is one.
 */
function unitBeside(
  column: string,
  columns: readonly string[],
  cellsOf: (column: string) => readonly string[],
): string | undefined {
  if (headingWords(column).unit !== undefined) return undefined;
  const filled = (cells: readonly string[]) => cells.map((cell) => cell.trim()).filter((cell) => cell !== '');
  const own = filled(cellsOf(column));
  if (own.length === 0 || !own.every((cell) => readNumber(cell) !== undefined)) return undefined;
  const units = columns.filter((one) => {
    const cells = filled(cellsOf(one));
    return cells.length > 0 && cells.every(isUnitAlone);
  });
  const called = units.find(
    (one) => fold(one).startsWith(`${fold(column)} `) || fold(one).endsWith(` ${fold(column)}`),
  );
  const at = columns.indexOf(column);
  return called ?? units.find((one) => columns.indexOf(one) > at);
}

/** Words that say there is more of the same, in the nine languages. */
const furtherWord =
  /\b(additional|further|more|other|extra|weitere|zusatz|autres?|supplementaires?|otras?|adicional(es)?|altre|aggiuntiv[ei]|andere|overige|dodatkowe|inne|outras?|adicionais|fler|ytterligare|ovriga)/;

/** Whether a column holds more of a list that another one begins: one of the same name with another number; of pictures also one that is called so. */
function isFurther(
  { kind }: Pick<Attribute, 'kind'>,
  column: string,
  first: string,
  cells: readonly string[],
): boolean {
  const name = unnumbered(column);
  if (kind !== 'pictures') return name === unnumbered(first);
  const filled = cells.map((cell) => cell.trim()).filter((cell) => cell !== '');
  if (name === unnumbered(first)) return filled.every((cell) => /^https?:\/\/|\.\w{3,4}$/i.test(cell));
  const pictures = filled.every((cell) => /\.(jpe?g|png|webp|gif|tiff?)\b/i.test(cell));
  // Beside a "main picture" a numbered column of pictures is one of the others.
  return filled.length > 0 && pictures && (furtherWord.test(name) || numberOf(column) > 0);
}

/**
 * A mapping made of suggestions.
 * @param sample the first records, to see how numbers are written
 */
export function mappingFrom(
  suggestions: readonly ColumnSuggestion[],
  attributes: readonly Attribute[],
  form: Form,
  sample: readonly SourceRecord[] = [],
): ImportMapping {
  const fields: Record<string, Composition> = {};
  const kinds = new Map(attributes.map((one) => [one.code, one]));
  const cellsOf = (column: string) => sample.map(({ cells }) => cells[column] ?? '');
  const numeric = suggestions.filter(
    ({ attribute }) => importKinds[kinds.get(attribute)?.kind ?? 'text'].numeric,
  );
  const telling = new Map(numeric.map(({ column }) => [column, tellingSigns(cellsOf(column))]));
  // A column that does not tell ("1,250") is read as the others of its file are.
  const usual = agreedSign([...telling.values()].flat());
  const taken = new Set(suggestions.map(({ column }) => column));
  const open = Object.keys(sample[0]?.cells ?? {}).filter((column) => !taken.has(column));
  for (const { column, attribute } of suggestions) {
    const target = kinds.get(attribute);
    const further =
      target && isList(target) ? open.filter((one) => isFurther(target, one, column, cellsOf(one))) : [];
    if (further.length > 0) {
      const parts = [column, ...further].sort(byNumber);
      fields[attribute] = {
        alternatives: [
          {
            parts: parts.map((one) => ({ attribute: one, glue: listSeparator, steps: [] })),
            steps: importSteps(target, column),
          },
        ],
        steps: [],
      };
      continue;
    }
    const unitColumn =
      target?.kind === 'measure'
        ? unitBeside(column, Object.keys(sample[0]?.cells ?? {}), cellsOf)
        : undefined;
    const sign = agreedSign(telling.get(column) ?? []) ?? (telling.has(column) ? usual : undefined);
    const steps = importSteps(target, column, cellsOf(column)).map((step) =>
      (step.step === 'number' || step.step === 'measure') && sign ? { ...step, decimalSign: sign } : step,
    );
    fields[attribute] =
      unitColumn === undefined
        ? fromAttribute(column, steps)
        : {
            alternatives: [
              { parts: [column, unitColumn].map((one) => ({ attribute: one, glue: ' ', steps: [] })), steps },
            ],
            steps: [],
          };
  }
  for (const column of open) {
    const together = joinedSizes(column, cellsOf(column));
    const entries = Object.entries(together ?? {}).map(
      ([side, steps]) => [sideOf(column, side as Side), steps] as const,
    );
    if (entries.every(([code]) => kinds.get(code)?.kind === 'measure' && !fields[code]))
      for (const [code, steps] of entries) fields[code] = fromAttribute(column, steps);
  }
  if (form.across?.length) keyOfSizes(fields, sample);
  return importMappingSchema.parse({
    format: 'lively-cart/mapping@1',
    ...form,
    fields,
    ...(form.variants ? { grouping: { by: 'nesting' } } : groupingFrom(fields, sample)),
  });
}

/**
 * Sizes of one thing that stand across share its number: each is told apart by it and its size, and by its colour where rows share
 * the number too; together they are a family.
 */
function keyOfSizes(fields: Record<string, Composition>, sample: readonly SourceRecord[]): void {
  const columnIn = (attribute: string) => {
    const composition = fields[attribute];
    return composition && columnsOf(composition)[0];
  };
  const number = columnIn('sku') ?? columnIn('family') ?? columnIn('mpn');
  if (number === undefined) return;
  const unique = (columns: readonly string[]) =>
    new Set(sample.map(({ cells }) => columns.map((column) => cells[column]).join('\0'))).size ===
    sample.length;
  const color = columnIn('color');
  const short = [number, sizeColumnNames.size];
  const columns = unique(short) || color === undefined ? short : [number, color, sizeColumnNames.size];
  const trim = [{ step: 'trim' as const }];
  fields.sku = {
    alternatives: [{ parts: columns.map((attribute) => ({ attribute, glue: '-', steps: trim })), steps: [] }],
    steps: [],
  };
  fields.family ??= fromAttribute(number, trim);
}

/** How rows that name a group become families: by a parent's code where the parents are rows themselves, or are called so. */
function groupingFrom(
  fields: Readonly<Record<string, Composition>>,
  sample: readonly SourceRecord[],
): Pick<ImportMapping, 'grouping'> {
  const columnOf = (attribute: string): string | undefined => {
    const composition = fields[attribute];
    return composition && columnsOf(composition)[0];
  };
  const [family, sku] = [columnOf('family'), columnOf('sku')];
  if (family === undefined) return {};
  const skus = new Set(sample.map(({ cells }) => cells[sku ?? '']));
  const parents = sample.some(({ cells }) => {
    const parent = cells[family]?.trim();
    return parent !== undefined && parent !== '' && parent !== cells[sku ?? ''] && skus.has(parent);
  });
  return {
    grouping:
      parents || namesParent.test(family) ? { by: 'parentCode', column: family } : { by: 'sharedCode' },
  };
}

/** A heading that says its codes are those of other rows, in the nine languages. */
const namesParent =
  /parent|eltern|[uü]bergeordnet|vater|hauptartikel|padre|p[eè]re|genitore|ouder|hoofd|nadrz[eę]dn|rodzic|pai\b|f[oö]r[aä]lder|huvudartikel|mestre/i;
