/** A window across an edge reduced to the edge's response, with what its codes allow. */
import type { Decoding } from '../../light/decoding';
import type { Picture } from '../../reading/window';
import { measureEdge, type EdgeResponse, type RefusedEdge } from './edge';

/** An edge in one picture. */
export interface EdgeMeasurement {
  result: EdgeResponse | RefusedEdge;
  /** Shares of pixels at the ends of the code range, the worst channel. */
  topShare: number;
  zeroShare: number;
  /** Codes between the dark and the bright side, the channel that weighs most. */
  codeStep: number;
  /** Whether a camera drew the picture: it sharpens, and takes noise away. */
  processed?: boolean;
  /** Gain on contrast with the surroundings, where the camera has one. */
  localTone?: number;
}

export function reduceEdge(
  window: Picture,
  { tables, luminance }: Pick<Decoding, 'tables' | 'luminance'>,
): EdgeMeasurement {
  const { width, height, channels, data, bitDepth } = window;
  const count = width * height;
  const luma = new Float64Array(count);
  const top = 2 ** bitDepth - 1;
  const [red, green, blue] = tables;
  const [wr, wg, wb] = luminance;
  const [g, b] = channels === 3 ? [1, 2] : [0, 0];
  const tops = [0, 0, 0];
  const zeros = [0, 0, 0];
  for (let i = 0, at = 0; i < count; i++, at += channels) {
    const codes = [data[at], data[at + g], data[at + b]];
    luma[i] = wr * red[codes[0]] + wg * green[codes[1]] + wb * blue[codes[2]];
    for (let c = 0; c < 3; c++)
      if (codes[c] === top) tops[c]++;
      else if (codes[c] === 0) zeros[c]++;
  }
  return {
    result: measureEdge({ width, height, data: luma }),
    topShare: Math.max(...tops) / count,
    zeroShare: Math.max(...zeros) / count,
    codeStep: Math.round(codeStep(window) / (window.step ?? 1)),
  };
}

/** Distance between the fifth and the ninety-fifth of a hundred codes of green (or gray). */
function codeStep({ data, channels, bitDepth }: Picture): number {
  const histogram = new Uint32Array(2 ** bitDepth);
  for (let i = channels === 3 ? 1 : 0; i < data.length; i += channels) histogram[data[i]]++;
  const count = data.length / channels;
  const codeAt = (share: number) => {
    let seen = 0;
    return histogram.findIndex((n) => (seen += n) > share * (count - 1));
  };
  return codeAt(0.95) - codeAt(0.05);
}
