/** In what a bench is off: its distances from the others, over all filters that they have in common. */
import { coverageFactor } from '../../formulas/statistics/distributions';
import type { Reading } from '../../session/readings';

export interface FilterOff {
  filter: string;
  /** What the others found. */
  stops: number;
  /** The bench less the others, stops. */
  off: Reading;
}

/**
 * `response`: all filters in proportion to their strength; `light`: all by the same; `marks`: single ones by a step of a dial; `filters`: single
 * ones by something else; `scatter`: more than the ± say, without a pattern; `none`: nothing beyond the ±.
 */
export type OffIn = 'none' | 'response' | 'light' | 'marks' | 'filters' | 'scatter';

export interface Pattern {
  what: OffIn;
  /** For each stop of strength; for `response`. */
  slope?: Reading;
  /** Of every filter; for `light`. */
  offset?: Reading;
  /** Those that are off beyond the others, and by which step of a dial; for `marks` and `filters`. */
  single?: { filter: string; off: Reading; step: number | null }[];
}

/** Steps of shutter and ISO dials, stops. */
const STEPS = [1 / 3, 1 / 2, 2 / 3, 1, 2];
/** A line through fewer filters, or through filters of nearly one strength, tells no slope. */
const LEAST_FILTERS = 3;
const LEAST_SPAN = 2;
/** So many standard uncertainties make a pattern: there are four to choose from. */
const REAL = 3;

/**
 * Tries the simplest explanation first: nothing, one distance for all, one in proportion to strength, single filters; each must leave no more
 * than the ± behind.
 */
export function patternOf(all: readonly FilterOff[]): Pattern {
  if (all.length === 0 || fits(all, () => 0)) return { what: 'none' };
  if (all.length >= LEAST_FILTERS) {
    const offset = meanOf(all, () => 1);
    const slope = meanOf(all, ({ stops }) => stops);
    const level = isReal(offset) && fits(all, () => offset.value);
    const inclined = spanOf(all) >= LEAST_SPAN && isReal(slope) && fits(all, ({ stops }) => slope.value * stops);
    const better = chi(all, ({ stops }) => slope.value * stops) < chi(all, () => offset.value);
    if (inclined && (better || !level)) return { what: 'response', slope };
    if (level) return { what: 'light', offset };
  }
  const single = all.flatMap(({ filter, off }) =>
    isReal(off) ? [{ filter, off, step: STEPS.find((one) => isStep(off, one)) ?? null }] : [],
  );
  const rest = all.filter(({ filter }) => !single.some((one) => one.filter === filter));
  // Most filters off, each by something else, is a bench that scatters.
  if (single.length === 0 || rest.length < single.length || !fits(rest, () => 0)) return { what: 'scatter' };
  return { what: single.every(({ step }) => step !== null) ? 'marks' : 'filters', single };
}

const isReal = ({ value, u95 }: Reading) => Math.abs(value) > (REAL / 2) * u95;
/** A step of a dial within the ±, which must tell steps apart. */
const isStep = ({ value, u95 }: Reading, step: number) =>
  u95 < 1 / 12 && Math.abs(Math.abs(value) - step) <= u95 + 0.02;
const spanOf = (all: readonly FilterOff[]) =>
  Math.max(...all.map(({ stops }) => stops)) - Math.min(...all.map(({ stops }) => stops));

/** Σ((off − model)/u)². */
function chi(all: readonly FilterOff[], model: (one: FilterOff) => number): number {
  return all.reduce((sum, one) => sum + ((one.off.value - model(one)) / (one.off.u95 / 2)) ** 2, 0);
}

/** Whether no filter lies farther from a model than three standard uncertainties, nor all of them together by more than their ± would let them. */
function fits(all: readonly FilterOff[], model: (one: FilterOff) => number): boolean {
  const farthest = Math.max(...all.map((one) => Math.abs(one.off.value - model(one)) / (one.off.u95 / 2)));
  // χ² has the mean n and the variance 2n: three deviations above it.
  return farthest <= REAL && chi(all, model) <= all.length + REAL * Math.sqrt(2 * all.length);
}

/** Least squares of off = a·x by weights 1/u². */
function meanOf(all: readonly FilterOff[], x: (one: FilterOff) => number): Reading {
  let [top, bottom] = [0, 0];
  for (const one of all) {
    const weight = 4 / one.off.u95 ** 2;
    top += weight * x(one) * one.off.value;
    bottom += weight * x(one) ** 2;
  }
  return { value: top / bottom, u95: coverageFactor(Infinity) / Math.sqrt(bottom) };
}
