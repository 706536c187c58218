/** Sentences on polarizers: the sweep of a ring, glare and sky at its best angle, a camera that turns about. */
import { brewsterDegrees, greatestCut, SURFACES, type Surface } from '../formulas/optics/fresnel';
import { skyDarkening } from '../formulas/optics/rayleigh';
import type { Fault, Reading } from '../session/readings';
import { fault } from './faults';

/** @param angles how many different ones were noted; 0 where none was */
export function sweepTooShort(takes: readonly string[], scene: string, angles: number): Fault {
  const has = angles === 0 ? 'no noted angle' : `${angles} different angle${angles === 1 ? '' : 's'}`;
  const words = `The ring sweep at “${scene}” has ${has}; three are needed to know the brightest and the darkest.`;
  return fault('sweep-too-short', 'error', takes, words);
}

/**
 * A take whose angle is missing or can't be right.
 *
 * @param noted degrees; `null` where nothing was noted
 * @param angles that its light fits, degrees
 */
export function ringAngleAsked(take: string, noted: number | null, angles: readonly number[]): Fault {
  const possible =
    angles.length === 0
      ? 'no angle at all: is it a picture of this filter?'
      : [...new Set(angles.map((one) => `${one.toFixed(0)}°`))].join(' or ');
  const words =
    noted === null
      ? `${take} notes no ring angle. By its light it fits ${possible}; it is left out of the sweep.`
      : `${take} is noted at ${noted}°, but by its light it fits ${possible}; it is left out of the sweep.`;
  const code = noted === null ? 'ring-angle-missing' : 'ring-angle-doubtful';
  return { ...fault(code, 'warning', [take], words), angles };
}

export function brightestWithheld(takes: readonly string[], scene: string, u95: number): Fault {
  const words = `The brightest of the sweep at “${scene}” would be uncertain by ${u95.toFixed(2)} stop; it is withheld. The angles lie too close together, or the takes scatter.`;
  return fault('sweep-too-short', 'error', takes, words);
}

/** @param deeperThan stops under the brightest that the takes rule out */
export function extinctionWithheld(takes: readonly string[], scene: string, deeperThan: number): Fault {
  const words = `The darkest of the sweep at “${scene}” lies below what its takes can tell; extinction is withheld. It is deeper than ${deeperThan.toFixed(1)} stops under the brightest.`;
  return fault('too-dark', 'warning', takes, words);
}

/** How well takes follow the law of a turning polarizer. */
export type SweepCheck =
  | { kind: 'unchecked' }
  | { kind: 'angles'; degrees: number }
  | { kind: 'scatter'; stops: number }
  | { kind: 'fits'; takes: number; residualStops: number };

/** @param offset of the mark from the axis, degrees; `null` where the screen's own axis isn't known */
export function sweepInWords(check: SweepCheck, offset: Reading | null): string {
  const checked =
    check.kind === 'unchecked'
      ? 'Three angles leave nothing to check the curve with; seven would.'
      : check.kind === 'angles'
        ? `The takes scatter as if the ring were read to ${check.degrees.toFixed(1)}°.`
        : check.kind === 'scatter'
          ? `The takes scatter by ${check.stops.toFixed(3)} stop beyond their noise.`
          : `The ${check.takes} takes follow the cos² law to ${check.residualStops.toFixed(3)} stop.`;
  if (!offset) return checked;
  const size = Math.abs(offset.value);
  const mark =
    size <= offset.u95 ? 'The mark is where it should be.' : `The mark is ${size.toFixed(size < 10 ? 1 : 0)}° off.`;
  return `${mark} ${checked}`;
}

export function referenceMissing(patch: string, scene: string): Fault {
  const words = `“${patch}” has no usable reference patch beside it in “${scene}”: what the polarizer does there can’t be told.`;
  return fault('reference-missing', 'error', [], words);
}

/** @param all angles that were shot, of which some can be used */
export function ringAnglesLost(takes: readonly string[], patch: string, all: number, some: number): Fault {
  const words = `“${patch}”: of its ${all} ring angles only ${some} can be used, too few for the turn: what it does at its best angle would be a guess, and is withheld.`;
  return fault('ring-angles-lost', 'error', takes, words);
}

