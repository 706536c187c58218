/** What a filter does to colored surfaces after levelling, so that a darker picture isn't taken for more color (formats.md, "colors"). */
import { apply, luminanceRow, type ColorSpace, type Vector3 } from '../../formulas/color/spaces';
import { hueDegrees, labFromXyz } from '../../formulas/color/lab';
import { bareLightAt, inheritedParts, responsePart, takeStrengths, type TakeStrength } from '../strength/takeStrengths';
import type { PatchSeries } from '../strength/patchStrength';
import { wayBetween } from '../../formulas/geometry/angles';
import { ringDistance } from '../polarizer/ring';
import type { ColorReadings, FilterReadings } from '../../session/readings';
import { combine, reading } from '../../formulas/statistics/budget';
import { propagate } from '../../formulas/statistics/covariance';
import { mean } from '../../formulas/statistics/averages';
import type { PreparedPatch } from '../strength/preparedPatch';
import type { Seen } from '../seen';

/** Chroma below this has no hue and no ratio worth the name (CIE C*ab). Our own judgement. */
const LEAST_CHROMA = 2;

interface Chroma {
  ratio: number;
  hueShift: number;
}

/** One take of one color patch. */
interface ColorTake {
  /** Its stops are those of the surface's own luminance. */
  strength: TakeStrength;
  degrees: number | undefined;
  /** Bare light of R, G, B at the take's time, as the bare pictures hold it. */
  bare: number[];
  /** Stops to level by, with their standard uncertainty. */
  level: number;
  levelU: number;
}

/** What a filter's colors are levelled and chosen by: its other figures, as far as they are known. */
type Known = Pick<FilterReadings, 'density' | 'polarizer'>;

/** A reading for each color patch that shows the filter. */
export function estimateColors(
  filter: string,
  { places, session, space }: Pick<Seen, 'places' | 'session' | 'space'>,
  known: Known,
): ColorReadings[] {
  const rings = new Map(session.takes.map((take) => [take.id, take.setting?.ringDegrees]));
  return places
    .filter(({ patch, series }) => patch.role === 'color' && series)
    .flatMap((place): ColorReadings[] => {
      const takes = colorTakes(place, filter, known, { places, rings, space });
      const found = takes.length > 0 ? colorReading(place, takes, known, space) : null;
      return found ? [found] : [];
    });
}

function colorTakes(
  place: PreparedPatch,
  filter: string,
  { density }: Known,
  {
    places,
    rings,
    space,
  }: { places: Seen['places']; rings: ReadonlyMap<string, number | undefined>; space: ColorSpace },
): ColorTake[] {
  const luminance = luminanceRow(space);
  const levels = levelsOf(place.patch.scene, filter, places, luminance);
  const series = place.series!;
  return takeStrengths(series, filter, surfaceWeights(series, filter, luminance)).flatMap((strength): ColorTake[] => {
    const own = levels.get(strength.take);
    if (!own && !density) return [];
    return [
      {
        strength,
        degrees: rings.get(strength.take),
        bare: bareLightAt(series, strength.timeMs),
        level: own?.stops ?? density!.stops.value,
        levelU: own?.u ?? density!.stops.u95 / 2,
      },
    ];
  });
}

/**
 * What each channel gives to the surface's own luminance, as bare shows it: a filter that takes blue darkens blue paint more than gray,
 * whatever it takes of white light.
 */
function surfaceWeights(series: PatchSeries, filter: string, luminance: readonly number[]): number[] {
  const times = series.shots.filter((shot) => shot.filter === filter).map((shot) => shot.timeMs);
  if (times.length === 0) return [...luminance];
  const parts = bareLightAt(series, mean(times)).map((light, c) => luminance[c] * light);
  const all = parts[0] + parts[1] + parts[2];
  return parts.map((part) => part / all);
}

/** Luminous stops by take on the scene's own neutral patches, else its reference patches. */
function levelsOf(scene: string, filter: string, places: Seen['places'], luminance: readonly number[]) {
  const levels = new Map<string, { stops: number; u: number }>();
  for (const role of ['neutral', 'reference']) {
    const here = places.filter(({ patch, series }) => patch.scene === scene && patch.role === role && series);
    const found = new Map<string, { stops: number; u: number }[]>();
    for (const { series } of here)
      for (const take of takeStrengths(series!, filter, luminance)) {
        const u = Math.sqrt(propagate(take.pixels, take.gradient) + propagate(take.response, take.gradient));
        found.set(take.take, [...(found.get(take.take) ?? []), { stops: take.stops, u }]);
      }
    for (const [take, list] of found)
      levels.set(take, {
        stops: mean(list.map((one) => one.stops)),
        u: Math.hypot(...list.map((one) => one.u)) / list.length,
      });
    if (levels.size > 0) break;
  }
  return levels;
}

