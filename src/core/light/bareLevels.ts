/**
 * The bare level over time: interpolated in log light between the bare takes around a moment; before the first and
 * after the last the nearest is held (formats.md). How far bare takes depart from a straight line between their
 * neighbors tells how little the interpolation can know.
 */
import { accumulate, excess, outer, scaled, zeroCovariance, type Covariance } from '../formulas/statistics/covariance';
import type { Triple } from '../reading/patchStatistics';

/** One bare take of a patch: log2 of level per exposure, and the covariance of its noise. */
export interface BareLevel {
  /** Several where takes of one moment were merged. */
  takes: string[];
  timeMs: number;
  level: Triple;
  noise: Covariance;
  /** What repeats scatter beyond their noise, of this take's mean: no sign of light that moved. */
  flicker: Covariance;
}

export interface BareSeries {
  /** By time, takes of the same moment merged. */
  levels: BareLevel[];
  /** Variance per millisecond of a wandering light (Brownian bridge between bare takes), by channel. */
  wander: Covariance;
  /** Steady bend of the light: stops per square millisecond, so that a straight line is off by bend·(t − t₁)(t₂ − t). */
  bend: Triple;
  wanderFreedom: number;
  /** Mean slope in stops per millisecond, for times outside the bare takes. */
  slope: Triple;
  /** Largest difference between bare takes, in stops of the luminance-like mean. */
  difference: number;
  /** What that difference looks like; `null` when it is small. */
  trend: 'light-drifted' | 'light-jumped' | null;
  /** The interval (index of its first bare take) with the jump. */
  jumpAfter: number | null;
}

export interface BareAt {
  level: Triple;
  /** Weight of each bare take of the series. */
  weights: number[];
  /** What the interpolation can't know. */
  drift: Covariance;
}

/** Above this difference between bare takes of a scene the light is called drifted or jumped (formats.md). */
export const LIGHT_FAULT_STOPS = 0.15;

/**
 * A steady bend is an error of known size that the straight line of the definition leaves in: its standard uncertainty is this share of it,
 * so that u95 reaches a fifth past it.
 */
const BEND_SHARE = 0.6;
/** A take inside a jump saw either side: u95 (two of these) reaches to the farther one, and a twentieth past it. */
const JUMP_SHARE = 1 / 1.9;
/**
 * Two bare takes can't tell a steady drift from a step. This share of the variance that a random walk between them would have is our
 * allowance for lamps and daylight, which mostly move steadily. Our own judgement.
 */
const WALK_SHARE = 0.25;
/** Of one departure from the line a bend and a wandering light can't be told apart: this share of its square counts as wander. Our own judgement. */
const WANDER_SHARE = 0.3;

/** A sample of squared deviations counts as more than noise above this: one-sided 97.5 %, normal approximation. */
export function significant(ratio: number, freedom: number): boolean {
  return ratio > 1 + 2 * Math.sqrt(2 / freedom);
}

/** Orders bare takes and learns how the light moved. */
export function buildBareSeries(takes: readonly BareLevel[]): BareSeries {
  const levels = mergeMoments([...takes].sort((a, b) => a.timeMs - b.timeMs));
  const gray = levels.map((bare) => (bare.level[0] + bare.level[1] + bare.level[2]) / 3);
  const difference = gray.length > 1 ? Math.max(...gray) - Math.min(...gray) : 0;
  const slope = fitSlope(levels);
  const { trend, jumpAfter } =
    difference > LIGHT_FAULT_STOPS ? describeTrend(levels, gray, difference) : { trend: null, jumpAfter: null };
  return { levels, ...learnWander(levels, jumpAfter), slope, difference, trend, jumpAfter };
}

