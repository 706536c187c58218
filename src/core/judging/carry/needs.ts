/** What a kind of work needs of filters: by the hour, the least and the most stops that make a right exposure possible. */
import { z } from 'zod';
import { targetSchema, targetSeconds, type Target } from '../../sitting/planning/target';
import { wantedExposure } from '../../sitting/planning/lightBudget';
import { exposureLog2 } from '../../formulas/optics/exposure';
import { hoursOfLight, SKIES, type HourOfLight } from './daylight';

/** A kind of work: a camera and its lens, what for, where and when. */
export const workSchema = z.object({
  name: z.string().max(80),
  /** ISO speeds that one is ready to use. */
  baseIso: z.number().positive().max(1e7),
  highestIso: z.number().positive().max(1e7),
  /** f-numbers that one is ready to use; the same for a fixed aperture. */
  widest: z.number().positive().max(128),
  narrowest: z.number().positive().max(128),
  target: targetSchema,
  /** Stops that the shutter may be off its target, to either side. */
  tolerance: z.number().min(0).max(3),
  latitude: z.number().min(-90).max(90),
  longitude: z.number().min(-180).max(180),
  months: z.array(z.number().int().min(1).max(12)).min(1),
  fromHour: z.number().min(0).max(23),
  toHour: z.number().min(1).max(24),
  skies: z.array(z.enum(SKIES)).min(1),
  /** Whether reflections have to be cut: only what polarizes will do then, and bare won't. */
  polarizer: z.boolean(),
});

export type Work = z.infer<typeof workSchema>;

/** An hour of light in which something has to be exposed. */
export interface Need extends HourOfLight {
  /** Which work, by its place in the list. */
  work: number;
  /** Stops of filter: less is too bright with everything closed, more too dark with everything open. */
  least: number;
  most: number;
  polarizer: boolean;
}

/** What can't be read of a work as it was typed, a sentence; `null` where all can. */
export function problemOf(work: Work): string | null {
  const parsed = workSchema.safeParse(work);
  if (!parsed.success) {
    const [{ path }] = parsed.error.issues;
    if (path[0] === 'months') return 'Choose a month at least.';
    if (path[0] === 'skies') return 'Choose a sky at least.';
    if (path[0] === 'latitude' || path[0] === 'longitude')
      return 'A place is a latitude from −90 to 90 and a longitude from −180 to 180 degrees.';
    return 'Every setting is a number above 0.';
  }
  if (work.highestIso < work.baseIso) return 'The highest ISO is below the lowest.';
  if (work.narrowest < work.widest) return 'The higher f-number is below the lower one.';
  if (work.toHour <= work.fromHour) return 'The day ends before it begins.';
  if (targetSeconds(work.target) === null) return 'Stills take any shutter: no filter is needed.';
  return null;
}

/**
 * Stops of filter with which a picture can be exposed as a meter would have it, at the shutter that the work calls for.
 *
 * @param ev100 EV at ISO 100 of the scene without a filter
 */
export function stopsThatDo(
  { target, tolerance, baseIso, highestIso, widest, narrowest }: Omit<Work, 'target'> & { target: Target },
  ev100: number,
): { least: number; most: number } {
  const seconds = targetSeconds(target)!;
  const bare = wantedExposure(ev100, 0);
  const reach = (shutterSeconds: number, iso: number, fNumber: number) =>
    exposureLog2({ shutterSeconds, iso, fNumber }) - bare;
  return {
    least: reach(seconds * 2 ** -tolerance, baseIso, narrowest),
    most: reach(seconds * 2 ** tolerance, highestIso, widest),
  };
}

/** Every hour of light of every work, with what it needs. Works that can't be read (see {@link problemOf}) have none. */
export function needsOf(works: readonly Work[]): Need[] {
  return works.flatMap((work, index) => {
    if (problemOf(work) !== null) return [];
    const { latitude, longitude, polarizer } = work;
    return hoursOfLight({ ...work, place: { latitude, longitude } }).map((hour): Need => {
      return { ...hour, work: index, ...stopsThatDo(work, hour.ev100), polarizer };
    });
  });
}
