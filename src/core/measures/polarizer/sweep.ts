/** The ring sweep at a screen: brightest, darkest, axis, and takes whose angle can't be right. */
import { castColor } from '../cast/cast';
import { luminanceRow, type ColorSpace } from '../../formulas/color/spaces';
import { inheritedParts, ownRelativeU, takeStrengths, type TakeStrength } from '../strength/takeStrengths';
import { wayBetween } from '../../formulas/geometry/angles';
import { anglesOf, distinctAngles, doubtfulPoints, ringDesign, type RingFit, type RingPoint } from './ring';
import { fault } from '../../words/faults';
import type { Filter, Scene } from '../../session/schema';
import type { FilterReadings, PolarizerReadings, Reading, SweepPoint } from '../../session/readings';
import { combine, reading } from '../../formulas/statistics/budget';
import type { Place } from '../strength/places';
import { curveOf, ringOf, scatterPart, type RingParts } from './rings';

/** Figures less certain than these say nothing; our own judgement, in stops and degrees. */
const WIDEST = { brightest: 0.15, darkest: 0.5, axisDegrees: 5 };
/** Numbers of angles that the advice speaks of. */
const DESIGNS = [3, 7, 13];
/** A screen's level is read where the session placed it. */
const SCREEN_ROLES = ['neutral', 'frame', 'field', 'reference'];

/** The sweep at the first screen that shows the filter. */
export function sweepAt(
  result: FilterReadings,
  filter: Filter,
  { places, session, space }: RingParts,
): PolarizerReadings {
  const luminance = luminanceRow(space);
  const degreesOf = ringOf(session);
  for (const scene of session.scenes.filter((one) => one.kind === 'screen')) {
    const here = SCREEN_ROLES.flatMap((role) =>
      places.filter(({ patch, series }) => patch.scene === scene.id && patch.role === role && series),
    );
    const place = here.find(({ seen }) => seen.has(filter.id));
    if (!place) continue;
    const takes = takeStrengths(place.series!, filter.id, luminance);
    const ids = takes.map((one) => one.take);
    const noted = takes.filter((one) => degreesOf(one.take) !== undefined);
    const points = noted.map((one) => pointOf(one, degreesOf(one.take)!));
    if (distinctAngles(points.map((one) => one.degrees)) < 3 || points.length < 3) {
      const words = `The ring sweep at “${scene.id}” has ${points.length === 0 ? 'no noted angle' : `${distinctAngles(points.map((one) => one.degrees))} different angle${points.length === 1 ? '' : 's'}`}; three are needed to know the brightest and the darkest.`;
      result.faults.push(fault('sweep-too-short', 'error', ids, words));
      continue;
    }
    const { doubtful, fit } = doubtfulPoints(points);
    if (!fit) continue;
    const kept = noted.filter((_, i) => !doubtful.includes(i));
    for (const i of doubtful) askForAngle(result, noted[i], fit, points[i].degrees);
    for (const take of takes.filter((one) => !noted.includes(one))) askForAngle(result, take, fit, null);
    return sweepReadings(result, {
      scene,
      place,
      takes,
      kept,
      doubtful: doubtful.map((i) => noted[i].take),
      fit,
      space,
      degreesOf,
    });
  }
  return {};
}

function pointOf(take: TakeStrength, degrees: number): RingPoint {
  return { degrees, ratio: 2 ** -take.stops, relativeU: ownRelativeU(take) };
}

/** Names a take whose angle is missing or can't be right, with the angles that its picture allows. */
function askForAngle(result: FilterReadings, take: TakeStrength, fit: RingFit, noted: number | null): void {
  // A ring is read to a degree.
  const angles = anglesOf(fit, 2 ** -take.stops).map((one) => Math.round(one) % 180);
  const possible =
    angles.length === 0
      ? 'no angle at all: is it a picture of this filter?'
      : [...new Set(angles.map((one) => `${one.toFixed(0)}°`))].join(' or ');
  const words =
    noted === null
      ? `${take.take} notes no ring angle. By its light it fits ${possible}; it is left out of the sweep.`
      : `${take.take} is noted at ${noted}°, but by its light it fits ${possible}; it is left out of the sweep.`;
  const code = noted === null ? 'ring-angle-missing' : 'ring-angle-doubtful';
  result.faults.push({ ...fault(code, 'warning', [take.take], words), angles });
}

interface Sweep {
  scene: Scene;
  place: Place;
  takes: TakeStrength[];
  kept: TakeStrength[];
  doubtful: string[];
  fit: RingFit;
  space: ColorSpace;
  degreesOf: (take: string) => number | undefined;
}

