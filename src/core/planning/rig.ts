/** What a rig can be set to: its shutters, ISO speeds and apertures, in its own steps. */
import { z } from 'zod';
import { shutterMark, snapShutterMark } from '../exposure';

export const planRigSchema = z.looseObject({
  camera: z.string().default('Camera'),
  /** Widest and narrowest f-number; the same for a fixed aperture. */
  aperture: z.object({ widest: z.number().positive(), narrowest: z.number().positive() }),
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
 * Settings that give `stops` more exposure than the rig's least (fastest shutter, base ISO, narrowest aperture), as near as its steps
 * allow: first by the shutter, then by ISO, last by the aperture, since that changes the lens's own corners.
 *
 * @param aperture f-number to stay at while it is enough
 * @param slowest seconds; the rig's own when left out
 * @returns the settings, and what is left over in stops: positive is too dark
 */
export function settingFor(
  rig: PlanRig,
  stops: number,
  aperture: number,
  slowest = rig.slowest,
): { setting: Setting; short: number } {
  const start = 2 * Math.log2(rig.aperture.narrowest / aperture);
  // A nominal 1/8000 lasts 1/8192 s: the row of steps begins there.
  const fastest = rig.step > 0 && rig.shutterMarks === 'nominal' ? snapShutterMark(rig.fastest) : rig.fastest;
  const shutterRoom = Math.max(0, Math.log2(slowest / fastest));
  const isoRoom = Math.log2(rig.highestIso / rig.baseIso);
  const apertureRoom = 2 * Math.log2(aperture / rig.aperture.widest);
  let left = stops - start - Math.log2(fastest / rig.fastest);
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

/** log2 of t·ISO/N². */
export const exposureOfSetting = ({ shutterSeconds, iso, fNumber }: Setting) =>
  Math.log2(shutterSeconds) + Math.log2(iso) - 2 * Math.log2(fNumber);