/** The bare level at a moment. The series has at least one level. */
export function bareLevelAt(series: BareSeries, timeMs: number): BareAt {
  const { levels } = series;
  const last = levels.length - 1;
  const weights = levels.map(() => 0);
  if (last === 0 || timeMs <= levels[0].timeMs || timeMs >= levels[last].timeMs) {
    const nearest = last > 0 && timeMs >= levels[last].timeMs ? last : 0;
    weights[nearest] = 1;
    const away = Math.abs(timeMs - levels[nearest].timeMs);
    const drift = outer(series.slope.map((slope) => slope * away));
    accumulate(drift, series.wander, away);
    return { level: levels[nearest].level, weights, drift };
  }
  let before = 0;
  while (levels[before + 1].timeMs < timeMs) before++;
  const from = levels[before];
  const to = levels[before + 1];
  const span = to.timeMs - from.timeMs;
  const f = (timeMs - from.timeMs) / span;
  weights[before] = 1 - f;
  weights[before + 1] = f;
  const level = from.level.map((value, c) => value + f * (to.level[c] - value)) as Triple;
  const drift = scaled(series.wander, span * f * (1 - f));
  accumulate(drift, outer(series.bend.map((bend) => BEND_SHARE * bend * span * span * f * (1 - f))));
  const step = from.level.map((value, c) => to.level[c] - value);
  if (series.jumpAfter === before) {
    accumulate(drift, outer(step.map((value) => value * Math.max(f, 1 - f) * JUMP_SHARE)));
  } else if (levels.length === 2) {
    const within = [from.noise, from.flicker, to.noise, to.flicker].reduce(
      (sum, part) => accumulate(sum, part, 4),
      zeroCovariance(),
    );
    const beyond = excess(outer(step), within);
    accumulate(drift, beyond, WALK_SHARE * f * (1 - f));
  }
  return { level, weights, drift };
}

function mergeMoments(sorted: BareLevel[]): BareLevel[] {
  const merged: BareLevel[] = [];
  let alike: BareLevel[] = [];
  const flush = () => {
    if (alike.length === 0) return;
    const n = alike.length;
    const noise = zeroCovariance();
    const flicker = zeroCovariance();
    for (const bare of alike) {
      accumulate(noise, bare.noise, 1 / (n * n));
      accumulate(flicker, bare.flicker, 1 / (n * n));
    }
    const level = [0, 1, 2].map((c) => alike.reduce((sum, bare) => sum + bare.level[c], 0) / n) as Triple;
    merged.push({ ...alike[0], takes: alike.flatMap((bare) => bare.takes), level, noise, flicker });
    alike = [];
  };
  for (const bare of sorted) {
    if (alike.length > 0 && alike[0].timeMs !== bare.timeMs) flush();
    alike.push(bare);
  }
  flush();
  return merged;
}

function fitSlope(levels: BareLevel[]): Triple {
  if (levels.length < 2) return [0, 0, 0];
  const meanTime = levels.reduce((sum, bare) => sum + bare.timeMs, 0) / levels.length;
  const spread = levels.reduce((sum, bare) => sum + (bare.timeMs - meanTime) ** 2, 0);
  return [0, 1, 2].map(
    (c) => levels.reduce((sum, bare) => sum + (bare.timeMs - meanTime) * bare.level[c], 0) / spread,
  ) as Triple;
}

/** Several takes on one slope drift; anything else jumped, at the largest step. */
function describeTrend(
  levels: BareLevel[],
  gray: number[],
  difference: number,
): Pick<BareSeries, 'trend' | 'jumpAfter'> {
  const steps = gray.slice(1).map((value, i) => value - gray[i]);
  const jump = steps.reduce((best, step, i) => (Math.abs(step) > Math.abs(steps[best]) ? i : best), 0);
  if (levels.length >= 3) {
    const meanTime = levels.reduce((sum, bare) => sum + bare.timeMs, 0) / levels.length;
    const mean = gray.reduce((sum, value) => sum + value, 0) / gray.length;
    const spread = levels.reduce((sum, bare) => sum + (bare.timeMs - meanTime) ** 2, 0);
    const slope = levels.reduce((sum, bare, i) => sum + (bare.timeMs - meanTime) * gray[i], 0) / spread;
    const worst = Math.max(...levels.map((bare, i) => Math.abs(gray[i] - mean - slope * (bare.timeMs - meanTime))));
    if (worst <= 0.2 * difference) return { trend: 'light-drifted', jumpAfter: null };
    const sameWay = steps.every((step) => Math.sign(step) === Math.sign(steps[jump]));
    if (sameWay && levels.length >= 4 && Math.abs(steps[jump]) < 0.6 * difference)
      return { trend: 'light-drifted', jumpAfter: null };
  }
  return { trend: 'light-jumped', jumpAfter: jump };
}

