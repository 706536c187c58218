/** What the pictures are for: it limits the shutter, and says which shutter would look right. */
import { z } from 'zod';
import { wantedExposure } from './lightBudget';
import type { Filter } from '../../session/schema';
import { labelledStrength } from './labelledStrength';

/** Shutter angles run to a whole frame. */
const angle = z.number().positive().max(360).default(180);

export const targetSchema = z.discriminatedUnion('kind', [
  z.looseObject({ kind: z.literal('stills') }),
  /** Clips: a shutter of `angle`/360 of a frame smears motion as eyes like it; a whole frame is the slowest there is. */
  z.looseObject({ kind: z.literal('clips'), frameRate: z.number().positive().max(1000), angle }),
  /** A picture every so many seconds, played fast: the share of the interval that each is open for is its angle. */
  z.looseObject({ kind: z.literal('hyperlapse'), intervalSeconds: z.number().positive().max(86_400), angle }),
  /** One picture that is open for so long. */
  z.looseObject({ kind: z.literal('long exposure'), seconds: z.number().positive().max(86_400) }),
]);

export type Target = z.infer<typeof targetSchema>;

/** Seconds that the target calls for; `null` for stills, which take any. */
export function targetSeconds(target: Target): number | null {
  switch (target.kind) {
    case 'stills':
      return null;
    case 'clips':
      return target.angle / 360 / target.frameRate;
    case 'hyperlapse':
      return (target.angle / 360) * target.intervalSeconds;
    case 'long exposure':
      return target.seconds;
  }
}

/** A camera needs this long to store a picture of a hyperlapse before the next, seconds. Our own judgement. */
const STORING_SECONDS = 0.5;

/** Slowest shutter that the target lets a test use, seconds. */
export function slowestOf(target: Target, slowest: number): number {
  switch (target.kind) {
    case 'stills':
      return slowest;
    case 'clips':
      return Math.min(slowest, 1 / target.frameRate);
    case 'hyperlapse':
      return Math.min(slowest, Math.max(targetSeconds(target)!, target.intervalSeconds - STORING_SECONDS));
    case 'long exposure':
      return Math.min(slowest, target.seconds);
  }
}

export interface Reach {
  filter: string | null;
  /** Seconds that the light calls for through it at base ISO and the chosen aperture. */
  seconds: number;
  /** Stops by which that is slower than the target; negative is faster. */
  off: number;
}

/**
 * How near each filter brings the shutter to the target at this light, by the labels; nearest first. Filters without a label are left out.
 *
 * @param baseIso ISO speed that is shot at
 */
export function reachOf(
  target: Target,
  filters: readonly Filter[],
  ev100: number,
  fNumber: number,
  baseIso: number,
): Reach[] {
  const wanted = targetSeconds(target);
  if (wanted === null) return [];
  const through = (filter: string | null, strength: number): Reach => {
    const seconds = (2 ** wantedExposure(ev100, strength) * fNumber ** 2) / baseIso;
    return { filter, seconds, off: Math.log2(seconds / wanted) };
  };
  return [
    through(null, 0),
    ...filters.flatMap((filter) => {
      const strength = labelledStrength(filter);
      return strength === null ? [] : [through(filter.id, strength)];
    }),
  ].sort((a, b) => Math.abs(a.off) - Math.abs(b.off));
}
