/** What is asked of a picture for its camera's curve. */
import type { WindowRequest } from '../../reading/asked';
import type { PictureFacts } from '../../reading/facts';
import type { Session, Take } from '../../session/schema';
import { isOnlyTold } from './trust';

/** The name of the window that the curve is learned from: no patch of a session is called so. */
export const PLACES_ID = '\u0000places';
/** Larger pictures are never held whole: nothing is learned from them. */
const MOST_PIXELS = 80_000_000;
const GRID = { id: PLACES_ID, role: 'frame', rect: { x: 0, y: 0, width: 1, height: 1 } } as const;

/**
 * The squares of a picture, where its curve is to be learned; `null` where the file is believed.
 *
 * @param first whether no other frame of its take was read: of a clip one is enough
 */
export function placesWindow(facts: PictureFacts, take: Take, session: Session, first: boolean): WindowRequest | null {
  if (!first || facts.width * facts.height > MOST_PIXELS || !isOnlyTold(facts, session.rig.response)) return null;
  const pixels = { x: 0, y: 0, width: facts.width, height: facts.height };
  return { patch: { ...GRID, scene: take.scene }, kind: 'places', pixels };
}
