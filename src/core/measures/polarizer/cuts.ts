/** How far a polarizer darkens glare and sky against a reference beside them. */
import { luminanceRow, type ColorSpace } from '../../formulas/color/spaces';
import { inheritedParts, ownRelativeU, takeStrengths, type TakeStrength } from '../strength/takeStrengths';
import { sunPosition } from '../../formulas/sun/sun';
import { angleBetween, skyDarkening } from '../../formulas/optics/rayleigh';
import { distinctAngles, fitRing, type RingPoint } from './ring';
import { glareInWords } from '../../formulas/optics/fresnel';
import { fault } from '../../words/faults';
import type { CutReadings, FilterReadings, Reading, SweepPoint } from '../../session/readings';
import type { Filter, Scene, Session } from '../../session/schema';
import { combine, reading } from '../../formulas/statistics/budget';
import type { Place } from '../strength/places';
import { curveOf, ringOf, scatterPart, type RingParts } from './rings';

/** A cut less certain than this says nothing, in stops; our own judgement. */
const WIDEST_CUT = 0.3;

export interface Cut {
  cut: Reading;
  readings: CutReadings;
}

/** The largest cut of all patches of a role against their scene's reference. */
export function bestCut(
  result: FilterReadings,
  filter: Filter,
  role: 'glare' | 'sky',
  { places, session, space }: RingParts,
): Cut | null {
  const usable = places.filter(({ series, seen }) => series && seen.has(filter.id));
  let someLost = false;
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
      if (!cut) return [];
      const lost = anglesLost(cut, filter, scene, session);
      if (lost) {
        const takes = cut.readings.points.map((one) => one.take);
        result.faults.push(fault('ring-angles-lost', 'error', takes, `“${place.patch.id}”: ${lost}`));
        someLost = true;
        return [];
      }
      return [cut];
    });
  const best = cuts.sort((a, b) => b.cut.value - a.cut.value)[0];
  // The place that can't be told may be the one that darkens most.
  if (!best || someLost) return null;
  if (best.cut.u95 > WIDEST_CUT) {
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

/**
 * Why the largest of the takes that are left says too little: enough angles were shot for the whole turn, and the one that cuts most may be
 * among those that can't be used. `null` where nothing was lost, or the rest still carries the turn.
 */
function anglesLost({ readings }: Cut, filter: Filter, scene: Scene, session: Session): string | null {
  if (readings.curve !== undefined) return null;
  const degreesOf = ringOf(session);
  const shot = session.takes
    .filter((take) => take.scene === scene.id && take.filter === filter.id && take.role !== 'bracket')
    .flatMap((take) => degreesOf(take.id) ?? []);
  const left = readings.points.flatMap((one) => one.degrees ?? []);
  const [all, some] = [distinctAngles(shot), distinctAngles(left)];
  if (all < 3 || some >= all) return null;
  return `of its ${all} ring angles only ${some} can be used, too few for the turn: what it does at its best angle would be a guess, and is withheld.`;
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
