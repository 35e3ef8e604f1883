import type { Attribute } from '@/core/catalog/attributes';

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
}

const widthOf = (code: string, kind: Attribute['kind']): number => {
  if (code === 'sku') return 176;
  if (code === 'name') return 236;
  if (code === 'description') return 280;
  if (code === 'gtin') return 122;
  if (kind === 'money' || kind === 'number') return 86;
  return kind === 'link' || kind === 'pictures' ? 220 : 114;
};

/** The columns of a grid, pinned ones first. */
export function columnsOf(
  codes: readonly string[],
  pinned: readonly string[],
  known: ReadonlyMap<string, Attribute>,
): Column[] {
  const shown = [...new Set(['sku', ...codes])].filter((code) => code === 'family' || known.has(code));
  const ordered = [
    ...shown.filter((code) => pinned.includes(code)),
    ...shown.filter((code) => !pinned.includes(code)),
  ];
  let left = markWidth + pictureWidth;
  return ordered.map((code) => {
    const attribute = known.get(code);
    const kind = attribute?.kind ?? 'identifier';
    const width = widthOf(code, kind);
    const fixed = pinned.includes(code);
    const column = {
      code,
      label: attribute?.label ?? 'Family',
      kind,
      width,
      left: fixed ? left : undefined,
      editable: code !== 'sku' && code !== 'family',
    };
    if (fixed) left += width;
    return column;
  });
}
