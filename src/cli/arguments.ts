import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { InputError } from '../core/errors/inputError';

/** `--name value` and `--flag` pairs of a command line. */
export function readArguments(
  words: readonly string[],
  known: { values: readonly string[]; flags: readonly string[] },
): { values: Map<string, string>; flags: Set<string> } {
  const values = new Map<string, string>();
  const flags = new Set<string>();
  for (let i = 0; i < words.length; i++) {
    const word = words[i] ?? '';
    const name = word.replace(/^--/, '');
    if (word.startsWith('--') && known.flags.includes(name)) flags.add(name);
    else if (word.startsWith('--') && known.values.includes(name)) {
      const value = words[++i];
      if (value === undefined) throw new InputError('optionWithoutValue', { option: word });
      values.set(name, value);
    } else
      throw new InputError('unknownOption', {
        option: word,
        known: [...known.values, ...known.flags].map((option) => `--${option}`).join(', '),
      });
  }
  return { values, flags };
}

/** A path given as an option. npm runs commands in the project's folder; paths are meant from where the person stands. */
export function pathOption(options: ReadonlyMap<string, string>, name: string, usage: string): string {
  const value = options.get(name);
  if (value === undefined) throw new InputError('optionMissing', { option: name, usage });
  return resolve(process.env.INIT_CWD ?? '.', value);
}

/** A file as text. @param what what the file is, for the error */
export function fileText(path: string, what: string): string {
  try {
    return readFileSync(path, 'utf8');
  } catch {
    throw new InputError('unreadable', { what, path });
  }
}
