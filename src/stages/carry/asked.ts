/** What is asked of “What to carry”: remembered by the browser. */
import { carryAskSchema, type AskedWork, type CarryAsked } from '@/core/judging/carry/asked';
import type { PickRig } from '@/server/pickList';
import { recall, remember } from '@/ui/remembered';
import { MONTHS } from './words';

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
export const FIRST: CarryAsked = { works: [FIRST_WORK], from: '', owned: '', most: '' };

const KEPT = 'glade.carry';

/** What was asked last in this browser, as far as it can be read. */
export const lastAsked = (): Partial<CarryAsked> => recall(KEPT, carryAskSchema.partial()) ?? {};

/** Remembers what is asked. */
export const keepAsked = (asked: CarryAsked): void => remember(KEPT, asked);

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
