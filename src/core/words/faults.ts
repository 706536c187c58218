/**
 * The faults a session's footage can have, each with what it means and what to shoot again. Messages that name
 * takes or sizes are put together where the fault is found.
 */
import type { Fault, Severity } from '../session/readings';

export const FAULT_REMEDIES = {
  'bare-missing': 'Shoot a bare take of this scene, best one before and one after the filter.',
  'exposure-missing': 'Enter shutter, ISO and aperture of these takes, or use files that still carry them.',
  clipped: 'Shoot again with a shorter shutter or lower ISO, so that the patch stays below the top code.',
  'too-dark': 'Shoot again with a longer shutter, higher ISO or more light; the matched protocol does that by itself.',
  'light-jumped': 'Shoot the takes between the two bare takes again, in steady light.',
  'light-drifted': 'Let the lamps warm up, or put a bare take after every second filter.',
  'exposure-moved': 'Lock the exposure and shoot again.',
  'white-balance-moved': 'Lock the white balance to one value for bare and filtered takes and shoot again.',
  'view-moved': 'Fix the camera and shoot again, or place the patch for that view.',
  'registration-failed': 'Check that both pictures show the same view.',
  'soft-by-motion': 'Use a tripod and a remote release, or a shorter shutter.',
  'focus-moved': 'Set the focus by hand, lock it, and shoot bare and filter again without touching it.',
  'edge-unusable': 'Turn the chart to about five degrees and light it evenly.',
  'response-misfit': 'Choose the camera’s response, or shoot a bare bracket so that it can be recovered.',
  'response-unknown': 'Choose the camera’s response, or shoot a bare bracket so that it can be recovered.',
  'curve-unknown':
    'Drop two more bare pictures of any even scene, shot with the same settings, one and three stops darker; or set the picture style to neutral, or shoot raw.',
  'check-incomplete': 'Add pictures of an edge or a gray chart, at two exposures or more.',
  'check-refused':
    'Check the camera with these settings (Kits & rigs), or shoot two more bare pictures, one and three stops darker.',
  'check-other-iso': 'Add pictures at this ISO to the check, or shoot at the ISO of the check.',
  'check-unwitnessed': 'One more bare picture, three stops darker with the same settings, would show it.',
  'check-contradicted': 'Set the camera as it was checked, or check it again with the settings of this session.',
  'white-balance-wanders':
    'Set the white balance to a fixed value (kelvin or a preset), not automatic, and shoot again; repeats make it smaller.',
  processed: 'Set sharpening and noise reduction to their lowest or off, shoot matched exposures, or shoot raw.',
  'style-moved':
    'Set one picture style with fixed contrast, and shoot bare and filtered pictures again without touching it.',
  'settings-moved': 'Set picture style, contrast and saturation as for the other pictures, and shoot this take again.',
  'tone-automatic':
    'Look in the camera for contrast or tone set to automatic, active lighting or high dynamic range, and set it to off; or shoot raw.',
  'tone-undecided':
    'An even wall has one level a picture: tone that follows the picture looks like the camera’s curve there. A picture of a chart or of several gray cards, bare, and the same two stops darker, tells them apart.',
  'tone-local':
    'Look in the camera for local contrast, clarity, dehaze, active lighting or high dynamic range, and set it to off; or shoot raw.',
  'scenes-disagree': 'Look at both places: is one lit differently, reflecting, or moved?',
  'repeats-disagree': 'Look at the repeats one by one: a passing shadow, a flicker of the lamps or a wrong file?',
  'reference-missing': 'Place a reference patch beside it: something matt, even and gray in the same light.',
  'field-missing': 'Shoot bare and filter on an even wall that fills the frame, and place a field patch there.',
  'ring-angle-missing': 'Note the ring’s angle for these takes; the fit says which angles are possible.',
  'ring-angle-doubtful': 'Look at the note of this take: enter the right angle, or shoot it again.',
  'ring-angles-lost': 'Look at why pictures of this turn were left out, and shoot those angles again.',
  'sweep-too-short': 'Shoot at three ring angles at least, better seven, spread evenly over 180°.',
  'light-polarized': 'Nothing to do where the ring went all round; else shoot at two angles 90° apart.',
  'unpolarized-missing': 'Shoot bare and filter on a chart or an even wall in unpolarized light.',
  'mark-missing': 'Note the mark that the ring stood at for these takes.',
  'file-unreadable': 'Copy the file from the card again, or shoot the take again.',
  'same-picture': 'Look whether the right file lies in each take; take the copy away, or shoot the missing picture.',
  'size-differs': 'Use files of one size for bare and filtered takes.',
  'color-space-differs': 'Nothing to do: the figures are in the session’s color space.',
  'steps-merged': 'Nothing to shoot: these two filters do nearly the same.',
  'off-alike':
    'Compare the exposures and settings noted for the bare pictures with the filtered ones’; one more bare picture between them, touching nothing but the filter, tells.',
  'order-suspect': 'Check whether two takes were swapped, or a filter went back into the wrong slot.',
} as const;

export type FaultCode = keyof typeof FAULT_REMEDIES;

/** A fault with its remedy. */
export function fault(code: FaultCode, severity: Severity, takes: readonly string[], message: string): Fault {
  return { code, severity, takes: [...new Set(takes)], message, remedy: FAULT_REMEDIES[code] };
}
