import type { Problem } from './ledger';

/** Why listings were refused: the channel's code, its words, and on how many. */
export interface RejectionCause {
  readonly code: string;
  readonly text: string;
  readonly count: number;
}

/** Causes that are kept of a submission. */
const MAX_CAUSES = 20;

/** The causes of refusals, the most frequent first; a listing that is refused for one reason twice counts once. */
export function causesOf(refusals: Iterable<readonly Problem[]>): RejectionCause[] {
  const found = new Map<string, { text: string; count: number }>();
  for (const problems of refusals)
    for (const { code, text } of new Map(problems.map((one) => [one.code, one])).values()) {
      const known = found.get(code);
      if (known) known.count++;
      else found.set(code, { text, count: 1 });
    }
  return [...found]
    .map(([code, cause]) => ({ code, ...cause }))
    .sort((a, b) => b.count - a.count || a.code.localeCompare(b.code))
    .slice(0, MAX_CAUSES);
}
