/** Sentences on a filter's strength and cast: withheld, in doubt, or not to be had. */
import type { Fault, Reading } from '../session/readings';
import { fault, type FaultCode } from './faults';
import { quoted } from './numbers';

/** What helps where darker bare pictures were shot and don't tell enough. */
const AS_BRIGHT =
  'Shoot it again with a longer shutter, as bright as a bare picture; or darker bare pictures that reach as low as it does.';

/**
 * @param around what it came out as
 * @param mostly the largest source of its uncertainty
 * @param hasDarker whether darker bare pictures were shot, so that two more of them are no help
 */
export function strengthWithheld(
  takes: readonly string[],
  around: Reading,
  limit: number,
  mostly: string,
  hasDarker: boolean,
): Fault {
  const words = `The strength would be uncertain by ${around.u95.toFixed(2)} stop, more than ${limit}; it is withheld. Most of that is ${mostly}.`;
  return withheldAround(fault(mostlyCode(mostly), 'error', takes, words), around, hasDarker);
}

/**
 * A withheld strength's fault with what it came out as.
 *
 * @param hasDarker whether darker bare pictures were shot, so that two more of them are no help
 */
export function withheldAround(told: Fault, around: Reading, hasDarker: boolean): Fault {
  const isKnown = Number.isFinite(around.value) && Number.isFinite(around.u95);
  return {
    ...told,
    ...(told.code === 'curve-unknown' && hasDarker ? { remedy: AS_BRIGHT } : {}),
    ...(isKnown ? { around } : {}),
  };
}

/** Sources whose remedy isn't more light. */
const OTHER_CAUSES: Readonly<Record<string, FaultCode>> = {
  response: 'curve-unknown',
  'light drift': 'light-jumped',
  repeats: 'repeats-disagree',
};

/** What a figure is withheld for, by the largest source of its uncertainty: what is to be done hangs on it. */
export function mostlyCode(mostly: string | undefined): FaultCode {
  return OTHER_CAUSES[mostly ?? ''] ?? 'too-dark';
}

export function placesDisagree(takes: readonly string[], range: number, birgeRatio: number): Fault {
  const words = `Its places disagree by ${range.toFixed(2)} stop, ${birgeRatio.toFixed(1)} times what their ± allows; the ± of the mean is widened.`;
  return fault('scenes-disagree', 'warning', takes, words);
}

export function castWithheld(takes: readonly string[], u95: number, mostly?: string): Fault {
  return fault(
    mostlyCode(mostly),
    'error',
    takes,
    `The cast would be uncertain by ΔE00 ${u95.toFixed(1)}; it is withheld.`,
  );
}

/** The light of a scene is itself partly polarized, so that a polarizing filter's strength changes with its ring. */
export function lightPolarized(takes: readonly string[], scene: string, range: number, isAveraged: boolean): Fault {
  const size = `The light of “${scene}” is itself partly polarized: the strength changes by ${range.toFixed(2)} stop with the ring`;
  return isAveraged
    ? fault('light-polarized', 'info', takes, `${size}; the mean over a whole turn is given.`)
    : fault(
        'light-polarized',
        'warning',
        takes,
        `${size}, and its two angles don’t lie 90° apart: what they leave open is in the ±.`,
      );
}

/** @param cause the fault that keeps every bare picture from being used */
export function bareUnusable(takes: readonly string[], cause: Fault): Fault {
  const words = `No usable bare picture to compare with. ${cause.message}`;
  return fault(cause.code as FaultCode, 'error', [...takes, ...cause.takes], words);
}

export function unpolarizedMissing(takes: readonly string[]): Fault {
  const words =
    'It was shot before polarized light only; the strength of a polarizer comes from a chart or an even wall.';
  return fault('unpolarized-missing', 'warning', takes, words);
}

export function bareMissing(takes: readonly string[], scenes: readonly string[]): Fault {
  return fault('bare-missing', 'error', takes, `There is no usable bare take of ${quoted(scenes)} to compare with.`);
}
