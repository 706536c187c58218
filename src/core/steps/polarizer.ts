/** What a polarizer does before polarized light: the ring sweep at a screen, glare and sky against their reference. */
import { castColor } from '../cast';
import { luminanceRow, type ColorSpace } from '../color';
import { inheritedParts, ownRelativeU, takeStrengths, type TakeStrength, type UncertaintyPart } from '../density';
import { wayBetween } from '../numbers';
import { sunPosition } from '../planning';
import {
  angleBetween,
  anglesOf,
  distinctAngles,
  doubtfulPoints,
  fitRing,
  glareInWords,
  ringDesign,
  skyDarkening,
  type RingFit,
  type RingPoint,
} from '../polarizer';
import {
  fault,
  type CutReadings,
  type Filter,
  type FilterReadings,
  type PolarizerReadings,
  type Reading,
  type Scene,
  type Session,
  type SweepPoint,
} from '../session';
import { combine, reading } from '../uncertainty';
import type { Place } from './places';

/** Figures less certain than these say nothing; our own judgement, in stops and degrees. */
const WIDEST = { brightest: 0.15, darkest: 0.5, axisDegrees: 5, cut: 0.3 };
/** Numbers of angles that the advice speaks of. */
const DESIGNS = [3, 7, 13];
/** A screen's level is read where the session placed it. */
const SCREEN_ROLES = ['neutral', 'frame', 'field', 'reference'];

interface Parts {
  places: readonly Place[];
  session: Session;
  space: ColorSpace;
}

/** Adds what a polarizing filter's screens, waters and skies tell. */
export function addPolarizer(result: FilterReadings, filter: Filter, parts: Parts): void {
  const sweep = sweepAt(result, filter, parts);
  const cuts = (role: 'glare' | 'sky') => bestCut(result, filter, role, parts);
  const [glare, sky] = [cuts('glare'), cuts('sky')];
  const found: PolarizerReadings = {
    ...sweep,
    ...(glare ? { glareCut: glare.cut, glare: glare.readings } : {}),
    ...(sky ? { skyDarkening: sky.cut, sky: sky.readings } : {}),
  };
  if (Object.keys(found).length > 0) result.polarizer = found;
  const { density } = result;
  if (density && found.brightest)
    found.ownShare = {
      value: density.stops.value - found.brightest.value,
      u95: Math.hypot(density.stops.u95, found.brightest.u95),
    };
}

const ringOf = (session: Session) => {
  const angles = new Map(session.takes.map((take) => [take.id, take.setting?.ringDegrees]));
  return (take: string) => angles.get(take);
};

