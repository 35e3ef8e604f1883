/**
 * A large word list in one piece of memory: sorted lines `key<tab>value|value`, looked up by halving. Some 60 bytes a word,
 * where a map of strings would take four times that.
 */
export class PackedWords {
  private readonly starts: Uint32Array;

  /** @param text lines in the order of their keys' UTF-8 bytes, as {@link packWords} writes them */
  constructor(private readonly text: Buffer) {
    let lines = 0;
    for (let at = 0; at >= 0 && at < text.length; lines++) at = text.indexOf(10, at) + 1 || -1;
    this.starts = new Uint32Array(lines);
    for (let line = 0, at = 0; line < lines; line++) {
      this.starts[line] = at;
      at = text.indexOf(10, at) + 1;
    }
  }

  get size(): number {
    return this.starts.length;
  }

  /** What stands for a key; empty where it is unknown. */
  get(key: string): readonly string[] {
    const line = this.firstFrom(key);
    return line < this.size && this.keyAt(line) === key ? this.valuesAt(line) : [];
  }

  /** The keys that begin with a text, in order. @param most given back */
  beginningWith(prefix: string, most: number): string[] {
    const found: string[] = [];
    for (let line = this.firstFrom(prefix); line < this.size && found.length < most; line++) {
      const key = this.keyAt(line);
      if (!key.startsWith(prefix)) break;
      found.push(key);
    }
    return found;
  }

  private lineAt(line: number): string {
    const start = this.starts[line] ?? 0;
    const end = this.text.indexOf(10, start);
    return this.text.toString('utf8', start, end < 0 ? this.text.length : end);
  }

  private keyAt(line: number): string {
    const start = this.starts[line] ?? 0;
    return this.text.toString('utf8', start, this.text.indexOf(9, start));
  }

  private valuesAt(line: number): string[] {
    const complete = this.lineAt(line);
    return complete.slice(complete.indexOf('\t') + 1).split('|');
  }

  /** The first line whose key is not before a text. */
  private firstFrom(key: string): number {
    const wanted = Buffer.from(key);
    let [low, high] = [0, this.size];
    while (low < high) {
      const middle = (low + high) >> 1;
      const start = this.starts[middle] ?? 0;
      const end = this.text.indexOf(9, start);
      if (this.text.compare(wanted, 0, wanted.length, start, end) < 0) low = middle + 1;
      else high = middle;
    }
    return low;
  }
}

/** Writes a word list as {@link PackedWords} reads it; keys and values may hold neither tab, line end nor bar. */
export function packWords(words: ReadonlyMap<string, Iterable<string>>): Buffer {
  const lines = [...words].map(([key, values]) => ({
    key: Buffer.from(key),
    line: `${key}\t${[...values].join('|')}`,
  }));
  lines.sort((one, other) => Buffer.compare(one.key, other.key));
  return Buffer.from(lines.map(({ line }) => line).join('\n'));
}
