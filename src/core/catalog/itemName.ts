import type { Values } from './item';
import { asText } from './value';

/**
 * An item's name with what tells it from its siblings: “Ridge pot · moss, 14 cm”. A value that the name has as words is not repeated.
 * @param name the item's own name
 * @param axisValues its values on the axes of its family, in their order
 */
export function itemName(name: string, axisValues: readonly string[]): string {
  const nameWords = ` ${name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, ' ')} `;
  const rest = axisValues.filter(
    (value) =>
      value !== '' &&
      !nameWords.includes(
        ` ${value
          .toLowerCase()
          .replace(/[^\p{L}\p{N}]+/gu, ' ')
          .trim()} `,
      ),
  );
  return [name, rest.join(', ')].filter((part) => part !== '').join(' · ');
}

/** The same of an item as it is stored. @param axes those of its family; null where it has none */
export const storedItemName = ({
  values,
  axes,
}: {
  values: Values;
  axes: readonly string[] | null;
}): string =>
  itemName(
    asText(values.name),
    (axes ?? []).map((axis) => asText(values[axis])),
  );