/** The sweep at the first screen that shows the filter. */
function sweepAt(result: FilterReadings, filter: Filter, { places, session, space }: Parts): PolarizerReadings {
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

function scatterPart(fit: RingFit, sensitivities: readonly number[]): UncertaintyPart {
  return {
    source: fit.scatter?.cause === 'ring angles' ? 'ring angles' : 'scatter of the sweep',
    u: Math.hypot(...sensitivities.map((s, i) => s * fit.scatterStops[i])),
    degreesOfFreedom: Math.max(1, fit.freedom),
  };
}

function curveOf(fit: RingFit) {
  const mean = 2 ** -fit.mean;
  return { mean, cosine: (fit.at(0) - fit.at(90)) / 2, sine: fit.at(45) - mean };
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

interface Cut {
  cut: Reading;
  readings: CutReadings;
}

/** The largest cut of all patches of a role against their scene's reference. */
function bestCut(
  result: FilterReadings,
  filter: Filter,
  role: 'glare' | 'sky',
  { places, session, space }: Parts,
): Cut | null {
  const usable = places.filter(({ series, seen }) => series && seen.has(filter.id));
  const cuts = usable
    .filter(({ patch }) => patch.role === role)
    .flatMap((place) => {
      const scene = session.scenes.find((one) => one.id === place.patch.scene)!;
      const reference = usable.find(({ patch }) => patch.scene === scene.id && patch.role === 'reference');
      if (!reference) {
        const words = `“${place.patch.id}” has no usable reference patch beside it in “${scene.id}”: what the polarizer does there can’t be told.`;
        result.faults.push(fault('reference-missing', 'error', [], words));
        return [];
      }
      const cut = cutAt(filter, place, reference, { scene, session, space });
      return cut ? [cut] : [];
    });
  const best = cuts.sort((a, b) => b.cut.value - a.cut.value)[0];
  if (!best) return null;
  if (best.cut.u95 > WIDEST.cut) {
    const words = `What it does at “${best.readings.patch}” would be uncertain by ${best.cut.u95.toFixed(2)} stop; it is withheld.`;
    result.faults.push(
      fault(
        'too-dark',
        'error',
        best.readings.points.map((one) => one.take),
        words,
      ),
    );
    return null;
  }
  return best;
}

function cutAt(
  filter: Filter,
  place: Place,
  reference: Place,
  { scene, session, space }: { scene: Scene; session: Session; space: ColorSpace },
): Cut | null {
  const luminance = luminanceRow(space);
  const degreesOf = ringOf(session);
  const front = takeStrengths(place.series!, filter.id, luminance);
  const back = takeStrengths(reference.series!, filter.id, luminance);
  const pairs = front.flatMap((one) => {
    const other = back.find(({ take }) => take === one.take);
    return other ? [{ front: one, back: other, degrees: degreesOf(one.take), stops: one.stops - other.stops }] : [];
  });
  if (pairs.length === 0) return null;
  const parts = (list: typeof pairs, s: readonly number[]) => [
    ...inheritedParts(
      place.series!,
      list.map((one) => one.front),
      s,
      true,
    ),
    ...inheritedParts(
      reference.series!,
      list.map((one) => one.back),
      s,
      true,
    ),
  ];
  const points = pairs.map((one): SweepPoint => ({
    take: one.front.take,
    degrees: one.degrees ?? null,
    stops: reading(one.stops, combine(parts([one], [1]))),
  }));
  const noted = pairs.filter((one) => one.degrees !== undefined);
  const ringPoints = noted.map(({ front: a, back: b, degrees, stops }): RingPoint => ({
    degrees: degrees!,
    ratio: 2 ** -stops,
    relativeU: pixelU(a, b),
  }));
  const fit = fitRing(ringPoints);
  const common = { scene: scene.id, patch: place.patch.id, reference: reference.patch.id, points };
  if (fit && Number.isFinite(fit.darkest)) {
    const s = fit.sensitivities.darkest;
    const cut = reading(fit.darkest, combine([...parts(noted, s), scatterPart(fit, s)]));
    const atDegrees = (fit.axisDegrees + 90) % 180;
    return {
      cut,
      readings: { ...common, atDegrees, curve: curveOf(fit), ...inWords(cut.value, place, scene, session) },
    };
  }
  // Takes of one ring angle are repeats; the angle that cuts most speaks.
  const groups = new Map<string, typeof pairs>();
  for (const one of pairs) groups.set(`${one.degrees}`, [...(groups.get(`${one.degrees}`) ?? []), one]);
  const best = [...groups.values()].sort((a, b) => meanStops(b) - meanStops(a))[0];
  const cut = reading(
    meanStops(best),
    combine(
      parts(
        best,
        best.map(() => 1 / best.length),
      ),
    ),
  );
  const { degrees } = best[0];
  return {
    cut,
    readings: {
      ...common,
      ...(degrees === undefined ? {} : { atDegrees: degrees }),
      ...inWords(cut.value, place, scene, session),
    },
  };
}

const meanStops = (list: readonly { stops: number }[]) => list.reduce((sum, one) => sum + one.stops, 0) / list.length;

/** Relative uncertainty of a ratio of two places of one picture: light and shutter cancel. */
function pixelU(a: TakeStrength, b: TakeStrength): number {
  const still = (take: TakeStrength) => ownRelativeU({ ...take, shot: take.shot.map(() => 0) });
  return Math.hypot(still(a), still(b));
}

function inWords(cut: number, { patch }: Place, scene: Scene, session: Session): { sentence: string } {
  const { surface, incidenceDegrees } = scene.optics ?? {};
  if (patch.role === 'glare') return { sentence: glareInWords(cut, surface, incidenceDegrees) };
  const gamma = sunAngleOf(scene, session);
  const found = `It darkens the sky by ${cut.toFixed(2)} stops at best.`;
  if (gamma === null)
    return { sentence: `${found} Enter the angle to the sun, and what a clear sky allows stands beside it.` };
  const [hazy, clear] = [0.5, 0.85].map((clarity) => skyDarkening(gamma, clarity));
  return {
    sentence: `${found} ${gamma.toFixed(0)}° from the sun a hazy sky allows about ${hazy.toFixed(1)}, a very clear one ${clear.toFixed(1)} stops.`,
  };
}

/** Angle of a scene's view to the sun: as entered, or from place, view and the takes' time; `null` where neither is known. */
export function sunAngleOf({ id, optics }: Scene, { takes }: Session): number | null {
  if (!optics) return null;
  if (optics.sunAngleDegrees !== undefined) return optics.sunAngleDegrees;
  const times = takes.flatMap((take) => (take.scene === id && take.capturedAt ? [Date.parse(take.capturedAt)] : []));
  if (!optics.place || !optics.view || times.length === 0) return null;
  const middle = new Date((Math.min(...times) + Math.max(...times)) / 2);
  return angleBetween(optics.view, sunPosition(middle, optics.place));
}