function sweepReadings(result: FilterReadings, sweep: Sweep): PolarizerReadings {
  const { scene, place, takes, kept, doubtful, fit, space, degreesOf } = sweep;
  const series = place.series!;
  const expand = (sensitivities: readonly number[]) =>
    combine([...inheritedParts(series, kept, sensitivities), scatterPart(fit, sensitivities)]);
  const u = {
    brightest: expand(fit.sensitivities.brightest),
    darkest: expand(fit.sensitivities.darkest),
    extinction: expand(fit.sensitivities.extinction),
    axis: expand(fit.sensitivities.axis),
  };
  const ids = takes.map((one) => one.take);
  const bright = u.brightest.u95 <= WIDEST.brightest ? reading(fit.brightest, u.brightest) : null;
  const dark = Number.isFinite(fit.darkest) && u.darkest.u95 <= WIDEST.darkest;
  const axis = u.axis.u95 <= WIDEST.axisDegrees ? reading(fit.axisDegrees, u.axis) : null;
  if (!bright) {
    const words = `The brightest of the sweep at “${scene.id}” would be uncertain by ${u.brightest.u95.toFixed(2)} stop; it is withheld. The angles lie too close together, or the takes scatter.`;
    result.faults.push(fault('sweep-too-short', 'error', ids, words));
  }
  if (!dark) {
    const words = `The darkest of the sweep at “${scene.id}” lies below what its takes can tell; extinction is withheld. It is deeper than ${deepest(fit, expand).toFixed(1)} stops under the brightest.`;
    result.faults.push(fault('too-dark', 'warning', ids, words));
  }
  const offset =
    axis && scene.optics?.screenDegrees !== undefined ? markOffset(axis, scene.optics.screenDegrees) : null;
  const typical = Math.sqrt(
    kept.reduce((sum, one) => sum + ownRelativeU(one) ** 2, 0) / kept.length +
      fit.scatterStops.reduce((sum, one) => sum + (one * Math.LN2) ** 2, 0) / kept.length,
  );
  const extinction = dark ? fit.darkest - fit.brightest : 8;
  return {
    ...(bright ? { brightest: bright } : {}),
    ...(dark
      ? {
          darkest: reading(fit.darkest, u.darkest),
          extinctionStops: reading(fit.darkest - fit.brightest, u.extinction),
        }
      : {}),
    ...(axis ? { axisDegrees: axis } : {}),
    ...(offset ? { markOffsetDegrees: offset } : {}),
    budget: (dark ? u.extinction : u.brightest).lines,
    sweep: {
      scene: scene.id,
      points: takes.map((take): SweepPoint => ({
        ...sweepPoint(take, degreesOf(take.take), series, space),
        ...(doubtful.includes(take.take) ? { doubtful: true } : {}),
      })),
      curve: curveOf(fit),
      residualStops: fit.residualStops,
      design: DESIGNS.map((angles) => {
        const { brightest, darkest, axisDegrees } = ringDesign(angles, extinction, typical);
        return { angles, brightest: 2 * brightest, darkest: 2 * darkest, axisDegrees: 2 * axisDegrees };
      }),
      sentence: sweepInWords(fit, kept.length, offset),
    },
  };
}

/** Extinction that the takes rule out: the least level less twice its uncertainty. */
function deepest(fit: RingFit, expand: (s: readonly number[]) => { u95: number }): number {
  const steps = Math.max(...[0, 45, 90, 135].map((degrees) => fit.at(fit.axisDegrees + degrees)));
  const least = Math.max(0, fit.at(fit.axisDegrees + 90));
  const level = least + steps * Math.LN2 * expand(fit.sensitivities.mean).u95;
  return -Math.log2(Math.max(1e-9, level / steps));
}

function sweepPoint(
  take: TakeStrength,
  degrees: number | undefined,
  series: NonNullable<Place['series']>,
  space: ColorSpace,
): SweepPoint {
  const { a, b } = castColor(take.channels, space);
  return {
    take: take.take,
    degrees: degrees ?? null,
    stops: reading(take.stops, combine(inheritedParts(series, [take], [1]))),
    color: { a, b },
  };
}

function markOffset(axis: Reading, screenDegrees: number): Reading {
  return { value: wayBetween(screenDegrees, axis.value, 180), u95: axis.u95 };
}

function sweepInWords(fit: RingFit, count: number, offset: Reading | null): string {
  const check =
    fit.freedom === 0
      ? 'Three angles leave nothing to check the curve with; seven would.'
      : fit.scatter?.cause === 'ring angles'
        ? `The takes scatter as if the ring were read to ${fit.scatter.size.toFixed(1)}°.`
        : fit.scatter
          ? `The takes scatter by ${(fit.scatter.size / Math.LN2).toFixed(3)} stop beyond their noise.`
          : `The ${count} takes follow the cos² law to ${fit.residualStops.toFixed(3)} stop.`;
  if (!offset) return check;
  const size = Math.abs(offset.value);
  const mark =
    size <= offset.u95 ? 'The mark is where it should be.' : `The mark is ${size.toFixed(size < 10 ? 1 : 0)}° off.`;
  return `${mark} ${check}`;
}
