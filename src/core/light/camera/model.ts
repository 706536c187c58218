/** What is asked of an estimate of a camera's response, and what it answers. */

import type { LocalTone } from './localTone';

/** One picture: repeats of a take count as one. */
export interface PictureEvidence {
  take: string;
  scene: number;
  /** Which strength it was shot through, of a filter in one scene; `null` for bare. */
  strength: number | null;
  /** log2 of t·ISO/N², from the scene's first picture. */
  exposure: number;
  /** 0…1 over the sitting. */
  moment: number;
  /** Median light, stops from full scale: what adapting tone goes by. */
  median: number;
}

/** One place in one picture. */
export interface PlaceEvidence {
  picture: number;
  place: number;
  /** log2 of light by the declared curve, per channel; 0 is full scale. */
  y: readonly [number, number, number];
  /** Covariance of its errors, stops². */
  covariance: Float64Array;
  /** The picture's luma here over its own blur, less one. */
  contrast: number;
  /** Its luma, share of full scale of the code. */
  luma: number;
  /** Stops of light for e-fold more code, by the declared curve, per channel. */
  gain: readonly [number, number, number];
}

export interface Evidence {
  pictures: readonly PictureEvidence[];
  /** By place: its scene, and where it lies from the frame's middle, in half diagonals. */
  places: readonly { scene: number; x: number; y: number }[];
  observations: readonly PlaceEvidence[];
  scenes: number;
  strengths: number;
  /** What one bare picture shows of contrast that is changed place by place. */
  local?: LocalTone;
}

/** A session that shows nothing of its camera's curve. */
export const NO_EVIDENCE: Evidence = { pictures: [], places: [], observations: [], scenes: 0, strengths: 0 };

export interface ResponseEstimate {
  /** η at the knots, then each channel's own departures. */
  knots: Float64Array;
  /** Their posterior covariance. */
  covariance: Float64Array;
  /** Slope with the pictures' median light, and its standard uncertainty: automatic tone. */
  automatic: { value: number; u: number };
  /** Whether it adapts beyond doubt; else it is taken to stay as it is. */
  adapts: boolean;
  /** What adaptation there may be, found or not: its size and its uncertainty, before it was decided. */
  suspected: number;
  /** The same where pictures can't tell it from the curve, which took it up for places as bright as their pictures; else 0. */
  undecided: number;
  /** Median light that pictures have on average: from there they depart. */
  middle: number;
  /** By take, what its own slope departs by beside that. */
  slopeOf: ReadonlyMap<string, number>;
  /** Gain on local contrast at `luma`, its standard uncertainty, and the powers by which it goes toward black and white ({@link fromMiddle}). */
  local: LocalTone & { inDark: number; inLight: number };
  /** The same as one bare picture shows it, where it can. */
  localSeen: LocalTone | null;
  /** Standard deviations found: offsets of pictures (stops), their red and blue (stops), slopes of pictures. */
  offsets: number;
  balance: number;
  slopes: number;
  /** Largest known difference of exposure within one view, stops. */
  knownStops: number;
  /** The darkest light that pictures showed, a check's too, stops from full scale; −∞ where there are none. */
  darkest: number;
  sigma: number;
  /** Squares of what the observations depart by from it, in their uncertainties. */
  misfit: number;
  /** Change of light over the sitting in each scene, stops. */
  drifts: readonly number[];
  converged: boolean;
}

/** A curve that a check of this camera told, before a session's own pictures speak. */
export interface CheckedCurve {
  /** η at the knots, then each channel's own departures; their covariance and its inverse. */
  mean: Float64Array;
  covariance: Float64Array;
  precision: Float64Array;
  knownStops: number;
  /** What its tone may follow the picture by unseen, stops a stop for each stop: a camera whose tone does is given no check. */
  suspected: number;
  /** The darkest light that it reached, stops from full scale. */
  darkest: number;
  local?: LocalTone;
}

/** A difference of exposure of at least so many stops tells the slope. */
export const TELLING_STOPS = 0.25;
