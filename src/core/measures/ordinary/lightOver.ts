/** The light of ordinary scenes over time. */
import { luminanceRow, type ColorSpace } from '../../formulas/color/spaces';
import { propagate } from '../../formulas/statistics/covariance';
import type { Triple } from '../../reading/patchStatistics';
import type { FilterReadings, LightLine } from '../../session/readings';
import { luminousStops } from '../strength/combineStrengths';
import type { SolvedScene } from '../strength/solvedScene';

/** The light of each scene over its pictures; a filter's strength is added back to its own. */
export function lightOver(
  scenes: readonly Pick<SolvedScene, 'place'>[],
  filters: readonly FilterReadings[],
  space: ColorSpace,
): LightLine[] {
  const weights = luminanceRow(space);
  return scenes.flatMap(({ place }): LightLine[] => {
    if (!place.series) return [];
    const [first] = place.series.shots.filter((shot) => shot.filter === null);
    const base = luminousStops(first.level.map((one) => -one) as Triple, weights).stops;
    const points = place.series.shots.flatMap((shot) => {
      const { stops, gradient } = luminousStops(shot.level.map((one) => -one) as Triple, weights);
      const density = shot.filter === null ? null : filters.find((one) => one.filter === shot.filter)?.density;
      if (shot.filter !== null && !density) return [];
      const variance = propagate(shot.noise, gradient);
      return {
        take: shot.take,
        filter: shot.filter,
        at: new Date(shot.timeMs).toISOString(),
        stops: Math.round(1e4 * ((density?.stops.value ?? 0) + base - stops)) / 1e4,
        u95: Math.round(1e4 * 2 * Math.sqrt(Math.max(0, variance))) / 1e4,
      };
    });
    return [{ scene: place.patch.scene, points: points.sort((a, b) => a.at.localeCompare(b.at)) }];
  });
}
