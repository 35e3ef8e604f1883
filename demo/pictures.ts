/** Draws the demo's pictures: plain shapes, some deliberately wrong (grey ground, too small, a word across them). */
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import type { DemoItem } from './world';

const paints: Record<string, string> = {
  moss: '#6f8256',
  chalk: '#d8d5cb',
  ink: '#2f3d5c',
  terracotta: '#b5613f',
  honey: '#d9a23c',
  slate: '#5d6670',
  plum: '#6b3f5c',
  fern: '#4f7a4a',
  oat: '#d6c7a8',
  umber: '#6a4f3b',
  marigold: '#e09a25',
  lake: '#4a7fa0',
  ash: '#9a9a94',
  brick: '#a84a3a',
  copper: '#b87345',
  white: '#eeeeea',
};

function shape(item: DemoItem): string {
  const paint = paints[item.glaze ?? item.color ?? ''] ?? '#7d8a6a';
  const dark = '#00000030';
  switch (item.category) {
    case 'Pots, glazed':
      return `<path d="M300 330h400l-55 420q-6 40-46 40H401q-40 0-46-40z" fill="${paint}"/><rect x="280" y="270" width="440" height="90" rx="14" fill="${paint}"/><rect x="280" y="340" width="440" height="20" fill="${dark}"/>`;
    case 'Trays and saucers':
      return `<ellipse cx="500" cy="560" rx="330" ry="120" fill="${paint}"/><ellipse cx="500" cy="540" rx="270" ry="80" fill="${dark}"/>`;
    case 'Grow lights':
      return `<rect x="180" y="300" width="640" height="70" rx="34" fill="#3c4148"/><path d="M220 370h560l110 380H110z" fill="#f3c9e4"/><rect x="480" y="180" width="40" height="130" fill="#3c4148"/>`;
    case 'Aprons':
      return `<path d="M390 220h220l30 170 110 60v390H250V450l110-60z" fill="${paint}"/><rect x="370" y="560" width="260" height="150" fill="${dark}"/>`;
    case 'Gloves':
      return `<path d="M330 820V560l-90-110 50-40 90 80V260h60v210h30V230h60v240h30V260h60v220h30V320h55v500z" fill="${paint}"/><rect x="330" y="740" width="325" height="80" fill="${dark}"/>`;
    case 'Seeds':
      return `<rect x="300" y="210" width="400" height="580" rx="10" fill="#efe6d0"/><rect x="300" y="210" width="400" height="120" fill="#4f7a4a"/><path d="M500 700V480m0 60q-90-10-100-100 90 0 100 100m0-40q10-90 100-100 0 90-100 100" stroke="#4f7a4a" stroke-width="14" fill="#8fae6d"/>`;
    case 'Books':
      return `<rect x="290" y="200" width="420" height="600" fill="#3d5a5a"/><rect x="290" y="200" width="50" height="600" fill="#2b4242"/><rect x="390" y="300" width="260" height="20" fill="#efe6d0"/><rect x="390" y="345" width="180" height="20" fill="#efe6d0"/>`;
    case 'Watering cans':
      return `<path d="M330 420h300v340H330z" fill="${paint}"/><path d="M630 620l230-260 30 26-230 330z" fill="${paint}"/><path d="M330 480q-150 20-120 150t120 90" fill="none" stroke="${paint}" stroke-width="36"/>`;
    case 'Plant food':
      return `<rect x="390" y="330" width="220" height="470" rx="30" fill="#5b7f4b"/><rect x="440" y="220" width="120" height="120" rx="10" fill="#2f3d2a"/><rect x="390" y="470" width="220" height="180" fill="#efe6d0"/>`;
    case 'Moisture meters':
      return `<circle cx="500" cy="350" r="150" fill="${paint}"/><circle cx="500" cy="350" r="110" fill="#fff"/><path d="M500 350l60-70" stroke="#333" stroke-width="12"/><rect x="488" y="490" width="24" height="330" fill="#888"/>`;
    case 'Seed kits':
      return `<rect x="240" y="380" width="520" height="400" fill="${paints[item.color ?? ''] ?? '#e0b25a'}"/><path d="M240 380l80-120h360l80 120z" fill="#c8983f"/><circle cx="500" cy="580" r="90" fill="#4f7a4a"/>`;
    case 'Printables':
      return `<rect x="290" y="190" width="420" height="600" fill="#fbf8f0" stroke="#999" stroke-width="6"/>${[0, 1, 2, 3, 4].map((row) => `<rect x="340" y="${300 + row * 90}" width="320" height="60" fill="#dfe6d5"/>`).join('')}`;
    case 'Cloches':
      return `<path d="M300 780V480q0-220 200-220t200 220v300z" fill="#dcebea"/><circle cx="500" cy="230" r="36" fill="#b08a5a"/>`;
    case 'Gift wrap':
      return `<rect x="300" y="250" width="400" height="500" fill="#d6c7a8"/><rect x="480" y="250" width="40" height="500" fill="#a84a3a"/>`;
    default:
      return `<rect x="240" y="500" width="520" height="40" fill="#b08a5a"/><rect x="300" y="540" width="30" height="240" fill="#8f6d43"/><rect x="670" y="540" width="30" height="240" fill="#8f6d43"/>`;
  }
}

