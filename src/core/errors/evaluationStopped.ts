/** An evaluation that would have taken far longer than its catalog is large: a plan that makes too much of it. */
export class EvaluationStopped extends Error {
  override readonly name = 'EvaluationStopped';

  constructor() {
    super(
      'Calculating this feed takes too long; a step may make texts grow. Undo the last change, or restore an earlier version.',
    );
  }
}
