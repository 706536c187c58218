/** What was seen of a session's patches, picture by picture. */
import type { FieldStatistics } from '../measures/shading/field';
import type { EdgeMeasurement } from '../measures/sharpness/reduceEdge';
import type { Fault } from '../session/readings';
import type { MeasuredPatch } from './asked';
import type { PatchStatistics } from './patchStatistics';
import type { PixelRect } from './window';

/** One picture's moment beside what a measure took from it. */
export interface Observation<T> {
  take: string;
  file: string;
  /** `null` for bare. */
  filter: string | null;
  timeMs: number;
  /** Whether it is a frame of a clip. */
  frame?: boolean;
  value: T;
}

/** An edge in one picture, with where it lay there. */
export type EdgeObservation = Observation<EdgeMeasurement> & { pixels: PixelRect };

/** One picture's patch with the settings it was shot at. */
export interface PatchSample {
  take: string;
  file: string;
  /** `null` for bare. */
  filter: string | null;
  timeMs: number;
  /** log2 of t·ISO/N². */
  exposureLog2: number;
  /** Half of what its shutter's two meanings lie apart, stops; see `markDoubt`. */
  markDoubt?: number;
  /** Whether it is a frame of a clip. */
  frame?: boolean;
  /** What the filter was set to (ring angle, mark): pictures of different settings are no repeats of each other. */
  setting?: string;
  /** One of a series over ring angles or marks: no repeat of any other, even where the same setting is noted. */
  inSeries?: boolean;
  /** What the session says and what the file itself says; they use words of their own. */
  whiteBalance?: { said: string | number | null; own: string | null };
  statistics: PatchStatistics;
}

/** One patch in all pictures of its scene. */
export interface ObservedPatch {
  patch: MeasuredPatch;
  /** Levels, for roles that have them. */
  samples: PatchSample[];
  /** Levels of bracket takes, by which a chosen response can be checked. */
  bracket: PatchSample[];
  fields: Observation<FieldStatistics>[];
  edges: EdgeObservation[];
}

/** A fault with the filter it concerns; `null` for bare takes and the session as a whole. */
export interface FoundFault {
  filter: string | null;
  fault: Fault;
}
