import type { Family, Item, Values } from '../catalog/item';
import { asText, attributeIndex, type Value } from '../catalog/value';
import { type Composition, compileComposition } from '../compose/composition';
import { fold } from '../text/folding';

/** One axis of a family with the terms chosen for it, in their order. */
export interface AxisChoice {
  readonly axis: string;
  readonly terms: readonly string[];
}

/** One place in the grid of a family's axes. */
export interface PlannedVariant {
  readonly sku: string;
  /** Its axis values, and its name where a pattern makes one. */
  readonly values: Values;
  /** The item that already stands at this place; it keeps its data. */
  readonly existing: string | undefined;
  /** Why it cannot be made; undefined where it can. */
  readonly trouble: 'noSku' | 'taken' | 'twice' | undefined;
}

export const MAX_VARIANTS = 2000;

/** Every combination of the chosen terms, the last axis changing fastest; none where an axis has no term. */
export function combinations(axes: readonly AxisChoice[]): Record<string, string>[] {
  return axes.reduce<Record<string, string>[]>(
    (places, { axis, terms }) =>
      places.flatMap((place) => [...new Set(terms)].map((term) => ({ ...place, [axis]: term }))),
    axes.length === 0 ? [] : [{}],
  );
}

/** The usual pattern of an SKU: the family's code and each axis in capitals. */
export const skuPattern = (axes: readonly string[]): Composition => ({
  alternatives: [
    {
      parts: [
        { attribute: 'family', glue: '', steps: [] },
        ...axes.map((attribute) => ({
          attribute,
          glue: '-',
          steps: [
            { step: 'case' as const, to: 'upper' as const },
            { step: 'replace' as const, find: ' ', with: '' },
          ],
        })),
      ],
      steps: [],
    },
  ],
  steps: [],
});

/**
 * Plans the variants of a family: one item for each combination of terms. Items that already stand at a place are kept;
 * only the missing ones are planned.
 * @param isTaken whether an SKU is used by an item elsewhere
 */
export function planVariants(
  family: Family,
  members: readonly Item[],
  axes: readonly AxisChoice[],
  patterns: { readonly sku: Composition; readonly name?: Composition | undefined },
  isTaken: (sku: string) => boolean,
): PlannedVariant[] {
  const codes = axes.map(({ axis }) => axis);
  const index = attributeIndex(['family', ...Object.keys(family.values), ...codes]);
  const context = { index, language: 'en', currency: 'EUR', tables: {} };
  const skuOf = compileComposition(patterns.sku, context).run;
  const nameOf = patterns.name ? compileComposition(patterns.name, context).run : undefined;
  const placeOf = (value: (code: string) => Value | undefined) =>
    JSON.stringify(codes.map((code) => fold(asText(value(code)))));
  const status = new Map(
    members.map(({ sku, values }) => [placeOf((code) => values[code] ?? family.values[code]), sku]),
  );
  const used = new Set<string>();
  return combinations(axes).map((place): PlannedVariant => {
    const existing = status.get(placeOf((code) => place[code]));
    const row = index.codes.map((code) =>
      code === 'family' ? family.code : (place[code] ?? family.values[code]),
    );
    const name = asText(nameOf?.(row));
    const values = { ...place, ...(name === '' ? {} : { name }) };
    if (existing !== undefined) return { sku: existing, values, existing, trouble: undefined };
    const sku = asText(skuOf(row)).trim();
    const trouble = sku === '' ? 'noSku' : used.has(sku) ? 'twice' : isTaken(sku) ? 'taken' : undefined;
    used.add(sku);
    return { sku, values, existing: undefined, trouble };
  });
}

/** An item's own values when it leaves its family: it takes the shared ones along. */
export const valuesAlone = (item: Pick<Item, 'values'>, family: Family | undefined): Values => ({
  ...family?.values,
  ...item.values,
});

/** An item's own values in a family: what it shares with it need not stand twice. */
export function valuesIn(values: Values, family: Pick<Family, 'values'>): Values {
  return Object.fromEntries(
    Object.entries(values).filter(
      ([code, value]) => JSON.stringify(family.values[code]) !== JSON.stringify(value),
    ),
  );
}
