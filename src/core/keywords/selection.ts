/** A term that could be said, with the words of it that are not said yet. */
export interface Candidate {
  readonly volume: number;
  /** Its missing words, by stem, each once. */
  readonly words: readonly string[];
}

export interface SelectedWord {
  /** Positions of the candidates that are said with the chosen words, in their order. */
  readonly terms: readonly number[];
  readonly volume: number;
  /** Stems, in the order in which the terms first need them. */
  readonly words: readonly string[];
}

/** Up to so many terms every choice is looked at; of more, the best that is found in so many steps. */
const exactTerms = 14;
const MAX_STEPS = 400;

/**
 * Chooses words so that the terms that are said with them are searched most, within a limit. A word that several terms need is
 * written, and counted, once. Of choices that are worth the same the shortest is taken, then the one with the earlier terms.
 * Branch and bound; what can still be gained is bounded by the rest taken in fractions, each term at its share of the words it
 * has in common with others, which is never more than what it costs.
 * @param candidates those searched most first
 * @param costOf the length of a word with what parts it from the one before
 * @param room the limit, in the same measure
 */
export function selectWords(
  candidates: readonly Candidate[],
  costOf: (word: string) => number,
  room: number,
): SelectedWord {
  const costs = new Map<string, number>();
  for (const { words } of candidates) for (const word of words) costs.set(word, costOf(word));
  const cost = (word: string) => costs.get(word) as number;

  let best = { volume: 0, used: 0, taken: [] as readonly number[] };
  const better = (volume: number, used: number) =>
    volume > best.volume || (volume === best.volume && used < best.used);
  const steps = { left: candidates.length <= exactTerms ? Number.POSITIVE_INFINITY : MAX_STEPS };
  const stated = new Map<string, number>();

  /** The most that the terms from one on can add in the room that is left. */
  const bound = (from: number, left: number): number => {
    const needed = new Map<string, number>();
    for (let at = from; at < candidates.length; at++)
      for (const word of (candidates[at] as Candidate).words)
        if (!stated.has(word)) needed.set(word, (needed.get(word) ?? 0) + 1);
    const rest = candidates.slice(from).map(({ volume, words }) => ({
      volume,
      share: words.reduce(
        (sum, word) => sum + (stated.has(word) ? 0 : cost(word) / (needed.get(word) ?? 1)),
        0,
      ),
    }));
    rest.sort((a, b) => b.volume * a.share - a.volume * b.share);
    let sum = 0;
    for (const { volume, share } of rest) {
      if (share <= left) {
        sum += volume;
        left -= share;
      } else return sum + (volume * left) / share;
    }
    return sum;
  };

  const taken: number[] = [];
  const walk = (at: number, volume: number, used: number): void => {
    if (better(volume, used)) best = { volume, used, taken: [...taken] };
    const candidate = candidates[at];
    if (candidate === undefined || steps.left-- <= 0) return;
    // Rounding must not cut off what is exactly as good and shorter.
    if (volume + bound(at, room - used) < best.volume - 1e-6) return;
    const missing = candidate.words.filter((word) => !stated.has(word));
    const more = missing.reduce((sum, word) => sum + cost(word), 0);
    if (used + more <= room) {
      for (const word of missing) stated.set(word, at);
      taken.push(at);
      walk(at + 1, volume + candidate.volume, used + more);
      taken.pop();
      for (const word of missing) stated.delete(word);
    }
    // What costs nothing is never left out.
    if (more > 0) walk(at + 1, volume, used);
  };
  walk(0, 0, 0);
  const words = [...new Set(best.taken.flatMap((at) => (candidates[at] as Candidate).words))];
  return { terms: best.taken, volume: best.volume, words };
}
