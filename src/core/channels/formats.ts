/** What is to be known of a file format before anything is written in it. */
interface FormatFacts {
  /** What people call it. */
  readonly label: string;
  /** What a row of it is: cells, an object with a name for each value, elements of XML, or a product of schema.org. */
  readonly rows: 'cells' | 'objects' | 'elements' | 'products';
  /** Settings of a delivery that count for it, beside those that always do. */
  readonly settings: readonly string[];
}

/**
 * Every format that a sheet may name, by the code it names; `files/formats.ts` has what writes and what reads each back. A new one is an
 * entry here, its file, its entry there, and its test.
 */
export const formatFacts = {
  atom: { label: 'Atom', rows: 'elements', settings: ['namespace'] },
  rss: { label: 'RSS', rows: 'elements', settings: ['namespace'] },
  xml: { label: 'XML', rows: 'elements', settings: ['namespace', 'root', 'entry'] },
  csv: {
    label: 'CSV',
    rows: 'cells',
    settings: ['separator', 'decimalSign', 'listSeparator', 'lineEnd', 'mark'],
  },
  tsv: {
    label: 'Tab-separated',
    rows: 'cells',
    settings: ['decimalSign', 'listSeparator', 'lineEnd', 'mark'],
  },
  json: { label: 'JSON', rows: 'objects', settings: ['envelope'] },
  ndjson: { label: 'JSON, a line each', rows: 'objects', settings: [] },
  jsonLd: { label: 'JSON-LD', rows: 'products', settings: [] },
  xlsx: { label: 'Workbook', rows: 'cells', settings: ['decimalSign', 'listSeparator'] },
} as const satisfies Readonly<Record<string, FormatFacts>>;

export type FeedFormat = keyof typeof formatFacts;
export const feedFormats = Object.keys(formatFacts) as [FeedFormat, ...FeedFormat[]];

/** Labels by code, for a choice. */
export const labelsOf = <K extends string>(facts: Readonly<Record<K, { readonly label: string }>>) =>
  Object.fromEntries(
    Object.entries<{ readonly label: string }>(facts).map(([code, { label }]) => [code, label]),
  ) as Readonly<Record<K, string>>;
