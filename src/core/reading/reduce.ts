/** What is read of a picture for each patch, and how it is reduced at once. */
import type { Vector3 } from '../formulas/color/spaces';
import { centerSquare, pixelsOfRect, type Picture, type PixelRect } from './window';
import { reducePatch, type PatchStatistics } from './patchStatistics';
import { reduceView, type SceneView } from '../laying/sceneView';
import { carryRect, type ViewState } from '../laying/carry';
import type { Patch } from '../session/schema';
import { reduceField, type FieldStatistics } from '../measures/shading/field';
import { measureEdge, type EdgeResponse, type RefusedEdge } from '../measures/sharpness/edge';
import type { PictureFacts, WindowRect } from './source';
import { convertPrimaries, type Decoding } from './decoding';

/** An edge in one picture, with what its codes allow. */
export interface EdgeMeasurement {
  result: EdgeResponse | RefusedEdge;
  /** Shares of pixels at the ends of the code range, the worst channel. */
  topShare: number;
  zeroShare: number;
  /** Codes between the dark and the bright side, the channel that weighs most. */
  codeStep: number;
}

export interface Reduced {
  level?: PatchStatistics;
  field?: FieldStatistics;
  edge?: EdgeMeasurement;
  /** The codes themselves, for a patch that may be moved a little later. */
  codes?: Picture;
  /** All of it, for laying it on another picture. */
  view?: SceneView;
}

/** A patch of the session, or one that the program adds: `middle` is the center square of a gray card. */
export interface MeasuredPatch extends Pick<Patch, 'id' | 'scene' | 'rect'> {
  role: Patch['role'] | 'middle';
}

export interface WindowRequest {
  patch: MeasuredPatch;
  kind: keyof Reduced;
  pixels: WindowRect;
}

/** The windows that a picture's patches need: levels, whole fields, edges. */
export function requestsOf(patches: readonly MeasuredPatch[], facts: PictureFacts, view: ViewState): WindowRequest[] {
  return patches.flatMap((patch): WindowRequest[] => {
    const pixels = pixelsOf(patch, facts, view);
    switch (patch.role) {
      case 'edge':
        return [{ patch, kind: 'edge', pixels: { ...pixels, luma: true } }];
      case 'field':
        return [
          { patch, kind: 'level', pixels: centerSquare(pixels, facts.width) },
          { patch, kind: 'field', pixels },
        ];
      case 'frame':
      case 'middle':
        return [{ patch, kind: 'level', pixels: centerSquare(pixels, facts.width) }];
      default:
        return [{ patch, kind: 'level', pixels }];
    }
  });
}

function pixelsOf(patch: MeasuredPatch, facts: PictureFacts, view: ViewState): PixelRect {
  const rect = view.kind === 'moved' && patch.role !== 'field' ? carryRect(patch.rect, view.pose, facts) : patch.rect;
  return (
    pixelsOfRect(rect, facts.width, facts.height) ?? {
      x: Math.min(facts.width - 1, Math.floor(rect.x * facts.width)),
      y: Math.min(facts.height - 1, Math.floor(rect.y * facts.height)),
      width: 1,
      height: 1,
    }
  );
}

/** Reduces one window by its request. */
export function reduceWindow(
  window: Picture,
  request: WindowRequest,
  frameWidth: number,
  { tables: table, conversion, luminance }: Decoding,
): Reduced {
  switch (request.kind) {
    case 'level':
      return { level: convertPrimaries(reducePatch(window, table), conversion) };
    case 'field':
      return { field: reduceField(window, table, Math.floor(0.05 * frameWidth)) };
    case 'edge':
      return { edge: reduceEdge(window, table, luminance) };
    case 'codes':
      return { codes: window };
    case 'view':
      return { view: reduceView(window, { tables: table, conversion, luminance }) };
  }
}

function reduceEdge(window: Picture, table: readonly Float64Array[], luminance: Vector3): EdgeMeasurement {
  const { width, height, channels, data, bitDepth } = window;
  const count = width * height;
  const luma = new Float64Array(count);
  const top = 2 ** bitDepth - 1;
  const [red, green, blue] = table;
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
  const worst = { top: Math.max(...tops) / count, zero: Math.max(...zeros) / count };
  return {
    result: measureEdge({ width, height, data: luma }),
    topShare: worst.top,
    zeroShare: worst.zero,
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
