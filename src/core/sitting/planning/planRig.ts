/** What a rig can be set to: its shutters, ISO speeds and apertures, in its own steps. */
import { z } from 'zod';
import { exposureLog2, shutterMark, snapShutterMark } from '../../formulas/optics/exposure';

export const planRigSchema = z.looseObject({
  camera: z.string().default('Camera'),
  /** Widest f-number; the chosen one for a fixed aperture. */
  widest: z.number().positive(),
  fixedAperture: z.boolean().default(false),
  baseIso: z.number().positive(),
  highestIso: z.number().positive(),
  /** Seconds. */
  fastest: z.number().positive(),
  slowest: z.number().positive(),
  /** Stops between settings: thirds, halves, wholes; 0 for any value. */
  step: z.union([z.literal(0), z.literal(1 / 3), z.literal(0.5), z.literal(1)]),
  /** Stops from clipping down to where noise takes over: about 9 for raw and 16 bits, 6 for 8 bits. Our own judgement. */
  usableStops: z.number().positive().default(8),
  /** Minutes of one battery; left out where it is no matter. */
  batteryMinutes: z.number().positive().optional(),
  shutterMarks: z.enum(['exact', 'nominal']).default('exact'),
});

export type PlanRig = z.infer<typeof planRigSchema>;

export interface Setting {
  shutterSeconds: number;
  iso: number;
  fNumber: number;
}

/** The value of a row of steps nearest to a wanted one, both in stops from the row's start; inside [0, most]. */
export function nearestStep(stops: number, step: number, most: number): number {
  const inside = Math.min(most, Math.max(0, stops));
  if (step === 0) return inside;
  const snapped = Math.round(inside / step) * step;
  return snapped > most + 1e-9 ? Math.floor(most / step + 1e-9) * step : snapped;
}

/**
 * Settings of a wanted exposure, as near as the rig's steps allow: first by the shutter, then by ISO, last by the aperture, since that
 * changes the lens's own corners.
 *
 * @param wanted log2 of t·ISO/N²
 * @param aperture f-number to stay at while it is enough
 * @param slowest seconds; the rig's own when left out
 * @returns the settings, and what is left over in stops: positive is too dark
 */
export function settingFor(
  rig: PlanRig,
  wanted: number,
  aperture: number,
  slowest = rig.slowest,
): { setting: Setting; short: number } {
  // A nominal 1/8000 lasts 1/8192 s: the row of steps begins there.
  const fastest = rig.step > 0 && rig.shutterMarks === 'nominal' ? snapShutterMark(rig.fastest) : rig.fastest;
  const shutterRoom = Math.max(0, Math.log2(slowest / fastest));
  const isoRoom = Math.log2(rig.highestIso / rig.baseIso);
  const apertureRoom = rig.fixedAperture ? 0 : Math.max(0, 2 * Math.log2(aperture / rig.widest));
  let left = wanted - exposureLog2({ shutterSeconds: fastest, iso: rig.baseIso, fNumber: aperture });
  const shutter = nearestStep(left, rig.step, shutterRoom);
  left -= shutter;
  const iso = left > 0 ? nearestStep(left, rig.step, isoRoom) : 0;
  left -= iso;
  const opened = left > 0 ? nearestStep(left, rig.step, apertureRoom) : 0;
  left -= opened;
  const seconds = fastest * 2 ** shutter;
  // Where marks are exact, 1/60 s lasts 1/60 s and not the 1/64 of the series.
  const exact = rig.step > 0 && rig.shutterMarks === 'exact' ? Math.min(slowest, shutterMark(seconds)) : seconds;
  return {
    setting: { shutterSeconds: exact, iso: rig.baseIso * 2 ** iso, fNumber: aperture / 2 ** (opened / 2) },
    short: left - Math.log2(exact / seconds),
  };
}

/** Narrowest aperture that is stepped to, f-number. */
const NARROWEST = 45;

/**
 * The next setting of a dial, in the rig's own steps and inside its limits; what is off the row goes to its nearest neighbor first.
 *
 * @param way 1 for a longer time, a higher ISO, a higher f-number
 */
export function stepSetting(rig: PlanRig, setting: Setting, key: keyof Setting, way: 1 | -1): Setting {
  const step = rig.step > 0 ? rig.step : 1 / 3;
  const [from, to, perStop] = {
    shutterSeconds: [rig.fastest, rig.slowest, 1],
    iso: [rig.baseIso, rig.highestIso, 1],
    fNumber: rig.fixedAperture ? [setting.fNumber, setting.fNumber, 2] : [rig.widest, NARROWEST, 2],
  }[key] as [number, number, number];
  const start = key === 'shutterSeconds' && rig.shutterMarks === 'nominal' ? snapShutterMark(from) : from;
  const most = Math.floor((perStop * Math.log2(to / start)) / step + 1e-6);
  const now = Math.round((perStop * Math.log2(setting[key] / start)) / step);
  const next = Math.min(Math.max(0, most), Math.max(0, now + way));
  const value = start * 2 ** ((next * step) / perStop);
  const exact = key === 'shutterSeconds' && rig.shutterMarks === 'exact' ? Math.min(to, shutterMark(value)) : value;
  return { ...setting, [key]: exact };
}
