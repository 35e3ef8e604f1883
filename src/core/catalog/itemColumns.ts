/** A column of the table of items that is no attribute. */
interface ItemColumn {
  readonly label: string;
  readonly kind: 'identifier' | 'number';
  /** Computed for the rows on display, so that it can be neither sorted nor filtered by; else read from the row. */
  readonly computed: boolean;
}

/**
 * The columns of the table of items beside those of the attributes. A new one is an entry here and, where it is computed, its values in
 * `server/items/computedColumns.ts`; grid, column menu and export follow.
 */
export const itemColumns = {
  family: { label: 'Family', kind: 'identifier', computed: false },
  /** Share of the wanted values that an item has, over its feeds. No attribute can have such a code. */
  '#complete': { label: 'Complete', kind: 'number', computed: true },
} as const satisfies Record<string, ItemColumn>;

type ItemColumnCode = keyof typeof itemColumns;
export type ComputedColumnCode = {
  [C in ItemColumnCode]: (typeof itemColumns)[C]['computed'] extends true ? C : never;
}[ItemColumnCode];

/** The column of that code; undefined for an attribute. */
export const itemColumn = (code: string): ItemColumn | undefined =>
  Object.hasOwn(itemColumns, code) ? itemColumns[code as ItemColumnCode] : undefined;

export const isComputedColumn = (code: string): code is ComputedColumnCode =>
  itemColumn(code)?.computed === true;
