import { execFile } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { gunzipSync } from 'node:zlib';
import { readDictionary, wordsToEnglish } from '../core/words/freedict';
import { PackedWords, packWords } from '../core/words/packed';
import { Expander } from '../core/words/thesaurus';
import { WordVectors } from '../core/words/vectors';
import { WordNet } from '../core/words/wordNet';

/** Languages whose dictionaries to English can be had, with their codes in ISO 639-3. */
export const dictionaryLanguages = {
  de: 'deu',
  es: 'spa',
  fr: 'fra',
  it: 'ita',
  nl: 'nld',
  pl: 'pol',
  pt: 'por',
  sv: 'swe',
} as const;
type Language = keyof typeof dictionaryLanguages;
const languages = Object.keys(dictionaryLanguages) as Language[];

const fileOf = (folder: string, language: Language) => join(folder, `${language}.txt`);

/** The languages whose dictionaries stand in a folder. */
export const dictionariesIn = (folder: string): Language[] =>
  languages.filter((language) => existsSync(fileOf(folder, language)));

const stored = new Map<string, { there: string; expander: Expander }>();
let wordNet: WordNet | undefined;
let vectors: WordVectors | undefined;

/**
 * What is known about words: the shipped WordNet, and the dictionaries that stand in a folder by now.
 * @param folder where {@link fetchDictionaries} has put them; without it, or with none in it, names are read without them
 */
export function expanderWith(folder?: string): Expander {
  const there = folder === undefined ? [] : dictionariesIn(folder);
  const known = stored.get(folder ?? '');
  if (known && known.there === there.join()) return known.expander;
  vectors ??= new WordVectors(gunzipSync(readFileSync('src/files/words/vectors.gz')));
  wordNet ??= new WordNet(gunzipSync(readFileSync('src/files/words/wordnet.txt.gz')).toString());
  const expander = new Expander({
    wordNet,
    vectors,
    dictionaries: new Map(
      there.map((language) => [language, new PackedWords(readFileSync(fileOf(folder ?? '', language)))]),
    ),
  });
  stored.set(folder ?? '', { there: there.join(), expander });
  return expander;
}

const run = promisify(execFile);
/** Debian's mirrors answer within this, in ms, or not at all. */
const patience = 300_000;

/** The Debian packages of a language: towards English, and from it where that adds words. */
const packagesOf = (language: Language): string[] => {
  const code = dictionaryLanguages[language];
  return language === 'de'
    ? [`dict-freedict-${code}-eng`]
    : [`dict-freedict-${code}-eng`, `dict-freedict-eng-${code}`];
};

/**
 * Fetches the dictionaries that a folder does not have yet from Debian, without installing anything, and packs them.
 * @param told called after each language
 * @throws Error where Debian cannot be reached; languages packed before stay
 */
export async function fetchDictionaries(
  folder: string,
  reported: (done: number, of: number) => Promise<void>,
): Promise<void> {
  mkdirSync(folder, { recursive: true });
  const missing = languages.filter((language) => !existsSync(fileOf(folder, language)));
  for (const [at, language] of missing.entries()) {
    const place = mkdtempSync(join(folder, 'fetching-'));
    try {
      const packages = packagesOf(language);
      await run('apt-get', ['download', ...packages], { cwd: place, timeout: patience });
      const { stdout } = await run(
        'sh',
        ['-c', 'for one in *.deb; do dpkg-deb -x "$one" . ; done; ls usr/share/dictd'],
        {
          cwd: place,
          timeout: patience,
        },
      );
      const code = dictionaryLanguages[language];
      const read = (name: string) => {
        const path = join(place, 'usr', 'share', 'dictd', `freedict-${name}`);
        return stdout.includes(`freedict-${name}.index`)
          ? readDictionary(gunzipSync(readFileSync(`${path}.dict.dz`)), readFileSync(`${path}.index`, 'utf8'))
          : [];
      };
      const packed = packWords(wordsToEnglish(read(`${code}-eng`), read(`eng-${code}`)));
      const unfinished = join(place, 'packed');
      writeFileSync(unfinished, packed);
      renameSync(unfinished, fileOf(folder, language));
    } finally {
      rmSync(place, { recursive: true, force: true });
    }
    await reported(at + 1, missing.length);
  }
}
