/**
 * The map of light ratios of two pictures of one view, once they are laid on each other. In each cell the ratio is one of mean levels
 * (formats.md), over what is well exposed in both and agrees with the rest of the cell: movers, leaves, water fall out.
 */
import { median } from '../formulas/statistics/averages';
import { applyHomography } from '../formulas/geometry/homography';
import { BLOCKS_ACROSS, BLOCKS_DOWN, type Laid } from './lay';
import { BLACK, CLIPPED, type SceneView } from './sceneView';

/** Why a cell has no say. */
export const REASONS = ['used', 'outside', 'clipped', 'dark', 'moved', 'light'] as const;

export interface RatioMap {
  columns: number;
  rows: number;
  /** log2 of first over second, R, G, B, per cell; NaN where there is none. */
  channels: [Float64Array, Float64Array, Float64Array];
  /** Mean light of the second, R, G, B, no unit; 0 where there is none. */
  light: [Float64Array, Float64Array, Float64Array];
  /** Standard uncertainty of a cell, stops, from what its parts scatter. */
  u: Float64Array;
  /** Index into {@link REASONS}. */
  reason: Uint8Array;
  /** Where the cell's middle lies in the second picture, half widths. */
  x: Float64Array;
  y: Float64Array;
}

/** Cells across, at most, and pixels of the view across one, at least. */
const COLUMNS = 40;
const LEAST_CELL = 16;
/** Parts of a cell: pixels of the view across. */
const PART = 4;
/** Share of a cell's parts that must tell. */
const LEAST_PARTS = 0.4;
/** Parts scatter by more than this, stops: nothing of the cell is still. Our own judgement. */
const RESTLESS = 0.35;
/** No cell is known better than this, stops: codecs, parallax. Our own judgement. */
const BEST_U = 0.004;

export function gridOf({ width, height }: Pick<SceneView, 'width' | 'height'>): { columns: number; rows: number } {
  const columns = Math.max(4, Math.min(COLUMNS, Math.floor(width / LEAST_CELL)));
  return { columns, rows: Math.max(3, Math.round((columns * height) / width)) };
}

/** Of a part, beside {@link CLIPPED}. */
const OUTSIDE = 4;
const DARK = 8;
/** Steps of light that {@link markDark} looks at, parts in one at least, and the share of its parts with black that noise may bring. */
const STEPS = 32;
const LEAST_OF_STEP = 12;
const MOST_BLACK = 0.05;

interface Parts {
  across: number;
  down: number;
  /** Sums of light, first and second, three channels. */
  first: Float64Array;
  second: Float64Array;
  bad: Uint8Array;
  /** Whether some of its pixels are at code 0: 1 in the first, 2 in the second. */
  black: Uint8Array;
  /** Unevenness inside the part: what a wrong place would do to it. */
  texture: Float32Array;
}

/**
 * @param laid from the first picture's points to the second's
 */
export function ratioMap(first: SceneView, second: SceneView, laid: Pick<Laid, 'homography' | 'blocks'>): RatioMap {
  const parts = partsOf(first, second, laid.homography);
  const { columns, rows } = gridOf(first);
  const count = columns * rows;
  const map: RatioMap = {
    columns,
    rows,
    channels: [0, 1, 2].map(() => new Float64Array(count).fill(NaN)) as RatioMap['channels'],
    light: [0, 1, 2].map(() => new Float64Array(count)) as RatioMap['light'],
    u: new Float64Array(count).fill(Infinity),
    reason: new Uint8Array(count),
    x: new Float64Array(count),
    y: new Float64Array(count),
  };
  const aspect = first.height / first.width;
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const cell = row * columns + column;
      const [u, v] = [(2 * (column + 0.5)) / columns - 1, ((2 * (row + 0.5)) / rows - 1) * aspect];
      [map.x[cell], map.y[cell]] = applyHomography(laid.homography, u, v);
      const block =
        laid.blocks[
          Math.floor(((row + 0.5) * BLOCKS_DOWN) / rows) * BLOCKS_ACROSS +
            Math.floor(((column + 0.5) * BLOCKS_ACROSS) / columns)
        ];
      fillCell(map, cell, parts, [column, row], block);
    }
  return map;
}

