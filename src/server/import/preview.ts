import { asText, emptyRecord } from '../../core/catalog/value';
import { InputError } from '../../core/errors/inputError';
import { counted, plural } from '../../core/formatting/formatting';
import { shortenedCodes } from '../../core/import/columns/codeColumns';
import type { ColumnSuggestion } from '../../core/import/columns/columnEvidence';
import { looksDated, orderUnknown } from '../../core/import/columns/dateColumns';
import type { Form } from '../../core/import/encoding/decode';
import { isTable } from '../../core/import/encoding/decode';
import { rejectionWords } from '../../core/import/importReview';
import { formOf, type ImportMapping, importMappingSchema } from '../../core/import/mapping/importMapping';
import { columnsOf, compileMapping } from '../../core/import/mapping/mapping';
import type { ListPlace } from '../../core/import/trees/records';
import type { Head } from '../../files/head';
import { columnsRead, targetsFrom } from '../../files/suggesting';
import { catalogCurrency, loadAttributes } from '../catalog/snapshot';
import { Memo } from '../runtime/memo';
import { missingColumns } from './checking';
import { readHeadApart } from './reader';
import { knowledge, type RunRow } from './runs';

export interface PreviewRow {
  readonly row: number;
  readonly sku: string;
  readonly values: Record<string, string>;
  readonly rejected: string | undefined;
}

export interface ColumnView {
  readonly name: string;
  readonly filled: number;
  readonly samples: readonly string[];
  readonly repeated: boolean;
}

export interface RunPreview {
  readonly columns: readonly ColumnView[];
  readonly sampled: number;
  readonly whole: boolean;
  readonly sheets: readonly string[];
  readonly lists: readonly ListPlace[];
  readonly variantLists: readonly ListPlace[];
  readonly sizes: readonly string[];
  /** What a person should know of how the file is read. */
  readonly notes: readonly string[];
  readonly rows: readonly PreviewRow[];
  /** How many of the sampled rows give each attribute a value, and the first of them. */
  readonly filled: Readonly<Record<string, { count: number; sample: string }>>;
  /** Attributes whose mapping names a column the file does not have. */
  readonly lacking: readonly { attribute: string; column: string }[];
  /** By column what it may be, the likeliest first, each with its reasons. */
  readonly fits: Readonly<Record<string, readonly ColumnSuggestion[]>>;
  /** By column: its distinct values with their counts, for value tables. */
  readonly words: Readonly<Record<string, readonly (readonly [string, number])[]>>;
}

const heads = new Memo<Promise<Head>>({ owner: 'heads of files', maxEntries: 20 });

/** The head of a kept file, which never changes: a run's page is drawn many times, and a workbook is long to open. */
const headOf = (path: string, form: Form): Promise<Head> =>
  heads.of(JSON.stringify([path, form]), () => readHeadApart(path, form));

/** What the first records of a run would be under its mapping. */
export async function previewRun(found: RunRow): Promise<RunPreview> {
  const attributes = await loadAttributes();
  const mapping = importMappingSchema.parse(found.mapping);
  if (found.path === '') throw new InputError('uploadDropped');
  const head = await headOf(found.path, formOf(mapping));
  const lacking = missingColumns(mapping, [...head.columns, ...head.beside]);
  const read = compileMapping(mapping, attributes, await catalogCurrency());
  const filled = emptyRecord<{ count: number; sample: string }>();
  const first = isTable(head.form.kind) ? (head.form.headingRow ?? 1) + (head.form.headingLines ?? 1) : 1;
  const rows = head.records.map(({ cells }, i): PreviewRow => {
    const item = read(cells);
    if ('reason' in item) return { row: i + first, sku: '', values: {}, rejected: rejectionWords(item) };
    const values: Record<string, string> = { sku: item.sku, ...(item.family ? { family: item.family } : {}) };
    for (const [code, value] of Object.entries(item.values)) values[code] = asText(value).slice(0, 300);
    for (const [code, text] of Object.entries(values)) {
      const known = filled[code];
      filled[code] = { count: (known?.count ?? 0) + 1, sample: known?.sample ?? text };
    }
    return { row: i + first, sku: item.sku, values, rejected: undefined };
  });
  const looked = new Set(Object.values(mapping.fields).flatMap((one) => tableColumns(one)));
  const { fits } = columnsRead(head, targetsFrom(attributes), await knowledge(found.sourceId));
  return {
    fits: Object.fromEntries(fits),
    columns: head.lines.map(({ path, ...line }) => ({ name: path, ...line })),
    sampled: head.records.length,
    whole: head.whole && head.records.length < 200,
    sheets: head.sheets,
    lists: head.lists,
    variantLists: head.variantLists,
    sizes: head.sizes,
    notes: notesOn(head, mapping),
    rows: rows.slice(0, 50),
    // Pages take plain objects only.
    filled: { ...filled },
    lacking,
    words: Object.fromEntries([...looked].map((column) => [column, wordsIn(head, column)])),
  };
}

/** What a person should know of how a file is read: stored results of formulas, and dates that nothing is filled with. */
function notesOn(head: Head, mapping: ImportMapping): string[] {
  const names = (columns: readonly string[]) => columns.map((column) => `“${column}”`).join(', ');
  const read = new Set(Object.values(mapping.fields).flatMap(columnsOf));
  const cells = (column: string) => head.records.map((record) => record.cells[column] ?? '');
  const calculated = head.calculated ?? [];
  const dated = head.columns.filter((column) => !read.has(column) && looksDated(cells(column)));
  const ambiguous = Object.values(mapping.fields).flatMap((composition) =>
    columnsOf(composition).filter((column) => orderUnknown(composition, cells(column))),
  );
  const shortened = (['sku', 'mpn'] as const).flatMap((code) => {
    const [column] = mapping.fields[code] ? columnsOf(mapping.fields[code]) : [];
    const count = column === undefined ? 0 : shortenedCodes(cells(column));
    return column !== undefined && count > 0 ? [[column, count] as const] : [];
  });
  return [
    ...(calculated.length > 0
      ? [`Cells of ${names(calculated)} hold formulas. The results stored in the file are used.`]
      : []),
    ...(dated.length > 0 ? [`Dates in ${names(dated)} are not imported. Choose an attribute for them.`] : []),
    ...shortened.map(
      ([column, count]) =>
        `${counted(count, 'code')} of “${column}” ${plural(count, 'is', 'are')} shorter than the others. Leading zeros may be lost.`,
    ),
    ...(ambiguous.length > 0
      ? [
          `Dates in ${names(ambiguous)} do not say whether the day or the month comes first. They are read with the day first; change the step “date” if that is wrong.`,
        ]
      : []),
  ];
}

/** Columns of a composition that looks something up in a value table. */
const tableColumns = (composition: ImportMapping['fields'][string]): string[] =>
  composition.alternatives.flatMap((alternative) =>
    alternative.parts.flatMap((part) =>
      'attribute' in part &&
      [...part.steps, ...alternative.steps, ...composition.steps].some(({ step }) => step === 'lookUp')
        ? [part.attribute]
        : [],
    ),
  );

function wordsIn(head: Head, column: string): [string, number][] {
  const counts = new Map<string, number>();
  for (const { cells } of head.records) {
    const cell = cells[column]?.trim();
    if (cell) counts.set(cell, (counts.get(cell) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1]).slice(0, 200);
}
