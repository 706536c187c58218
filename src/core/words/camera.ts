/** Sentences on cameras that don't tell their curve, and on what they do to pictures. */
import type { Fault } from '../session/readings';
import { fault } from './faults';

/** What a response rests on, where files only tell a standard curve. */
export function learnedInWords(told: string, pictures: number, knownStops: number): string {
  return knownStops > 0
    ? `${told}, checked by ${pictures} pictures over ${knownStops.toFixed(1)} stops of known exposures`
    : `${told}, not checked: no two pictures of one view through the same glass have different exposures`;
}

/** Nothing in a session tells how its camera bends the curve that its files tell. */
export function curveUnchecked(takes: readonly string[], told: string): Fault {
  const words = `The files tell a standard curve (${told}), but cameras bend it by picture styles, and nothing here shows how much. The ± counts that.`;
  return fault('curve-unknown', 'warning', takes, words);
}

/** Files of one session tell different curves. */
export function curvesDiffer(takes: readonly string[]): Fault {
  const words =
    'These files tell another curve than the others of the session: a profile or a picture style was changed in between. How far the two lie apart can’t be told from what a filter does, so strengths are withheld.';
  return fault('curve-unknown', 'warning', takes, words);
}

/** No curve could be found that fits the pictures. */
export function curveUnsettled(takes: readonly string[]): Fault {
  const words =
    'No single curve fits these pictures: was a picture style, an exposure or the light changed between them? The ± counts the curve as unknown.';
  return fault('curve-unknown', 'warning', takes, words);
}

/** The curve follows the picture. @param stops a stop of brightness, for each stop that the picture's median moves */
export function toneAdapts(takes: readonly string[], stops: number): Fault {
  const words = `The camera draws dark and bright pictures by different curves: ${Math.abs(stops).toFixed(2)} stop a stop for each stop that a picture is darker as a whole. What that leaves open is in the ±.`;
  return fault('tone-automatic', 'warning', takes, words);
}

/** Pictures are brightened or darkened by themselves. */
export function picturesShift(takes: readonly string[], stops: number): Fault {
  const words = `Pictures of one view come out up to ${stops.toFixed(2)} stop brighter or darker than their exposures say: tone that is set by the camera, picture by picture, or light that moved. What that leaves open is in the ±.`;
  return fault('tone-automatic', 'warning', takes, words);
}

/** Places are drawn by what lies around them. */
export function toneIsLocal(takes: readonly string[], gain: number): Fault {
  const words = `The camera changes contrast place by place (by a factor of ${(1 + Math.abs(gain)).toFixed(2)} against what lies around): corners, colors and levels are partly its own. What that leaves open is in the ±.`;
  return fault('tone-local', 'warning', takes, words);
}
