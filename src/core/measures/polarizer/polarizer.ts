/** What a polarizer does before polarized light: the ring sweep at a screen, glare and sky against their reference. */
import type { Filter } from '../../session/schema';
import type { FilterReadings, PolarizerReadings } from '../../session/readings';
import { bestCut } from './cuts';
import type { RingParts } from './rings';
import { sweepAt } from './sweep';

/** Adds what a polarizing filter's screens, waters and skies tell. */
export function addPolarizer(result: FilterReadings, filter: Filter, parts: RingParts): void {
  const sweep = sweepAt(result, filter, parts);
  const cuts = (role: 'glare' | 'sky') => bestCut(result, filter, role, parts);
  const [glare, sky] = [cuts('glare'), cuts('sky')];
  const found: PolarizerReadings = {
    ...sweep,
    ...(glare ? { glareCut: glare.cut, glare: glare.readings } : {}),
    ...(sky ? { skyDarkening: sky.cut, sky: sky.readings } : {}),
  };
  if (Object.keys(found).length > 0) result.polarizer = found;
  const { density } = result;
  if (density && found.brightest)
    found.ownShare = {
      value: density.stops.value - found.brightest.value,
      u95: Math.hypot(density.stops.u95, found.brightest.u95),
    };
}
