/** What a kit is as a whole: its steps, how even its cast is, which shutters it gives, what stands in for what. */
import { mean } from '../../formulas/statistics/averages';
import { castColor } from '../../measures/cast/cast';
import { deltaE00 } from '../../formulas/color/lab';
import type { ColorSpace } from '../../formulas/color/spaces';
import { formatShutter, shutterMark } from '../../formulas/optics/exposure';
import { DEFAULT_BANDS, type Bands } from '../rating/bands';
import type { Reading } from '../../session/readings';

/** A filter as kits are compared by: what was measured of it, absent where it wasn't. */
export interface RankedFilter {
  filter: string;
  name: string;
  /** Labelled stops; `null` where nothing is engraved. */
  nominal: number | null;
  stops?: Reading;
  /** Found less labelled, stops. */
  error?: Reading;
  cast?: { a: Reading; b: Reading; gains: { r: number; g: number; b: number } };
  /** Sharpness kept at the softest edge. */
  kept?: Reading;
  /** The darkest corner, stops, negative is darker. */
  corner?: Reading;
  /** Of a polarizer, stops. */
  extinction?: Reading;
  /** Answers of handling: good ones, and all. */
  handling?: { good: number; answered: number };
}

export interface RankedKit {
  id: string;
  name: string;
  filters: RankedFilter[];
  price?: { amount: number; currency: string };
}

export type StepState = 'even' | 'merged' | 'gap' | 'reversed' | 'unsure';

export interface Step {
  from: string;
  to: string;
  labelled: number;
  found: Reading;
  /** Between these it is a step as such: below it is merged, above it a gap; stops. */
  limits: [number, number];
  state: StepState;
}

/** Labels closer than this are one label, stops. */
const SAME_LABEL = 0.2;

/**
 * Steps between neighbors by label. A word is given only when the 95 % interval allows no other: *merged* below `mergedBelow` of the
 * labelled step, *gap* as far above it, *reversed* below nothing.
 */
export function stepsOf(filters: readonly RankedFilter[], bands: Bands = DEFAULT_BANDS): Step[] {
  const row = filters
    .flatMap(({ name, nominal, stops }) => (nominal !== null && stops ? [{ name, nominal, stops }] : []))
    .sort((a, b) => a.nominal - b.nominal);
  return row.slice(1).flatMap((dark, i): Step[] => {
    const light = row[i];
    const labelled = dark.nominal - light.nominal;
    if (labelled < SAME_LABEL) return [];
    const found = {
      value: dark.stops.value - light.stops.value,
      u95: Math.hypot(dark.stops.u95, light.stops.u95),
    };
    const [low, high] = [found.value - found.u95, found.value + found.u95];
    const [merged, gap] = [bands.mergedBelow * labelled, (2 - bands.mergedBelow) * labelled];
    const state: StepState =
      high < 0
        ? 'reversed'
        : high < merged
          ? 'merged'
          : low > gap
            ? 'gap'
            : low >= merged && high <= gap
              ? 'even'
              : 'unsure';
    return [{ from: light.name, to: dark.name, labelled, found, limits: [merged, gap], state }];
  });
}

const LIGHTNESS = 50;

/** CIEDE2000 between the casts of two filters, both at L* 50. */
export function castApart(one: { a: number; b: number }, other: { a: number; b: number }): number {
  return deltaE00([LIGHTNESS, one.a, one.b], [LIGHTNESS, other.a, other.b]);
}

export interface Evenness {
  /** The two that differ most, and by how much. */
  pair: [string, string];
  largest: Reading;
  /** One correction for all: gains on linear R, G, B (geometric means), and the largest ΔE00 from gray that it leaves. */
  common: { r: number; g: number; b: number };
  residual: { filter: string; deltaE00: number };
}

