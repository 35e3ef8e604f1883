import type { CategoryTree } from '../categories/tree';
import { readTree } from '../categories/tree';
import { branchesIn } from '../conditions/conditions';
import { InputError } from '../errors/inputError';
import { type Sheet, sheetSchema } from './sheet';

export interface Channel {
  readonly sheet: Sheet;
  readonly tree: CategoryTree;
}

/**
 * Reads a requirement sheet from what a person or a file gives.
 * @throws InputError naming the place in the sheet that is at fault
 */
export function readSheet(given: unknown): Sheet {
  const parsed = sheetSchema.safeParse(ofToday(given));
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  throw new InputError('sheetInvalid', { place: placeWords(given, issue?.path), why: issue?.message });
}

/** A sheet as earlier versions of the application wrote it: "a file is sent" said nothing of where to, so it is by hand. */
function ofToday(given: unknown): unknown {
  const { delivery, ...rest } = (given ?? {}) as { delivery?: { manner?: unknown } };
  return delivery?.manner === 'file' ? { ...rest, delivery: { ...delivery, manner: 'byHand' } } : given;
}

/** A path in a sheet, with the code of the field it leads to: `fields.3 (colour).need`. */
function placeWords(given: unknown, path: readonly PropertyKey[] | undefined): string {
  if (!path || path.length === 0) return 'its root';
  const [first, at] = path;
  const list: unknown =
    typeof given === 'object' && given !== null
      ? Object.entries(given).find(([name]) => name === first)?.[1]
      : undefined;
  const entry: unknown = Array.isArray(list) && typeof at === 'number' ? list[at] : undefined;
  const code =
    typeof entry === 'object' && entry !== null && 'code' in entry ? ` (${String(entry.code)})` : '';
  return path.map((step, i) => `${String(step)}${i === 1 ? code : ''}`).join('.');
}

/** The object in a JSON text. @throws InputError saying where it breaks off */
export function readJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new InputError('noJson', { why: error instanceof Error ? error.message : 'it cannot be read' });
  }
}

/**
 * A channel from a sheet and its tree's delimited text.
 * @throws InputError naming the place in the sheet, the category, or the branch that the tree does not have
 */
export function makeChannel(given: unknown, taxonomy: string): Channel {
  const sheet = readSheet(given);
  const tree = readTree(taxonomy);
  for (const [i, { under }] of sheet.branches.entries())
    if (!tree.byCode.has(under)) throw new InputError('branchUnknown', { at: i, branch: under });
  for (const field of sheet.fields)
    for (const branch of field.mustWhen ? branchesIn(field.mustWhen) : [])
      if (!tree.byCode.has(branch))
        throw new InputError('conditionBranchUnknown', { field: field.code, branch });
  return { sheet, tree };
}

/** Reads a channel from its two files. @throws InputError as {@link makeChannel} does, and where the first is not JSON */
export const readChannel = (requirements: string, taxonomy: string): Channel =>
  makeChannel(readJson(requirements), taxonomy);
