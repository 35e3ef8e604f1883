/** Cells along each side of a picture that is looked at as a whole. */
export const THUMBNAIL_CELLS = 16;

/**
 * A picture as one sees it from afar: so many cells a side, three bytes each (red, green, blue), row by row. Saved anew, in
 * another format or at another size, a picture keeps it, nearly.
 */
export type Thumbnail = Uint8Array;

/** A picture's pixels, row by row. */
export interface Pixels {
  /** Red, green and blue of each, a byte each; or one grey, where that is said. */
  readonly data: Uint8Array;
  readonly width: number;
  readonly height: number;
}

/** Share of a picture's outermost pixels that are white, 0 to 1. */
export function whiteBorderOf({ data, width, height }: Pixels): number {
  let white = 0;
  let border = 0;
  const look = (x: number, y: number) => {
    const at = (y * width + x) * 3;
    border++;
    if ((data[at] ?? 0) >= 250 && (data[at + 1] ?? 0) >= 250 && (data[at + 2] ?? 0) >= 250) white++;
  };
  for (let x = 0; x < width; x++) {
    look(x, 0);
    look(x, height - 1);
  }
  for (let y = 1; y < height - 1; y++) {
    look(0, y);
    look(width - 1, y);
  }
  return border === 0 ? 0 : white / border;
}

/** A picture made smaller by a whole number, each pixel the mean of those it stands for; as long as its longer side stays at least so long. */
export function shrunk(pixels: Pixels, least: number): Pixels {
  const by = Math.floor(Math.max(pixels.width, pixels.height) / least);
  if (by < 2) return pixels;
  const [width, height] = [
    Math.max(1, Math.floor(pixels.width / by)),
    Math.max(1, Math.floor(pixels.height / by)),
  ];
  const [across, down] = [Math.min(by, pixels.width), Math.min(by, pixels.height)];
  const from = pixels.data;
  const data = new Uint8Array(width * height * 3);
  const sums = new Uint32Array(width * 3);
  for (let y = 0; y < height; y++) {
    sums.fill(0);
    for (let dy = 0; dy < down; dy++) {
      let at = (y * by + dy) * pixels.width * 3;
      for (let to = 0; to < sums.length; to += 3) {
        let red = 0;
        let green = 0;
        let blue = 0;
        for (let dx = 0; dx < across; dx++, at += 3) {
          red += from[at] as number;
          green += from[at + 1] as number;
          blue += from[at + 2] as number;
        }
        sums[to] = (sums[to] as number) + red;
        sums[to + 1] = (sums[to + 1] as number) + green;
        sums[to + 2] = (sums[to + 2] as number) + blue;
      }
    }
    for (let to = 0; to < sums.length; to++)
      data[y * sums.length + to] = Math.round((sums[to] as number) / (across * down));
  }
  return { data, width, height };
}

const grey = (red: number, green: number, blue: number) => 0.299 * red + 0.587 * green + 0.114 * blue;

/** The same picture in greys, a byte a pixel (ITU-R BT.601). */
export function greysOf({ data, width, height }: Pixels): Pixels {
  const greys = new Uint8Array(width * height);
  for (let at = 0; at < greys.length; at++)
    greys[at] = grey(data[at * 3] as number, data[at * 3 + 1] as number, data[at * 3 + 2] as number);
  return { data: greys, width, height };
}

/** What a picture looks like from afar: each cell the mean of the pixels in it, whatever the picture's size. */
export function thumbnailFrom({ data, width, height }: Pixels): Thumbnail {
  const [wide, high] = [width / THUMBNAIL_CELLS, height / THUMBNAIL_CELLS];
  const row = new Float64Array(THUMBNAIL_CELLS * 3);
  const sums = new Float64Array(THUMBNAIL_CELLS ** 2 * 3);
  for (let y = 0; y < height; y++) {
    for (let cell = 0; cell < THUMBNAIL_CELLS; cell++) {
      const [from, to] = [cell * wide, (cell + 1) * wide];
      let [red, green, blue] = [0, 0, 0];
      for (let x = Math.floor(from); x < to && x < width; x++) {
        const share = Math.min(x + 1, to) - Math.max(x, from);
        const at = (y * width + x) * 3;
        red += share * (data[at] as number);
        green += share * (data[at + 1] as number);
        blue += share * (data[at + 2] as number);
      }
      row[cell * 3] = red;
      row[cell * 3 + 1] = green;
      row[cell * 3 + 2] = blue;
    }
    for (let cell = Math.floor(y / high); cell < THUMBNAIL_CELLS && cell * high < y + 1; cell++) {
      const share = Math.min(y + 1, (cell + 1) * high) - Math.max(y, cell * high);
      for (let at = 0; at < row.length; at++)
        sums[cell * row.length + at] = (sums[cell * row.length + at] as number) + share * (row[at] as number);
    }
  }
  return Uint8Array.from(sums, (sum) => Math.round(sum / (wide * high)));
}

/** Greys closer than this are one: flat ground stays flat however a file was compressed. */
const tolerance = 4;

const greyOf = (look: Thumbnail, x: number, y: number): number => {
  const at = (y * THUMBNAIL_CELLS + x) * 3;
  return grey(look[at] ?? 0, look[at + 1] ?? 0, look[at + 2] ?? 0);
};

const half = THUMBNAIL_CELLS / 2;

/** The grey of four cells together. */
const blockGrey = (look: Thumbnail, x: number, y: number): number =>
  (greyOf(look, 2 * x, 2 * y) +
    greyOf(look, 2 * x + 1, 2 * y) +
    greyOf(look, 2 * x, 2 * y + 1) +
    greyOf(look, 2 * x + 1, 2 * y + 1)) /
  4;

const HASH_BITS = half * (half - 1);

/**
 * A difference hash: in 8 × 8 greys a bit for each that is brighter than the one to its right. Pictures that are nearly the
 * same have prints that differ in one bit at most, nearly always; others may have the same one.
 * @returns 14 hexadecimal digits
 */
export function perceptualHashOf(look: Thumbnail): string {
  let bits = 0n;
  for (let y = 0; y < half; y++)
    for (let x = 0; x < half - 1; x++)
      bits = (bits << 1n) | (blockGrey(look, x, y) > blockGrey(look, x + 1, y) + tolerance ? 1n : 0n);
  return bits.toString(16).padStart(HASH_BITS / 4, '0');
}

/** A print and all that differ from it in one bit: where to look for pictures that are nearly the same. */
export function areHashesNear(print: string): string[] {
  const own = BigInt(`0x${print}`);
  const found = [own];
  for (let bit = 0n; bit < HASH_BITS; bit++) found.push(own ^ (1n << bit));
  return found.map((one) => one.toString(16).padStart(print.length, '0'));
}

/** As far as a cell may be off, and all of them on average (root of the mean square), of 255. */
const most = { cell: 12, all: 3 };

/** Whether two pictures are one, scaled or saved anew. Another colour, another angle or something beside the thing is another picture. */
export function sameThumbnail(a: Thumbnail, b: Thumbnail): boolean {
  if (a.length !== b.length) return false;
  let sum = 0;
  for (let at = 0; at < a.length; at++) {
    const off = (a[at] as number) - (b[at] as number);
    if (off > most.cell || off < -most.cell) return false;
    sum += off * off;
  }
  return sum <= most.all ** 2 * a.length;
}