/** How even the cast is over a kit; `null` where fewer than two casts were measured. */
export function evennessOf(filters: readonly RankedFilter[], space: ColorSpace): Evenness | null {
  const tinted = filters.flatMap(({ name, cast }) => (cast ? [{ name, ...cast }] : []));
  if (tinted.length < 2) return null;
  let worst: Evenness['pair'] = [tinted[0].name, tinted[1].name];
  let largest: Reading = { value: -1, u95: 0 };
  for (const [i, one] of tinted.entries())
    for (const other of tinted.slice(i + 1)) {
      const at = { a: one.a.value, b: one.b.value };
      const to = { a: other.a.value, b: other.b.value };
      const value = castApart(at, to);
      if (value <= largest.value) continue;
      // First order, by the change that each coordinate's ± makes.
      const by = [
        castApart({ ...at, a: at.a + one.a.u95 }, to),
        castApart({ ...at, b: at.b + one.b.u95 }, to),
        castApart(at, { ...to, a: to.a + other.a.u95 }),
        castApart(at, { ...to, b: to.b + other.b.u95 }),
      ];
      largest = { value, u95: Math.hypot(...by.map((changed) => changed - value)) };
      worst = [one.name, other.name];
    }
  const meanGain = (channel: 'r' | 'g' | 'b') => 2 ** mean(tinted.map(({ gains }) => Math.log2(gains[channel])));
  const common = { r: meanGain('r'), g: meanGain('g'), b: meanGain('b') };
  const left = tinted.map(({ name, gains }) => ({
    filter: name,
    deltaE00: castColor(
      [Math.log2(gains.r / common.r), Math.log2(gains.g / common.g), Math.log2(gains.b / common.b)],
      space,
    ).deltaE00,
  }));
  const residual = left.reduce((a, b) => (b.deltaE00 > a.deltaE00 ? b : a));
  return { pair: worst, largest, common, residual };
}

/** Bright sun and a dull evening, EV at ISO 100 (common practice, no source). */
export const BRIGHT_EV = 15;
export const DULL_EV = 9;

export interface Coverage {
  filter: string;
  stops: number;
  /** Seconds at ISO 100 and the aperture, in both lights. */
  bright: number;
  dull: number;
  /** Another filter gives the same within a third of a stop. */
  sameAs: string | null;
}

/** Shutters that the kit gives at ISO 100, lightest filter first. */
export function coverageOf(filters: readonly RankedFilter[], fNumber = 2.8): Coverage[] {
  const row = filters
    .flatMap(({ name, stops }) => (stops ? [{ name, stops: stops.value }] : []))
    .sort((a, b) => a.stops - b.stops);
  const seconds = (ev: number, stops: number) => fNumber ** 2 * 2 ** (stops - ev);
  return row.map(({ name, stops }, i) => ({
    filter: name,
    stops,
    bright: seconds(BRIGHT_EV, stops),
    dull: seconds(DULL_EV, stops),
    sameAs: i > 0 && stops - row[i - 1].stops < 1 / 3 ? row[i - 1].name : null,
  }));
}

/** The range in words: "1/640 s to 1/20 s in sun". */
export function coverageInWords(coverage: readonly Coverage[]): string {
  const [first, last] = [coverage[0], coverage[coverage.length - 1]];
  if (!first) return 'No strength was measured.';
  // As a dial has them: the figures behind are no finer than the light.
  const dial = (seconds: number) => formatShutter(shutterMark(seconds));
  return `At ISO 100 and f/2.8 it gives ${dial(first.bright)} to ${dial(last.bright)} in bright sun (EV ${BRIGHT_EV}), ${dial(first.dull)} to ${dial(last.dull)} on a dull evening (EV ${DULL_EV}).`;
}

/** Whole stops of the usual row, ND2 to ND1024. */
const USUAL_ROW = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10];

export interface StandIn {
  /** The strength that no filter of the kit is labelled with. */
  factor: number;
  filter: string;
  off: number;
}

/** Filters that do what a strength would that the kit doesn't have by its labels, within a third of a stop. */
export function standInsOf(filters: readonly RankedFilter[]): StandIn[] {
  const labels = filters.flatMap(({ nominal }) => (nominal === null ? [] : [Math.round(nominal)]));
  return USUAL_ROW.filter((stops) => !labels.includes(stops)).flatMap((stops): StandIn[] => {
    const near = filters
      .flatMap(({ name, stops: found }) => (found ? [{ filter: name, off: found.value - stops }] : []))
      .sort((a, b) => Math.abs(a.off) - Math.abs(b.off))[0];
    return near && Math.abs(near.off) <= 1 / 3 ? [{ factor: 2 ** stops, ...near }] : [];
  });
}

/** What a filter would have to be called: the whole factor of the usual row when it is that within a sixth of a stop, else stops. */
export function honestLabel({ stops }: Pick<RankedFilter, 'stops'>): string | null {
  if (!stops) return null;
  const whole = Math.round(stops.value);
  if (whole >= 1 && Math.abs(stops.value - whole) <= 1 / 6) return `ND${2 ** whole}`;
  return stops.value < 1 / 6 ? 'clear' : `${stops.value.toFixed(1)} stops`;
}
