import { randomUUID } from 'node:crypto';
import { EvaluationStopped } from '../../core/errors/evaluationStopped';
import { InputError } from '../../core/errors/inputError';
import { PatternRefused } from '../../core/text/pattern';
import { log } from './monitoring';

/** A plan that could not be evaluated. */
export class EvaluationFailed extends Error {
  /** Whether the plan itself brings it about, so that it comes again as long as plan and catalog stay as they are. */
  readonly expected: boolean;

  constructor(words: string, { expected = true, cause }: { expected?: boolean; cause?: unknown } = {}) {
    super(words, { cause });
    this.expected = expected;
  }
}

/**
 * An error of an evaluation in words. What nobody expected is logged with its stack under a number that the words name; whoever
 * keeps failures keeps none of these.
 */
export function failureOf(error: unknown): EvaluationFailed {
  if (error instanceof EvaluationFailed) return error;
  if (error instanceof EvaluationStopped || error instanceof PatternRefused || error instanceof InputError)
    return new EvaluationFailed(error.message, { cause: error });
  const id = randomUUID().slice(0, 8);
  log.error({ id, err: error }, 'an evaluation failed unexpectedly');
  return new EvaluationFailed(
    `An unexpected error stopped the calculation of this feed. Nothing was changed; it starts again when the page is reloaded. The log has the reason under ${id}.`,
    { expected: false, cause: error },
  );
}
