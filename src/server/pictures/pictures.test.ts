import sharp, { type Sharp } from 'sharp';
import {
  areHashesNear,
  perceptualHashOf,
  sameThumbnail,
  shrunk,
  THUMBNAIL_CELLS,
  type Thumbnail,
  thumbnailFrom,
} from '../../core/pictures/thumbnail';
import { pixelsOf } from './pictures';

const draw = (inside: string, ground = '#ffffff') =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><rect width="100" height="100" fill="${ground}"/>${inside}</svg>`,
    ),
  ).resize(800, 800);

const lookOf = async (picture: Sharp): Promise<Thumbnail> =>
  thumbnailFrom(shrunk(await pixelsOf(sharp(await picture.toBuffer()), '#ffffff'), 320));

const pot =
  '<path d="M25 35h50l-6 45H31z" fill="#6f8256"/><rect x="22" y="28" width="56" height="9" fill="#55633f"/>';
const can = '<path d="M30 40h34v36H30z" fill="#2f3d5c"/><path d="M64 64l22-26 3 3-25 33z" fill="#2f3d5c"/>';
const plant = `${pot}<path d="M50 28q-20-10-18-24 18 4 18 24m0 0q18-8 20-22-16 2-20 22" fill="#4f7a4a"/>`;
const shaded = `<defs><linearGradient id="g"><stop offset="0" stop-color="#b5613f"/><stop offset="1" stop-color="#f0c9a8"/></linearGradient></defs><circle cx="50" cy="52" r="31" fill="url(#g)"/>`;

describe.each([
  ['a pot', pot],
  ['a can', can],
  ['a plant in a pot', plant],
  ['a shaded ball', shaded],
])('%s', (_what, inside) => {
  let first: Thumbnail | undefined;
  const saved: [string, (picture: Sharp) => Sharp][] = [
    ['badly compressed', (picture) => picture.jpeg({ quality: 35 })],
    ['as PNG', (picture) => picture.png()],
    ['as WebP', (picture) => picture.webp({ quality: 50 })],
    ['with fewer colours', (picture) => picture.png({ palette: true, colours: 32 })],
  ];
  for (const side of [800, 640, 333, 150])
    test.each(saved)(`is the same picture at ${side} pixels %s`, async (_how, save) => {
      first ??= await lookOf(draw(inside).jpeg({ quality: 92 }));
      const small = await sharp(await draw(inside).png().toBuffer())
        .resize(side, side)
        .png()
        .toBuffer();
      const again = await lookOf(save(sharp(small)));
      expect(sameThumbnail(first, again)).toBe(true);
      expect(areHashesNear(perceptualHashOf(first))).toContain(perceptualHashOf(again));
    });
});

test.each<[string, Sharp, Sharp]>([
  ['another glaze', draw(pot), draw(pot.replace('#6f8256', '#5d6670'))],
  ['something in it', draw(pot), draw(plant)],
  ['turned round', draw(can), draw(can).flop()],
  ['another ground', draw(pot), draw(pot, '#efe9dd')],
  ['a thing', draw(pot), draw(can)],
  ['nearer', draw(pot), draw(`<g transform="translate(50 50) scale(1.12) translate(-50 -50)">${pot}</g>`)],
  ['a word beside it', draw(pot), draw(`${pot}<rect x="30" y="88" width="40" height="7" fill="#b23b2e"/>`)],
])('%s is another picture', async (_what, a, b) => {
  expect(sameThumbnail(await lookOf(a.png()), await lookOf(b.png()))).toBe(false);
});

test('prints near one are those that differ in one bit, each once', () => {
  const near = areHashesNear('00ff00ff00ff00');
  expect(new Set(near).size).toBe(57);
  expect(near).toContain('00ff00ff00ff00');
  expect(near).toContain('80ff00ff00ff00');
  expect(near).not.toContain('00ff00ff00ff03');
});

test('a picture is made smaller by whole numbers, and stays as it is where it is small', () => {
  const stripes = { width: 6, height: 4, data: new Uint8Array(72).map((_, at) => (at % 18 < 9 ? 30 : 90)) };
  expect(shrunk(stripes, 3)).toEqual({
    width: 3,
    height: 2,
    data: new Uint8Array([30, 30, 30, 60, 60, 60, 90, 90, 90, 30, 30, 30, 60, 60, 60, 90, 90, 90]),
  });
  expect(shrunk(stripes, 4)).toBe(stripes);
  // A line of one pixel across.
  expect(shrunk({ width: 8, height: 1, data: new Uint8Array(24).fill(7) }, 2)).toMatchObject({
    width: 2,
    height: 1,
    data: new Uint8Array(6).fill(7),
  });
});

test('what has no look is like nothing', () => {
  expect(sameThumbnail(new Uint8Array(0), new Uint8Array(THUMBNAIL_CELLS * THUMBNAIL_CELLS * 3))).toBe(false);
});

test.each([
  [1, 1],
  [5, 40],
  [16, 16],
  [17, 31],
  [200, 3],
])('a picture of one colour, %i × %i pixels, is that colour everywhere', (width, height) => {
  const pixels = new Uint8Array(width * height * 3).map((_, at) => [200, 100, 7][at % 3] ?? 0);
  expect([...thumbnailFrom({ data: pixels, width, height })]).toEqual(
    Array.from({ length: THUMBNAIL_CELLS ** 2 }, () => [200, 100, 7]).flat(),
  );
});
