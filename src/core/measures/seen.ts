/** What the measures of a filter look at: everything that was seen of a session, prepared once for all filters. */
import type { ColorSpace } from '../formulas/color/spaces';
import type { ResolvedResponse } from '../light/response';
import type { ObservedPatch } from '../reading/observations';
import type { Session } from '../session/schema';
import type { TurnMoment } from './polarizer/turns';
import type { EdgePlace } from './sharpness/edgePlaces';
import type { SolvedScene } from './strength/solvedScene';
import type { PreparedPatch } from './strength/preparedPatch';

export interface Seen {
  session: Session;
  space: ColorSpace;
  /** As they were seen, picture by picture. */
  patches: readonly ObservedPatch[];
  /** Patches with levels, ordinary scenes' frames among them. */
  places: readonly PreparedPatch[];
  edges: readonly EdgePlace[];
  scenes: readonly SolvedScene[];
  turns: readonly TurnMoment[];
  /** Recovered or learned; `null` where codes are believed. */
  response: ResolvedResponse | null;
}