interface Departure {
  /** Stops that an inner bare take lies off the line between its neighbors. */
  stops: number[];
  noise: Covariance;
  /** h₁·h₂ and h₁ + h₂ of the intervals around it, ms² and ms. */
  product: number;
  sum: number;
}

/**
 * What departures from a straight line tell: light that bends steadily (a lamp warming up) departs by bend·h₁h₂
 * everywhere; light that wanders departs at random, by a Brownian bridge's variance q·h₁h₂/(h₁ + h₂). With one
 * departure the two can't be told apart and it is split between them. Departures within their noise count as none.
 */
function learnWander(
  levels: BareLevel[],
  jumpAfter: number | null,
): Pick<BareSeries, 'wander' | 'wanderFreedom' | 'bend'> {
  const departures: Departure[] = [];
  for (let i = 1; i < levels.length - 1; i++)
    if (jumpAfter !== i && jumpAfter !== i - 1) departures.push(departureAt(levels, i));
  const count = departures.length;
  const none = { wander: zeroCovariance(), wanderFreedom: Infinity, bend: [0, 0, 0] as Triple };
  const ratio = (of: (departure: Departure) => number[]) =>
    departures.reduce(
      (sum, one) => sum + of(one).reduce((part, d, c) => part + d ** 2 / Math.max(one.noise[4 * c], 1e-18) / 3, 0),
      0,
    );
  if (count === 0 || !significant(ratio((one) => one.stops) / count, count)) return none;

  const bend = [0, 1, 2].map(
    (c) => departures.reduce((sum, one) => sum + one.stops[c] / one.product, 0) / count,
  ) as Triple;
  if (count === 1) {
    const [only] = departures;
    const bridge = only.product / only.sum;
    return {
      bend,
      wander: excess(scaled(outer(only.stops), WANDER_SHARE / bridge), scaled(only.noise, WANDER_SHARE / bridge)),
      wanderFreedom: Infinity,
    };
  }
  const rest = (one: Departure) => one.stops.map((d, c) => d - bend[c] * one.product);
  const freedom = count - 1;
  if (!significant(ratio(rest) / freedom, freedom)) return { ...none, bend };
  const sample = zeroCovariance();
  const expected = zeroCovariance();
  for (const one of departures) {
    const bridge = one.product / one.sum;
    accumulate(sample, outer(rest(one)), 1 / (bridge * freedom));
    accumulate(expected, one.noise, 1 / (bridge * count));
  }
  return { bend, wander: excess(sample, expected), wanderFreedom: freedom };
}

function departureAt(levels: BareLevel[], i: number): Departure {
  const [before, at, after] = [levels[i - 1], levels[i], levels[i + 1]];
  const h1 = at.timeMs - before.timeMs;
  const h2 = after.timeMs - at.timeMs;
  const f = h1 / (h1 + h2);
  const noise = zeroCovariance();
  for (const [one, weight] of [
    [before, 1 - f],
    [at, 1],
    [after, f],
  ] as const) {
    accumulate(noise, one.noise, weight ** 2);
    accumulate(noise, one.flicker, weight ** 2);
  }
  return {
    stops: at.level.map((value, c) => value - (1 - f) * before.level[c] - f * after.level[c]),
    noise,
    product: h1 * h2,
    sum: h1 + h2,
  };
}
