import type { AnswerCode, ReportShape } from '../channels/delivery';
import { InputError } from '../errors/inputError';
import type { Problem } from './ledger';

/** A channel's answer for one listing. */
export interface ChannelAnswer {
  /** The key as it was sent. */
  readonly key: string;
  readonly result: 'accepted' | 'refused' | 'pending' | 'draft';
  readonly problems: readonly Problem[];
  readonly number: string | undefined;
}

export type Report =
  | { readonly ready: false }
  | { readonly ready: true; readonly answers: readonly ChannelAnswer[]; readonly unread: number };

/** What stands at a path of names with points between them; the whole where the path is empty. */
export function at(value: unknown, path: string): unknown {
  let found = value;
  for (const name of path === '' ? [] : path.split('.')) {
    if (typeof found !== 'object' || found === null || !Object.hasOwn(found, name)) return undefined;
    found = (found as Record<string, unknown>)[name];
  }
  return found;
}

const wordsOf = (text: string) => new Set(text.split(',').map((word) => word.trim().toLowerCase()));
const textAt = (value: unknown, path: string): string | undefined => {
  const found = at(value, path);
  return typeof found === 'string' || typeof found === 'number' || typeof found === 'boolean'
    ? String(found)
    : undefined;
};

/**
 * Reads a report as the channel's sheet says it is made. An answer without a key, or with a result that the sheet does not
 * know, is counted and changes nothing.
 * @throws InputError where the list of answers is not where the sheet says
 */
export function readReport(body: unknown, shape: ReportShape, codes: readonly AnswerCode[]): Report {
  const state = textAt(body, shape.state)?.toLowerCase();
  if (state !== undefined && wordsOf(shape.working).has(state)) return { ready: false };
  const entries = at(body, shape.entries);
  if (!Array.isArray(entries)) throw new InputError('reportShape', { place: shape.entries || 'its root' });
  const results = (['accepted', 'refused', 'pending', 'draft'] as const).map(
    (result) => [result, wordsOf(shape[result])] as const,
  );
  const known = new Map(codes.map((one) => [one.code, one]));
  const problemOf = (given: unknown): Problem => {
    const code = textAt(given, shape.code) ?? '';
    const stated = known.get(code);
    return {
      code,
      field: stated?.field ?? (textAt(given, shape.field) || null),
      text: stated?.words ?? textAt(given, shape.text) ?? code,
    };
  };
  let unread = 0;
  const answers = entries.flatMap((entry): ChannelAnswer[] => {
    const key = textAt(entry, shape.key);
    const stated = textAt(entry, shape.result)?.toLowerCase() ?? '';
    const result = results.find(([, words]) => words.has(stated))?.[0];
    if (key === undefined || result === undefined) {
      unread++;
      return [];
    }
    const problems = at(entry, shape.problems);
    return [
      {
        key,
        result,
        problems: Array.isArray(problems) ? problems.map(problemOf) : [],
        number: textAt(entry, shape.own),
      },
    ];
  });
  return { ready: true, answers, unread };
}
