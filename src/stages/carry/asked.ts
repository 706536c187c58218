/** What is asked of “What to carry”: remembered by the browser. */
import { z } from 'zod';
import type { Offer } from '@/core/judging/carry/choose';
import { SKIES } from '@/core/judging/carry/daylight';
import type { Work } from '@/core/judging/carry/needs';
import { polarizes } from '@/core/session/polarizing';
import type { Target } from '@/core/sitting/planning/target';
import type { PickKit, PickRig } from '@/server/pickList';
import { recall, remember } from '@/ui/remembered';

/** `NaN` while a field is empty, which JSON writes as null. */
const amount = z
  .number()
  .nullable()
  .transform((value) => value ?? NaN);

const workSchema = z.object({
  name: z.string(),
  rig: z.string(),
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
  months: z.array(z.string()),
  fromHour: amount,
  toHour: amount,
  skies: z.array(z.enum(SKIES)),
  polarizer: z.boolean(),
});
export type AskedWork = z.infer<typeof workSchema>;

const askedSchema = z.object({
  works: z.array(workSchema).min(1).max(6),
  /** Kit to choose from; empty for all measured ones. */
  from: z.string(),
  /** Kit that one has; empty for none. */
  owned: z.string(),
  /** Filters to add at most; empty for as many as are needed. */
  most: z.string(),
});
export type Asked = z.infer<typeof askedSchema>;

export const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'] as const;

/** More kinds of work than this nobody packs one bag for. */
export const MOST_WORKS = 6;

export const FIRST_WORK: AskedWork = {
  name: 'Filming',
  rig: '',
  target: 'clips',
  frameRate: 25,
  angle: 180,
  interval: 2,
  seconds: 10,
  tolerance: 0.33,
  baseIso: 100,
  highestIso: 400,
  widest: 2.8,
  narrowest: 2.8,
  latitude: 51.2,
  longitude: -2.5,
  months: MONTHS.map((_, i) => String(i + 1)),
  fromHour: 7,
  toHour: 19,
  skies: ['clear', 'overcast'],
  polarizer: false,
};
export const FIRST: Asked = { works: [FIRST_WORK], from: '', owned: '', most: '' };

const KEPT = 'glade.carry';

/** What was asked last in this browser, as far as it can be read. */
export const lastAsked = (): Partial<Asked> => recall(KEPT, askedSchema.partial()) ?? {};

/** Remembers what is asked. */
export const keepAsked = (asked: Asked): void => remember(KEPT, asked);

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

/** What a rig makes of the settings: up to two stops above its base ISO, all its apertures. */
export function ofRig({ clips, stills, narrowest }: PickRig, target: AskedWork['target']): Partial<AskedWork> {
  const { baseIso, highestIso, widest, fixedAperture } = target === 'clips' ? clips : stills;
  return {
    baseIso,
    highestIso: Math.min(highestIso, 4 * baseIso),
    widest,
    narrowest: fixedAperture ? widest : (narrowest ?? Math.max(widest, 11)),
  };
}

/**
 * Filters that can be carried: those whose strength was measured. Graduated ones darken half a picture and are no answer to a shutter; clear
 * ones take nothing.
 */
export function offersOf(kits: readonly PickKit[]): (Offer & { kitId: string })[] {
  return kits.flatMap((kit) =>
    kit.filters.flatMap(({ id, name, stops, u95, curve, kind }): (Offer & { kitId: string })[] => {
      if (stops === null || u95 === null || kind === 'graduated-nd' || kind === 'clear' || kind === 'infrared-cut')
        return [];
      const range = curve?.map(([, one]) => one) ?? [stops];
      return [
        {
          id: `${kit.id} ${id}`,
          name,
          kit: kit.name,
          kitId: kit.id,
          from: Math.min(...range),
          to: Math.max(...range),
          u95,
          polarizes: kind !== undefined && polarizes({ kind }),
        },
      ];
    }),
  );
}
