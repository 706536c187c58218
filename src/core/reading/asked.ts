/** What is asked of a picture, and what it is reduced to. */
import type { SceneView } from '../laying/sceneView';
import type { PlaceGrid } from '../light/camera/placeGrid';
import type { Decoding } from '../light/decoding';
import type { FieldStatistics } from '../measures/shading/field';
import type { EdgeMeasurement } from '../measures/sharpness/reduceEdge';
import type { Patch } from '../session/schema';
import type { PictureFacts } from './facts';
import type { PatchStatistics } from './patchStatistics';
import type { Picture, PixelRect, WindowRect } from './window';

/** A patch of the session, or one that the program adds: `middle` is the center square of a gray card. */
export interface MeasuredPatch extends Pick<Patch, 'id' | 'scene' | 'rect'> {
  role: Patch['role'] | 'middle';
}

/** What windows are reduced to. */
export interface Reduced {
  level?: PatchStatistics;
  field?: FieldStatistics;
  edge?: EdgeMeasurement;
  /** The codes themselves, for a patch that may be moved a little later. */
  codes?: Picture;
  /** Small squares over all of it, from which the camera's curve is learned. */
  places?: PlaceGrid;
  /** All of it, for laying it on another picture. */
  view?: SceneView;
}

export interface WindowRequest {
  patch: MeasuredPatch;
  kind: keyof Reduced;
  pixels: WindowRect;
}

/** What to take from a picture: plain data, so that another thread can do it. */
export interface ReadPlan {
  requests: WindowRequest[];
  decoding: Decoding;
}

/**
 * What a measure wants to see of a patch, from the patch's pixels in this picture; `null` where it has no use for such a patch.
 */
export type AskWindow = (patch: MeasuredPatch, pixels: PixelRect, facts: PictureFacts) => WindowRequest | null;
