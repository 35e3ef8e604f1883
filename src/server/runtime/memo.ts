/**
 * All derived values that a process keeps in memory. A value has an owner, a key and the objects it was derived from; it goes when one
 * of these goes, when its owner has too many, or when all values together take more than the budget: the least recently used first.
 * How often values were found is on `/metrics`.
 */

/** What one owner's values did, for `/metrics`. */
export interface MemoFigures {
  readonly owner: string;
  readonly hits: number;
  readonly misses: number;
  readonly evictions: number;
  readonly entries: number;
  readonly bytes: number;
}

interface Counts {
  hits: number;
  misses: number;
  evictions: number;
}
const weakCounts = new Map<string, Counts>();
const memos: Memo<unknown, readonly object[]>[] = [];

const budget = { bytes: Number.POSITIVE_INFINITY };
/** Limits what all values of the process take together. @param bytes as their owners estimate them */
export function setMemoBudget(bytes: number): void {
  budget.bytes = bytes;
}

export interface MemoOptions<V> {
  /** Names the values on `/metrics`. */
  readonly owner: string;
  /** Beyond so many the least recently used goes; no limit where left out. */
  readonly maxEntries?: number;
  /** Beyond so many bytes of this owner alone the least recently used goes. */
  readonly maxBytes?: number;
  /** So many stay even where the budget is spent. */
  readonly minEntries?: number;
  /** What a value takes, in bytes: an estimate. Values that say nothing count as none. */
  readonly bytesOf?: (value: V) => number;
}

interface Entry<V> {
  readonly value: V;
  readonly bytes: number;
  readonly dependencies: readonly WeakRef<object>[];
  usedAt: number;
}
let uses = 0;

/** Values by key. Where a value depends on objects, they are not kept alive for it, and it goes with the first of them. */
export class Memo<V, D extends readonly object[] = readonly []> {
  private readonly entries = new Map<string, Entry<V>>();
  private readonly counts: Counts = { hits: 0, misses: 0, evictions: 0 };
  private bytes = 0;

  constructor(private readonly options: MemoOptions<V>) {
    memos.push(this as unknown as Memo<unknown, readonly object[]>);
  }

  get size(): number {
    return this.entries.size;
  }

  /** The value under a key; undefined where there is none. */
  get(key: string): V | undefined {
    return this.withDependencies(key)?.value;
  }

  /** The value under a key, with what it was derived from. */
  withDependencies(key: string): { readonly value: V; readonly dependencies: D } | undefined {
    const entry = this.entries.get(key);
    const dependencies = entry?.dependencies.map((one) => one.deref());
    if (!entry || !dependencies || dependencies.includes(undefined)) {
      if (entry) this.delete(key);
      this.counts.misses++;
      return undefined;
    }
    this.counts.hits++;
    entry.usedAt = ++uses;
    this.entries.delete(key);
    this.entries.set(key, entry);
    return { value: entry.value, dependencies: dependencies as unknown as D };
  }

  set(key: string, value: V, ...dependencies: D): void {
    this.delete(key);
    const bytes = this.options.bytesOf?.(value) ?? 0;
    const refs = dependencies.map((one) => new WeakRef(one));
    this.entries.set(key, { value, bytes, dependencies: refs, usedAt: ++uses });
    this.bytes += bytes;
    const { maxEntries = Number.POSITIVE_INFINITY, maxBytes = Number.POSITIVE_INFINITY } = this.options;
    while (this.entries.size > maxEntries || (this.bytes > maxBytes && this.entries.size > 1))
      this.evictOldest();
    if (bytes > 0) keepWithinBudget();
  }

  /** The value under a key, made where there is none; a promise that fails is forgotten. */
  of(key: string, make: () => V, ...dependencies: D): V {
    const known = this.get(key);
    if (known !== undefined) return known;
    const value = make();
    this.set(key, value, ...dependencies);
    if (value instanceof Promise)
      value.catch(() => {
        if (this.entries.get(key)?.value === value) this.delete(key);
      });
    return value;
  }

  delete(key: string): void {
    const entry = this.entries.get(key);
    if (!entry) return;
    this.bytes -= entry.bytes;
    this.entries.delete(key);
  }

  clear(): void {
    this.entries.clear();
    this.bytes = 0;
  }

  /** All values with their keys, the least recently used first. To read them is no use. */
  all(): [key: string, value: V][] {
    return [...this.entries].map(([key, { value }]) => [key, value]);
  }

  evictOldest(): void {
    const [oldest] = this.entries.keys();
    if (oldest === undefined) return;
    this.delete(oldest);
    this.counts.evictions++;
  }

  /** When its least recently used value was used, where that may go; undefined where it has none to give. */
  oldestUse(): number | undefined {
    if (!this.options.bytesOf || this.entries.size <= (this.options.minEntries ?? 0)) return undefined;
    const [oldest] = this.entries.values();
    return oldest?.usedAt;
  }

  figures(): MemoFigures {
    return { owner: this.options.owner, ...this.counts, entries: this.entries.size, bytes: this.bytes };
  }

  get totalBytes(): number {
    return this.bytes;
  }
}

/** What all values of this process take together, in bytes, as their owners estimate them. */
export const memoBytes = (): number => memos.reduce((sum, one) => sum + one.totalBytes, 0);

function keepWithinBudget(): void {
  while (memoBytes() > budget.bytes) {
    let [first, at]: [Memo<unknown, readonly object[]> | undefined, number] = [
      undefined,
      Number.POSITIVE_INFINITY,
    ];
    for (const one of memos) {
      const use = one.oldestUse();
      if (use !== undefined && use < at) [first, at] = [one, use];
    }
    if (!first) return;
    first.evictOldest();
  }
}

function countsOf(owner: string): Counts {
  const known = weakCounts.get(owner) ?? { hits: 0, misses: 0, evictions: 0 };
  weakCounts.set(owner, known);
  return known;
}

/** Values of objects, which go with them: for what is derived of many small objects. */
export class WeakMemo<K extends object, V> {
  private readonly values = new WeakMap<K, V>();
  private readonly counts: Counts;

  constructor(owner: string) {
    this.counts = countsOf(owner);
  }

  get(object: K): V | undefined {
    const value = this.values.get(object);
    if (value === undefined) this.counts.misses++;
    else this.counts.hits++;
    return value;
  }

  set(object: K, value: V): void {
    this.values.set(object, value);
  }
}

const ofObjects = new WeakMap<object, Map<string, unknown>>();

/**
 * Derives a value of an object that never changes, once for each owner and key; it goes with the object. A promise that fails is
 * forgotten.
 * @param key what the value depends on beside the object
 */
export function memoFor<T>(object: object, owner: string, make: () => T, key = ''): T {
  const known = ofObjects.get(object) ?? new Map<string, unknown>();
  ofObjects.set(object, known);
  const name = `${owner} ${key}`;
  const counts = countsOf(owner);
  if (known.has(name)) counts.hits++;
  else {
    counts.misses++;
    const value = make();
    known.set(name, value);
    if (value instanceof Promise) value.catch(() => known.delete(name));
  }
  return known.get(name) as T;
}

let identities = 0;
/** A number for an object that never changes, another for each. */
export const identityOf = (object: object): number => memoFor(object, 'identities', () => ++identities);

/** What all owners' values did in this process. */
export const memoFigures = (): MemoFigures[] => [
  ...memos.map((one) => one.figures()),
  ...[...weakCounts].map(([owner, counts]) => ({ owner, ...counts, entries: 0, bytes: 0 })),
];
