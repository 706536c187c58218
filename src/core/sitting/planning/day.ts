/** A day's sun at a place: its path, golden hours, headings for a polarizer, and how long the light stays. */
import { sunPosition, type Site } from '../../formulas/sun/sun';
import type { Direction } from '../../formulas/optics/rayleigh';

export interface SunMoment extends Direction {
  /** Milliseconds since 1970. */
  timeMs: number;
}

const STEP_MS = 10 * 60_000;

/** The sun every ten minutes of the 24 hours from a moment on. */
export function sunPath(fromMs: number, place: Site): SunMoment[] {
  return Array.from({ length: 145 }, (_, i) => {
    const timeMs = fromMs + i * STEP_MS;
    return { timeMs, ...sunPosition(new Date(timeMs), place) };
  });
}

export interface Interval {
  fromMs: number;
  toMs: number;
}

/** Golden hours: the sun between 4° below and 6° above the horizon (common practice, no source). */
export function goldenHours(path: readonly SunMoment[]): Interval[] {
  return intervalsOf(path, ({ altitude }) => altitude >= -4 && altitude <= 6);
}

function intervalsOf(path: readonly SunMoment[], inside: (moment: SunMoment) => boolean): Interval[] {
  const found: Interval[] = [];
  let from: number | null = null;
  path.forEach((moment, i) => {
    if (inside(moment)) from ??= moment.timeMs;
    const last = i === path.length - 1;
    if (from !== null && (!inside(moment) || last)) {
      found.push({ fromMs: from, toMs: inside(moment) ? moment.timeMs : path[i - 1].timeMs });
      from = null;
    }
  });
  return found;
}

/**
 * Illuminance of a clear day on level ground, lux: direct sun 127 500·exp(−0.21·m)·sin h and clear skylight 800 + 15 500·√(sin h), with
 * the air mass m of Kasten & Young 1989. Constants as in the Illuminating Engineering Society's recommended practice for daylight
 * (RP-21), quoted from memory. 0 below the horizon.
 */
export function clearDayLux(altitude: number): number {
  if (altitude <= 0) return 0;
  const sine = Math.sin((altitude * Math.PI) / 180);
  const airMass = 1 / (sine + 0.50572 * (altitude + 6.07995) ** -1.6364);
  return 127_500 * Math.exp(-0.21 * airMass) * sine + 800 + 15_500 * Math.sqrt(sine);
}

/** The longest stretch of a day in which a clear day's light changes by less than some stops; `null` where the sun stays down. */
export function steadyWindow(path: readonly SunMoment[], stops = 1 / 3): Interval | null {
  const light = path.map(({ altitude }) => Math.log2(clearDayLux(altitude)));
  let best: Interval | null = null;
  for (let i = 0; i < path.length; i++) {
    if (!Number.isFinite(light[i])) continue;
    let [low, high] = [light[i], light[i]];
    for (let j = i; j < path.length && Number.isFinite(light[j]); j++) {
      low = Math.min(low, light[j]);
      high = Math.max(high, light[j]);
      if (high - low >= stops) break;
      if (!best || path[j].timeMs - path[i].timeMs > best.toMs - best.fromMs)
        best = { fromMs: path[i].timeMs, toMs: path[j].timeMs };
    }
  }
  return best;
}

/** Headings at right angles to the sun, where a polarizer darkens the sky most; along and against it there is nothing to do. */
export function polarizerHeadings({ azimuth }: Direction): [number, number] {
  return [(azimuth + 90) % 360, (azimuth + 270) % 360];
}
