/**
 * Notations of a filter's strength and the ways between them.
 *
 * Filter factor N, transmittance τ = 1/N, stops = log2 N, optical density D = log10 N (ISO 5-1).
 * One stop is D 0.30103.
 */

/** What is engraved on a filter, in the notation of the engraving. At most one key is set; none means unmarked. */
export interface Nominal {
  ndFactor?: number;
  stops?: number;
  opticalDensity?: number;
  /** Variable filters: the range in stops, lightest first. */
  stopsRange?: [number, number];
}

/** Kinds of filters; of the last three only what can be is measured, and nothing is promised by a number. */
export const FILTER_KINDS = [
  'nd',
  'polarizer',
  'nd-polarizer',
  'variable-nd',
  'graduated-nd',
  'clear',
  'diffusion',
  'color',
  'infrared-cut',
] as const;
export type FilterKind = (typeof FILTER_KINDS)[number];

/** What a kind changes on purpose, so that it is described and never rated. */
export const BY_DESIGN: Readonly<Partial<Record<FilterKind, 'sharpness' | 'cast'>>> = {
  diffusion: 'sharpness',
  color: 'cast',
};

/** What softens or colors on purpose is no step of a kit's strengths, and none of its faults. */
export const isRated = ({ kind }: { kind: FilterKind }): boolean => BY_DESIGN[kind] === undefined;

/** log2 of a filter factor. Valid for factors of 1 and more; NaN otherwise. */
export function stopsFromFactor(factor: number): number {
  return factor >= 1 ? Math.log2(factor) : NaN;
}

/** Filter factor of a strength in stops. */
export function factorFromStops(stops: number): number {
  return 2 ** stops;
}

/** Optical density (ISO 5-1) of a strength in stops. */
export function densityFromStops(stops: number): number {
  return stops * Math.LOG10E * Math.LN2;
}

/** Stops of an optical density (ISO 5-1). */
export function stopsFromDensity(opticalDensity: number): number {
  return opticalDensity / (Math.LOG10E * Math.LN2);
}

/**
 * The strength a label promises, in stops; `null` for an unmarked filter and for a range, which has no single strength.
 */
export function nominalStops(nominal: Nominal): number | null {
  if (nominal.stops !== undefined) return nominal.stops;
  if (nominal.ndFactor !== undefined) return stopsFromFactor(nominal.ndFactor);
  if (nominal.opticalDensity !== undefined) return stopsFromDensity(nominal.opticalDensity);
  return null;
}

/** One strength in every notation. `transmittance` is a share from 0 to 1. */
export interface Notations {
  stops: number;
  ndFactor: number;
  opticalDensity: number;
  transmittance: number;
}

export function allNotations(stops: number): Notations {
  const ndFactor = factorFromStops(stops);
  return { stops, ndFactor, opticalDensity: densityFromStops(stops), transmittance: 1 / ndFactor };
}

/**
 * The row of filter factors that makers engrave: powers of two up to 512, then round thousands
 * (ND1000 is 9.966 stops, not 10). Common practice, no source.
 */
export const STANDARD_FACTORS = [
  1, 2, 4, 8, 16, 32, 64, 128, 256, 512, 1000, 2000, 4000, 8000, 16000, 32000, 64000, 100000,
] as const;

/** The standard filter factor whose strength lies nearest, in stops. Ties go to the lighter label. */
export function nearestStandardFactor(stops: number): number {
  let best: number = STANDARD_FACTORS[0];
  for (const factor of STANDARD_FACTORS) {
    if (Math.abs(Math.log2(factor) - stops) < Math.abs(Math.log2(best) - stops) - 1e-12) best = factor;
  }
  return best;
}

/** A factor as engraved: whole numbers above ten, one decimal below. */
export function formatFactor(factor: number): string {
  return factor >= 10 || Number.isInteger(factor) ? String(Math.round(factor)) : factor.toFixed(1);
}

/** How a label reads in its own notation: "ND8", "3 stops", "D 0.9", "2–5 stops", "unmarked". */
export function describeNominal(nominal: Nominal): string {
  if (nominal.ndFactor !== undefined) return `ND${formatFactor(nominal.ndFactor)}`;
  if (nominal.stops !== undefined)
    return nominal.stops === 0 ? 'clear' : `${trimNumber(nominal.stops)} ${nominal.stops === 1 ? 'stop' : 'stops'}`;
  if (nominal.opticalDensity !== undefined) return `D ${trimNumber(nominal.opticalDensity)}`;
  if (nominal.stopsRange) return `${trimNumber(nominal.stopsRange[0])}–${trimNumber(nominal.stopsRange[1])} stops`;
  return 'unmarked';
}

function trimNumber(value: number): string {
  return String(Math.round(value * 1000) / 1000);
}
