/** Sentences on cameras that don't tell their curve, and on what they do to pictures. */
import type { Fault } from '../session/readings';
import { fault } from './faults';

/** What a response rests on, where files only tell a standard curve. */
export function learnedInWords(told: string, pictures: number, knownStops: number): string {
  return knownStops > 0
    ? `${told}, checked by ${pictures} pictures over ${knownStops.toFixed(1)} stops of known exposures`
    : `${told}, not checked: no two pictures of one view through the same glass have different exposures`;
}

/** The same where the camera was checked before. @param at ISO 8601 */
export function checkedInWords(told: string, at: string, pictures: number): string {
  return `${told}, by the camera’s check of ${at.slice(0, 10)}${pictures > 0 ? ` and ${pictures} pictures of this session` : ''}`;
}

/** A series of bare pictures in which nothing shows whether tone follows the picture. */
export function checkNeedsEdges(takes: readonly string[]): Fault {
  const words =
    'Nothing here shows whether the camera’s tone follows the picture: pictures of one even surface each have one brightness alone.';
  return fault('check-incomplete', 'warning', takes, words);
}

/** A check that doesn't stand for a session's files. @param names what differs, in words */
export function checkRefused(takes: readonly string[], at: string, names: readonly string[]): Fault {
  const words = `The camera’s check of ${at.slice(0, 10)} isn’t used: it was made with another ${names.join(', ')}.`;
  return fault('check-refused', 'warning', takes, words);
}

/** A check at other sensitivities. */
export function checkOfOtherIso(takes: readonly string[], at: string, speeds: readonly number[]): Fault {
  const words = `The camera’s check of ${at.slice(0, 10)} has no pictures at ISO ${speeds.join(', ')}: cameras may draw otherwise there, and the ± counts that.`;
  return fault('check-other-iso', 'warning', takes, words);
}

/** A check that no picture of the session could contradict. */
export function checkUnwitnessed(takes: readonly string[], at: string): Fault {
  const words = `Strengths rest on the camera’s check of ${at.slice(0, 10)}: no two exposures of one view show that its style is still set so.`;
  return fault('check-unwitnessed', 'info', takes, words);
}

/** A check whose curve isn't the one that a session's pictures show. */
export function checkContradicted(takes: readonly string[], at: string): Fault {
  const words = `These pictures show another curve than the camera’s check of ${at.slice(0, 10)}: a picture style or a setting was changed since, or an exposure is wrong. The check isn’t used.`;
  return fault('check-contradicted', 'warning', takes, words);
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

/** A picture was drawn with other settings than its session's others. @param names what differs, in words */
export function settingsMoved(take: string, names: readonly string[]): Fault {
  const words = `This picture was drawn with another ${names.join(' and ')} than the others, as its file tells (EXIF): it is left out, since what the camera did to it can’t be told from what the filter does.`;
  return fault('settings-moved', 'error', [take], words);
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

/** Pictures that can't tell adapting tone from the curve. @param stops by how much it may adapt */
export function toneUndecided(takes: readonly string[], stops: number): Fault {
  const words = `These pictures can’t tell whether the camera draws dark and bright pictures by different curves (up to ${stops.toFixed(2)} stop a stop for each stop): for what is much brighter or darker than the middle of its picture that is in the ±.`;
  return fault('tone-undecided', 'info', takes, words);
}

/** Pictures of one session by several curves. @param slopes standard deviation, stops a stop */
export function styleMoved(takes: readonly string[], slopes: number): Fault {
  const words = `Pictures of this session are drawn by curves that differ by ${slopes.toFixed(3)} stop a stop: a picture style was changed between them, or tone is set anew for each. Strengths far from their exposure are withheld, and the ± of the others counts it.`;
  return fault('style-moved', 'warning', takes, words);
}

/** Pictures are brightened or darkened by themselves. */
export function picturesShift(takes: readonly string[], stops: number): Fault {
  const words = `Pictures of one view come out up to ${stops.toFixed(2)} stop brighter or darker than their exposures say: tone that is set by the camera, picture by picture, or light that moved. What that leaves open is in the ±.`;
  return fault('tone-automatic', 'warning', takes, words);
}

/** Colors move from picture to picture. @param stops of red or blue, standard deviation */
export function balanceWanders(takes: readonly string[], stops: number): Fault {
  const words = `Red and blue of one view move by ${stops.toFixed(3)} stop from picture to picture: the camera sets its white balance anew each time. A cast as small as that is partly the camera’s, and the ± counts it.`;
  return fault('white-balance-wanders', 'warning', takes, words);
}

/** Detail is drawn by the camera. @param together correlation of neighboring pixels' noise */
export function pictureProcessed(takes: readonly string[], together: number): Fault {
  const words = `Noise of neighboring pixels goes together (${together.toFixed(2)}; 0 where nothing is done to them): the camera sharpens or takes noise away. Figures of sharpness count that in their ±.`;
  return fault('processed', 'info', takes, words);
}

/** Places are drawn by what lies around them. */
export function toneIsLocal(takes: readonly string[], gain: number): Fault {
  const words = `The camera changes contrast place by place (by a factor of ${(1 + Math.abs(gain)).toFixed(2)} against what lies around). It is taken off patches and fields as far as the pictures show it; what that leaves open is in the ±.`;
  return fault('tone-local', 'warning', takes, words);
}