export function cutWithheld(takes: readonly string[], patch: string, u95: number): Fault {
  const words = `What it does at “${patch}” would be uncertain by ${u95.toFixed(2)} stop; it is withheld.`;
  return fault('too-dark', 'error', takes, words);
}

/** Below this there is nothing to do for a polarizer, whatever its quality, in stops. Our own judgement. */
const NOTHING_TO_DO = 0.2;

/**
 * What a glare cut means, in plain words, beside what the surface allows.
 *
 * @param cut in stops, measured
 * @param surface of the glare patch, where the session says it
 * @param incidenceDegrees angle of view from the surface's normal
 */
export function glareInWords(cut: number, surface?: Surface, incidenceDegrees?: number): string {
  const found = `It cuts the glare by ${cut.toFixed(2)} stops at best.`;
  if (surface === 'metal')
    return `${found} Metals hardly polarize what they reflect: there is nothing for any polarizer to cut.`;
  if (surface === undefined || incidenceDegrees === undefined)
    return `${found} Enter what reflects and the angle of view, and the most that the surface allows stands beside it.`;
  const { name, index } = SURFACES[surface];
  const most = greatestCut(index, incidenceDegrees);
  const brewster = brewsterDegrees(index);
  const angle = `${name} seen ${incidenceDegrees.toFixed(0)}° from its normal`;
  if (most < NOTHING_TO_DO)
    return `${found} There is nothing to do at this angle: ${angle} allows ${most.toFixed(2)} stop. Go nearer to ${brewster.toFixed(0)}°.`;
  const bound = most > 6 ? 'more than 6 stops' : `${most.toFixed(1)} stops`;
  const share = cut / Math.min(most, 6);
  const rest =
    share < 0.25
      ? 'far less: most of the patch is no reflection, or the ring never stood right'
      : share < 0.75
        ? 'less: a part of the patch’s light is no reflection, or comes from elsewhere'
        : 'about that';
  return `${found} A pure reflection from ${angle} allows ${bound} (all of it at ${brewster.toFixed(0)}°); this is ${rest}.`;
}

/** Said wherever glare is cut. */
export const NO_COLOR_BOOST =
  'A color boost afterwards can raise the chroma that is left, but not bring back what the reflection covered.';

/** Shares of Rayleigh's polarization that a hazy and a very clear sky keep. Common practice, no source. */
const CLARITY = { hazy: 0.5, clear: 0.85 };

/** @param sunDegrees angle of the view to the sun; `null` where it isn't known */
export function skyInWords(cut: number, sunDegrees: number | null): string {
  const found = `It darkens the sky by ${cut.toFixed(2)} stops at best.`;
  if (sunDegrees === null) return `${found} Enter the angle to the sun, and what a clear sky allows stands beside it.`;
  const [hazy, clear] = [CLARITY.hazy, CLARITY.clear].map((clarity) => skyDarkening(sunDegrees, clarity));
  return `${found} ${sunDegrees.toFixed(0)}° from the sun a hazy sky allows about ${hazy.toFixed(1)}, a very clear one ${clear.toFixed(1)} stops.`;
}

export function bareTurnMissing(takes: readonly string[], scene: string): Fault {
  return fault('bare-missing', 'error', takes, `The turn of “${scene}” has no usable bare turn to compare with.`);
}

export function headingsClipped(takes: readonly string[], count: number, of: number): Fault {
  const words = `${count} of ${of} headings of the turn are clipped at the sky or its reference; they are left out.`;
  return fault('clipped', 'warning', takes, words);
}

interface Heading {
  heading: number;
  stops: { value: number };
}

/** @param sunAside degrees from the sun's heading to the darkest; `null` where the place isn't known */
export function turnInWords(darkest: Heading, lightest: Heading, sunAside: number | null): string {
  const found = `The sky darkens most at ${darkest.heading.toFixed(0)}°, by ${darkest.stops.value.toFixed(2)} stops, and least at ${lightest.heading.toFixed(0)}°, by ${lightest.stops.value.toFixed(2)}.`;
  return sunAside === null
    ? `${found} Enter the place, and the sun stands beside it.`
    : `${found} That is ${sunAside.toFixed(0)}° from the sun’s heading; a clear sky polarizes most at right angles to it.`;
}
