/** Strength of a filter from its places, or why there is none. */
import { luminanceRow, type ColorSpace } from '../../formulas/color/spaces';
import { expand, reading, type Contribution } from '../../formulas/statistics/budget';
import { commonMode } from '../../formulas/statistics/covariance';
import { nearestStandardFactor, nominalStops } from '../../session/notation';
import { patchesOfScene } from '../../session/parse';
import { POLARIZED_SCENES, polarizes } from '../../session/polarizing';
import type { DensityReadings, Fault } from '../../session/readings';
import type { Filter, Session } from '../../session/schema';
import { adviseOn } from '../../words/advice';
import { bareMissing, bareUnusable, placesDisagree, strengthWithheld, unpolarizedMissing } from '../../words/strength';
import type { Seen } from '../seen';
import { fallNearCenter } from '../shading/nearCenter';
import { combineStrengths, type CombinedStrength } from './combineStrengths';
import { patchStrength, type PatchStrength } from './patchStrength';
import type { PreparedPatch } from './preparedPatch';
import { unpolarizedStrength } from './unpolarized';

/** A strength less certain than this is withheld (formats.md, section 2), in stops. */
const WIDEST_U95 = 0.15;
/** Density and cast come from the first of these roles that a filter was seen on (formats.md, section 2). */
const ROLE_ORDER = ['neutral', 'frame', 'field'] as const;
const STRENGTH_ROLES = new Set<string>(ROLE_ORDER);
/** A lamp beside black or a polarized screen is no place to measure strength where there is another. */
const UNSUITED_SCENES = new Set(['flare', 'screen']);
/** Places further apart than their ± allow by this factor (Birge ratio), and than this many stops, are told. */
const DISAGREE = { birgeRatio: 2, stops: 0.02 };

export interface StrengthFinding {
  /** Absent where it is withheld. */
  density?: DensityReadings;
  /** What the figure rests on, withheld or not: for the cast, and for the verdict. */
  combined: CombinedStrength | null;
  /** Takes that the figure rests on, at the place that has most. */
  pictures: number;
  faults: Fault[];
  /** What the light of the places that speak does to a polarizing filter. */
  lightFaults: Fault[];
}

type StrengthSeen = Pick<Seen, 'places' | 'patches' | 'session' | 'space'>;

/** Strength of a filter that has one figure: no variable, no graduated one. */
export function estimateStrength(filter: Filter, seen: StrengthSeen): StrengthFinding {
  const { places, session, space } = seen;
  const found = strengthsOf(filter, seen);
  const strengths = found.map((one) => one.strength);
  const combined = combineFirstRole(strengths, session, space);
  if (!combined)
    return { combined: null, pictures: 0, faults: whyNotMeasured(filter, places, session), lightFaults: [] };
  const pictures = Math.max(0, ...combined.places.map((place) => place.strength.takes.length));
  const speaking = new Set(combined.places.map((place) => place.strength));
  const lightFaults = found.flatMap(({ strength, fault }) => (fault && speaking.has(strength) ? [fault] : []));
  const { contributions, channels, stops, gradient, birgeRatio, range } = combined;
  const luminous = expand(contributions, gradient);
  const takes = combined.places.flatMap((place) => place.strength.takes);
  if (!(luminous.u95 <= WIDEST_U95)) {
    const mostly = luminous.lines[0]?.source ?? 'noise';
    const hasDarker = session.takes.some((take) => take.role === 'bracket');
    const withheld = strengthWithheld(takes, { value: stops, u95: luminous.u95 }, WIDEST_U95, mostly, hasDarker);
    return { combined, pictures, faults: [withheld], lightFaults };
  }
  const unit = [0, 1, 2].map((c) => [0, 1, 2].map((i) => (i === c ? 1 : 0)));
  const perChannel = channels.map((value, c) => reading(value, expand(contributions, unit[c])));
  const nominal = nominalStops(filter.nominal);
  const density: DensityReadings = {
    stops: reading(stops, luminous),
    channels: { r: perChannel[0], g: perChannel[1], b: perChannel[2] },
    ...(nominal === null ? {} : { error: reading(stops - nominal, luminous) }),
    actsLike: { ndFactor: nearestStandardFactor(stops) },
    byScene: strengths.map((strength) => byScene(strength, space)),
    budget: luminous.lines,
    sensitivities: { r: gradient[0], g: gradient[1], b: gradient[2] },
    degreesOfFreedom: Number.isFinite(luminous.degreesOfFreedom) ? luminous.degreesOfFreedom : null,
    advice: adviseOn(luminous.lines),
  };
  const disagree = birgeRatio > DISAGREE.birgeRatio && range > DISAGREE.stops;
  const faults = disagree ? [placesDisagree(takes, range, birgeRatio)] : [];
  return { density, combined, pictures, faults, lightFaults };
}

