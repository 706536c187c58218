/** What most of a figure's ± comes from, and what would make it smaller. */
import type { BudgetLine } from '../session/readings';

/** By source, as budgets name them: what it is, what helps. */
const HELP: Readonly<Record<string, { what: string; how: string }>> = {
  noise: {
    what: 'noise of the pixels',
    how: 'More light on the sensor (a longer shutter, more lamps), a larger patch or more repeats',
  },
  'noise at the center': { what: 'noise at the center of the field', how: 'More repeats of the flat scene' },
  'noise of the filtered edge': {
    what: 'noise of the filtered pictures',
    how: 'More repeats, a longer edge, or a longer shutter for this filter',
  },
  'noise of the bare edge': {
    what: 'noise of the bare pictures',
    how: 'More repeats of the bare take, or a longer edge',
  },
  'bare takes differ': { what: 'bare takes that differ in sharpness', how: 'A locked focus and a tripod' },
  repeats: { what: 'repeats that scatter', how: 'Steadier lamps (no mains flicker), or more repeats' },
  'light drift': { what: 'light that drifts', how: 'Lamps that have warmed up, or a bare take after every filter' },
  marks: {
    what: 'shutter read-outs that are marks',
    how: 'The same shutter for bare and filter, or a rig whose shutter is exact',
  },
  rounding: { what: 'coarse codes', how: 'Files of more bits, or an exposure that brings the filtered picture up' },
  'dark cut-off': {
    what: 'pixels at code 0',
    how: 'A longer shutter for this filter: the matched protocol does that by itself',
  },
  response: {
    what: 'the camera’s response',
    how: 'More bare pictures with the same settings, one and three stops darker first, or filtered pictures as bright as the bare ones',
  },
  'places disagree': { what: 'places that disagree', how: 'One even, matt, evenly lit gray patch' },
  'ring angles': { what: 'ring angles that don’t fit each other', how: 'A finer scale, or reading it twice' },
  'scatter of the sweep': {
    what: 'takes that scatter around the curve',
    how: 'Steadier light, and bare takes in between',
  },
  'shape of the line': {
    what: 'a shape that no straight logistic line has',
    how: 'An evenly lit field behind a flat filter',
  },
  'polarized light': { what: 'light that is itself partly polarized', how: 'Takes at two ring angles 90° apart' },
  'zoom between views': {
    what: 'the zoom between filtered and bare views',
    how: 'The same place and focal length for bare and filter',
  },
  'scatter of tiles': {
    what: 'parts of the scene that scatter',
    how: 'A scene with more fine, still detail, or more pictures',
  },
  'pictures differ': {
    what: 'pictures that differ in sharpness',
    how: 'A steadier camera, less wind, or more pictures',
  },
  compression: {
    what: 'compression',
    how: 'A higher quality setting, raw files, or a little more noise in the patch (a larger ISO)',
  },
  processing: {
    what: 'the camera’s sharpening and noise reduction',
    how: 'Raw files, or sharpness and noise reduction at their least, with bare and filtered pictures alike in brightness',
  },
  registration: { what: 'laying the pictures on each other', how: 'A tripod and an even gray card' },
  'fit to the scene': { what: 'the scene that they are read from', how: 'An even wall' },
  'model of the fall': { what: 'the shape that a fall of light is taken to have', how: 'An even wall' },
  'own fall of light': {
    what: 'the filter’s own fall of light beside the middle of the wall',
    how: 'A gray card in the middle of the frame',
  },
  method: { what: 'the method itself', how: 'Nothing that can be shot' },
};

/** Sources that no picture makes smaller. */
const BEYOND_PICTURES = new Set(['method', 'shape of the line']);

/** What a source of uncertainty is and what helps, in words; `undefined` of one that has none. */
export function helpFor(source: string): { what: string; how: string; shootable: boolean } | undefined {
  const help = HELP[source];
  return help && { ...help, shootable: !BEYOND_PICTURES.has(source) };
}

/** Share from which one source alone counts as the one to work on. */
const MOST = 0.5;
/** Below this share of the whole the ± is shared by many. */
const SECOND = 0.25;

/**
 * One or two sentences from a budget (lines sorted by share, largest first).
 *
 * @returns an empty text for an empty budget
 */
export function adviseOn(lines: readonly BudgetLine[]): string {
  const [first, second] = lines;
  if (!first) return '';
  const help = HELP[first.source] ?? { what: first.source, how: 'More repeats' };
  const share = `${Math.round(100 * first.share)} %`;
  const sentence =
    first.share >= MOST
      ? `${share} of the ± (in variance) is ${help.what}. ${help.how} would reduce it.`
      : `The largest part of the ±, ${share}, is ${help.what}. ${help.how} would reduce it.`;
  const other = second && second.share >= SECOND ? HELP[second.source] : undefined;
  return other ? `${sentence} After that comes ${other.what}.` : sentence;
}
