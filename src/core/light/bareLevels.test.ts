/** The shares by which bare light is uncertain between takes, each by a case whose answer is a closed form. */
import { commonMode, diagonal, zeroCovariance } from '../formulas/statistics/covariance';
import type { Triple } from '../reading/patchStatistics';
import { bareLevelAt, buildBareSeries, significant, type BareLevel } from './bareLevels';

const MINUTE = 60_000;
const QUIET = diagonal([1e-6, 1e-6, 1e-6]);

function bare(minute: number, stops: number, noise = QUIET): BareLevel {
  return {
    takes: [`bare ${minute}`],
    timeMs: minute * MINUTE,
    level: [stops, stops, stops] as Triple,
    noise,
    flicker: zeroCovariance(),
  };
}
const driftU = (levels: readonly BareLevel[], minute: number) =>
  Math.sqrt(bareLevelAt(buildBareSeries(levels), minute * MINUTE).drift[4]);

test('a step between two bare takes leaves a quarter of a random walk’s variance: a fourth of the step in the middle', () => {
  // √(0.25 · ½ · ½) = ¼.
  expect(driftU([bare(0, 0), bare(10, 0.1)], 5)).toBeCloseTo(0.025, 6);
  // √(0.25 · 0.2 · 0.8) = 0.2.
  expect(driftU([bare(0, 0), bare(10, 0.1)], 2)).toBeCloseTo(0.02, 6);
});

test('what noise common to the channels explains of a step is no drift', () => {
  const noisy = commonMode(0.05);
  expect(driftU([bare(0, 0, noisy), bare(10, 0.1, noisy)], 5)).toBe(0);
});

test('before the first and after the last bare take the slope seen elsewhere is what isn’t known', () => {
  const levels = [bare(0, 0), bare(5, 0.03), bare(10, 0.06)];
  // 0.006 stop a minute, five minutes on.
  expect(driftU(levels, 15)).toBeCloseTo(0.03, 6);
  expect(driftU(levels, -5)).toBeCloseTo(0.03, 6);
});

test('one departure from the line is shared between a bend (0.6 of it) and wander (0.3 of its square)', () => {
  const departure = 0.08;
  const levels = [bare(0, 0), bare(5, departure), bare(10, 0)];
  // Half-way into a five-minute interval: the bend misses s·h²/4 of s·h², h = 5; the bridge of 2.5 minutes holds 1.25.
  const bend = 0.6 * (departure / 4);
  const wander = Math.sqrt((0.3 / 2.5) * 1.25) * departure;
  expect(driftU(levels, 2.5)).toBeCloseTo(Math.hypot(bend, wander), 5);
});

test('departures that all bend alike are a bend and nothing else', () => {
  // A parabola: every inner take departs by the same c·h₁h₂.
  const levels = [0, 4, 8, 12, 16].map((minute) => bare(minute, 0.001 * minute ** 2));
  // In the middle of an interval of 4 the line is off by 0.001 · 4.
  expect(driftU(levels, 6)).toBeCloseTo(0.6 * 0.004, 6);
});

test('departures of changing sign are wander: a Brownian bridge between takes', () => {
  const levels = [0, 5, 10, 15, 20, 25].map((minute, i) => bare(minute, i % 2 === 0 ? 0 : 0.05));
  const series = buildBareSeries(levels);
  expect(Math.abs(series.bend[1])).toBeLessThan(1e-9);
  // Departures ±0.05 · 2 /… each lies 0.05 off the line of its neighbors; bridge 2.5 min; three degrees of freedom of four departures.
  const variance = (4 * 0.05 ** 2) / 2.5 / 3;
  expect(driftU(levels, 7.5) ** 2).toBeCloseTo(variance * 1.25, 5);
  expect(series.wanderFreedom).toBe(3);
});

test('inside a jump u95 reaches a twentieth past the farther side', () => {
  const levels = [bare(0, 0), bare(5, 0), bare(10, 0.4), bare(15, 0.4)];
  expect(2 * driftU(levels, 6)).toBeCloseTo((2 * 0.4 * 0.8) / 1.9, 5);
  expect(driftU(levels, 2)).toBeLessThan(1e-3);
});

test('a difference up to 0.15 stop has no name, a larger one is a drift or a jump', () => {
  const trend = (...stops: number[]) => buildBareSeries(stops.map((value, i) => bare(5 * i, value))).trend;
  expect(trend(0, 0.05, 0.1, 0.149)).toBeNull();
  expect(trend(0, 0.05, 0.1, 0.151)).toBe('light-drifted');
  expect(trend(0, 0.16)).toBe('light-jumped');
  // The middle lies a fifth of the difference off the straight line at most.
  expect(trend(0, 0.125, 0.2)).toBe('light-drifted');
  expect(trend(0, 0.19, 0.2)).toBe('light-jumped');
  // All the same way, no step over six tenths of all: still a drift.
  expect(trend(0, 0.01, 0.11, 0.2)).toBe('light-drifted');
  expect(trend(0, 0.01, 0.15, 0.2)).toBe('light-jumped');
});

test('squares count as more than noise above their own 97.5 % (normal approximation of χ²)', () => {
  // Two degrees: 1 + 2·√(2/2) = 3; eight: 1 + 2·√(2/8) = 2.
  expect([significant(3.001, 2), significant(2.999, 2), significant(2.001, 8), significant(1.999, 8)]).toEqual([
    true,
    false,
    true,
    false,
  ]);
});

test('takes of one moment are one level, their noise that of a mean', () => {
  const noise = diagonal([0.01, 0.01, 0.01]);
  const series = buildBareSeries([bare(0, 0, noise), bare(0, 0.02, noise), bare(5, 0.01, noise)]);
  expect(series.levels.map((level) => level.takes.length)).toEqual([2, 1]);
  expect(series.levels[0].level[1]).toBeCloseTo(0.01, 12);
  expect(series.levels[0].noise[0]).toBeCloseTo(0.0001 / 2, 12);
});
