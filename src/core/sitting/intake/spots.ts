/** The places that files may be laid on: those of a draft, and those of a session. */
import { parseShutter, exposureLog2 } from '../../formulas/optics/exposure';
import type { Session } from '../../session/schema';
import { DRAFT_SCENES, type DraftScene } from './draft';
import type { Spot, TakeSpot } from './laidFile';
import type { NamedFilter } from './names';
import { plannedSpots } from './byPlan';

/** Where a picture of a draft belongs. */
export interface DraftSpot {
  scene: DraftScene;
  filter: string | null;
  bracket: boolean;
}

/** Even walls, lamps, screens, waters and skies are shot less often than charts: without a sign of them a chart is meant. */
const PRIORS: Readonly<Record<DraftScene, number>> = {
  chart: 0,
  flat: -2,
  flare: -3,
  screen: -3,
  water: -3,
  sky: -3,
};
/** A new take where one of the same filter and scene is there already. */
const NEW_TAKE_PRIOR = -1;
/** Where a take of the same filter and scene was planned, that one is meant. */
const UNPLANNED_PRIOR = -4;

export function spotId({ scene, filter, bracket }: DraftSpot): string {
  return `${scene}/${bracket ? 'bracket' : (filter ?? 'bare')}`;
}

/** Every filter on every scene of a bench, bare too, and the bracket. */
export function draftSpots(filters: readonly NamedFilter[]): (DraftSpot & Spot)[] {
  const spots = DRAFT_SCENES.flatMap((scene) => [
    ...[null, ...filters.map((filter) => filter.id)].map((filter) => ({ scene, filter, bracket: false })),
    { scene, filter: null, bracket: true },
  ]);
  return spots.map((spot) => ({ ...spot, id: spotId(spot), kind: spot.scene, prior: PRIORS[spot.scene] }));
}

/** All takes of a session, and a new take for each filter on each scene. */
export function sessionSpots(session: Session): TakeSpot[] {
  const takes = session.takes.map((take): TakeSpot => {
    const shutterSeconds = take.exposure.shutter === undefined ? null : parseShutter(take.exposure.shutter);
    const { iso, fNumber } = take.exposure;
    return {
      id: take.id,
      take: take.id,
      filter: take.filter,
      scene: take.scene,
      kind: kindOf(session, take.scene),
      bracket: take.role === 'bracket',
      exposureLog2:
        shutterSeconds !== null && iso !== undefined ? exposureLog2({ shutterSeconds, iso, fNumber }) : null,
      at: take.capturedAt === undefined ? null : Date.parse(take.capturedAt),
      ringDegrees: take.setting?.ringDegrees,
      mark: take.setting?.mark,
    };
  });
  const planned = plannedSpots(session);
  const filters = [null, ...session.kits.flatMap((kit) => kit.filters.map((filter) => filter.id))];
  const wasPlanned = (scene: string, filter: string | null) =>
    planned.some((one) => one.scene === scene && one.filter === filter);
  const fresh = session.scenes.flatMap((scene) =>
    filters.map((filter): TakeSpot => {
      const known = takes.some((take) => take.scene === scene.id && take.filter === filter && !take.bracket);
      return {
        id: `new ${scene.id}/${filter ?? 'bare'}`,
        take: null,
        filter,
        scene: scene.id,
        kind: scene.kind,
        prior: wasPlanned(scene.id, filter) ? UNPLANNED_PRIOR : known ? NEW_TAKE_PRIOR : 0,
      };
    }),
  );
  return [...takes, ...planned, ...fresh];
}

function kindOf(session: Session, id: string): string {
  return session.scenes.find((scene) => scene.id === id)?.kind ?? id;
}
