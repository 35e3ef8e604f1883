import { InputError } from '../../core/errors/inputError';
import { readHead } from '../../files/head';
import { readSource } from '../../files/reading';
import type { ReaderAnswer, ReaderTask } from './reader';

/**
 * Reads one uploaded file for another process, and ends. What a file does to memory and time happens here: whoever asked goes on,
 * and ends this process where it is over its limits.
 */
const send = (answer: ReaderAnswer): Promise<void> =>
  new Promise((resolve) => process.send?.(answer, undefined, undefined, () => resolve()));

let goOn: () => void = () => undefined;
const wanted = () =>
  new Promise<void>((resolve) => {
    goOn = resolve;
  });

async function perform(task: ReaderTask): Promise<void> {
  if (task.read === 'head') return send({ head: await readHead(task.path, task.form) });
  let bytes = 0;
  for await (const rows of readSource(task.path, task.form, task.chunk, (count) => {
    bytes = count;
  })) {
    const more = wanted();
    await send({ rows, bytes });
    await more;
  }
  await send({ done: true });
}

process.on('message', (message: ReaderTask | 'more') => {
  if (message === 'more') return goOn();
  perform(message)
    .catch((error: unknown) =>
      error instanceof InputError
        ? send({ input: { code: error.code, facts: error.facts } })
        : send({ error: error instanceof Error ? (error.stack ?? error.message) : String(error) }),
    )
    .finally(() => process.disconnect?.());
});
// Without the process that asked there is nobody to read for.
process.on('disconnect', () => process.exit(0));
