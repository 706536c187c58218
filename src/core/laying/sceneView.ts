/** A picture of an ordinary scene, reduced to what laying, ratio maps and spectra need of it: no copy of its codes is kept. */
import { apply, type Vector3 } from '../formulas/color/spaces';
import type { Decoding } from '../light/decoding';
import type { Picture } from '../reading/window';

/** What turns codes into the session's light. */
type Decode = Pick<Decoding, 'tables' | 'conversion' | 'luminance'>;

export interface SceneView {
  width: number;
  height: number;
  /** Pixels of the picture that one of the view stands for, each way. */
  cellPx: number;
  /** Mean linear light of R, G, B. */
  light: [Float32Array, Float32Array, Float32Array];
  /** What is wrong with some of a cell's pixels: {@link CLIPPED}, {@link BLACK}. */
  bad: Uint8Array;
  /**
   * Luminance at the picture's own pixels, of its middle part, its brightest being full scale: a few dozen views are held at a time, and
   * what rounding adds is noise that no two pictures share. `left`, `top` of the part in the picture.
   */
  fine: { left: number; top: number; width: number; height: number; data: Uint16Array };
  /** The view's first pixel in the picture. */
  left: number;
  top: number;
  /** Mean code value per channel, a share of full scale. */
  meanCode: [number, number, number];
}

export const CLIPPED = 1;
export const BLACK = 2;
/** Views are at most so wide: a cell of 4K stands for four pixels each way. */
const WIDEST = 960;
/** Own pixels kept, at most. */
const FINE = { width: 1920, height: 1152 };
/** Codes from here on, as a share of full scale, may be clipped: codecs ring, and shoulders begin. */
const NEARLY_FULL = 0.985;

/** Pixels of a picture that one of its view stands for. */
export function cellOf(width: number): number {
  return Math.max(1, Math.ceil(width / WIDEST - 1e-9));
}

/**
 * Reduces a window (the patch) to a view.
 *
 * @param decoding tables for the window's bit depth, and what turns them into the session's light
 */
export function reduceView(window: Picture, { tables, conversion, luminance }: Decode): SceneView {
  const cellPx = cellOf(window.width);
  const [width, height] = [Math.floor(window.width / cellPx), Math.floor(window.height / cellPx)];
  const left = (window.width - width * cellPx) >> 1;
  const top = (window.height - height * cellPx) >> 1;
  const { channels, data, bitDepth, width: row } = window;
  const full = NEARLY_FULL * (2 ** bitDepth - 1);
  const [red, green, blue] = tables;
  const [g, b] = channels === 3 ? [1, 2] : [0, 0];
  const light: SceneView['light'] = [0, 1, 2].map(() => new Float32Array(width * height)) as SceneView['light'];
  const bad = new Uint8Array(width * height);
  const area = cellPx * cellPx;
  let [codesR, codesG, codesB] = [0, 0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let r = 0;
      let gr = 0;
      let bl = 0;
      let clipped = 0;
      let black = 0;
      for (let j = 0; j < cellPx; j++) {
        let at = ((top + y * cellPx + j) * row + left + x * cellPx) * channels;
        for (let i = 0; i < cellPx; i++, at += channels) {
          const cr = data[at];
          const cg = data[at + g];
          const cb = data[at + b];
          if (cr >= full || cg >= full || cb >= full) clipped++;
          if (cr === 0 || cg === 0 || cb === 0) black++;
          codesR += cr;
          codesG += cg;
          codesB += cb;
          r += red[cr];
          gr += green[cg];
          bl += blue[cb];
        }
      }
      const cell = y * width + x;
      bad[cell] = (clipped > 0 ? CLIPPED : 0) | (black > 0 ? BLACK : 0);
      light[0][cell] = r / area;
      light[1][cell] = gr / area;
      light[2][cell] = bl / area;
    }
  if (conversion)
    for (let i = 0; i < width * height; i++) {
      const seen: Vector3 = [light[0][i], light[1][i], light[2][i]];
      apply(conversion, seen).forEach((value, c) => (light[c][i] = value));
    }
  return {
    width,
    height,
    cellPx,
    light,
    bad,
    fine: fineOf(window, tables, luminance),
    left,
    top,
    meanCode: [codesR, codesG, codesB].map(
      (sum) => sum / (width * height * area * (2 ** bitDepth - 1)),
    ) as SceneView['meanCode'],
  };
}

function fineOf(
  { width, height, channels, data }: Picture,
  tables: Decoding['tables'],
  luminance: Vector3,
): SceneView['fine'] {
  const [w, h] = [Math.min(width, FINE.width), Math.min(height, FINE.height)];
  const [left, top] = [(width - w) >> 1, (height - h) >> 1];
  const light = new Float32Array(w * h);
  const [g, b] = channels === 3 ? [1, 2] : [0, 0];
  const [red, green, blue] = tables.map((table, c) => Float64Array.from(table, (value) => value * luminance[c]));
  let most = 0;
  for (let y = 0, i = 0; y < h; y++) {
    let at = ((top + y) * width + left) * channels;
    for (let x = 0; x < w; x++, i++, at += channels) {
      const value = red[data[at]] + green[data[at + g]] + blue[data[at + b]];
      light[i] = value;
      if (value > most) most = value;
    }
  }
  const out = new Uint16Array(w * h);
  const scale = most > 0 ? 65_535 / most : 0;
  for (let i = 0; i < out.length; i++) out[i] = Math.max(0, light[i] * scale + 0.5);
  return { left, top, width: w, height: h, data: out };
}

/** Luminance of a view. */
export function luminanceOf({ light, width, height }: SceneView, luminance: readonly number[]): Float32Array {
  const out = new Float32Array(width * height);
  for (let i = 0; i < out.length; i++)
    out[i] = luminance[0] * light[0][i] + luminance[1] * light[1][i] + luminance[2] * light[2][i];
  return out;
}
