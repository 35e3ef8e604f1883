import sharp from 'sharp';
import { overlayOn } from './overlay';

const greysOf = async (inside: string, quality = 80) => {
  const drawn = await sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000"><rect width="1000" height="1000" fill="#fff"/>${inside}</svg>`,
    ),
  )
    .resize(1200, 1200)
    .flatten({ background: '#fff' })
    .jpeg({ quality })
    .toBuffer();
  const { data, info } = await sharp(drawn)
    .greyscale()
    .resize(400, 400)
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
};

const pot =
  '<path d="M300 330h400l-55 420H355z" fill="#6f8256"/><rect x="280" y="270" width="440" height="90" fill="#55633f"/>';
const lamp =
  '<rect x="480" y="120" width="40" height="300" fill="#3c4148"/><path d="M220 420h560l110 300H110z" fill="#d9a23c"/>';

/** Letters as strokes in a field of 60 × 100, so that no font is needed. */
const strokes: Record<string, string> = {
  A: 'M5 100L30 0 55 100M15 62h30',
  B: 'M8 0v100h26a24 26 0 0 0 0-52H8m0 0h22a22 24 0 0 0 0-48H8',
  E: 'M52 0H8v100h44M8 48h34',
  F: 'M52 0H8v100M8 48h34',
  L: 'M8 0v100h44',
  N: 'M8 100V0l44 100V0',
  O: 'M30 2a24 48 0 1 0 .1 0',
  R: 'M8 100V0h24a22 26 0 0 1 0 52H8m20 0l26 48',
  S: 'M52 12q-10-12-26-10-18 4-18 22t24 26q22 8 20 26-4 22-24 22-16 0-24-14',
  T: 'M4 0h52M30 0v100',
  W: 'M2 0l14 100 14-70 14 70L58 0',
  5: 'M50 0H12v42q38-8 38 28-2 34-42 26',
  0: 'M30 2a22 48 0 1 0 .1 0',
};
const written = (word: string, x: number, y: number, size: number, pen = 14, ink = '#b23b2e') =>
  [...word]
    .map((letter, at) =>
      letter === ' '
        ? ''
        : `<path transform="translate(${x + at * size * 0.78} ${y}) scale(${size / 100})" d="${strokes[letter] ?? ''}" fill="none" stroke="${ink}" stroke-width="${pen}"/>`,
    )
    .join('');

describe('words', () => {
  test.each<[string, string]>([
    ['below the thing', `${pot}${written('NEW', 400, 850, 90)}`],
    ['above it, light', `${lamp}${written('BEST OFFER', 190, 20, 60, 9, '#888888')}`],
    ['small, in a corner', `${pot}${written('SALE', 40, 930, 36)}`],
    ['fat', `${pot}${written('SALE', 360, 840, 110, 24)}`],
    ['beside another thing', `${lamp}${written('LATER', 60, 800, 70)}`],
    ['numbers', `${pot}${written('50 OFF', 280, 850, 90)}`],
  ])('%s are seen', async (_where, inside) => {
    expect(overlayOn(await greysOf(inside))).toEqual(['words']);
    expect(overlayOn(await greysOf(inside, 45))).toEqual(['words']);
  });

  const balls = [0, 1, 2, 3, 4]
    .map((at) => `<circle cx="${150 + at * 170}" cy="500" r="70" fill="#b5613f"/>`)
    .join('');
  const screws = [0, 1, 2, 3, 4, 5]
    .map(
      (at) =>
        `<rect x="${300 + at * 50}" y="850" width="14" height="90" fill="#666"/><rect x="${292 + at * 50}" y="842" width="30" height="12" fill="#666"/>`,
    )
    .join('');
  const tools = [
    [30, 300],
    [18, 420],
    [44, 360],
    [24, 500],
  ]
    .map(
      ([w, h], at) =>
        `<rect x="${180 + at * 180}" y="${800 - (h ?? 0)}" width="${w}" height="${h}" fill="#6a4f3b"/>`,
    )
    .join('');
  test.each<[string, string]>([
    ['the thing alone', pot],
    ['a set of equal things', balls],
    ['a thing with its screws in a row', `${lamp}${screws}`],
    ['tools side by side', tools],
    ['words printed on the thing', `${pot}${written('SEEDS', 370, 500, 60, 10, '#ffffff')}`],
    ['dark words printed on the thing', `${pot}${written('SEEDS', 370, 500, 60, 10, '#111111')}`],
    [
      'crumbs',
      `${pot}${[3, 9, 14, 22, 31, 40].map((x, at) => `<circle cx="${x * 22 + 60}" cy="${840 + (at % 3) * 19}" r="${2 + (at % 2)}" fill="#555"/>`).join('')}`,
    ],
    [
      'leaves in two rows',
      `${pot}${[0, 1, 2, 3].map((at) => `<ellipse cx="${260 + at * 160}" cy="${90 + (at % 2) * 80}" rx="50" ry="24" fill="#4f7a4a"/>`).join('')}`,
    ],
  ])('are not seen in %s', async (_what, inside) => {
    expect(overlayOn(await greysOf(inside))).toEqual([]);
  });
});

describe('a frame', () => {
  test.each<[string, string]>([
    [
      'at the edge',
      '<rect x="6" y="6" width="988" height="988" fill="none" stroke="#444" stroke-width="12"/>',
    ],
    [
      'further in',
      '<rect x="70" y="70" width="860" height="860" fill="none" stroke="#b23b2e" stroke-width="8"/>',
    ],
    [
      'with round corners',
      '<rect x="40" y="40" width="920" height="920" rx="40" fill="none" stroke="#444" stroke-width="14"/>',
    ],
  ])('%s is seen', async (_where, drawn) => {
    expect(overlayOn(await greysOf(`${pot}${drawn}`))).toEqual(['frame']);
  });

  test.each<[string, string]>([
    [
      'a picture frame as the thing, smaller than the picture',
      '<rect x="220" y="160" width="560" height="680" fill="none" stroke="#6a4f3b" stroke-width="50"/>',
    ],
    ['a thing that fills the picture', '<rect x="20" y="20" width="960" height="960" fill="#6f8256"/>'],
    ['a line below', `${pot}<rect x="20" y="900" width="960" height="8" fill="#444"/>`],
  ])('is not seen in %s', async (_what, inside) => {
    expect(overlayOn(await greysOf(inside))).toEqual([]);
  });
});

test('an empty picture has nothing on it', async () => {
  expect(overlayOn(await greysOf(''))).toEqual([]);
  expect(overlayOn({ data: new Uint8Array(0), width: 0, height: 0 })).toEqual([]);
});
