import { kindFacts } from '@/core/catalog/attributeKinds';
import type { Attribute } from '@/core/catalog/attributes';
import { isComputedColumn, itemColumn } from '@/core/catalog/itemColumns';

export const startingColumns = [
  'sku',
  'name',
  'family',
  'brand',
  'category',
  'gtin',
  'price',
  'availability',
  'color',
  'glaze',
  'size',
];
export const startingPinned = ['sku', 'name'];
export const rowHeight = 34;
/** The check box and the picture before the columns. */
export const markWidth = 34;
export const pictureWidth = 44;

export interface Column {
  readonly code: string;
  readonly label: string;
  readonly kind: Attribute['kind'];
  readonly width: number;
  /** Distance from the left edge where it is pinned. */
  readonly left: number | undefined;
  readonly editable: boolean;
  /** Whether it is counted for what is seen, and neither sorted nor filtered by. */
  readonly counted: boolean;
}

const widthOf = (code: string, kind: Attribute['kind']): number => {
  if (code === 'sku') return 176;
  if (code === 'name') return 236;
  if (code === 'description') return 280;
  if (code === 'gtin') return 122;
  return kindFacts[kind].columnWidth;
};

/** The columns of a grid, pinned ones first. */
export function columnsOf(
  codes: readonly string[],
  pinned: readonly string[],
  known: ReadonlyMap<string, Attribute>,
): Column[] {
  const shown = [...new Set(['sku', ...codes])].filter(
    (code) => itemColumn(code) !== undefined || known.has(code),
  );
  const ordered = [
    ...shown.filter((code) => pinned.includes(code)),
    ...shown.filter((code) => !pinned.includes(code)),
  ];
  let left = markWidth + pictureWidth;
  return ordered.map((code) => {
    const attribute = known.get(code);
    const kind = attribute?.kind ?? itemColumn(code)?.kind ?? 'identifier';
    const width = widthOf(code, kind);
    const fixed = pinned.includes(code);
    const column = {
      code,
      label: attribute?.label ?? itemColumn(code)?.label ?? code,
      kind,
      width,
      left: fixed ? left : undefined,
      editable: code !== 'sku' && itemColumn(code) === undefined,
      counted: isComputedColumn(code),
    };
    if (fixed) left += width;
    return column;
  });
}
