/** Pictures that were drawn with other settings than their session's others. */
import { greatest } from 'd3-array';
import type { PictureFacts } from '../../reading/facts';
import type { FoundFault } from '../../reading/observations';
import { settingsApart } from '../../session/cameraCheck';
import type { Response, Take } from '../../session/schema';
import { settingsMoved } from '../../words/camera';
import { isOnlyTold } from './trust';

/** A picture of which is asked whether it was drawn like the others. */
interface Drawn {
  take: Pick<Take, 'id' | 'filter'>;
  facts: PictureFacts;
}

/**
 * Leaves out pictures that were drawn with other settings than most of their session: no light could be compared across the change.
 * Files whose curve is believed stay, whatever they tell.
 */
export function drawnAlike<T extends Drawn>(
  shots: readonly T[],
  response: Response,
): { kept: T[]; faults: FoundFault[] } {
  const told = shots.filter(({ facts }) => isOnlyTold(facts, response));
  const most = greatest(told, (shot) => told.filter((other) => apart(shot, other).length === 0).length);
  if (most === undefined) return { kept: [...shots], faults: [] };
  const odd = told.flatMap((shot) => {
    const names = apart(shot, most);
    return names.length > 0 ? [{ shot, names }] : [];
  });
  const left = new Set(odd.map(({ shot }) => shot));
  return {
    kept: shots.filter((shot) => !left.has(shot)),
    faults: odd.map(({ shot: { take }, names }) => ({ filter: take.filter, fault: settingsMoved(take.id, names) })),
  };
}

const apart = (a: Drawn, b: Drawn) => settingsApart(a.facts.encoding.settings, b.facts.encoding.settings);
