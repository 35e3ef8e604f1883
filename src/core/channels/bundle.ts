import type { CategoryTree } from '../categories/tree';
import { readTree } from '../categories/tree';
import { type Sheet, sheetSchema } from './sheet';

export interface Channel {
  readonly sheet: Sheet;
  readonly tree: CategoryTree;
}

/**
 * Reads a channel from its two files.
 * @throws naming the place in the sheet or the category at fault
 */
export function readChannel(requirements: string, taxonomy: string): Channel {
  const parsed = sheetSchema.safeParse(JSON.parse(requirements));
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    throw new Error(
      `The requirement sheet is not valid at ${issue?.path.join('.') || 'its root'}: ${issue?.message}`,
    );
  }
  return { sheet: parsed.data, tree: readTree(taxonomy) };
}
