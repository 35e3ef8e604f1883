import { EvaluationStopped } from '../../core/errors/evaluationStopped';
import type { Steps } from '../../core/listing/steps';

/** Work on a plan may take this long, and this long for each row it has done, before it is given up. In ms. */
const limits = { atLeast: 4000, row: 0.5 };

export interface Patience {
  /** Counts anew. */
  begin(): void;
  /** What passes from now on is somebody else's time, until {@link goOn}. */
  rest(): void;
  goOn(): void;
  watch(rows?: number): void;
  /** How many rows were done when it was last looked. */
  rows(): number;
}

/** Stops work on a plan that makes far too much of the catalog; one for each place where such work is done. */
export function patience(): Patience {
  let begun = 0;
  let spent = 0;
  let done = 0;
  return {
    begin: () => {
      begun = Date.now();
      spent = 0;
      done = 0;
    },
    rows: () => done,
    rest: () => {
      spent += Date.now() - begun;
    },
    goOn: () => {
      begun = Date.now();
    },
    watch: (rows) => {
      if (rows !== undefined) done = rows;
      if (spent + Date.now() - begun > limits.atLeast + done * limits.row) throw new EvaluationStopped();
    },
  };
}

/** How long bulk work goes on before others have their turn, in ms. */
const slice = 12;

const turn = () => new Promise<void>((resolve) => setImmediate(resolve));

/** Does bulk work in slices, between which this process does what else is asked of it. @param by whose time it is */
export async function inSlices<T>(steps: Steps<T>, by?: Patience): Promise<T> {
  for (let until = performance.now() + slice; ; ) {
    const { done, value } = steps.next();
    if (done) return value;
    if (performance.now() < until) continue;
    by?.rest();
    await turn();
    by?.goOn();
    until = performance.now() + slice;
  }
}
