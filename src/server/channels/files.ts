import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Channel, readChannel } from '../../core/channels/bundle';
import { InputError } from '../../core/formats/inputError';

/** The bundled channels; every command runs in the project's folder. */
const folder = join(process.cwd(), 'src', 'channels');
const known = new Map<string, Channel>();

/** The codes of all bundled channels. @throws InputError outside the project’s folder */
export function channelCodes(): string[] {
  if (!existsSync(folder))
    throw new InputError('The folder src/channels is missing; run the command in the project’s folder.');
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? [entry.name] : [],
  );
}

/** A bundled channel by its code, read once. */
export function bundledChannel(code: string): Channel {
  const read = known.get(code);
  if (read) return read;
  const codes = channelCodes();
  if (!codes.includes(code))
    throw new InputError(`There is no channel "${code}"; there are ${codes.join(', ')}.`);
  const file = (name: string) => readFileSync(join(folder, code, name), 'utf8');
  const channel = readChannel(file('requirements.json'), file('taxonomy.csv'));
  known.set(code, channel);
  return channel;
}
