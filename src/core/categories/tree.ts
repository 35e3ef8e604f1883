import { parse } from 'csv-parse/sync';

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
 * @throws where a parent is not defined or a code stands twice, naming the code
 */
export function readTree(text: string): CategoryTree {
  const rows: Record<string, string>[] = parse(text, { columns: true, skip_empty_lines: true, trim: true });
  const byCode = new Map<string, Category>();
  for (const row of rows) {
    const code = row.code ?? '';
    if (byCode.has(code)) throw new Error(`Category ${code} is defined twice`);
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
        throw new Error(
          `Category ${category.code} names the parent ${category.parent}, which is not defined`,
        );
      parent.children.push(category.code);
    }
  }
  return { roots, byCode };
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
