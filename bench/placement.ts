/**
 * How often the suggested place of a merchant category is the right one, first and among three, for the demo's labelled
 * categories in each of the six trees: from nothing, and with the places of the other five confirmed.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { placementMarks } from '../tests/support/places';

const channels = readdirSync('src/channels', { withFileTypes: true }).flatMap((one) =>
  one.isDirectory() ? [one.name] : [],
);
const read = (code: string, name: string) => readFileSync(`src/channels/${code}/${name}`, 'utf8');
const percent = (share: number) => `${Math.round(share * 100)} %`;

console.log(
  'places suggested for the 15 labelled categories of the demo (70 % first and 90 % among three wanted)',
);
for (const learning of [false, true])
  for (const mark of placementMarks(channels, read, learning))
    console.log(
      `  ${mark.channel}${learning ? ', the other trees confirmed' : ''}: first ${percent(mark.first)}, among three ${percent(mark.three)}${mark.missed.length > 0 ? `; not among three: ${mark.missed.join(', ')}` : ''}`,
    );