/** A number for a text, the same at every start (FNV-1a, 32 bits). */
function numberOf(text: string): number {
  let hash = 0x811c9dc5;
  for (const sign of text) hash = Math.imul(hash ^ (sign.codePointAt(0) ?? 0), 0x01000193) >>> 0;
  return hash;
}

/** What tells the things of one family from those of another that have the same shape: their build, and a mark on them. */
function ofFamily(drawn: string, family: string): string {
  const number = numberOf(family);
  const wide = 0.8 + ((number & 7) / 7) * 0.32;
  const high = 0.84 + (((number >> 3) & 7) / 7) * 0.24;
  const side = 44 + ((number >> 6) & 3) * 16;
  const marks = Array.from({ length: 3 }, (_, at) => {
    const [x, y] = [430 + at * 70, 470 + ((number >> (8 + at * 3)) & 7) * 22];
    return (number >> (17 + at)) & 1
      ? `<circle cx="${x}" cy="${y}" r="${side / 2}" fill="#00000055"/>`
      : `<rect x="${x - side / 2}" y="${y - side / 2}" width="${side}" height="${side}" fill="#ffffff88"/>`;
  }).join('');
  return `<g transform="translate(500 540) scale(${wide} ${high}) translate(-500 -540)">${drawn}${marks}</g>`;
}

/** The word “new”, drawn with a pen, since there may be no letters on the machine. */
const newWord =
  '<path d="M390 930v-70l40 70v-70M510 860h-38v70h38m-38-36h30M550 860l18 70 18-64 18 64 18-70" fill="none" stroke="#b23b2e" stroke-width="12"/>';

/** Draws every picture that an item names, as JPEG; the second picture of an item is the same thing on a table. */
export async function drawPictures(items: readonly DemoItem[], folder: string): Promise<number> {
  await mkdir(folder, { recursive: true });
  const jobs: (() => Promise<void>)[] = [];
  // Sizes of one thing look alike: each drawing is made once.
  const drawn = new Map<string, Promise<Buffer>>();
  items.forEach((item, at) => {
    (item.image ?? '').split('|').forEach((link, n) => {
      const file = link.split('/').at(-1);
      if (!file || /\s/.test(file)) return;
      const grey = at % 41 === 7;
      const small = n === 0 && at % 53 === 11;
      const ground = n > 0 ? '#efe9dd' : grey ? '#d9d9d9' : '#ffffff';
      const label = at % 67 === 13 ? newWord : '';
      const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000"><rect width="1000" height="1000" fill="${ground}"/>${n > 0 ? '<rect y="760" width="1000" height="240" fill="#d8c7a6"/>' : ''}${ofFamily(shape(item), item.family ?? item.sku ?? '')}${label}</svg>`;
      const side = small ? 320 : 1500;
      jobs.push(async () => {
        const known = drawn.get(`${side} ${svg}`);
        const bytes =
          known ??
          sharp(Buffer.from(svg))
            .resize(side, side)
            .flatten({ background: ground })
            .jpeg({ quality: 72 })
            .toBuffer();
        if (!known) drawn.set(`${side} ${svg}`, bytes);
        await writeFile(join(folder, file), await bytes);
      });
    });
  });
  for (let i = 0; i < jobs.length; i += 8) await Promise.all(jobs.slice(i, i + 8).map((draw) => draw()));
  return jobs.length;
}