function partsOf(first: SceneView, second: SceneView, h: Laid['homography']): Parts {
  const { width, height } = first;
  const [across, down] = [Math.floor(width / PART), Math.floor(height / PART)];
  const parts: Parts = {
    across,
    down,
    first: new Float64Array(3 * across * down),
    second: new Float64Array(3 * across * down),
    bad: new Uint8Array(across * down),
    black: new Uint8Array(across * down),
    texture: new Float32Array(across * down),
  };
  const half = width / 2;
  const [low, high] = [new Float32Array(across * down).fill(Infinity), new Float32Array(across * down)];
  const [w2, h2] = [second.width, second.height];
  const half2 = w2 / 2;
  const [r1, g1, b1] = first.light;
  const [r2, g2, b2] = second.light;
  // Half a million pixels a pair: no lists are made in here.
  const [h0, h1, shiftX, h3, h4, shiftY, h6, h7, h8] = h;
  for (let y = 0; y < down * PART; y++) {
    const v = (y + 0.5 - height / 2) / half;
    for (let x = 0; x < across * PART; x++) {
      const part = Math.floor(y / PART) * across + Math.floor(x / PART);
      if (parts.bad[part] & OUTSIDE) continue;
      const u = (x + 0.5 - half) / half;
      const w = half2 / (h6 * u + h7 * v + h8);
      const sx = (h0 * u + h1 * v + shiftX) * w + half2 - 0.5;
      const sy = (h3 * u + h4 * v + shiftY) * w + h2 / 2 - 0.5;
      const left = Math.floor(sx);
      const top = Math.floor(sy);
      if (!(left >= 0 && top >= 0 && left + 1 < w2 && top + 1 < h2)) {
        parts.bad[part] |= OUTSIDE;
        continue;
      }
      const s = sx - left;
      const t = sy - top;
      const i = top * w2 + left;
      const at = y * width + x;
      const own = first.bad[at];
      const others = second.bad[i] | second.bad[i + 1] | second.bad[i + w2] | second.bad[i + w2 + 1];
      parts.bad[part] |= (own | others) & CLIPPED;
      if (own & BLACK) parts.black[part] |= 1;
      if (others & BLACK) parts.black[part] |= 2;
      const a = (1 - s) * (1 - t);
      const b = s * (1 - t);
      const c = (1 - s) * t;
      const d = s * t;
      const slot = 3 * part;
      parts.first[slot] += r1[at];
      parts.first[slot + 1] += g1[at];
      parts.first[slot + 2] += b1[at];
      parts.second[slot] += a * r2[i] + b * r2[i + 1] + c * r2[i + w2] + d * r2[i + w2 + 1];
      const green = a * g2[i] + b * g2[i + 1] + c * g2[i + w2] + d * g2[i + w2 + 1];
      parts.second[slot + 1] += green;
      parts.second[slot + 2] += a * b2[i] + b * b2[i + 1] + c * b2[i + w2] + d * b2[i + w2 + 1];
      if (green < low[part]) low[part] = green;
      if (green > high[part]) high[part] = green;
    }
  }
  for (let i = 0; i < parts.texture.length; i++)
    parts.texture[i] = ((high[i] - low[i]) * PART * PART) / Math.max(1e-9, parts.second[3 * i + 1]);
  markDark(parts, 1);
  markDark(parts, 2);
  return parts;
}

/**
 * Marks what is too dark in one of the two, told by the other's light. Leaving out parts for the black pixels that noise brought them
 * would leave those that noise made brighter, and the ratio would err for them.
 *
 * @param which 1: in the first, 2: in the second
 */
