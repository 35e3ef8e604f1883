import { z } from 'zod';
import { fold } from '../text/folding';
import { sameValue, type Value } from './value';

/** One term of a choice, e.g. "moss", with the other words sources use for it. */
export const termSchema = z.object({
  term: z.string().min(1),
  synonyms: z.array(z.string()).default([]),
  hex: z
    .string()
    .regex(/^#[0-9a-f]{6}$/i)
    .optional()
    .meta({ description: 'how it looks, where it is a colour' }),
  label: z
    .string()
    .optional()
    .meta({ description: 'what people read, where the term is the code of a standard' }),
});
export type Term = z.infer<typeof termSchema>;

/** Finds a term by itself or one of its synonyms, without regard to case, accents and spacing. */
export function termFinder(terms: readonly Term[]): (word: string) => string | undefined {
  const known = new Map(
    terms.flatMap(({ term, synonyms }) => [...synonyms, term].map((word) => [fold(word), term] as const)),
  );
  // Terms of schema.org are also written as their addresses.
  return (word) => known.get(fold(word.replace(/^https?:\/\/schema\.org\//, '')));
}

/** A value with one term in another's place. */
export function withTerm(value: Value | undefined, from: string, to: string): Value | undefined {
  if (typeof value === 'string') return value === from ? to : value;
  const next = value?.map((entry) => (entry === from ? to : entry));
  return next && sameValue(next, value) ? value : next;
}

/** The terms after one was renamed; where the new word is already a term, the two become one. */
export function renameIn(terms: readonly Term[], from: string, to: string): Term[] {
  const old = terms.find(({ term }) => term === from);
  const target = terms.find(({ term }) => term === to);
  const synonyms = [...new Set([...(target?.synonyms ?? []), ...(old?.synonyms ?? []), from])].filter(
    (word) => word !== to,
  );
  if (target)
    return terms.flatMap((one) =>
      one.term === from ? [] : one.term === to ? [{ ...one, synonyms }] : [one],
    );
  return old
    ? terms.map((one) => (one.term === from ? { term: to, synonyms } : one))
    : [...terms, { term: to, synonyms }];
}

/** The terms of a choice in their order, then the words that items have and no term knows. */
export function termsWith(
  attribute: { readonly terms?: readonly Term[] | undefined },
  words: Iterable<string>,
): Term[] {
  const terms = attribute.terms ?? [];
  const known = new Set(terms.map(({ term }) => term));
  const others = [...new Set(words)].filter((word) => word !== '' && !known.has(word));
  const collator = new Intl.Collator('en', { numeric: true });
  return [...terms, ...others.sort(collator.compare).map((term) => ({ term, synonyms: [] }))];
}
