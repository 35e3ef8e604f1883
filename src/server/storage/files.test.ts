import { mkdtempSync, utimesSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { text } from 'node:stream/consumers';
import { settings } from '../runtime/settings';
import { createTempDownload, openTempDownload } from './files';

(settings as { dataFolder: string }).dataFolder = mkdtempSync(join(tmpdir(), 'lively-lent-'));
const lend = (words: string) => createTempDownload([Buffer.from(words)]);
const age = (name: string, minutes: number) => {
  const then = new Date(Date.now() - minutes * 60_000);
  utimesSync(join(settings.dataFolder, 'lent', name), then, then);
};

test('a file that was made for one reader is read once', async () => {
  const { name, bytes } = await lend('grün');
  expect(bytes).toBe(5);
  expect(await text(await openTempDownload(name))).toBe('grün');
  await expect(openTempDownload(name)).rejects.toThrow('ENOENT');
});

test('one that nobody fetched goes after an hour, a younger one stays', async () => {
  const [old, young] = [await lend('old'), await lend('young')];
  age(old.name, 61);
  age(young.name, 59);
  await lend('another');
  await expect(openTempDownload(old.name)).rejects.toThrow('ENOENT');
  expect(await text(await openTempDownload(young.name))).toBe('young');
});

test('one that breaks off while it is made leaves nothing, and no name leads elsewhere', async () => {
  const broken = async function* () {
    yield Buffer.from('half');
    throw new Error('it broke');
  };
  await expect(createTempDownload(broken())).rejects.toThrow('it broke');
  await expect(openTempDownload('../../etc/hostname')).rejects.toThrow('not the name of a prepared file');
});
