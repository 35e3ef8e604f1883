/**
 * Where nothing but a category's own name speaks for a place, no more than this is said unless the place is called nearly the
 * same, every word of it: what is surer is taken unseen. Set on `tests/data/labels/places-tuning.tsv` so that nothing wrong is.
 */
const MAX_NAME = 94;
const calledTheSame = { score: 80, least: 0.1 };

/** The same where items speak too: one shared word is not enough. Set on the same labels and on names that fit nowhere. */
const foundEnough = { score: 62, least: 0.3 };
/**
 * What a first suggestion is worth at most, 0 to 1, by how well it was found: of a hundred names of which a third fit nowhere, so many
 * found no better were right.
 */
const mostOf = (found: number): number => (found < 10 ? 0.15 : found < 45 ? 0.45 : 1);

/**
 * How often a first suggestion is right, 0 to 1, by how well it and the next were found: logistic regression on
 * `tests/data/labels/places-tuning.tsv`; `npm run bench -- suggestions` shows how it holds on names that it was not made of.
 */
function sureness(first: number, second: number): number {
  const apart = first - second;
  return 1 / (1 + Math.exp(1.08 - 0.94 * first - 10.44 * apart - (3.61 * apart) / (first || 1)));
}

/** A place as it was found. */
interface Found {
  /** How well, 0 to 100; `alone` without what else the shop sells. */
  readonly score: number;
  readonly alone: number;
  /** How near the word of the name that is met least comes to anything of the place, 0 to 1. */
  readonly least: number;
}

/**
 * How often such a first suggestion is right, 0 to 1.
 * @param onlyName whether nothing but the category's own name spoke for it
 * @param taught whether the category was placed before, in this feed or another
 */
export function confidenceOf(
  first: Found | undefined,
  second: Found | undefined,
  { onlyName, taught }: { readonly onlyName: boolean; readonly taught: boolean },
): number {
  if (first === undefined) return 0;
  const wanted = onlyName ? calledTheSame : foundEnough;
  const enough = (taught && !onlyName) || (first.alone >= wanted.score && first.least >= wanted.least);
  return Math.min(
    sureness(first.score / 100, (second?.score ?? 0) / 100),
    enough ? 1 : MAX_NAME / 100,
    taught ? 1 : mostOf(first.alone),
  );
}
