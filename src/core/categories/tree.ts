import { CsvError, parse } from 'csv-parse/sync';
import { InputError } from '../errors/inputError';

/** One node of a channel's category tree. Only leaves take listings. */
export interface Category {
  readonly code: string;
  readonly parent: string | undefined;
  readonly names: Readonly<Record<string, string>>;
  readonly synonyms: readonly string[];
  readonly children: string[];
}

export interface CategoryTree {
  readonly roots: readonly string[];
  readonly byCode: ReadonlyMap<string, Category>;
}

/**
 * Reads a tree from delimited text with a heading row: `code`, `parent`, one `name_xx` column a language,
 * `synonyms` (any language, separated by `|`).
 * @throws InputError where a column is missing, a code is empty or stands twice, a parent is not defined or lies below
 * itself, naming the line or the code
 */
export function readTree(text: string): CategoryTree {
  const rows = readRows(text);
  const byCode = new Map<string, Category>();
  for (const [at, row] of rows.entries()) {
    const code = row.code ?? '';
    if (code === '') throw new InputError('categoryWithoutCode', { number: at + 1 });
    if (byCode.has(code)) throw new InputError('categoryTwice', { category: code });
    const names: Record<string, string> = {};
    for (const [column, value] of Object.entries(row))
      if (column.startsWith('name_') && value) names[column.slice(5)] = value;
    byCode.set(code, {
      code,
      parent: row.parent || undefined,
      names,
      synonyms: row.synonyms ? row.synonyms.split('|').map((word) => word.trim()) : [],
      children: [],
    });
  }
  const roots: string[] = [];
  for (const category of byCode.values()) {
    if (category.parent === undefined) roots.push(category.code);
    else {
      const parent = byCode.get(category.parent);
      if (!parent)
        throw new InputError('categoryParent', { category: category.code, parent: category.parent });
      parent.children.push(category.code);
    }
  }
  // A ring of parents has no root; walking down from the roots misses it.
  const reached = new Set<string>();
  const open = [...roots];
  for (let code = open.pop(); code !== undefined; code = open.pop()) {
    reached.add(code);
    open.push(...(byCode.get(code)?.children ?? []));
  }
  for (const code of byCode.keys())
    if (!reached.has(code)) throw new InputError('categoryCircle', { category: code });
  return { roots, byCode };
}

function readRows(text: string): Record<string, string>[] {
  if (text.trim() === '') return [];
  let rows: Record<string, string>[];
  try {
    rows = parse(text, { columns: true, skip_empty_lines: true, trim: true, bom: true });
  } catch (error) {
    if (error instanceof CsvError) throw new InputError('treeUnreadable', { why: error.message });
    throw error;
  }
  const columns = Object.keys(rows[0] ?? {});
  if (rows.length > 0 && (!columns.includes('code') || !columns.some((name) => name.startsWith('name_'))))
    throw new InputError('treeHeadings');
  return rows;
}

/** The codes from the root down to a category, itself last; empty where the code is unknown. */
export function pathOf(tree: CategoryTree, code: string): string[] {
  const path: string[] = [];
  for (let at = tree.byCode.get(code); at; at = at.parent ? tree.byCode.get(at.parent) : undefined)
    path.unshift(at.code);
  return path;
}

/** A category's name in a language, in English where it has none, else its code. */
export function nameOf(tree: CategoryTree, code: string, language: string): string {
  const names = tree.byCode.get(code)?.names;
  return names?.[language.split('-')[0] ?? ''] ?? names?.en ?? code;
}

/** The names from the root down, joined with ` › `. */
export function pathName(tree: CategoryTree, code: string, language: string): string {
  return pathOf(tree, code)
    .map((step) => nameOf(tree, step, language))
    .join(' › ');
}

export function isUnder(tree: CategoryTree, code: string, branch: string): boolean {
  return pathOf(tree, code).includes(branch);
}