function markDark(parts: Parts, which: 1 | 2): void {
  const { bad, black, first, second } = parts;
  if (!black.some((one) => one & which)) return;
  const [own, other] = which === 1 ? [first, second] : [second, first];
  const seen = [...black.keys()].filter((part) => !(bad[part] & (OUTSIDE | CLIPPED)));
  if (seen.length === 0) return;
  const gains = [0, 1, 2].map((c) =>
    median(seen.flatMap((part) => (other[3 * part + c] > 0 ? [own[3 * part + c] / other[3 * part + c]] : []))),
  );
  // The weakest channel is the first to be black.
  const light = new Float64Array(black.length);
  for (let part = 0; part < light.length; part++)
    light[part] = Math.min(...gains.map((gain, c) => gain * other[3 * part + c]));
  const sorted = Uint32Array.from(seen).sort((a, b) => light[a] - light[b]);
  const step = Math.max(LEAST_OF_STEP, Math.ceil(sorted.length / STEPS));
  // From the darkest on, until two steps on end have as good as no black: what is black in brighter ones went by there.
  let [clear, end] = [0, 0];
  for (let from = 0; from < sorted.length && clear < 2; from += step) {
    const of = sorted.subarray(from, from + step);
    const share = of.reduce((sum, part) => sum + (black[part] & which ? 1 : 0), 0) / of.length;
    clear = share > MOST_BLACK ? 0 : clear + 1;
    if (clear === 0) end = from + of.length;
  }
  for (let i = 0; i < end; i++) bad[sorted[i]] |= DARK;
}

function fillCell(
  map: RatioMap,
  cell: number,
  parts: Parts,
  [column, row]: [number, number],
  block: number | null,
): void {
  const { columns, rows } = map;
  const { across, down, bad } = parts;
  const [left, right] = [Math.floor((column * across) / columns), Math.floor(((column + 1) * across) / columns)];
  const [top, bottom] = [Math.floor((row * down) / rows), Math.floor(((row + 1) * down) / rows)];
  const told: number[] = [];
  const counts = [0, 0, 0];
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++) {
      const part = y * across + x;
      // What lies beside clipped light has some of it: lenses and codecs spread it.
      if (bad[part] & OUTSIDE) counts[0]++;
      else if (isNear(parts, x, y, CLIPPED)) counts[1]++;
      else if (bad[part] & DARK || !hasLight(parts, part)) counts[2]++;
      else told.push(part);
    }
  const total = (right - left) * (bottom - top);
  if (told.length < Math.max(3, LEAST_PARTS * total)) {
    map.reason[cell] = 1 + counts.indexOf(Math.max(...counts));
    return;
  }
  const ratios = told.map((part) => Math.log2(green(parts.first, part) / green(parts.second, part)));
  const middle = median(ratios);
  const scatter = Math.max(0.003, 1.4826 * median(ratios.map((one) => Math.abs(one - middle))));
  const sums = new Float64Array(6);
  let [weights, squares, spread] = [0, 0, 0];
  told.forEach((part, i) => {
    const off = (ratios[i] - middle) / (4.7 * scatter);
    if (off * off >= 1) return;
    // A wrong place by a pixel does most where light changes most.
    const weight = (1 - off * off) ** 2 / (1 + (2 * parts.texture[part]) ** 2);
    weights += weight;
    squares += weight * weight;
    spread += weight * (ratios[i] - middle) ** 2;
    for (let c = 0; c < 3; c++) {
      sums[c] += weight * parts.first[3 * part + c];
      sums[3 + c] += weight * parts.second[3 * part + c];
    }
  });
  for (let c = 0; c < 3; c++) {
    map.channels[c][cell] = Math.log2(sums[c] / sums[3 + c]);
    map.light[c][cell] = sums[3 + c] / weights;
  }
  const effective = (weights * weights) / Math.max(1e-12, squares);
  map.u[cell] = Math.hypot(BEST_U, Math.sqrt(spread / Math.max(1e-12, weights) / Math.max(1, effective)));
  if (scatter > RESTLESS || (block !== null && block < 0.45) || effective < 2)
    map.reason[cell] = REASONS.indexOf('moved');
}

const green = (sums: Float64Array, part: number) => sums[3 * part] + 2 * sums[3 * part + 1] + sums[3 * part + 2];

function hasLight({ first, second }: Parts, part: number): boolean {
  for (let i = 3 * part; i < 3 * part + 3; i++) if (!(first[i] > 0) || !(second[i] > 0)) return false;
  return true;
}

function isNear({ bad, across, down }: Parts, x: number, y: number, what: number): boolean {
  for (let j = Math.max(0, y - 1); j <= Math.min(down - 1, y + 1); j++)
    for (let i = Math.max(0, x - 1); i <= Math.min(across - 1, x + 1); i++) if (bad[j * across + i] & what) return true;
  return false;
}
