/** A picture reduced to a grid of small squares: what the camera's curve is learned from. */
import { componentDeviations, lumaOf } from '../../formulas/color/luma';
import type { Picture } from '../../reading/window';
import type { Tables } from '../decoding';

/** Squares across the frame; as many down as its shape asks for. */
export const COLUMNS = 40;
/** A square's parts, each way, by whose scatter its mean is judged. */
const PARTS = 4;
/** Pixels of a part that are looked at, each way, at most. */
const LOOKED_AT = 6;

export interface PlaceGrid {
  columns: number;
  rows: number;
  /** By square and channel (3 a square): mean of the light that the declared curve makes of the codes. */
  light: Float64Array;
  /** Mean code, as a share of full scale. */
  code: Float64Array;
  /** By square, nine numbers: covariance of the mean in stops², from the scatter of its parts. */
  covariance: Float64Array;
  /** By square: how far its quarters lie apart at most, stops. */
  uneven: Float64Array;
  /** By square and component (luma, blue and red difference): standard deviation of single pixels in codes of 8 bits. */
  spread: Float64Array;
  /** By square: correlation of neighboring pixels' luma. */
  together: Float64Array;
  /** By square: the larger share of a channel's pixels at the top code, and at 0. */
  top: Float64Array;
  zero: Float64Array;
}

/** Reduces a whole frame. */
export function reducePlaces(picture: Picture, tables: Tables): PlaceGrid {
  const { width, height, bitDepth } = picture;
  const columns = Math.max(1, Math.min(COLUMNS, Math.floor(width / (2 * PARTS))));
  const rows = Math.max(1, Math.min(Math.round((columns * height) / width), Math.floor(height / (2 * PARTS))));
  const count = columns * rows;
  const grid: PlaceGrid = {
    columns,
    rows,
    light: new Float64Array(3 * count),
    code: new Float64Array(3 * count),
    covariance: new Float64Array(9 * count),
    uneven: new Float64Array(count),
    spread: new Float64Array(3 * count),
    together: new Float64Array(count),
    top: new Float64Array(count),
    zero: new Float64Array(count),
  };
  const full = 2 ** bitDepth - 1;
  const tally = new Tally();
  for (let row = 0, square = 0; row < rows; row++)
    for (let column = 0; column < columns; column++, square++) {
      const [x0, x1] = [Math.floor((column * width) / columns), Math.floor(((column + 1) * width) / columns)];
      const [y0, y1] = [Math.floor((row * height) / rows), Math.floor(((row + 1) * height) / rows)];
      const stepX = Math.max(1, Math.floor((x1 - x0) / PARTS / LOOKED_AT));
      const stepY = Math.max(1, Math.floor((y1 - y0) / PARTS / LOOKED_AT));
      tally.count(picture, tables, { x0, x1, y0, y1, stepX, stepY });
      const { seen, codes, products, tops, zeros } = tally;
      const spread = componentDeviations(codes, products, seen);
      grid.top[square] = Math.max(...tops) / seen;
      grid.zero[square] = Math.max(...zeros) / seen;
      for (let k = 0; k < 3; k++) {
        grid.code[3 * square + k] = codes[k] / seen / full;
        grid.spread[3 * square + k] = (255 / full) * spread[k];
      }
      grid.together[square] = tally.together(grid.spread[3 * square] ** 2);
      summarise(grid, square, tally.parts, tally.sizes);
    }
  return grid;
}

/** A square in pixels, the end left out, and of which of them each way one is looked at. */
interface PixelSquare {
  x0: number;
  x1: number;
  y0: number;
  y1: number;
  stepX: number;
  stepY: number;
}

/** Where green and blue lie beside red. */
const offsetsOf = (channels: number): readonly [green: number, blue: number] => (channels === 3 ? [1, 2] : [0, 0]);

/** Sums over the pixels of one square; one object for all squares. */
class Tally {
  readonly parts = new Float64Array(3 * PARTS * PARTS);
  readonly sizes = new Float64Array(PARTS * PARTS);
  readonly codes = new Float64Array(3);
  readonly tops = new Float64Array(3);
  readonly zeros = new Float64Array(3);
  seen = 0;
  /** Of codes: squares, then products of red and green, red and blue, green and blue. */
  readonly products = new Float64Array(6);
  /** Neighboring pixels' luma: how many pairs, of the first, of the second, products. */
  private readonly pairs = new Float64Array(4);
  /** Where a square's parts end, from its left side. */
  private readonly ends = new Int32Array(PARTS);

