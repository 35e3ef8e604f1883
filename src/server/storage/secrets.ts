import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import { chmod, mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { settings } from '../runtime/settings';

/** What is said of credentials is kept encrypted (AES-256-GCM); the key lies beside the database, not in it. */
async function key(): Promise<Buffer> {
  if (settings.secretKey) return Buffer.from(settings.secretKey, 'hex');
  const place = join(settings.dataFolder, 'secret.key');
  const read = async () => Buffer.from((await readFile(place, 'utf8')).trim(), 'hex');
  try {
    return await read();
  } catch {
    await mkdir(settings.dataFolder, { recursive: true });
    try {
      // Whoever is first makes it; the others read what is there.
      await writeFile(place, randomBytes(32).toString('hex'), { flag: 'wx', mode: 0o600 });
      await chmod(place, 0o600);
    } catch {
      // Somebody else was first.
    }
    return read();
  }
}

/** A text as it may be written down. */
export async function encrypt(text: string): Promise<string> {
  const nonce = randomBytes(12);
  const cipher = createCipheriv('aes-256-gcm', await key(), nonce);
  const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
  return Buffer.concat([nonce, cipher.getAuthTag(), body]).toString('base64');
}

/** The text again. @throws where it was sealed with another key, or changed */
export async function decrypt(given: string): Promise<string> {
  const bytes = Buffer.from(given, 'base64');
  const cipher = createDecipheriv('aes-256-gcm', await key(), bytes.subarray(0, 12));
  cipher.setAuthTag(bytes.subarray(12, 28));
  return Buffer.concat([cipher.update(bytes.subarray(28)), cipher.final()]).toString('utf8');
}
