/** Shading of a filter on the session's flat scenes. */
import { luminanceRow, type ColorSpace } from '../../formulas/color/spaces';
import { CLIPPED_SHARE } from '../../reading/byTake';
import type { ObservedPatch } from '../../reading/observations';
import type { Fault, ShadingReadings } from '../../session/readings';
import { adviseOn } from '../../words/advice';
import { cornersWithheld, fieldClipped, fieldTooSmall } from '../../words/shading';
import type { Seen } from '../seen';
import { bareWeightsAt } from '../strength/patchStrength';
import type { PreparedPatch } from '../strength/preparedPatch';
import { measureShading, type FieldShading, type WeightedField } from './shadingMap';

/** Scenes whose light isn't even, or changes with a polarizer's ring. */
const NO_FIELD = new Set(['flare', 'screen']);

/**
 * Shading from every flat scene with a field patch; the first is the filter's, the others stand beside it.
 *
 * @param only takes that may speak; all when left out
 */
export function estimateShading(
  filter: string,
  { patches, places, session, space }: Pick<Seen, 'patches' | 'places' | 'session' | 'space'>,
  only?: ReadonlySet<string>,
): { shading?: ShadingReadings; faults: Fault[] } {
  const kindOf = new Map(session.scenes.map((scene) => [scene.id, scene.kind]));
  const found = patches
    .filter(({ patch }) => patch.role === 'field' && !NO_FIELD.has(kindOf.get(patch.scene) ?? ''))
    .flatMap((one) => {
      const place = places.find(({ patch }) => patch.id === one.patch.id);
      return (place && shadingAt(one, place, filter, space, only)) ?? [];
    });
  const scenes = found.flatMap((one) => ('found' in one ? [one.found] : []));
  const faults = [
    ...found.flatMap((one) => ('withheld' in one ? [one.withheld] : [])),
    ...scenes.flatMap(({ withheld, scene, mostly }) =>
      withheld.length > 0 ? [cornersWithheld(scene, withheld.length, mostly)] : [],
    ),
  ];
  if (scenes.length === 0) return { faults };
  const [first, ...others] = scenes;
  const advice = first.budget.length > 0 ? { advice: adviseOn(first.budget) } : {};
  return { shading: { ...first, ...advice, ...(others.length > 0 ? { others } : {}) }, faults };
}

/** Shading of a filter on one field; `null` where it wasn't seen there. */
export function shadingAt(
  { patch, fields }: ObservedPatch,
  place: PreparedPatch,
  filter: string,
  space: ColorSpace,
  only?: ReadonlySet<string>,
): { found: FieldShading } | { withheld: Fault } | null {
  const pair = fieldPair({ patch, fields }, place, filter, only);
  if (pair === null || 'withheld' in pair) return pair;
  return {
    found: measureShading(patch.scene, pair.filtered, pair.bare, luminanceRow(space), place.series!.response),
  };
}

/** A filter's field pictures and the bare ones with their weights; why there are none usable; `null` where it wasn't seen. */
export function fieldPair(
  { patch, fields }: Pick<ObservedPatch, 'patch' | 'fields'>,
  place: PreparedPatch,
  filter: string,
  only?: ReadonlySet<string>,
): { filtered: WeightedField[]; bare: WeightedField[] } | { withheld: Fault } | null {
  const own = fields.filter((one) => one.filter === filter && (!only || only.has(one.take)));
  const usable = own.filter((one) => one.value.topShare <= CLIPPED_SHARE);
  if (own.length === 0 || !place.series) return null;
  const small = fields.find(({ value }) => value.width < value.columns || value.height < value.rows);
  if (small) return { withheld: fieldTooSmall([small.take], patch.id, small.value) };
  const clipped =
    own.find((one) => one.value.topShare > CLIPPED_SHARE) ??
    fields.find((one) => one.filter === null && one.value.topShare > CLIPPED_SHARE);
  const bare = fields.filter((one) => one.filter === null && one.value.topShare <= CLIPPED_SHARE);
  if (usable.length === 0 || bare.length === 0)
    return { withheld: fieldClipped(clipped ? [clipped.take] : [], patch.id, clipped?.value.topShare ?? 0) };
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
