/** Strength and cast of a filter from its places, or why there is none. */
import { measureCast } from '../cast/cast';
import { luminanceRow, type ColorSpace } from '../../formulas/color/spaces';
import { combineStrengths, type CombinedStrength } from './combineStrengths';
import type { PatchStrength } from './patchStrength';
import { nearestStandardFactor } from '../../session/notation';
import { adviseOn } from '../../judging/rating/advice';
import { fault } from '../../words/faults';
import { patchesOfScene } from '../../session/parse';
import { POLARIZED_SCENES, polarizes } from '../../session/polarizing';
import type { Fault, FilterReadings } from '../../session/readings';
import type { Filter, Session } from '../../session/schema';
import { expand, reading } from '../../formulas/statistics/budget';
import type { Place } from './places';

/** A strength less certain than this is withheld (formats.md), in stops. */
const WIDEST_U95 = 0.15;
/** A cast less certain than this says nothing: as wide as the step from unseen to visible. Our own judgement. */
const WIDEST_CAST_U95 = 2.3;
/** Density and cast come from the first of these roles that a filter was seen on (formats.md). */
const ROLE_ORDER = ['neutral', 'frame', 'field'] as const;
/** A lamp beside black or a polarized screen is no place to measure strength where there is another. */
const UNSUITED_SCENES = new Set(['flare', 'screen']);

/** The places that speak for a filter's strength, combined. */
export function chooseRole(all: PatchStrength[], session: Session, space: ColorSpace): CombinedStrength | null {
  const kindOf = new Map(session.scenes.map((scene) => [scene.id, scene.kind]));
  const suited = all.filter((strength) => !UNSUITED_SCENES.has(kindOf.get(strength.scene) ?? ''));
  const strengths = suited.length > 0 ? suited : all;
  const role = ROLE_ORDER.find((candidate) => strengths.some((strength) => strength.role === candidate));
  return role
    ? combineStrengths(
        strengths.filter((strength) => strength.role === role),
        luminanceRow(space),
      )
    : null;
}

export function addStrength(
  result: FilterReadings,
  combined: CombinedStrength,
  all: PatchStrength[],
  nominal: number | null,
  space: ColorSpace,
): void {
  const { contributions, channels, stops, gradient } = combined;
  const luminous = expand(contributions, gradient);
  const takes = combined.places.flatMap((place) => place.strength.takes);
  if (!(luminous.u95 <= WIDEST_U95)) {
    result.faults.push(
      fault(
        'too-dark',
        'error',
        takes,
        `The strength would be uncertain by ${luminous.u95.toFixed(2)} stop, more than ${WIDEST_U95}; it is withheld. Most of that is ${luminous.lines[0]?.source ?? 'noise'}.`,
      ),
    );
    return;
  }
  const unit = [0, 1, 2].map((c) => [0, 1, 2].map((i) => (i === c ? 1 : 0)));
  const perChannel = channels.map((value, c) => reading(value, expand(contributions, unit[c])));
  result.density = {
    stops: reading(stops, luminous),
    channels: { r: perChannel[0], g: perChannel[1], b: perChannel[2] },
    ...(nominal === null ? {} : { error: reading(stops - nominal, luminous) }),
    actsLike: { ndFactor: nearestStandardFactor(stops) },
    byScene: byScene(all, space),
    budget: luminous.lines,
    sensitivities: { r: gradient[0], g: gradient[1], b: gradient[2] },
    degreesOfFreedom: Number.isFinite(luminous.degreesOfFreedom) ? luminous.degreesOfFreedom : null,
    advice: adviseOn(luminous.lines),
  };
  if (combined.birgeRatio > 2 && combined.range > 0.02)
    result.faults.push(
      fault(
        'scenes-disagree',
        'warning',
        takes,
        `Its places disagree by ${combined.range.toFixed(2)} stop, ${combined.birgeRatio.toFixed(1)} times what their ± allows; the ± of the mean is widened.`,
      ),
    );
  const cast = measureCast(channels, contributions, space);
  if (cast.deltaE00.u95 <= WIDEST_CAST_U95) result.cast = cast;
  else
    result.faults.push(
      fault(
        'too-dark',
        'error',
        takes,
        `The cast would be uncertain by ΔE00 ${cast.deltaE00.u95.toFixed(1)}; it is withheld.`,
      ),
    );
}

/** All places that could tell, whatever their role. */
function byScene(all: PatchStrength[], space: ColorSpace) {
  return all.map((strength) => {
    const [place] = combineStrengths([strength], luminanceRow(space)).places;
    return {
      scene: strength.scene,
      role: strength.role,
      patch: strength.patch,
      stops: { value: place.stops, u95: place.u95 },
    };
  });
}

/** Whether a patch can tell a polarizer's strength: light that comes polarized can't, nor a whole ordinary scene, which has a sky. */
export function isUnpolarized({ scene: id, role }: { scene: string; role: string }, { scenes }: Session): boolean {
  return role !== 'frame' && !POLARIZED_SCENES.has(scenes.find((scene) => scene.id === id)?.kind ?? '');
}

/** Why a filter has no figure, when no fault of its own says so already. */
export function whyNotMeasured(filter: Filter, places: Place[], session: Session): Fault[] {
  const takes = session.takes.filter((take) => take.filter === filter.id && take.role !== 'bracket');
  const ids = takes.map((take) => take.id);
  const seen = places.filter((place) => place.seen.has(filter.id));
  const withoutBare = seen.filter((place) => place.series === null);
  const clippedBare = withoutBare.flatMap((place) =>
    place.faults.filter((one) => one.filter === null && one.fault.code !== 'white-balance-moved'),
  );
  if (clippedBare.length > 0)
    return clippedBare.map(({ fault: cause }) =>
      fault(
        cause.code as 'clipped',
        'error',
        [...ids, ...cause.takes],
        `No usable bare picture to compare with. ${cause.message}`,
      ),
    );
  const scenes = [...new Set(takes.map((take) => take.scene))];
  const suited = (scene: string) => patchesOfScene(session, scene).some((patch) => isUnpolarized(patch, session));
  if (polarizes(filter) && scenes.length > 0 && !scenes.some(suited))
    return [
      fault(
        'unpolarized-missing',
        'warning',
        ids,
        'It was shot before polarized light only; the strength of a polarizer comes from a chart or an even wall.',
      ),
    ];
  const missing = scenes.filter(
    (scene) => !session.takes.some((take) => take.scene === scene && take.filter === null && take.role === 'measure'),
  );
  if (missing.length > 0 || withoutBare.length > 0)
    return [
      fault(
        'bare-missing',
        'error',
        ids,
        `There is no usable bare take of ${scenes.map((scene) => `“${scene}”`).join(', ')} to compare with.`,
      ),
    ];
  return [];
}
