/** Sentences on the light of a scene and on the pictures that tell it. */
import type { Fault } from '../session/readings';
import { fault } from './faults';
import { percent } from './numbers';

/** What keeps a picture's patch from being used, or is worth a word. */
export type LevelProblem = 'clipped' | 'black' | 'dark';

const PROBLEMS = {
  clipped: {
    code: 'clipped',
    severity: 'error',
    words: (share: string, patch: string) =>
      `${share} of “${patch}” is clipped, so its level is not known; the picture is left out.`,
  },
  black: {
    code: 'too-dark',
    severity: 'error',
    words: (share: string, patch: string) => `${share} of “${patch}” is black in one channel; the picture is left out.`,
  },
  dark: {
    code: 'too-dark',
    severity: 'warning',
    words: (share: string, patch: string) =>
      `${share} of “${patch}” is at code 0; what lies below is estimated and adds to the ±.`,
  },
} as const;

/** Whether a picture with this problem is left out. */
export const leavesOut = (problem: LevelProblem): boolean => PROBLEMS[problem].severity === 'error';

/**
 * Pictures of a take with a problem of one severity; the worst speaks for all.
 *
 * @param share of the patch's pixels, in the worst picture
 */
export function badLevels(
  problem: LevelProblem,
  { take, patch, share, count, of }: { take: string; patch: string; share: number; count: number; of: number },
): Fault {
  const { code, severity, words } = PROBLEMS[problem];
  const many = count > 1 ? ` So are ${count - 1} more of its ${of} pictures.` : '';
  return fault(code, severity, [take], `${take}: ${words(percent(share), patch)}${many}`);
}

export function lightDrifted(takes: readonly string[], scene: string, stops: number): Fault {
  const words = `The light drifted by ${stops.toFixed(2)} stop over the bare takes of “${scene}”; what interpolation can’t follow is in the ±.`;
  return fault('light-drifted', 'warning', takes, words);
}

/** @param between the bare takes before and after the jump, by name */
export function lightJumped(between: readonly [string, string], scene: string, stops: number): Fault {
  const words = `The light jumped by ${stops.toFixed(2)} stop between ${between[0]} and ${between[1]} of “${scene}”; takes between them are suspect and their ± covers the jump.`;
  return fault('light-jumped', 'warning', between, words);
}

export function framesApart(take: string, stops: number): Fault {
  const words = `${take}: its frames lie ${stops.toFixed(2)} stop apart. The exposure or the light moved inside the clip, and nothing says how; the ± covers the scatter.`;
  return fault('exposure-moved', 'warning', [take], words);
}

export function repeatsApart(take: string, stops: number): Fault {
  const words = `The repeats of ${take} lie ${stops.toFixed(2)} stop apart, far more than their noise.`;
  return fault('repeats-disagree', 'warning', [take], words);
}

export function whiteBalanceDiffers(
  take: string,
  scene: string,
  own: string | number,
  bare: readonly (string | number)[],
): Fault {
  const words = `${take} was shot at white balance “${own}”, the bare takes of “${scene}” at “${bare.join(', ')}”: its cast is withheld.`;
  return fault('white-balance-moved', 'error', [take], words);
}

export function whiteBalanceAutomatic(takes: readonly string[], scene: string): Fault {
  const words = `The white balance of “${scene}” was automatic: the camera may have taken out a part of each cast, or added one.`;
  return fault('white-balance-moved', 'warning', takes, words);
}
