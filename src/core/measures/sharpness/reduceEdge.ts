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
  const tops = new Float64Array(3);
  const zeros = new Float64Array(3);
  const note = (code: number, channel: number) => {
    if (code === top) tops[channel]++;
    else if (code === 0) zeros[channel]++;
  };
  for (let i = 0, at = 0; i < count; i++, at += channels) {
    const [one, two, three] = [data[at], data[at + g], data[at + b]];
    luma[i] = wr * red[one] + wg * green[two] + wb * blue[three];
    note(one, 0);
    note(two, 1);
    note(three, 2);
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
