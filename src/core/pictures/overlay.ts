import type { Pixels } from './thumbnail';

/** What may have been put on a picture beside the thing it shows, and what that is called. */
export const overlayLabels = { words: 'words', frame: 'a frame' } as const;
export type Overlay = keyof typeof overlayLabels;

/** Greys from here on are ground. */
const ground = 236;

/** A patch of pixels that touch each other and are no ground. */
interface Patch {
  left: number;
  right: number;
  top: number;
  bottom: number;
  pixels: number;
  /** Pixels that have ground, or the picture's end, beside them. */
  rim: number;
}

const widthOf = ({ left, right }: Patch) => right - left + 1;
const heightOf = ({ top, bottom }: Patch) => bottom - top + 1;

/** All patches of a picture in greys, a byte a pixel, with the patch of each pixel. */
function patchesOf({ data, width, height }: Pixels): { patches: Patch[]; of: Int32Array } {
  const of = new Int32Array(data.length).fill(-1);
  const patches: Patch[] = [];
  const open: number[] = [];
  for (let start = 0; start < data.length; start++) {
    if ((data[start] as number) >= ground || of[start] !== -1) continue;
    const patch: Patch = { left: width, right: 0, top: height, bottom: 0, pixels: 0, rim: 0 };
    const number = patches.push(patch) - 1;
    of[start] = number;
    open.push(start);
    while (open.length > 0) {
      const at = open.pop() as number;
      const x = at % width;
      const y = (at - x) / width;
      patch.pixels++;
      patch.left = Math.min(patch.left, x);
      patch.right = Math.max(patch.right, x);
      patch.top = Math.min(patch.top, y);
      patch.bottom = Math.max(patch.bottom, y);
      let rim = x === 0 || y === 0 || x === width - 1 || y === height - 1;
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const [nx, ny] = [x + dx, y + dy];
          if (nx < 0 || ny < 0 || nx >= width || ny >= height) continue;
          const next = ny * width + nx;
          if ((data[next] as number) >= ground) {
            rim ||= dx === 0 || dy === 0;
            continue;
          }
          if (of[next] !== -1) continue;
          of[next] = number;
          open.push(next);
        }
      if (rim) patch.rim++;
    }
  }
  return { patches, of };
}

/** How much of each side of the picture a frame must run along, and how far from the edge it may stand. */
const frame = { along: 0.9, from: 0.12 };

/** Whether a patch runs around the picture: a line along all four sides, with ground inside it. */
function isFrame(patch: Patch, number: number, of: Int32Array, { width, height }: Pixels): boolean {
  const { left, right, top, bottom } = patch;
  if (left > width * frame.from || width - 1 - right > width * frame.from) return false;
  if (top > height * frame.from || height - 1 - bottom > height * frame.from) return false;
  // A line, and no thing that fills the picture.
  if (patch.pixels > widthOf(patch) * heightOf(patch) * 0.4) return false;
  const thick = Math.max(2, Math.round(Math.min(width, height) * 0.01));
  /** Share of one side that has some of the patch close to it. */
  const along = (length: number, pixel: (at: number, deep: number) => number): number => {
    let there = 0;
    for (let at = 0; at < length; at++)
      for (let deep = 0; deep <= thick; deep++)
        if (of[pixel(at, deep)] === number) {
          there++;
          break;
        }
    return there / length;
  };
  const [w, h] = [widthOf(patch), heightOf(patch)];
  return (
    along(w, (at, deep) => (top + deep) * width + left + at) >= frame.along &&
    along(w, (at, deep) => (bottom - deep) * width + left + at) >= frame.along &&
    along(h, (at, deep) => (top + at) * width + left + deep) >= frame.along &&
    along(h, (at, deep) => (top + at) * width + right - deep) >= frame.along
  );
}

/** The width of the pen that would have drawn a patch: twice its pixels by its rim. */
const pen = ({ pixels, rim }: Patch) => (2 * pixels) / Math.max(1, rim);

/** How far numbers lie from each other: their standard deviation by their mean. */
function spread(list: readonly number[]): number {
  const mean = list.reduce((sum, one) => sum + one, 0) / list.length;
  return Math.sqrt(list.reduce((sum, one) => sum + (one - mean) ** 2, 0) / list.length) / mean;
}

/** Letters a line needs to be taken for one, three may stand for a word such as “new”; where there are very many patches like letters, it is a pattern. */
const MIN_LETTERS = 3;
const MAX_LETTERS = 400;

/**
 * Whether letters stand in a line: at least three patches, none of them the thing itself, of one height, close to each other,
 * all drawn by one pen, and not all alike, as parts of one kind would be.
 */
function hasLine(patches: readonly Patch[], thing: Patch, height: number): boolean {
  const letters = patches
    .filter((patch) => {
      const [w, h] = [widthOf(patch), heightOf(patch)];
      return (
        patch !== thing &&
        h >= Math.max(5, height * 0.012) &&
        h <= height * 0.2 &&
        h * 2 <= heightOf(thing) &&
        w <= h * 1.8 &&
        pen(patch) <= h * 0.45
      );
    })
    .sort((a, b) => a.left - b.left);
  if (letters.length > MAX_LETTERS) return false;
  return letters.some((first, at) => {
    const line = [first];
    for (const next of letters.slice(at + 1)) {
      const last = line.at(-1) as Patch;
      const h = heightOf(first);
      const alike =
        Math.max(heightOf(next), h) <= Math.min(heightOf(next), h) * 1.5 &&
        Math.abs(next.bottom - first.bottom) <= h * 0.3 &&
        Math.abs(pen(next) - pen(first)) <= pen(first) * 0.45;
      if (alike && next.left - last.right <= h * 1.2 && next.left > last.left) line.push(next);
    }
    if (line.length < MIN_LETTERS) return false;
    const pixels = line.reduce((sum, patch) => sum + patch.pixels, 0);
    return (
      pixels <= thing.pixels * 0.5 &&
      Math.max(
        spread(line.map(({ pixels: own }) => own)),
        spread(line.map(widthOf)),
        spread(line.map(({ rim }) => rim)),
      ) > 0.08
    );
  });
}

/**
 * What stands beside the thing on a picture whose ground is white: a line of letters, a frame. Words printed on the thing
 * itself are no such thing, and what touches the thing cannot be told from it.
 * @param greys a byte a pixel; some 400 pixels a side are enough
 */
export function overlayOn(greys: Pixels): Overlay[] {
  const { patches, of } = patchesOf(greys);
  const framed = patches.findIndex((patch, number) => isFrame(patch, number, of, greys));
  const rest = patches.filter((_, number) => number !== framed);
  const thing = rest.reduce<Patch | undefined>(
    (largest, patch) => (largest && largest.pixels >= patch.pixels ? largest : patch),
    undefined,
  );
  const found: Overlay[] = thing !== undefined && hasLine(rest, thing, greys.height) ? ['words'] : [];
  return framed >= 0 ? [...found, 'frame'] : found;
}
