/** What is asked of “What to carry”, as it is typed, remembered and put into reports. */
import { z } from 'zod';
import type { Target } from '../../sitting/planning/target';
import { SKIES } from './daylight';
import type { Work } from './needs';

/** More kinds of work than this nobody packs one bag for. */
export const MOST_WORKS = 6;

/** Letters of a name or an id. */
const LONGEST = 500;

/** `NaN` while a field is empty, which JSON writes as null. */
const amount = z
  .number()
  .or(z.nan())
  .nullable()
  .transform((value) => value ?? NaN);

const workSchema = z.object({
  name: z.string().max(LONGEST),
  rig: z.string().max(LONGEST),
  target: z.enum(['clips', 'hyperlapse', 'long exposure']),
  frameRate: amount,
  angle: amount,
  interval: amount,
  seconds: amount,
  tolerance: amount,
  baseIso: amount,
  highestIso: amount,
  widest: amount,
  narrowest: amount,
  latitude: amount,
  longitude: amount,
  months: z.array(z.string().max(2)).max(12),
  fromHour: amount,
  toHour: amount,
  skies: z.array(z.enum(SKIES)).max(SKIES.length),
  polarizer: z.boolean(),
});
export type AskedWork = z.infer<typeof workSchema>;

export const carryAskSchema = z.object({
  works: z.array(workSchema).min(1).max(MOST_WORKS),
  /** Kit to choose from; empty for all measured ones. */
  from: z.string().max(LONGEST),
  /** Kit that one has; empty for none. */
  owned: z.string().max(LONGEST),
  /** Filters to add at most; empty for as many as are needed. */
  most: z.string().max(2),
});
export type CarryAsked = z.infer<typeof carryAskSchema>;

/** A work as it was typed, for the reckoning. */
export function workOf({ target, frameRate, angle, interval, seconds, months, rig: _rig, ...rest }: AskedWork): Work {
  const what: Target =
    target === 'clips'
      ? { kind: 'clips', frameRate, angle }
      : target === 'hyperlapse'
        ? { kind: 'hyperlapse', intervalSeconds: interval, angle }
        : { kind: 'long exposure', seconds };
  return { ...rest, target: what, months: months.map(Number) };
}
