import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { settings } from '@/server/runtime/settings';
import { openStored, pathOfStored, storeFile } from '@/server/storage/files';
import { decrypt, encrypt } from '@/server/storage/secrets';

describe('files that were made', () => {
  test('equal ones are one, by their content', async () => {
    const [one, two] = await Promise.all([
      storeFile([Buffer.from('pots '), Buffer.from('and cans')]),
      storeFile([Buffer.from('pots and cans')]),
    ]);
    expect(one).toEqual(two);
    expect(one.bytes).toBe(13);
    expect(readFileSync(pathOfStored(one.hash), 'utf8')).toBe('pots and cans');
    const parts: Buffer[] = [];
    for await (const part of openStored(one.hash, { start: 5, end: 7 })) parts.push(part as Buffer);
    expect(Buffer.concat(parts).toString()).toBe('and');
  });

  test('one that breaks off while it is made leaves nothing', async () => {
    const folder = join(settings.dataFolder, 'made');
    const halves = () =>
      existsSync(folder) ? readdirSync(folder).filter((name) => name.startsWith('.')) : [];
    async function* broken() {
      yield Buffer.from('the first part');
      throw new Error('the rest never came');
    }
    await expect(storeFile(broken())).rejects.toThrow('the rest never came');
    expect(halves()).toEqual([]);
  });

  test('a name that is none leads nowhere', () => {
    for (const name of ['', '../../etc/passwd', 'A'.repeat(64), `${'a'.repeat(63)}/`])
      expect(() => pathOfStored(name)).toThrow('not the name of a stored file');
  });
});

describe('credentials', () => {
  test.each(['a', 'quillmoss-boards', 'ä€ 🌱', 'x'.repeat(500)])(
    '%j comes back, and is never seen',
    async (text) => {
      const kept = await encrypt(text);
      if (text.length > 1) expect(Buffer.from(kept, 'base64').toString('latin1')).not.toContain(text);
      expect(await decrypt(kept)).toBe(text);
      // The same twice is not the same to who reads the database.
      expect(await encrypt(text)).not.toBe(kept);
    },
  );

  test('one that was changed is refused', async () => {
    const bytes = Buffer.from(await encrypt('quillmoss-boards'), 'base64');
    bytes[bytes.length - 1] = (bytes.at(-1) ?? 0) ^ 1;
    await expect(decrypt(bytes.toString('base64'))).rejects.toThrow();
  });
});
