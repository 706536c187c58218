/** Shading of a filter on the session's flat scenes, and flare on its flare scenes. */
import { luminanceRow, type ColorSpace } from '../../formulas/color/spaces';
import { bareWeightsAt } from '../strength/patchStrength';
import { findGhosts, measureVeil, type BlackBesideNeutral } from '../flare/veil';
import type { ObservedPatch } from '../../reading/observations';
import { adviseOn } from '../../judging/rating/advice';
import { fault } from '../../words/faults';
import type { Fault, FilterReadings } from '../../session/readings';
import type { Session } from '../../session/schema';
import { measureShading, type ShadingReadings, type WeightedField } from './shadingMap';
import { CLIPPED_SHARE, percent } from '../../reading/byTake';
import type { Place } from '../strength/places';

/** Scenes whose light isn't even, or changes with a polarizer's ring. */
const NO_FIELD = new Set(['flare', 'screen']);

/**
 * Adds shading from every flat scene with a field patch; the first is the filter's, the others stand beside it.
 *
 * @param only takes that may speak; all when left out
 */
export function addShading(
  result: FilterReadings,
  places: readonly Place[],
  gathered: readonly ObservedPatch[],
  session: Session,
  space: ColorSpace,
  only?: ReadonlySet<string>,
): void {
  const kindOf = new Map(session.scenes.map((scene) => [scene.id, scene.kind]));
  const scenes = gathered
    .filter(({ patch }) => patch.role === 'field' && !NO_FIELD.has(kindOf.get(patch.scene) ?? ''))
    .flatMap((one) => {
      const place = places.find(({ patch }) => patch.id === one.patch.id);
      const found = place && shadingAt(one, place, result.filter, space, only);
      if (!found) return [];
      if ('found' in found) return [found.found];
      result.faults.push(found.withheld);
      return [];
    });
  if (scenes.length === 0) return;
  const [first, ...others] = scenes;
  const advice = first.budget.length > 0 ? { advice: adviseOn(first.budget) } : {};
  result.shading = { ...first, ...advice, ...(others.length > 0 ? { others } : {}) };
  for (const { withheld, scene } of scenes)
    if (withheld.length > 0)
      result.faults.push(
        fault(
          'too-dark',
          'error',
          [],
          `${withheld.length} of the corners of “${scene}” would be uncertain by more than 0.1 stop; they are withheld.`,
        ),
      );
}

/** Shading of a filter on one field; `null` where it wasn't seen there. */
export function shadingAt(
  { patch, fields }: ObservedPatch,
  place: Place,
  filter: string,
  space: ColorSpace,
  only?: ReadonlySet<string>,
): { found: ShadingReadings } | { withheld: Fault } | null {
  const pair = fieldPair({ patch, fields }, place, filter, only);
  if (pair === null || 'withheld' in pair) return pair;
  return {
    found: measureShading(patch.scene, pair.filtered, pair.bare, luminanceRow(space), place.series!.responseCovariance),
  };
}

/** A filter's field pictures and the bare ones with their weights; why there are none usable; `null` where it wasn't seen. */
export function fieldPair(
  { patch, fields }: Pick<ObservedPatch, 'patch' | 'fields'>,
  place: Place,
  filter: string,
  only?: ReadonlySet<string>,
): { filtered: WeightedField[]; bare: WeightedField[] } | { withheld: Fault } | null {
  const own = fields.filter((one) => one.filter === filter && (!only || only.has(one.take)));
  const usable = own.filter((one) => one.value.topShare <= CLIPPED_SHARE);
  if (own.length === 0 || !place.series) return null;
  const clipped =
    own.find((one) => one.value.topShare > CLIPPED_SHARE) ??
    fields.find((one) => one.filter === null && one.value.topShare > CLIPPED_SHARE);
  const bare = fields.filter((one) => one.filter === null && one.value.topShare <= CLIPPED_SHARE);
  if (usable.length === 0 || bare.length === 0)
    return {
      withheld: fault(
        'clipped',
        'error',
        clipped ? [clipped.take] : [],
        `${percent(clipped?.value.topShare ?? 0)} of the field “${patch.id}” is clipped; shading is withheld.`,
      ),
    };
  const weights = bareWeightsAt(
    place.series,
    usable.map((one) => one.timeMs),
  );
  const takeCount = (take: string) => bare.filter((one) => one.take === take).length;
  const weighted: WeightedField[] = bare.map((one) => ({
    field: one.value,
    weight: (weights.get(one.take) ?? 0) / takeCount(one.take),
  }));
  const total = weighted.reduce((sum, one) => sum + one.weight, 0);
  // A bare take whose center is unusable has no weight; with none left all speak alike.
  const balanced = weighted.map((one) => ({ ...one, weight: total > 1e-9 ? one.weight / total : 1 / bare.length }));
  const even = usable.map((one) => ({ field: one.value, weight: 1 / usable.length }));
  return { filtered: even, bare: balanced };
}

/** Adds veil and ghosts from the first flare scene that shows the filter. */
export function addFlare(
  result: FilterReadings,
  gathered: readonly ObservedPatch[],
  session: Session,
  space: ColorSpace,
): void {
  const luminance = luminanceRow(space);
  for (const scene of session.scenes.filter((one) => one.kind === 'flare')) {
    const here = gathered.filter(({ patch }) => patch.scene === scene.id);
    const black = here.find(({ patch }) => patch.role === 'black');
    const neutral = here.find(({ patch }) => patch.role === 'neutral');
    const whole = here.find(({ patch }) => patch.role === 'field');
    const pairs = (filter: string | null): BlackBesideNeutral[] =>
      (black?.samples ?? [])
        .filter((one) => one.filter === filter)
        .flatMap((one) => {
          const other = neutral?.samples.find((sample) => sample.file === one.file);
          return other && Math.max(...other.statistics.topShare) <= CLIPPED_SHARE
            ? [{ black: levelOf(one.statistics, luminance), neutral: levelOf(other.statistics, luminance) }]
            : [];
        });
    const [front, back] = [pairs(result.filter), pairs(null)];
    const fields = (filter: string | null) => (whole?.fields ?? []).filter((one) => one.filter === filter);
    const [frontFields, backFields] = [fields(result.filter), fields(null)];
    if (front.length === 0 || back.length === 0) continue;
    const valuesOf = (list: typeof frontFields) => list.map((one) => one.value);
    result.flare = {
      scene: scene.id,
      veilPercent: measureVeil(front, back),
      patches: { black: black!.patch.id, neutral: neutral!.patch.id },
      ...(frontFields.length > 0 && backFields.length > 0
        ? {
            ...findGhosts(valuesOf(frontFields), valuesOf(backFields), luminance),
            pictures: { bare: backFields[0].file, filtered: frontFields[0].file },
          }
        : { ghosts: [] }),
    };
    return;
  }
}

function levelOf(
  statistics: { mean: number[]; pixelSpread: number[]; pixelCount: number },
  luminance: readonly number[],
) {
  const value = luminance.reduce((sum, weight, c) => sum + weight * statistics.mean[c], 0);
  const noise = Math.hypot(
    ...luminance.map(
      (weight, c) => (weight * statistics.mean[c] * statistics.pixelSpread[c]) / Math.sqrt(statistics.pixelCount),
    ),
  );
  return { value, relativeU: value > 0 ? noise / value : 1 };
}
