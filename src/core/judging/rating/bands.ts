/** The bounds that words and scores rest on, and how other ones are set. */
import { z } from 'zod';

export interface Band {
  word: string;
  /** Up to and including this size. */
  upTo: number;
}

export interface Bands {
  /** Size of the strength error, in stops. */
  strength: readonly Band[];
  /** CIEDE2000 from gray at L* 50. */
  cast: readonly Band[];
  /** What sharpness loses: one less the MTF50 ratio. */
  sharpness: readonly Band[];
  /** What the darkest corner loses, in stops. */
  corners: readonly Band[];
  /** What a polarizer lets through of light that it should stop, as extinction in stops. Our own judgement. */
  extinction: readonly Band[];
  /** Two neighbors are merged below this share of the labelled step. */
  mergedBelow: number;
}

export const DEFAULT_BANDS: Bands = {
  strength: [
    { word: 'true', upTo: 1 / 3 },
    { word: 'close', upTo: 2 / 3 },
    { word: 'off', upTo: Infinity },
  ],
  cast: [
    { word: 'neutral', upTo: 1 },
    { word: 'slight', upTo: 2.3 },
    { word: 'visible', upTo: 5 },
    { word: 'strong', upTo: Infinity },
  ],
  sharpness: [
    { word: 'none lost', upTo: 0.03 },
    { word: 'slight', upTo: 0.1 },
    { word: 'soft', upTo: Infinity },
  ],
  corners: [
    { word: 'clean', upTo: 0.1 },
    { word: 'slight', upTo: 0.33 },
    { word: 'visible', upTo: 0.66 },
    { word: 'strong', upTo: Infinity },
  ],
  extinction: [
    { word: 'weak', upTo: 3 },
    { word: 'fair', upTo: 6 },
    { word: 'full', upTo: Infinity },
  ],
  mergedBelow: 0.5,
};

const rising = (count: number) =>
  z
    .array(z.number().positive('A bound is a number above 0.').max(1000))
    .length(count)
    .refine((bounds) => bounds.every((bound, i) => i === 0 || bound > bounds[i - 1]), {
      error: 'Each bound lies above the one before.',
    });

/** Bounds as they are edited and kept: the words stay. */
export const boundsSchema = z.object({
  strength: rising(2),
  cast: rising(3),
  sharpness: rising(2),
  corners: rising(3),
  extinction: rising(2),
  mergedBelow: z.number().min(0.05).max(0.95),
});

export type Bounds = z.infer<typeof boundsSchema>;

type Quality = 'strength' | 'cast' | 'sharpness' | 'corners' | 'extinction';

/** The bounds of bands. */
export function boundsOf(bands: Bands): Bounds {
  const of = (quality: Quality) => bands[quality].map((band) => band.upTo).filter(Number.isFinite);
  return {
    strength: of('strength'),
    cast: of('cast'),
    sharpness: of('sharpness'),
    corners: of('corners'),
    extinction: of('extinction'),
    mergedBelow: bands.mergedBelow,
  };
}

/** Bands of the usual words with other bounds. */
export function bandsOf(bounds: Bounds): Bands {
  const of = (quality: Quality): Band[] =>
    DEFAULT_BANDS[quality].map(({ word }, i) => ({ word, upTo: bounds[quality][i] ?? Infinity }));
  return {
    strength: of('strength'),
    cast: of('cast'),
    sharpness: of('sharpness'),
    corners: of('corners'),
    extinction: of('extinction'),
    mergedBelow: bounds.mergedBelow,
  };
}

/** The band that a size falls in. */
export function bandOf(size: number, bands: readonly Band[]): Band {
  return bands.find((band) => size <= band.upTo) ?? bands[bands.length - 1];
}

/**
 * Every band that the interval `value ± u95` of a signed error touches by its size: one word when the 95 % interval lies
 * inside a band (guard band as wide as u95, JCGM 106:2012, 8.3), several otherwise.
 */
export function bandsTouched(value: number, u95: number, bands: readonly Band[]): string[] {
  if (!(u95 >= 0)) return bands.map((band) => band.word);
  const low = value - u95;
  const high = value + u95;
  const smallest = low <= 0 && high >= 0 ? 0 : Math.min(Math.abs(low), Math.abs(high));
  const largest = Math.max(Math.abs(low), Math.abs(high));
  return bands
    .filter((band, i) => largest > (i === 0 ? -1 : bands[i - 1].upTo) && smallest <= band.upTo)
    .map((band) => band.word);
}
