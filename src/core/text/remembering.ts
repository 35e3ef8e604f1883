/** So many answers are kept, to texts of so many signs together; then they are let go of and gathered anew. */
const MAX_KEPT = 1000;
const MAX_CHARACTERS = 500_000;
/** After so many questions it is looked at whether keeping answers is worth it: one in four should have been asked before. */
const trial = 2000;
const worthwhile = trial / 4;
/** Where it was not, so many questions are answered without keeping anything before it is tried again. */
const rest = 50_000;

/**
 * Answers each text once, as far as texts come again: catalogs repeat their words, and what is said of one needs no second look.
 * Where they hardly do (titles, addresses, numbers) nothing is kept, and asking costs no more than the answer itself.
 * @param answer gives the same for the same text each time, and nobody changes what it gives
 */
export function memoizedByText<T>(answer: (text: string) => T): (text: string) => T {
  const known = new Map<string, T>();
  let signs = 0;
  let requested = 0;
  let met = 0;
  return (text) => {
    if (requested < 0) {
      requested++;
      return answer(text);
    }
    const stored = known.get(text);
    if (++requested === trial) {
      if (met < worthwhile) {
        known.clear();
        signs = 0;
        requested = -rest;
      } else requested = 0;
      met = 0;
    }
    if (stored !== undefined || known.has(text)) {
      met++;
      return stored as T;
    }
    const found = answer(text);
    if (requested >= 0) {
      if (known.size >= MAX_KEPT || signs >= MAX_CHARACTERS) {
        known.clear();
        signs = 0;
      }
      known.set(text, found);
      signs += text.length;
    }
    return found;
  };
}
