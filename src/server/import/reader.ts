import { type ChildProcess, spawn } from 'node:child_process';
import type { ErrorCode } from '../../core/errors/inputError';
import { InputError } from '../../core/errors/inputError';
import type { Form } from '../../core/import/encoding/decode';
import { type Head, readHead } from '../../files/head';
import { readSource, type SourceRow } from '../../files/reading';
import { settings } from '../runtime/settings';

/** Memory that reading one file may take, in MB; more ends it. */
const MAX_HEAP_MB = 1024;
/** The beginning of a file is read in so long, and its next rows, in ms. */
const HEAD_MS = 60_000;
const ROWS_MS = 120_000;

export type ReaderTask =
  | { readonly read: 'head'; readonly path: string; readonly form: Partial<Form> }
  | { readonly read: 'rows'; readonly path: string; readonly form: Form; readonly chunk: number };

export type ReaderAnswer =
  | { readonly head: Head }
  | { readonly rows: SourceRow[]; readonly bytes: number }
  | { readonly done: true }
  | { readonly input: { readonly code: ErrorCode; readonly facts: unknown } }
  | { readonly error: string };

/** A process that reads one file (`readerMain.ts`), and its answers one at a time. */
class Reader {
  private readonly child: ChildProcess;
  private readonly answers: ReaderAnswer[] = [];
  private ended = false;
  private tell: () => void = () => undefined;

  constructor(program: string, task: ReaderTask) {
    this.child = spawn(process.execPath, [`--max-old-space-size=${MAX_HEAP_MB}`, program], {
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
      // Dates and bytes come as they are.
      serialization: 'advanced',
    });
    this.child.on('message', (answer) => {
      this.answers.push(answer as ReaderAnswer);
      this.tell();
    });
    const end = () => {
      this.ended = true;
      this.tell();
    };
    this.child.on('exit', end).on('error', end);
    this.child.send(task, (error) => error && end());
  }

  /** @throws InputError where the file is refused, or takes more than reading may take */
  async next(mostMs: number): Promise<ReaderAnswer> {
    const until = Date.now() + mostMs;
    for (;;) {
      const answer = this.answers.shift();
      if (answer) {
        if ('input' in answer)
          throw new (InputError as new (code: ErrorCode, facts: unknown) => InputError)(
            answer.input.code,
            answer.input.facts,
          );
        if ('error' in answer) throw new Error(answer.error);
        return answer;
      }
      const left = until - Date.now();
      if (this.ended || left <= 0) throw new InputError('readingTooMuch');
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, left);
        this.tell = () => {
          clearTimeout(timer);
          resolve();
        };
      });
    }
  }

  more(): void {
    if (this.child.connected) this.child.send('more');
  }

  stop(): void {
    this.child.kill('SIGKILL');
  }
}

/**
 * {@link readHead} in a process of its own, bounded in memory and time; here where no program is named, as in tests.
 * @throws InputError where the file is refused, or takes too much
 */
export async function readHeadApart(path: string, form: Partial<Form> = {}): Promise<Head> {
  if (!settings.reader) return readHead(path, form);
  const reader = new Reader(settings.reader, { read: 'head', path, form });
  try {
    const answer = await reader.next(HEAD_MS);
    if (!('head' in answer)) throw new Error('The reader sent no heading.');
    return answer.head;
  } finally {
    reader.stop();
  }
}

/** {@link readSource} in a process of its own, see {@link readHeadApart}; the next rows are read while those before are used. */
export async function* readSourceApart(
  path: string,
  form: Form,
  chunk: number,
  onBytes: (bytes: number) => void,
): AsyncGenerator<SourceRow[]> {
  if (!settings.reader) return yield* readSource(path, form, chunk, onBytes);
  const reader = new Reader(settings.reader, { read: 'rows', path, form, chunk });
  try {
    for (;;) {
      const answer = await reader.next(ROWS_MS);
      if (!('rows' in answer)) return;
      reader.more();
      onBytes(answer.bytes);
      yield answer.rows;
    }
  } finally {
    reader.stop();
  }
}
