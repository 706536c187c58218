/**
 * What a polarizer darkens in an ordinary scene, by kinds of area told from bare's colors. Light that is itself polarized (a sky, what
 * water reflects) is darkened by more or less than the filter's own strength, so that no figure over the frame is one.
 */
import { apply, luminanceRow, type ColorSpace, type Vector3 } from '../../formulas/color/spaces';
import { hueDegrees, labFromXyz } from '../../formulas/color/lab';
import type { OrdinaryScene } from '../../laying/ordinaryTypes';
import { REASONS } from '../../laying/ratioMap';
import { robustMean } from '../sharpness/fall';
import type { OrdinaryReadings } from '../../session/readings';
import type { SolvedFilter } from '../strength/solvedScene';

export type Area = 'sky' | 'leaves' | 'water' | 'rest';
const AREAS: readonly Area[] = ['sky', 'water', 'leaves', 'rest'];

/** Hue angles of what is green by leaf, degrees of CIE hab, and the least chroma that tells a hue. Our own judgement. */
const LEAVES = { from: 95, to: 160, chroma: 8 };
/** Blue by water and sky: hue angles. */
const BLUE = { from: 200, to: 300, chroma: 4 };
/** A sky is so much brighter than the middle of the scene, times. */
const BRIGHT = 1.6;
/** Luminance of L* 50. */
const MIDDLE = 0.184;
/** Cells of an area, at least, over all pairs. */
const FEWEST = 12;
/** Cells of one picture err alike (see frameShading). */
const ALIKE = 6;
/** Standard uncertainty that laying leaves at least, stops. Our own judgement. */
const LEAST_U = 0.01;
const MOVED = REASONS.indexOf('moved');

/**
 * Stops of each kind of area, exposures taken out, of the take (its ring's angle) at which areas lie furthest apart. Empty where nothing
 * could be told.
 */
export function areasOf(
  scene: OrdinaryScene,
  { pairs }: SolvedFilter,
  space: ColorSpace,
): NonNullable<OrdinaryReadings['areas']> {
  const takes = [...new Set(pairs.map((at) => scene.pictures[scene.pairs[at].first].take))];
  const rows = takes.map((take) => {
    const own = pairs.filter((at) => scene.pictures[scene.pairs[at].first].take === take);
    return areasOfTake(scene, own, space).map((one) => ({ ...one, take }));
  });
  const range = (row: (typeof rows)[number]) => {
    const stops = row.map((one) => one.stops.value);
    return stops.length === 0 ? -1 : Math.max(...stops) - Math.min(...stops);
  };
  return rows.sort((a, b) => range(b) - range(a))[0] ?? [];
}

function areasOfTake(scene: OrdinaryScene, pairs: readonly number[], space: ColorSpace) {
  const weights = luminanceRow(space);
  const values = new Map<Area, number[]>();
  let cells = 0;
  for (const at of pairs) {
    const { first, second, map } = scene.pairs[at];
    const [take, bare] = [scene.pictures[first], scene.pictures[second]];
    if (!Number.isFinite(take.exposureLog2 - bare.exposureLog2)) continue;
    const kinds = kindsOf(map, space);
    for (let cell = 0; cell < map.reason.length; cell++) {
      const area = kinds[cell];
      const ratios = map.channels.map((channel) => channel[cell]);
      // Water moves by itself: its mean over a cell counts all the same.
      if (!area || (map.reason[cell] !== 0 && map.reason[cell] !== MOVED) || !ratios.every(Number.isFinite)) continue;
      const luminous = weights.reduce((sum, weight, c) => sum + weight * 2 ** ratios[c], 0);
      const stops = -Math.log2(luminous) + take.exposureLog2 - bare.exposureLog2;
      cells++;
      values.set(area, [...(values.get(area) ?? []), stops]);
    }
  }
  return AREAS.flatMap((area) => {
    const own = values.get(area) ?? [];
    if (own.length < FEWEST) return [];
    const { value, u } = robustMean(own);
    const u95 = 2 * Math.hypot(Math.sqrt(ALIKE) * u, LEAST_U);
    return [{ area, stops: { value, u95 }, share: Math.round((1e3 * own.length) / cells) / 1e3 }];
  });
}

/** Kind of each cell by bare's color there; null where nothing is told. */
function kindsOf(map: OrdinaryScene['pairs'][number]['map'], space: ColorSpace): (Area | null)[] {
  const { columns, rows, light } = map;
  const weights = luminanceRow(space);
  const bright = Array.from({ length: columns * rows }, (_, i) =>
    weights.reduce((sum, weight, c) => sum + weight * light[c][i], 0),
  );
  const known = bright.filter((one) => one > 0).sort((a, b) => a - b);
  const middle = known[known.length >> 1] ?? 1;
  const white = apply(space.toXyz, [1, 1, 1]);
  const colors = bright.map((y, i) => {
    if (!(y > 0)) return null;
    // At one lightness, so that a dark leaf and a lit one have the same chroma.
    const xyz = apply(space.toXyz, [light[0][i] / y, light[1][i] / y, light[2][i] / y]);
    const [, a, b] = labFromXyz(xyz.map((one) => MIDDLE * one) as unknown as Vector3, white);
    return { chroma: Math.hypot(a, b), hue: hueDegrees(a, b) };
  });
  const kinds = colors.map((color, i): Area | null => {
    if (!color) return null;
    const is = ({ from, to, chroma }: typeof LEAVES) => color.chroma > chroma && color.hue > from && color.hue < to;
    if (is(LEAVES)) return 'leaves';
    if (is(BLUE)) return bright[i] > BRIGHT * middle ? 'sky' : 'water';
    return 'rest';
  });
  // A sky hangs down from the frame's top: below the first thing that isn't one, and isn't bright, there is none.
  for (let column = 0; column < columns; column++) {
    let open = true;
    for (let row = 0; row < rows; row++) {
      const i = row * columns + column;
      const cloud = kinds[i] === 'rest' && bright[i] > BRIGHT * middle && row < rows / 2;
      if (open && cloud) kinds[i] = 'sky';
      if (kinds[i] === 'sky' && !open) kinds[i] = 'water';
      if (open && kinds[i] !== 'sky' && kinds[i] !== null && kinds[i] !== 'leaves') open = false;
      if (kinds[i] === 'water' && row < rows / 3) kinds[i] = 'sky';
    }
  }
  return kinds;
}
