import { EvaluationStopped } from '../../core/errors/evaluationStopped';

/** Work on a plan may take this long, and this long for each row it has done, before it is given up. In ms. */
const limits = { atLeast: 4000, row: 0.5 };

/** Stops work on a plan that makes far too much of the catalog; one for each place where such work is done. */
export function patience(): { begin(): void; watch(rows?: number): void } {
  let begun = 0;
  let done = 0;
  return {
    begin: () => {
      begun = Date.now();
      done = 0;
    },
    watch: (rows) => {
      if (rows !== undefined) done = rows;
      if (Date.now() - begun > limits.atLeast + done * limits.row) throw new EvaluationStopped();
    },
  };
}