  /**
   * Every picture passes here pixel by pixel. One loop for each thing that is added up: one for all needs more than a core's registers and takes
   * twice as long.
   */
  count(picture: Picture, tables: Tables, square: PixelSquare): void {
    const { parts, sizes, zeros, tops, codes, products, pairs } = this;
    for (const one of [parts, sizes, zeros, tops, codes, products, pairs]) one.fill(0);
    this.countLight(picture, tables, square);
    this.countEnds(picture, square);
    this.countProducts(picture, square);
    this.countPairs(picture, square);
    this.seen = sizes.reduce((sum, one) => sum + one, 0);
  }

  /** Light of the square's parts. */
  private countLight(
    { width, channels, data }: Picture,
    [redLight, greenLight, blueLight]: Tables,
    { x0, x1, y0, y1, stepX, stepY }: PixelSquare,
  ): void {
    const { parts, sizes, ends } = this;
    const [g, b] = offsetsOf(channels);
    for (let part = 0; part < PARTS; part++) ends[part] = x0 + Math.ceil(((part + 1) * (x1 - x0)) / PARTS);
    for (let y = y0; y < y1; y += stepY) {
      const partRow = Math.floor(((y - y0) * PARTS) / (y1 - y0)) * PARTS;
      for (let column = 0, x = x0; column < PARTS; column++) {
        const end = ends[column];
        let size = 0;
        let red = 0;
        let green = 0;
        let blue = 0;
        for (; x < end; x += stepX, size++) {
          const at = (y * width + x) * channels;
          red += redLight[data[at]];
          green += greenLight[data[at + g]];
          blue += blueLight[data[at + b]];
        }
        const part = partRow + column;
        parts[3 * part] += red;
        parts[3 * part + 1] += green;
        parts[3 * part + 2] += blue;
        sizes[part] += size;
      }
    }
  }

  /** How many pixels lie at either end of the codes. */
  private countEnds({ width, channels, data, bitDepth }: Picture, { x0, x1, y0, y1, stepX, stepY }: PixelSquare): void {
    const full = 2 ** bitDepth - 1;
    const [g, b] = offsetsOf(channels);
    const { zeros, tops } = this;
    for (let y = y0; y < y1; y += stepY)
      for (let x = x0; x < x1; x += stepX) {
        const at = (y * width + x) * channels;
        const red = data[at];
        const green = data[at + g];
        const blue = data[at + b];
        if (red === 0) zeros[0]++;
        else if (red === full) tops[0]++;
        if (green === 0) zeros[1]++;
        else if (green === full) tops[1]++;
        if (blue === 0) zeros[2]++;
        else if (blue === full) tops[2]++;
      }
  }

  /** Sums of codes and of their products: whole numbers, from which color differences follow. */
  private countProducts({ width, channels, data }: Picture, { x0, x1, y0, y1, stepX, stepY }: PixelSquare): void {
    const { codes, products } = this;
    const [g, b] = offsetsOf(channels);
    let [r, gr, bl, rr, gg, bb, rg, rb, gb] = [0, 0, 0, 0, 0, 0, 0, 0, 0];
    for (let y = y0; y < y1; y += stepY)
      for (let x = x0; x < x1; x += stepX) {
        const at = (y * width + x) * channels;
        const red = data[at];
        const green = data[at + g];
        const blue = data[at + b];
        r += red;
        gr += green;
        bl += blue;
        rr += red * red;
        gg += green * green;
        bb += blue * blue;
        rg += red * green;
        rb += red * blue;
        gb += green * blue;
      }
    codes.set([r, gr, bl]);
    products.set([rr, gg, bb, rg, rb, gb]);
  }

  /** Luma of neighbors along a row, of a fourth of the pixels: that is enough to tell. */
  private countPairs(
    { width, channels, data, bitDepth }: Picture,
    { x0, x1, y0, y1, stepX, stepY }: PixelSquare,
  ): void {
    const [g, b] = offsetsOf(channels);
    const to8 = 255 / (2 ** bitDepth - 1);
    let [count, first, second, both] = [0, 0, 0, 0];
    for (let y = y0; y < y1; y += stepY)
      for (let x = x0; x < x1 - 1; x += stepX) {
        if (((x + y) & 3) !== 0) continue;
        const at = (y * width + x) * channels;
        const luma = lumaOf(data[at], data[at + g], data[at + b]);
        const next = lumaOf(data[at + channels], data[at + channels + g], data[at + channels + b]);
        count++;
        first += luma;
        second += next;
        both += luma * next;
      }
    this.pairs.set([count, first * to8, second * to8, both * to8 * to8]);
  }

