/** What a polarizer does to polarized light: the ring sweep at a screen, glare and sky against their reference, a turn about. */
import type { DensityReadings, PolarizerReadings } from '../../session/readings';
import type { Seen } from '../seen';
import { bestCut } from './cuts';
import type { Found } from './rings';
import { skyTurn } from './skyTurn';
import { sweepAt } from './sweep';

/**
 * What a polarizing filter's screens, waters and skies tell; no figures where they tell nothing.
 *
 * @param density its strength in unpolarized light, where that is known
 */
export function estimatePolarizer(
  filter: string,
  seen: Pick<Seen, 'places' | 'turns' | 'session' | 'space' | 'response'>,
  density: DensityReadings | undefined,
): Found<PolarizerReadings | null> {
  const sweep = sweepAt(filter, seen);
  const [glare, sky] = [bestCut(filter, 'glare', seen), bestCut(filter, 'sky', seen)];
  const turn = skyTurn(filter, seen);
  const { brightest } = sweep.figures;
  const figures: PolarizerReadings = {
    ...sweep.figures,
    ...(glare.figures ? { glareCut: glare.figures.cut, glare: glare.figures.readings } : {}),
    ...(sky.figures ? { skyDarkening: sky.figures.cut, sky: sky.figures.readings } : {}),
    // What the filter takes of light that its polarizer lets through whole.
    ...(density && brightest
      ? {
          ownShare: {
            value: density.stops.value - brightest.value,
            u95: Math.hypot(density.stops.u95, brightest.u95),
          },
        }
      : {}),
    ...(turn.figures ? { turn: turn.figures } : {}),
  };
  return {
    figures: Object.keys(figures).length > 0 ? figures : null,
    faults: [...sweep.faults, ...glare.faults, ...sky.faults, ...turn.faults],
  };
}
