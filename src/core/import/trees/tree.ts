import { emptyRecord } from '../../catalog/value';
import { InputError } from '../../errors/inputError';
import { formatNumber } from '../../formatting/formatting';

/** A value of a tree file: a text, named values, or several under one name. Numbers and truth values come as text. */
export type Tree = string | Branch | Tree[];
export interface Branch {
  [name: string]: Tree;
}

/** In the path of a list: things that stand by their codes, `{"A-1": {…}, "A-2": {…}}`, instead of in a list. */
export const anyKey = '*';

/** A thing with the code it stands by, unless it says that itself. */
export const withKey = (key: string, branch: Branch): Branch =>
  Object.values(branch).includes(key) ? branch : { ['key' in branch ? '@key' : 'key']: key, ...branch };

export const isBranch = (tree: Tree | undefined): tree is Branch =>
  typeof tree === 'object' && !Array.isArray(tree);

/** Deeper files are refused: no supplier nests like this, only an attack does. */
const MAX_DEPTH = 64;
/** One record with more values than this is no record. */
const MAX_VALUES = 20_000;

interface Frame {
  readonly name: string;
  readonly path: string;
  readonly branch: Branch;
  readonly asList: boolean;
  text: string;
  /** How many names its branch holds. */
  names: number;
}

/**
 * Puts the events of an XML or JSON reader together to records. With a `list` it hands over each record as its end is
 * read and keeps nothing else, so memory does not grow with the file; without one it keeps the whole tree, for a look at
 * the beginning of a file.
 */
export class TreeBuilder {
  private readonly frames: Frame[] = [
    { name: '', path: '', branch: emptyRecord<Tree>(), asList: false, text: '', names: 0 },
  ];
  private values = 0;
  /** How deep inside a record the reader is; 0 outside of all. */
  private inside = 0;
  readonly roots: Tree[] = [];
  /** Where the records stand by their codes, if they do. */
  private readonly byKeyIn: string | undefined;

  /**
   * @param list path of the records, their names joined by `/`; undefined to keep everything
   * @param onRecord told each record at `list`
   */
  constructor(
    private readonly list?: string,
    private readonly onRecord: (record: Tree) => void = () => undefined,
  ) {
    if (list === anyKey) this.byKeyIn = '';
    else if (list?.endsWith(`/${anyKey}`)) this.byKeyIn = list.slice(0, -anyKey.length - 1);
  }

  /** Opens a branch under a name; `asList` keeps it a list even where it stays alone. */
  open(name: string, asList = false): void {
    if (this.frames.length > MAX_DEPTH) throw new InputError('tooDeep', { most: MAX_DEPTH });
    this.count();
    const above = this.frames.at(-1);
    const path =
      above && above.path !== '' && name !== '' ? `${above.path}/${name}` : (above?.path ?? '') + name;
    const begins =
      this.byKeyIn === undefined ? path === this.list : name !== '' && above?.path === this.byKeyIn;
    if (this.inside > 0 || begins) this.inside++;
    this.frames.push({ name, path, branch: emptyRecord<Tree>(), asList, text: '', names: 0 });
  }

  /** A value under a name in the open branch. */
  value(name: string, text: string, asList = false): void {
    if (text === '') return;
    this.count();
    const top = this.frames.at(-1);
    if (top && this.keeps()) attach(top, name, text, asList);
  }

  /** Text that stands in the open branch itself. */
  text(words: string): void {
    const top = this.frames.at(-1);
    if (top && this.keeps()) top.text += words;
  }

  close(): void {
    const done = this.frames.pop();
    const above = this.frames.at(-1);
    if (!done || !above) return;
    const words = done.text.trim();
    const empty = Object.keys(done.branch).length === 0;
    if (words !== '' && !empty) done.branch['#text'] = words;
    const tree: Tree = empty ? words : done.branch;
    if (this.inside > 0 && --this.inside === 0) {
      this.values = 0;
      if (isBranch(tree)) this.onRecord(this.byKeyIn === undefined ? tree : withKey(done.name, tree));
      return;
    }
    if (tree === '' || !this.keeps()) return;
    if (done.name === '') this.roots.push(tree);
    else attach(above, done.name, tree, done.asList);
  }

  /** What has been read of a file kept whole, branches that are still open included. */
  whole(): Tree {
    while (this.frames.length > 1) this.close();
    const [root] = this.frames;
    if (root && Object.keys(root.branch).length > 0) return root.branch;
    return this.roots.length === 1 && this.roots[0] !== undefined ? this.roots[0] : this.roots;
  }

  private keeps(): boolean {
    return this.list === undefined || this.inside > 0;
  }

  private count(): void {
    if (this.list !== undefined && this.inside > 0 && ++this.values > MAX_VALUES) throw tooWide();
  }
}

const tooWide = () => new InputError('tooManyValues', { most: formatNumber(MAX_VALUES) });

function attach(frame: Frame, name: string, tree: Tree, asList: boolean): void {
  const { branch } = frame;
  const known = branch[name];
  // A list of any length is one name, and things that stand by their codes are a list: what holds them is bounded by what is read.
  if (known === undefined && !isBranch(tree) && ++frame.names > MAX_VALUES) throw tooWide();
  if (known === undefined) branch[name] = asList ? [tree] : tree;
  else if (Array.isArray(known)) known.push(tree);
  else branch[name] = [known, tree];
}
