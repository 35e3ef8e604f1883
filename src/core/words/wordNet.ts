/** A meaning: the words that have it, the wider meanings above it, and the words that its definition is made of. */
export interface Meaning {
  readonly id: number;
  readonly words: readonly string[];
  readonly wider: readonly number[];
  readonly definition: readonly string[];
}

/**
 * Nouns of English by meaning, the form that `scripts/wordnet.ts` writes of WordNet's files: lines
 * `words|…<tab>wider,…<tab>definition's words`, a blank line, then `word<tab>meanings,…`, the usual meaning first.
 */
export class WordNet {
  private readonly lines: readonly string[];
  private readonly senses = new Map<string, string>();
  private below: Uint32Array | undefined;
  private narrowerOf: ReadonlyMap<number, readonly number[]> | undefined;

  constructor(text: string) {
    const [meanings = '', words = ''] = text.split('\n\n');
    this.lines = meanings.split('\n');
    for (const line of words.split('\n')) {
      const tab = line.indexOf('\t');
      if (tab > 0) this.senses.set(line.slice(0, tab), line.slice(tab + 1));
    }
  }

  meaning(id: number): Meaning {
    const [words = '', wider = '', definition = ''] = (this.lines[id] ?? '').split('\t');
    return {
      id,
      words: words.split('|'),
      wider: wider === '' ? [] : wider.split(',').map(Number),
      definition: definition === '' ? [] : definition.split(' '),
    };
  }

  /** The meanings of a word or a fixed phrase, also in the plural; the usual one first. */
  sensesOf(phrase: string): readonly number[] {
    for (const form of singulars(phrase.toLowerCase())) {
      const known = this.senses.get(form);
      if (known !== undefined) return known.split(',').map(Number);
    }
    return [];
  }

  /** How much a meaning says, 0 to 1: the fewer stand below it, the more (N. Seco and others, ECAI 2004). */
  content(id: number): number {
    if (!this.below) {
      const below = new Uint32Array(this.lines.length);
      const count = (at: number, depth: number): number => {
        let sum = 0;
        if (depth < 24) for (const one of this.narrower(at)) sum += 1 + count(one, depth + 1);
        below[at] = sum;
        return sum;
      };
      for (let at = 0; at < this.lines.length; at++) if (this.meaning(at).wider.length === 0) count(at, 0);
      this.below = below;
    }
    return 1 - Math.log(1 + (this.below[id] ?? 0)) / Math.log(this.lines.length);
  }

  /** The meanings right below one. */
  narrower(id: number): readonly number[] {
    if (!this.narrowerOf) {
      const below = new Map<number, number[]>();
      for (let at = 0; at < this.lines.length; at++)
        for (const above of this.meaning(at).wider) {
          const list = below.get(above);
          if (list) list.push(at);
          else below.set(above, [at]);
        }
      this.narrowerOf = below;
    }
    return this.narrowerOf.get(id) ?? [];
  }
}

const irregular: ReadonlyMap<string, string> = new Map(
  Object.entries({
    children: 'child',
    men: 'man',
    women: 'woman',
    mice: 'mouse',
    feet: 'foot',
    teeth: 'tooth',
    geese: 'goose',
    knives: 'knife',
    shelves: 'shelf',
    leaves: 'leaf',
    scarves: 'scarf',
    loaves: 'loaf',
    wolves: 'wolf',
    calves: 'calf',
    halves: 'half',
    lives: 'life',
    wives: 'wife',
    cacti: 'cactus',
  }),
);

/** A word as it stands and as the singular it may be the plural of, by the usual endings of English. */
export function singulars(phrase: string): string[] {
  const space = phrase.lastIndexOf(' ') + 1;
  const [before, last] = [phrase.slice(0, space), phrase.slice(space)];
  const forms = [last];
  const known = irregular.get(last);
  if (known) forms.push(known);
  if (/[^s]s$/.test(last) && last.length > 3) forms.push(last.slice(0, -1));
  if (/(ses|xes|zes|ches|shes|oes)$/.test(last)) forms.push(last.slice(0, -2));
  if (/ies$/.test(last)) forms.push(`${last.slice(0, -3)}y`);
  return forms.map((form) => before + form);
}
