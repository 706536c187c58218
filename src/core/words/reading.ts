/** Sentences on files and exposures: what of them can't be used, and what was done instead. */
import type { Fault } from '../session/readings';
import { fault } from './faults';
import { joined } from './numbers';

export function unreadableFile(take: string, file: string, reason: string): Fault {
  return fault('file-unreadable', 'error', [take], `${file} can’t be read: ${reason}`);
}

export function unreadableTelemetry(take: string, file: string, reason: string): Fault {
  const words = `${file}, the telemetry of ${take}, can’t be read: ${reason.replace(/\.$/, '')}.`;
  return fault('file-unreadable', 'warning', [take], words);
}

/** @param missing what neither session nor file knows, as {@link missingExposure} says it */
export function exposureMissing(take: string, missing: string): Fault {
  return fault('exposure-missing', 'error', [take], `${take}: ${missing}.`);
}

/** @param missing one or more of shutter, ISO, aperture */
export function missingExposure(missing: readonly string[]): string {
  return `${missing.join(' and ')} ${missing.length > 1 ? 'are' : 'is'} neither in the session nor in the file`;
}

/** The exposure moved inside a clip. */
export function exposureMovedInside(take: string, stops: number, sessionSays: boolean): Fault {
  const end = sessionSays
    ? 'the session gives one exposure for all of it, which can’t be right throughout'
    : 'each frame is taken at its own exposure';
  const words = `${take}: the exposure changes by ${stops.toFixed(2)} stop inside the clip; ${end}.`;
  return fault('exposure-moved', 'warning', [take], words);
}

export function whiteBalanceMovedInside(take: string, fromKelvin: number, toKelvin: number): Fault {
  const words = `${take}: the white balance changes inside the clip, from ${fromKelvin} to ${toKelvin} K; its cast is withheld.`;
  return fault('white-balance-moved', 'error', [take], words);
}

/** File and session tell different exposures. */
export function exposureContradicted(take: string, file: string, what: readonly string[], stops: number): Fault {
  const words = `${file}: its own data contradict the session’s ${what.join(' and ')}, by ${stops.toFixed(1)} stop in all; the session’s exposure was used. Where the file is right, the strength is wrong by as much.`;
  return fault('exposure-moved', 'warning', [take], words);
}

export function responseAssumed(takes: readonly string[]): Fault {
  const words =
    'Neither the session nor the files say how code values map to light; sRGB was assumed. Where that is wrong, strengths are wrong too.';
  return fault('response-unknown', 'warning', takes, words);
}

export function primariesConverted(takes: readonly string[], profile: string | null): Fault {
  const words = `The files’ own primaries (${profile ?? 'embedded profile'}) were converted to the session’s color space.`;
  return fault('color-space-differs', 'info', takes, words);
}

interface FrameSize {
  width: number;
  height: number;
}

export function sizeDiffers(take: string, file: string, own: FrameSize, bare: FrameSize): Fault {
  const words = `${file} is ${own.width} × ${own.height} pixels, the bare picture ${bare.width} × ${bare.height}; it is left out.`;
  return fault('size-differs', 'error', [take], words);
}

export function viewDiffers(
  code: 'view-moved' | 'registration-failed',
  take: string,
  file: string,
  why: string,
): Fault {
  return fault(code, 'error', [take], `${file}: ${why}; it is left out.`);
}

export function turnWithoutPatches(take: string, scene: string, missing: readonly string[]): Fault {
  const words = `${take} turns about, but “${scene}” has no ${missing.join(' and no ')} patch to read.`;
  return fault('reference-missing', 'error', [take], words);
}

/** One picture under takes that contradict each other; it stays where it doesn't say that a camera took it. */
export function samePictureElsewhere(takes: readonly string[], files: readonly string[], isLeftOut: boolean): Fault {
  const what = files.length > 1 ? `${joined(files)} are one and the same picture` : `${files[0]} is one picture`;
  const end = isLeftOut
    ? 'at least one is in the wrong place. They are left out.'
    : 'unless it was computed without noise, at least one is in the wrong place, and the figure that comes of it is wrong.';
  const words = `${what}, yet ${joined(takes)} say different things of it: ${end}`;
  return fault('same-picture', isLeftOut ? 'error' : 'warning', takes, words);
}

/** One picture that was named twice for the same thing; it stays where it doesn't say that a camera took it. */
export function samePictureTwice(takes: readonly string[], files: readonly string[], isLeftOut: boolean): Fault {
  const what = files.length > 1 ? `${joined(files)} are one and the same picture` : `${files[0]} is there twice`;
  const end = isLeftOut
    ? 'it is counted once, for a copy tells nothing new.'
    : 'a copy tells nothing new, so the ± may be too small.';
  return fault('same-picture', 'warning', takes, `${what}: ${end}`);
}
