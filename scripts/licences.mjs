/** `npm run licences`: writes docs/licences.md, the licences of what ships with the application, from the packages themselves. */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './machine.mjs';

const read = (path) => JSON.parse(readFileSync(join(root, path), 'utf8'));
const lock = read('package-lock.json').packages;
const direct = new Set(Object.keys(read('package.json').dependencies));
const rows = Object.entries(lock)
  .filter(
    ([path, { dev, optional, devOptional }]) =>
      path.startsWith('node_modules/') && !dev && !optional && !devOptional,
  )
  .map(([path, { version, license }]) => {
    const name = path.slice(path.lastIndexOf('node_modules/') + 13);
    return {
      name,
      version,
      licence: license ?? 'see the package',
      direct: path === `node_modules/${name}` && direct.has(name),
    };
  });
const unique = [...new Map(rows.map((row) => [`${row.name}@${row.version}`, row])).values()];
const table = (list) =>
  [
    '| Package | Version | Licence |',
    '|---|---|---|',
    ...list.map((row) => `| ${row.name} | ${row.version} | ${row.licence} |`),
  ].join('\n');
const byName = (a, b) => (a.name < b.name ? -1 : 1);
writeFileSync(
  join(root, 'docs/licences.md'),
  `# Licences of what Lively Cart uses

Made by \`npm run licences\` from the lock file. Lively Cart itself is under the MIT licence, see [LICENSE](../LICENSE).

The charts are drawn by \`apexcharts\` 4.7.0 and \`react-apexcharts\` 1.7.0, both MIT by their licence files. Later versions are
free only below a yearly turnover, and are not taken.

## Words

English WordNet 3.0, trimmed, ships in \`src/files/words/wordnet.txt.gz\` under its own licence, beside it in \`NOTICE.txt\`. GloVe's word vectors, trimmed, ship in \`src/files/words/vectors.gz\`; they are in the public domain (PDDL 1.0).
The dictionaries to English (FreeDict, GPL-2 or later; their notices are in Debian's packages \`dict-freedict-*\`) do not
ship: a job fetches them from Debian after the first start and packs them into \`.words/\`.

## What the application names itself

${table(unique.filter((row) => row.direct).sort(byName))}

## What those bring along

${table(unique.filter((row) => !row.direct).sort(byName))}
`,
);
