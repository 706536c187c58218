/** How much light there is, however it was told, and how much each filter needs (ISO 2720 constants). */
import { exposureLog2, exposureValue, illuminanceLux, parseShutter } from '../../formulas/optics/exposure';
import type { PlanRig, Setting } from './planRig';

/** EV at ISO 100 of an illuminance. */
export function evOfLux(lux: number): number {
  return Math.log2(lux / illuminanceLux(0, 100));
}

/** EV at ISO 100 that a bare meter reading stands for. */
export function evOfMeter({ shutterSeconds, iso, fNumber }: Setting): number {
  return exposureValue(shutterSeconds, fNumber) - Math.log2(iso / 100);
}

/**
 * Light as people tell it: `800 lx`, `EV 12`, or what the bare meter says, `1/2500 f/2.8 ISO 100`.
 *
 * @returns EV at ISO 100, or a sentence
 */
export function readLight(text: string): { ev100: number } | { problem: string } {
  const clean = text
    .trim()
    .replace('−', '-')
    .replace(/(\d),(\d{3})\b/g, '$1$2');
  const lux = /^(\d+(?:\.\d+)?)\s*(k?)l(?:x|ux)$/i.exec(clean);
  if (lux) {
    const value = Number(lux[1]) * (lux[2] ? 1000 : 1);
    return value > 0 ? { ev100: evOfLux(value) } : { problem: 'No light at all is told.' };
  }
  const ev = /^(?:ev\s*)?(-?\d+(?:\.\d+)?)(?:\s*ev)?$/i.exec(clean);
  if (ev && /ev/i.test(clean)) return { ev100: Number(ev[1]) };
  const shutter = /(?:^|\s)(1\/\d+(?:\.\d+)?|\d+(?:\.\d+)?\s*s)(?=\s|$)/i.exec(clean);
  const shutterSeconds = shutter && parseShutter(shutter[1]);
  const aperture = /f\s*\/?\s*(\d+(?:\.\d+)?)/i.exec(clean);
  const iso = /iso\s*(\d+)/i.exec(clean);
  if (shutterSeconds && aperture && iso)
    return { ev100: evOfMeter({ shutterSeconds, iso: Number(iso[1]), fNumber: Number(aperture[1]) }) };
  return { problem: 'Write the light as “800 lx”, “EV 12”, or what the bare meter says: “1/2500 f/2.8 ISO 100”.' };
}

/** What would bring a filter's exposure up, cheapest first. */
export interface Remedy {
  /** Stops that it can give. */
  stops: number;
  words: string;
}

export interface LightNeed {
  /** Lux at the chart that a right exposure needs with everything at its limit for free (slowest shutter, base ISO). */
  lux: number;
  /** Stops that are missing; 0 where there is enough. */
  short: number;
  /** What helps, in order, as far as it is needed. */
  remedies: Remedy[];
  /** Not even everything together is enough without other light. */
  impossible: boolean;
}

/**
 * The light that a filter of some strength needs.
 *
 * @param aperture f-number the session is shot at
 * @param slowest seconds that the target allows (1/fps for clips)
 */
export function lightNeed(rig: PlanRig, ev100: number, strength: number, aperture: number, slowest: number): LightNeed {
  const ev = exposureValue(slowest, aperture) + strength;
  const lux = illuminanceLux(ev, rig.baseIso);
  const short = Math.max(0, Math.log2(lux / illuminanceLux(ev100, 100)));
  const iso = Math.log2(rig.highestIso / rig.baseIso);
  const open = rig.fixedAperture ? 0 : 2 * Math.log2(aperture / rig.widest);
  const remedies: Remedy[] = [];
  let left = short;
  const take = (room: number, words: (used: number) => string) => {
    if (left < 0.05 || room < 0.05) return;
    const used = Math.min(room, left);
    remedies.push({ stops: used, words: words(used) });
    left -= used;
  };
  const still = Math.log2(rig.slowest / slowest);
  take(still, (used) => `a slower shutter, ${formatTimes(used)} as long, where the frame rate allows it`);
  take(iso, (used) => `ISO ${Math.round(rig.baseIso * 2 ** used)}, with more noise`);
  take(open, (used) => `a wider aperture, f/${(aperture / 2 ** (used / 2)).toFixed(1)}, for all takes alike`);
  const impossible = left >= 0.05;
  if (impossible) remedies.push({ stops: left, words: `${formatTimes(left)} the light: more lamps, or nearer ones` });
  return { lux, short, remedies, impossible };
}

const formatTimes = (stops: number) => `${(2 ** stops).toFixed(stops < 3 ? 1 : 0)} times`;

/** log2 of t·ISO/N² that a meter calls for at this light through a filter: it is content where that is log2 100 − EV100. */
export function wantedExposure(ev100: number, strength: number): number {
  return Math.log2(100) - ev100 + strength;
}

/** Stops by which a setting misses what the meter calls for at this light through a filter: positive is too dark. */
export function shortOf(setting: Setting, ev100: number, strength: number): number {
  return wantedExposure(ev100, strength) - exposureLog2(setting);
}
