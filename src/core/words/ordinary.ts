/** Sentences on ordinary scenes: pictures that couldn't be laid, takes of which nothing speaks, sharpness that movement blurred. */
import type { Fault } from '../session/readings';
import { fault } from './faults';

/** @param file, tried the pictures that were compared, as people name them */
export function notLaid(
  take: string,
  { lost, of, why, file, tried }: { lost: number; of: number; why: string; file: string; tried: string },
  isWholeTake: boolean,
): Fault {
  const words = isWholeTake
    ? `${take}: none of its pictures could be laid on a bare one; ${why} (${file} on ${tried}). It is left out.`
    : `${take}: ${lost} of its ${of} pictures could not be laid on a bare one; ${why} (${file} on ${tried}). The others speak.`;
  return fault('registration-failed', isWholeTake ? 'error' : 'warning', [take], words);
}

/** Why a take that was laid on bare ones says nothing all the same. */
export type MuteReason = 'unconnected' | 'clipped' | 'dark' | 'moved';

const MUTE = {
  unconnected: ['registration-failed', 'the bare take that it was laid on lies on no other'],
  clipped: ['clipped', 'nearly all of it, or of bare, is clipped'],
  dark: ['too-dark', 'nearly all of it, or of bare, is black'],
  moved: ['registration-failed', 'nothing in it stands still'],
} as const;

export function takeIsMute(take: string, reason: MuteReason): Fault {
  const [code, words] = MUTE[reason];
  return fault(code, 'error', [take], `${take}: ${words}; it is left out.`);
}

export function nothingTextured(takes: readonly string[], scene: string): Fault {
  const words = `Sharpness on “${scene}” can’t be told: nothing in it is textured, still and shown often enough.`;
  const remedy =
    'Shoot two pictures or a clip of each filter, and bare before and after it, of something with fine detail.';
  return { ...fault('edge-unusable', 'info', takes, words), remedy };
}

export function frameSharpnessWithheld(takes: readonly string[], scene: string, u95: number): Fault {
  const words = `Sharpness on “${scene}” would be uncertain by ${u95.toFixed(2)}; it is withheld.`;
  return fault('edge-unusable', 'error', takes, words);
}

export function ownPicturesDiffer(
  takes: readonly string[],
  filter: string,
  { range, sharpest, of }: { range: number; sharpest: number; of: number },
): Fault {
  const words = `${filter}: its own pictures differ in sharpness by ${range.toFixed(2)}, more than the filter takes; wind or the camera moved. The ${sharpest} sharpest of ${of} speak.`;
  return fault('soft-by-motion', 'warning', takes, words);
}

export function blurredOneWay(takes: readonly string[], filter: string, across: number, upAndDown: number): Fault {
  const words = `${filter}: blurred along one direction (kept ${across.toFixed(2)} across, ${upAndDown.toFixed(2)} up and down), as by a movement during the exposure; the sharpness kept is no figure of the filter's alone.`;
  return fault('soft-by-motion', 'warning', takes, words);
}
