/** What a polarizer takes of glare and sky, against a reference beside them in the same picture. */
import { luminanceRow, type ColorSpace } from '../../formulas/color/spaces';
import { angleBetween } from '../../formulas/optics/rayleigh';
import { combine, reading } from '../../formulas/statistics/budget';
import { sunPosition } from '../../formulas/sun/sun';
import type { CutReadings, Fault, Reading, SweepPoint } from '../../session/readings';
import type { Scene, Session } from '../../session/schema';
import { cutWithheld, glareInWords, referenceMissing, ringAnglesLost, skyInWords } from '../../words/polarizer';
import type { PreparedPatch } from '../strength/preparedPatch';
import {
  inheritedParts,
  ownRelativeU,
  responsePart,
  takeStrengths,
  type TakeStrength,
} from '../strength/takeStrengths';
import { distinctAngles, fitRing, type RingPoint } from './ring';
import { curveOf, ringOf, scatterPart, type Found, type RingSeen } from './rings';

/** A cut less certain than this says nothing, in stops; our own judgement. */
const WIDEST_CUT = 0.3;

export interface Cut {
  cut: Reading;
  readings: CutReadings;
}

/** The largest cut of all patches of a role against their scene's reference; `null` where none can be told. */
export function bestCut(
  filter: string,
  role: 'glare' | 'sky',
  { places, session, space }: RingSeen,
): Found<Cut | null> {
  const usable = places.filter(({ series, seen }) => series && seen.has(filter));
  const told = usable
    .filter(({ patch }) => patch.role === role)
    .flatMap((place): ({ cut: Cut } | { fault: Fault })[] => {
      const scene = session.scenes.find((one) => one.id === place.patch.scene)!;
      const reference = usable.find(({ patch }) => patch.scene === scene.id && patch.role === 'reference');
      if (!reference) return [{ fault: referenceMissing(place.patch.id, scene.id) }];
      const cut = cutAt(filter, place, reference, { scene, session, space });
      if (!cut) return [];
      const lost = anglesLost(cut, filter, scene, session);
      return [lost ? { fault: lost } : { cut }];
    });
  const faults = told.flatMap((one) => ('fault' in one ? [one.fault] : []));
  const [best] = told.flatMap((one) => ('cut' in one ? [one.cut] : [])).sort((a, b) => b.cut.value - a.cut.value);
  // The place that can't be told may be the one that darkens most.
  if (!best || faults.some((one) => one.code === 'ring-angles-lost')) return { figures: null, faults };
  if (best.cut.u95 <= WIDEST_CUT) return { figures: best, faults };
  const takes = best.readings.points.map((one) => one.take);
  return { figures: null, faults: [...faults, cutWithheld(takes, best.readings.patch, best.cut.u95)] };
}

function cutAt(
  filter: string,
  place: PreparedPatch,
  reference: PreparedPatch,
  { scene, session, space }: { scene: Scene; session: Session; space: ColorSpace },
): Cut | null {
  const luminance = luminanceRow(space);
  const degreesOf = ringOf(session);
  const front = takeStrengths(place.series!, filter, luminance);
  const back = takeStrengths(reference.series!, filter, luminance);
  const pairs = front.flatMap((one) => {
    const other = back.find(({ take }) => take === one.take);
    return other ? [{ front: one, back: other, degrees: degreesOf(one.take), stops: one.stops - other.stops }] : [];
  });
  if (pairs.length === 0) return null;
  const parts = (list: typeof pairs, s: readonly number[]) => {
    const fronts = { series: place.series!, takes: list.map((one) => one.front), sensitivities: s };
    const backs = {
      series: reference.series!,
      takes: list.map((one) => one.back),
      sensitivities: s.map((one) => -one),
    };
    return [
      ...[fronts, backs].flatMap(({ series, takes, sensitivities }) =>
        inheritedParts(series, takes, sensitivities, true),
      ),
      responsePart([fronts, backs]),
    ];
  };
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
      readings: { ...common, atDegrees, curve: curveOf(fit), sentence: inWords(cut.value, place, scene, session) },
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
      sentence: inWords(cut.value, place, scene, session),
    },
  };
}

/**
 * A fault where the largest of the takes that are left says too little: enough angles were shot for the whole turn, and the one that cuts most may be
 * among those that can't be used. `null` where nothing was lost, or the rest still carries the turn.
 */
function anglesLost({ readings }: Cut, filter: string, scene: Scene, session: Session): Fault | null {
  if (readings.curve !== undefined) return null;
  const degreesOf = ringOf(session);
  const shot = session.takes
    .filter((take) => take.scene === scene.id && take.filter === filter && take.role !== 'bracket')
    .flatMap((take) => degreesOf(take.id) ?? []);
  const left = readings.points.flatMap((one) => one.degrees ?? []);
  const [all, some] = [distinctAngles(shot), distinctAngles(left)];
  if (all < 3 || some >= all) return null;
  const takes = readings.points.map((one) => one.take);
  return ringAnglesLost(takes, readings.patch, all, some);
}

const meanStops = (list: readonly { stops: number }[]) => list.reduce((sum, one) => sum + one.stops, 0) / list.length;

/** Relative uncertainty of a ratio of two places of one picture: light and shutter cancel. */
function pixelU(a: TakeStrength, b: TakeStrength): number {
  const still = (take: TakeStrength) => ownRelativeU({ ...take, shot: take.shot.map(() => 0) });
  return Math.hypot(still(a), still(b));
}

function inWords(cut: number, { patch }: PreparedPatch, scene: Scene, session: Session): string {
  const { surface, incidenceDegrees } = scene.optics ?? {};
  return patch.role === 'glare'
    ? glareInWords(cut, surface, incidenceDegrees)
    : skyInWords(cut, sunAngleOf(scene, session));
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
