import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { type ErrorCode, InputError, type Place } from '../../core/errors/inputError';
import { EvaluationFailed } from '../monitoring/failure';
import { log } from '../monitoring/monitoring';
import { EvaluatorUnavailable } from '../rpc/rpc';
import { NotAllowed } from './authorize';

/** What an error says to the person it happened to, and how grave it is (HTTP status). */
export interface ErrorAnswer {
  readonly words: string;
  readonly status: number;
  /** Of bad input: what it is, for programs, and where. */
  readonly code?: ErrorCode;
  readonly place?: Place;
}

/** Errors of the machine that have a remedy. */
const machine: Readonly<Record<string, string>> = {
  ENOSPC: 'The disk is full. Everything saved so far is kept. Free some space and try again.',
  EDQUOT: 'The disk quota is used up. Everything saved so far is kept. Free some space and try again.',
  ECONNREFUSED: 'The database does not answer and is restarting. Try again in a moment.',
  PROTOCOL_CONNECTION_LOST: 'The database restarted. Try again.',
};

function codesOf(error: unknown): string[] {
  const codes: string[] = [];
  for (let one: unknown = error; one instanceof Error; one = one.cause)
    if ('code' in one && typeof one.code === 'string') codes.push(one.code);
  return codes;
}

/**
 * Turns an error into words. Bad input says what it says; what nobody foresaw is written into the log under a number that
 * the words name.
 */
export function errorAnswer(error: unknown, doing: string): ErrorAnswer {
  if (error instanceof InputError) {
    const { message: words, code, place } = error;
    return { words, status: 400, code, place };
  }
  if (error instanceof z.ZodError) {
    const [issue] = error.issues;
    const place = issue?.path.join('.');
    return { words: `${place ? `${place}: ` : ''}${issue?.message ?? 'It is not valid.'}`, status: 400 };
  }
  if (error instanceof NotAllowed) return { words: error.message, status: 403 };
  if (error instanceof EvaluatorUnavailable) return { words: error.message, status: 503 };
  if (error instanceof EvaluationFailed) return { words: error.message, status: error.expected ? 409 : 500 };
  const id = randomUUID().slice(0, 8);
  log.error({ id, doing, err: error }, 'failed');
  const known = codesOf(error).find((code) => machine[code]);
  if (known) return { words: machine[known] as string, status: 503 };
  return {
    words: `An unexpected error occurred. Nothing was saved. The log has the reason under ${id}.`,
    status: 500,
  };
}
