/** An evaluation that would have taken far longer than its catalog is large: a plan that makes too much of it. */
export class EvaluationStopped extends Error {
  override readonly name = 'EvaluationStopped';

  constructor() {
    super(
      'This feed takes too long to compute, as if its steps made texts grow. Undo the last change, or bring an earlier version back.',
    );
  }
}
