/** The ring sweep at a screen: brightest, darkest, axis, and takes whose angle can't be right. */
import { luminanceRow, type ColorSpace } from '../../formulas/color/spaces';
import { wayBetween } from '../../formulas/geometry/angles';
import { combine, reading } from '../../formulas/statistics/budget';
import type { Fault, PolarizerReadings, Reading, SweepPoint } from '../../session/readings';
import type { Scene } from '../../session/schema';
import {
  brightestWithheld,
  extinctionWithheld,
  ringAngleAsked,
  sweepInWords,
  sweepTooShort,
  type SweepCheck,
} from '../../words/polarizer';
import { castColor } from '../cast/cast';
import type { PreparedPatch } from '../strength/preparedPatch';
import { inheritedParts, ownRelativeU, takeStrengths, type TakeStrength } from '../strength/takeStrengths';
import { anglesOf, distinctAngles, doubtfulPoints, ringDesign, type RingFit, type RingPoint } from './ring';
import { curveOf, ringOf, scatterPart, type Found, type RingSeen } from './rings';

/** Figures less certain than these say nothing; our own judgement, in stops and degrees. */
const WIDEST = { brightest: 0.15, darkest: 0.5, axisDegrees: 5 };
/** What the advice on numbers of angles reckons with where extinction is withheld, in stops. */
const ASSUMED_EXTINCTION = 8;
/** Numbers of angles that the advice speaks of. */
const DESIGNS = [3, 7, 13];
/** A screen's level is read where the session placed it. */
const SCREEN_ROLES = ['neutral', 'frame', 'field', 'reference'];

/** The sweep at the first screen that shows the filter with three angles or more. */
export function sweepAt(filter: string, { places, session, space }: RingSeen): Found<PolarizerReadings> {
  const luminance = luminanceRow(space);
  const degreesOf = ringOf(session);
  const faults: Fault[] = [];
  for (const scene of session.scenes.filter((one) => one.kind === 'screen')) {
    const here = SCREEN_ROLES.flatMap((role) =>
      places.filter(({ patch, series }) => patch.scene === scene.id && patch.role === role && series),
    );
    const place = here.find(({ seen }) => seen.has(filter));
    if (!place) continue;
    const takes = takeStrengths(place.series!, filter, luminance);
    const noted = takes.filter((one) => degreesOf(one.take) !== undefined);
    const points = noted.map((one) => pointOf(one, degreesOf(one.take)!));
    const angles = points.length === 0 ? 0 : distinctAngles(points.map((one) => one.degrees));
    if (angles < 3) {
      faults.push(
        sweepTooShort(
          takes.map((one) => one.take),
          scene.id,
          angles,
        ),
      );
      continue;
    }
    const { doubtful, fit } = doubtfulPoints(points);
    if (!fit) continue;
    const anglesFor = (take: TakeStrength) =>
      // A ring is read to a degree.
      anglesOf(fit, 2 ** -take.stops).map((one) => Math.round(one) % 180);
    faults.push(
      ...doubtful.map((i) => ringAngleAsked(noted[i].take, points[i].degrees, anglesFor(noted[i]))),
      ...takes.filter((one) => !noted.includes(one)).map((one) => ringAngleAsked(one.take, null, anglesFor(one))),
    );
    const found = sweepReadings({
      scene,
      place,
      takes,
      kept: noted.filter((_, i) => !doubtful.includes(i)),
      doubtful: doubtful.map((i) => noted[i].take),
      fit,
      space,
      degreesOf,
    });
    return { figures: found.figures, faults: [...faults, ...found.faults] };
  }
  return { figures: {}, faults };
}

function pointOf(take: TakeStrength, degrees: number): RingPoint {
  return { degrees, ratio: 2 ** -take.stops, relativeU: ownRelativeU(take) };
}

interface Sweep {
  scene: Scene;
  place: PreparedPatch;
  takes: TakeStrength[];
  kept: TakeStrength[];
  doubtful: string[];
  fit: RingFit;
  space: ColorSpace;
  degreesOf: (take: string) => number | undefined;
}

function sweepReadings(sweep: Sweep): Found<PolarizerReadings> {
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
  const faults = [
    ...(bright ? [] : [brightestWithheld(ids, scene.id, u.brightest.u95)]),
    ...(dark ? [] : [extinctionWithheld(ids, scene.id, deepest(fit, expand))]),
  ];
  const offset =
    axis && scene.optics?.screenDegrees !== undefined ? markOffset(axis, scene.optics.screenDegrees) : null;
  const typical = Math.sqrt(
    kept.reduce((sum, one) => sum + ownRelativeU(one) ** 2, 0) / kept.length +
      fit.scatterStops.reduce((sum, one) => sum + (one * Math.LN2) ** 2, 0) / kept.length,
  );
  const extinction = dark ? fit.darkest - fit.brightest : ASSUMED_EXTINCTION;
  const figures: PolarizerReadings = {
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
      sentence: sweepInWords(checkOf(fit, kept.length), offset),
    },
  };
  return { figures, faults };
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
  series: NonNullable<PreparedPatch['series']>,
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

function checkOf({ freedom, scatter, residualStops }: RingFit, takes: number): SweepCheck {
  if (freedom === 0) return { kind: 'unchecked' };
  if (scatter?.cause === 'ring angles') return { kind: 'angles', degrees: scatter.size };
  if (scatter) return { kind: 'scatter', stops: scatter.size / Math.LN2 };
  return { kind: 'fits', takes, residualStops };
}
