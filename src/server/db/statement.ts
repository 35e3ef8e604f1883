import { DrizzleQueryError } from 'drizzle-orm';
import type { LogFn, Logger } from 'pino';

/** What a statement does and to which table, without anything that stands in it: "insert into item". */
export function statementName(statement: string): string {
  const found =
    /^[\s(]*(insert(?: ignore)?|replace|update|delete|select|create|alter|drop|truncate|checksum|lock|with)\b/i.exec(
      statement,
    );
  const verb = found?.[1]?.toLowerCase() ?? 'statement';
  const table = /\b(?:from|into|update|table)\s+(?:ignore\s+)?`?([a-z_][a-z0-9_]*)`?/i.exec(statement)?.[1];
  return table === undefined || table === verb ? verb : `${verb} ${table}`;
}

/** The code of the database, network or system error behind an error; undefined where there is none. */
function codeOf(error: unknown): string | undefined {
  for (let one: unknown = error; one instanceof Error; one = one.cause)
    if ('code' in one && typeof one.code === 'string') return one.code;
  return undefined;
}

/** An error in words that may be logged, kept and shown: of a failed statement its name and the database's code, never its values. */
export function errorWords(error: unknown): string {
  if (error instanceof DrizzleQueryError)
    return `The database could not carry out “${statementName(error.query)}” (${codeOf(error.cause) ?? 'unknown error'}).`;
  // The driver's own messages repeat values ("Duplicate entry 'x' for key").
  if (error instanceof Error && 'sqlMessage' in error) {
    const statement = 'sql' in error && typeof error.sql === 'string' ? error.sql : '';
    return `The database could not carry out “${statementName(statement)}” (${codeOf(error) ?? 'unknown error'}).`;
  }
  return error instanceof Error ? error.message : String(error);
}

/** The frames of a stack without its message, which may hold values. */
const framesOf = ({ stack = '', message }: Error): string => {
  const frames = stack.slice(stack.indexOf(message) >= 0 ? stack.indexOf(message) + message.length : 0);
  return frames
    .split('\n')
    .filter((line) => /^\s+at /.test(line))
    .join('\n');
};

/** An error as it is logged: its words, its code, its stack, and those of its causes. */
export function loggedError(error: unknown): unknown {
  if (!(error instanceof Error)) return error;
  const words = errorWords(error);
  const { cause } = error;
  const ofStatement = error instanceof DrizzleQueryError || 'sqlMessage' in error;
  return {
    type: error.name,
    message: words,
    stack: `${error.name}: ${words}\n${framesOf(error)}`,
    ...(codeOf(error) && { code: codeOf(error) }),
    ...(cause !== undefined && !ofStatement ? { cause: loggedError(cause) } : {}),
  };
}

/** What the log does with an error that it is handed by itself: its line says the error's words, see {@link errorWords}. */
export function inWords(this: Logger, given: Parameters<LogFn>, method: LogFn): void {
  const [first] = given as readonly unknown[];
  const error =
    first instanceof Error
      ? first
      : given.length === 1 && typeof first === 'object' && first !== null && 'err' in first
        ? first.err
        : undefined;
  if (error instanceof Error)
    method.call(this, first instanceof Error ? { err: first } : first, errorWords(error));
  else method.apply(this, given);
}
