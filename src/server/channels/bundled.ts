import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Channel, readChannel } from '../../core/channels/bundle';
import { InputError } from '../../core/errors/inputError';
import { Memo } from '../runtime/memo';

/** The bundled channels; every command runs in the project's folder. */
const folder = join(process.cwd(), 'src', 'channels');
const known = new Memo<Channel>({ owner: 'bundled channels' });

/** The codes of all bundled channels. @throws InputError outside the project’s folder */
export function channelCodes(): string[] {
  if (!existsSync(folder)) throw new InputError('noChannelsFolder');
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? [entry.name] : [],
  );
}

/** The two files of a bundled channel, as they stand. */
export function bundledText(code: string): { requirements: string; taxonomy: string } {
  const file = (name: string) => readFileSync(join(folder, code, name), 'utf8');
  return { requirements: file('requirements.json'), taxonomy: file('taxonomy.csv') };
}

/** A bundled channel by its code, read once. For the terminal, which has no database; the server asks channels.ts. */
export function bundledChannel(code: string): Channel {
  const read = known.get(code);
  if (read) return read;
  const codes = channelCodes();
  if (!codes.includes(code))
    throw new InputError('unknownChannel', { channel: code, known: codes.join(', ') });
  const { requirements, taxonomy } = bundledText(code);
  const channel = readChannel(requirements, taxonomy);
  known.set(code, channel);
  return channel;
}