  /** Correlation of neighboring pixels' luma, whose single pixels have this variance. */
  together(variance: number): number {
    const [count, first, second, products] = this.pairs;
    return count > 0 && variance > 0 ? (products / count - (first / count) * (second / count)) / variance : 0;
  }
}

/** Mean light of a square, the covariance of that mean from its parts, and how uneven it is. */
function summarise(grid: PlaceGrid, square: number, parts: Float64Array, sizes: Float64Array): void {
  const count = PARTS * PARTS;
  const stops = new Float64Array(3 * count);
  for (let c = 0; c < 3; c++) {
    let [sum, size] = [0, 0];
    for (let part = 0; part < count; part++) {
      sum += parts[3 * part + c];
      size += sizes[part];
    }
    const mean = sum / size;
    grid.light[3 * square + c] = mean;
    for (let part = 0; part < count; part++)
      stops[3 * part + c] = mean > 0 ? (parts[3 * part + c] / sizes[part] / mean - 1) / Math.LN2 : 0;
  }
  const quarters = new Float64Array(12);
  for (let part = 0; part < count; part++) {
    const quarter = (Math.floor(part / PARTS) >= PARTS / 2 ? 2 : 0) + (part % PARTS >= PARTS / 2 ? 1 : 0);
    for (let c = 0; c < 3; c++) quarters[3 * quarter + c] += (4 * stops[3 * part + c]) / count;
  }
  for (let c = 0; c < 3; c++)
    for (let quarter = 0; quarter < 4; quarter++)
      grid.uneven[square] = Math.max(grid.uneven[square], Math.abs(quarters[3 * quarter + c]));
  // A plane is light that falls off; what is left is noise (or texture, which only widens it).
  for (let a = 0; a < 3; a++)
    for (let b = 0; b <= a; b++) {
      let sum = 0;
      for (let part = 0; part < count; part++) {
        const quarter = (Math.floor(part / PARTS) >= PARTS / 2 ? 2 : 0) + (part % PARTS >= PARTS / 2 ? 1 : 0);
        sum += (stops[3 * part + a] - quarters[3 * quarter + a]) * (stops[3 * part + b] - quarters[3 * quarter + b]);
      }
      // Four means were taken off sixteen parts.
      const value = sum / (count - 4) / count;
      grid.covariance[9 * square + 3 * a + b] = grid.covariance[9 * square + 3 * b + a] = value;
    }
}

/** Median green light of a picture, log2. */
export function medianLight({ light }: PlaceGrid): number {
  const green = Float64Array.from({ length: light.length / 3 }, (_, i) => light[3 * i + 1]).sort();
  return Math.log2(Math.max(green[green.length >> 1], 1e-5));
}

/** Luma of a square, a share of full scale. */
export function lumaAt(code: Float64Array, square: number): number {
  return lumaOf(code[3 * square], code[3 * square + 1], code[3 * square + 2]);
}

/** Weights of the squares around one, four each way: a blur of a 25th of the frame's width, 1.6 squares. */
const AROUND = Float64Array.from({ length: 81 }, (_, k) =>
  Math.exp(-(((k % 9) - 4) ** 2 + (Math.floor(k / 9) - 4) ** 2) / (2 * 1.6 ** 2)),
);

/** Luma of a square over the mean of what lies around it, less one. */
export function contrastAt({ code, columns, rows }: PlaceGrid, square: number): number {
  const [x, y] = [square % columns, Math.floor(square / columns)];
  let [sum, weight] = [0, 0];
  for (let j = -4; j <= 4; j++)
    for (let i = -4; i <= 4; i++) {
      const [nx, ny] = [Math.min(columns - 1, Math.max(0, x + i)), Math.min(rows - 1, Math.max(0, y + j))];
      const w = AROUND[9 * (j + 4) + i + 4];
      sum += w * lumaAt(code, ny * columns + nx);
      weight += w;
    }
  const around = sum / weight;
  return around > 0 ? Math.max(-0.8, Math.min(0.8, lumaAt(code, square) / around - 1)) : 0;
}
