/** Names of categories with the places that a person gave them in all six trees, and how often the suggested one is right. */
import { readFileSync } from 'node:fs';
import { type CategorySearch, searchTree, suggestCategories } from '../../src/core/categories/search';
import { type CategoryTree, readTree } from '../../src/core/categories/tree';
import type { Expander } from '../../src/core/words/thesaurus';

export const labelledTrees = [
  'lanternry',
  'orrin-bazaar',
  'tessel-boards',
  'flickerstall',
  'own-shop',
  'plazuela-norte',
] as const;
type Tree = (typeof labelledTrees)[number];

const treeOf = (name: Tree) => readTree(readFileSync(`src/channels/${name}/taxonomy.csv`, 'utf8'));
const leavesOf = (tree: CategoryTree) =>
  [...tree.byCode.values()].filter(({ children }) => children.length === 0);

/** The branches of two trees that hold the same places in the same order as a branch of Flickerstall's. */
const branches: readonly (readonly [flickerstall: string, orrin: string, tessel: string])[] = [
  ['FA1', '11', 'pots-and-stands'],
  ['FA2', '12', 'watering'],
  ['FA3', '13', 'feeding-and-soil'],
  ['FA4', '14', 'seeds'],
  ['FA5', '15', 'growing'],
  ['FA6', '16', 'garden-tools'],
  ['FA7', '17', 'plants'],
  ['FA8', '18', 'outdoors'],
  ['FB1', '21', 'lighting'],
  ['FB2', '22', 'decoration'],
  ['FB3', '23', 'storage'],
  ['FB4', '24', 'kitchen'],
  ['FB5', '25', 'cleaning'],
  ['FC1', '31', 'workwear'],
  ['FC2', '32', 'clothes'],
  ['FD1', '41', 'toys'],
  ['FD2', '42', 'baby'],
  ['FE1', '51', 'books'],
  ['FE2', '52', 'paper-and-cards'],
  ['FE3', '53', 'music'],
  ['FF1', '61', 'measuring'],
  ['FF2', '62', 'hand-tools'],
  ['FF3', '63', 'power'],
  ['FG1', '71', 'for-pets'],
  ['FH1', '81', 'food'],
  ['FH2', '82', 'body-care'],
];

/** A labelled place of Flickerstall in another tree. */
function placeIn(name: Tree, tree: CategoryTree, flickerstall: CategoryTree, code: string): string {
  const [branch = '', at = ''] = code.split('-');
  const [, orrin, tessel] = branches.find(([one]) => one === branch) ?? [];
  if (name === 'flickerstall') return code;
  if (name === 'orrin-bazaar') return `${orrin}0${at}`;
  if (name === 'tessel-boards')
    return leavesOf(tree).filter(({ parent }) => parent === tessel)[Number(at) - 1]?.code ?? '';
  const english = flickerstall.byCode.get(code)?.names.en;
  return leavesOf(tree).find(({ names }) => names.en === english)?.code ?? '';
}

export interface PlaceLabel {
  readonly name: string;
  /** Codes of the places that are right. */
  readonly right: readonly string[];
  readonly items: readonly string[];
}

/** The labels of a file for one tree; names for which the tree has no place are left out. */
export function placeLabels(file: 'held' | 'tuning', name: Tree, tree: CategoryTree): PlaceLabel[] {
  const flickerstall = treeOf('flickerstall');
  return readFileSync(`tests/data/labels/places-${file}.tsv`, 'utf8')
    .trimEnd()
    .split('\n')
    .flatMap((line) => {
      const [word = '', usual = '', lanternry = '', items = ''] = line.split('\t');
      const right =
        name === 'lanternry'
          ? lanternry.split(',').filter((code) => code !== '')
          : usual.split(',').map((code) => placeIn(name, tree, flickerstall, code));
      return right.length > 0
        ? [{ name: word, right, items: items.split(';').filter((one) => one !== '') }]
        : [];
    });
}

export interface LabelledResult {
  readonly tree: Tree;
  readonly name: string;
  /** Where the right place stands among those suggested, from 0; -1 where it does not. */
  readonly rank: number;
  /** The confidence of the first, 0 to 100. */
  readonly confidence: number;
  readonly found: string;
}

/** Expanding the places of a tree takes longer than asking for one. */
const searches = new Map<Expander | undefined, Map<Tree, CategorySearch>>();
function searchOf(name: Tree, tree: CategoryTree, expander: Expander | undefined): CategorySearch {
  const known = searches.get(expander) ?? new Map<Tree, CategorySearch>();
  searches.set(expander, known);
  const search = known.get(name) ?? searchTree(tree, expander);
  known.set(name, search);
  return search;
}

/** What is suggested for every label of a file in every tree. @param withItems whether the names of items are told */
export function labelledResults(
  file: 'held' | 'tuning',
  expander: Expander | undefined,
  withItems = false,
): LabelledResult[] {
  return labelledTrees.flatMap((name) => {
    const tree = treeOf(name);
    const search = searchOf(name, tree, expander);
    return placeLabels(file, name, tree)
      .filter(({ items }) => !withItems || items.length > 0)
      .map((label) => {
        const found = suggestCategories(search, tree, {
          name: label.name,
          itemNames: withItems ? label.items : [],
        });
        return {
          tree: name,
          name: label.name,
          rank: found.findIndex(({ code }) => label.right.includes(code)),
          confidence: found[0]?.score ?? 0,
          found: tree.byCode.get(found[0]?.code ?? '')?.names.en ?? '',
        };
      });
  });
}

/** How sure the first suggestion is for names that fit nowhere in any tree, with the names of two items each, in every tree. */
export const unplacedResults = (
  file: 'held' | 'tuning',
  expander: Expander | undefined,
): { readonly tree: Tree; readonly name: string; readonly confidence: number }[] =>
  labelledTrees.flatMap((name) => {
    const tree = treeOf(name);
    const search = searchOf(name, tree, expander);
    return readFileSync(`tests/data/labels/places-none-${file}.tsv`, 'utf8')
      .trimEnd()
      .split('\n')
      .map((line) => {
        const [word = '', items = ''] = line.split('\t');
        const [first] = suggestCategories(search, tree, { name: word, itemNames: items.split(';') });
        return { tree: name, name: word, confidence: first?.score ?? 0 };
      });
  });

/** Shares right first and among three, 0 to 1. */
export const sharesOf = (results: readonly { rank: number }[]) => ({
  first: results.filter(({ rank }) => rank === 0).length / results.length,
  three: results.filter(({ rank }) => rank >= 0 && rank < 3).length / results.length,
});