/** Takes of the ring angle that matters: where glare or sky is cut most; else where chroma is raised most. */
function chosenTakes(takes: readonly ColorTake[], { polarizer }: Known, scene: string, space: ColorSpace) {
  const angles = [...new Set(takes.map((one) => one.degrees))];
  if (angles.length === 1) return takes;
  const best = [polarizer?.glare, polarizer?.sky].find((one) => one?.scene === scene)?.atDegrees;
  const of = (angle: number | undefined) => takes.filter((one) => one.degrees === angle);
  const apart = (angle: number | undefined) => (angle === undefined ? 180 : ringDistance(angle, best!));
  const order =
    best === undefined
      ? [...angles].sort((a, b) => meanRatio(of(b), space) - meanRatio(of(a), space))
      : [...angles].sort((a, b) => apart(a) - apart(b));
  return of(order[0]);
}

const meanRatio = (takes: readonly ColorTake[], space: ColorSpace) =>
  mean(takes.map((one) => chromaOf(one, one.level, one.strength.channels, space).ratio));

function labOf(light: readonly number[], space: ColorSpace) {
  return labFromXyz(apply(space.toXyz, light as unknown as Vector3), space.white);
}

/** Chroma ratio and hue shift of a take raised by some stops. */
function chromaOf({ bare }: ColorTake, level: number, channels: readonly number[], space: ColorSpace): Chroma {
  const [, a, b] = labOf(bare, space);
  const [, fa, fb] = labOf(
    bare.map((light, c) => light * 2 ** (level - channels[c])),
    space,
  );
  return { ratio: Math.hypot(fa, fb) / Math.hypot(a, b), hueShift: wayBetween(hueDegrees(a, b), hueDegrees(fa, fb)) };
}

function colorReading(
  { patch, series }: PreparedPatch,
  all: readonly ColorTake[],
  known: Known,
  space: ColorSpace,
): ColorReadings | null {
  const takes = chosenTakes(all, known, patch.scene, space);
  const [, a, b] = labOf(takes[0].bare, space);
  if (Math.hypot(a, b) < LEAST_CHROMA) return null;
  const each = takes.map((one) => chromaOf(one, one.level, one.strength.channels, space));
  const expand = (pick: (chroma: Chroma) => number) => uncertaintyOf(takes, pick, series!, space);
  const contrast = takes.map((one) => one.strength.stops - one.level);
  const [{ degrees }] = takes;
  return {
    patch: patch.id,
    scene: patch.scene,
    chromaRatio: reading(
      mean(each.map((one) => one.ratio)),
      expand((one) => one.ratio),
    ),
    hueShiftDegrees: reading(
      mean(each.map((one) => one.hueShift)),
      expand((one) => one.hueShift),
    ),
    contrastStops: reading(
      mean(contrast),
      combine([
        ...inheritedParts(
          series!,
          takes.map((one) => one.strength),
          takes.map(() => 1 / takes.length),
          true,
        ),
        responsePart([
          {
            series: series!,
            takes: takes.map((one) => one.strength),
            sensitivities: takes.map(() => 1 / takes.length),
          },
        ]),
        {
          source: 'level',
          u: Math.hypot(...takes.map((one) => one.levelU)) / takes.length,
          degreesOfFreedom: Infinity,
        },
      ]),
    ),
    asShotRatio: mean(takes.map((one) => chromaOf(one, 0, one.strength.channels, space).ratio)),
    ...(degrees === undefined ? {} : { atDegrees: degrees }),
  };
}

/** By the law of propagation with numerical sensitivities to R, G, B of the patch and to the level. */
function uncertaintyOf(
  takes: readonly ColorTake[],
  pick: (chroma: Chroma) => number,
  series: PatchSeries,
  space: ColorSpace,
) {
  const step = 1e-4;
  let [patch, curve, level, bare] = [0, 0, 0, 0];
  for (const take of takes) {
    const at = (channels: readonly number[], stops: number) => pick(chromaOf(take, stops, channels, space));
    const { channels, pixels, response, bareWeights } = take.strength;
    const gradient = [0, 1, 2].map((c) => {
      const shifted = (by: number) => channels.map((value, i) => (i === c ? value + by : value));
      return (at(shifted(step), take.level) - at(shifted(-step), take.level)) / (2 * step);
    });
    const slope = (at(channels, take.level + step) - at(channels, take.level - step)) / (2 * step);
    patch += propagate(pixels, gradient);
    // Takes of one ring angle lie at the same codes: their curve's error doesn't average out.
    curve += Math.sqrt(propagate(response, gradient));
    level += (slope * take.levelU) ** 2;
    // The bare color is in both; what its noise does to the ratio is of the size of what the filtered one's does.
    series.bare.levels.forEach((one, j) => (bare += bareWeights[j] ** 2 * propagate(one.noise, gradient)));
  }
  const n = takes.length;
  return combine([
    { source: 'noise', u: Math.sqrt(patch) / n, degreesOfFreedom: Infinity },
    { source: 'response', u: curve / n, degreesOfFreedom: Infinity },
    { source: 'noise of the bare patch', u: Math.sqrt(bare / n), degreesOfFreedom: Infinity },
    { source: 'level', u: Math.sqrt(level) / n, degreesOfFreedom: Infinity },
  ]);
}