/** The filter's strength at each place that can tell it, with what is to be said of the light there. */
function strengthsOf(
  filter: Filter,
  { places, patches, session, space }: StrengthSeen,
): { strength: PatchStrength; fault: Fault | null }[] {
  const polarizing = polarizes(filter);
  return places
    .filter(({ patch }) => STRENGTH_ROLES.has(patch.role) && (!polarizing || isUnpolarized(patch, session)))
    .flatMap((place) => {
      const { id: patch, scene, role } = place.patch;
      if (polarizing) return unpolarizedStrength(place, filter.id, session, luminanceRow(space)) ?? [];
      const strength = place.series && patchStrength(place.series, filter.id, { scene, patch, role });
      if (!strength) return [];
      const field = role === 'field' ? patches.find((one) => one.patch.id === patch) : undefined;
      const extra = [
        ...(place.extra ?? []),
        ...(field ? [ownFall(fallNearCenter(field, place, filter.id, space))] : []),
      ];
      return [{ strength: { ...strength, own: [...strength.own, ...extra] }, fault: null }];
    });
}

/** A wall's middle is less than a gray card: the filter's own fall of light over as much of the frame is open. */
const ownFall = (stops: number): Contribution => ({
  source: 'own fall of light',
  covariance: commonMode(stops),
  degreesOfFreedom: Infinity,
});

/** The places that speak for a filter's strength, combined; `null` where there are none. */
function combineFirstRole(all: readonly PatchStrength[], session: Session, space: ColorSpace): CombinedStrength | null {
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

function byScene(strength: PatchStrength, space: ColorSpace): DensityReadings['byScene'][number] {
  const [place] = combineStrengths([strength], luminanceRow(space)).places;
  const { scene, role, patch } = strength;
  return { scene, role, patch, stops: { value: place.stops, u95: place.u95 } };
}

/** Whether a patch can tell a polarizer's strength: light that comes polarized can't, nor a whole ordinary scene, which has a sky. */
function isUnpolarized({ scene: id, role }: { scene: string; role: string }, { scenes }: Session): boolean {
  return role !== 'frame' && !POLARIZED_SCENES.has(scenes.find((scene) => scene.id === id)?.kind ?? '');
}

/** Why a filter has no figure, when no fault of its own says so already. */
function whyNotMeasured(filter: Filter, places: readonly PreparedPatch[], session: Session): Fault[] {
  const takes = session.takes.filter((take) => take.filter === filter.id && take.role !== 'bracket');
  const ids = takes.map((take) => take.id);
  const withoutBare = places.filter((place) => place.seen.has(filter.id) && place.series === null);
  const causes = withoutBare.flatMap((place) =>
    place.faults.filter((one) => one.filter === null && one.fault.code !== 'white-balance-moved'),
  );
  if (causes.length > 0) return causes.map(({ fault }) => bareUnusable(ids, fault));
  const scenes = [...new Set(takes.map((take) => take.scene))];
  const suited = (scene: string) => patchesOfScene(session, scene).some((patch) => isUnpolarized(patch, session));
  if (polarizes(filter) && scenes.length > 0 && !scenes.some(suited)) return [unpolarizedMissing(ids)];
  const missing = scenes.some(
    (scene) => !session.takes.some((take) => take.scene === scene && take.filter === null && take.role === 'measure'),
  );
  return missing || withoutBare.length > 0 ? [bareMissing(ids, scenes)] : [];
}
