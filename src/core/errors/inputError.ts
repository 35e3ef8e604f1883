import { errorWords } from './messages';

export type ErrorCode = keyof typeof errorWords;
export type ErrorFacts<C extends ErrorCode> =
  Parameters<(typeof errorWords)[C]> extends [infer F] ? F : unknown;

/** Where in a file, or in a form, something is wrong. Lines, rows and columns count from 1. */
export interface Place {
  readonly file?: string;
  readonly line?: number;
  readonly row?: number;
  readonly column?: number;
  readonly field?: string;
}

/** Bad input, as a code with its facts; the message is their words, which name the place and the remedy. */
export class InputError<C extends ErrorCode = ErrorCode> extends Error {
  override readonly name = 'InputError';

  constructor(
    readonly code: C,
    ...[facts]: unknown extends ErrorFacts<C> ? [] : [facts: ErrorFacts<C>]
  ) {
    super((errorWords[code] as (facts: unknown) => string)(facts));
    this.facts = (facts ?? {}) as Readonly<Record<string, unknown>>;
  }

  readonly facts: Readonly<Record<string, unknown>>;

  /** The place among the facts; empty where nothing has one. */
  get place(): Place {
    const { file, line, row, column, field } = this.facts as Place;
    return {
      ...(file === undefined ? {} : { file }),
      ...(typeof line === 'number' ? { line } : {}),
      ...(typeof row === 'number' ? { row } : {}),
      ...(typeof column === 'number' ? { column } : {}),
      ...(field === undefined ? {} : { field }),
    };
  }
}
