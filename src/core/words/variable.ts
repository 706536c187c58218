/** Sentences on variable filters and their marks. */
import { mostlyCode, withheldAround } from './strength';
import type { Fault, Reading } from '../session/readings';
import { fault } from './faults';

export function marksMissing(takes: readonly string[]): Fault {
  return fault(
    'mark-missing',
    'warning',
    takes,
    `${takes.join(', ')}: no mark is noted, so these takes stand for none.`,
  );
}

/**
 * @param around what it came out as
 * @param mostly the largest source of its uncertainty: what helps hangs on it
 * @param hasDarker whether darker bare pictures were shot
 */
export function markWithheld(
  takes: readonly string[],
  mark: number,
  around: Reading,
  mostly: string,
  hasDarker = false,
): Fault {
  const words = `Mark ${mark} would be uncertain by ${around.u95.toFixed(2)} stop; it is withheld. Most of that is ${mostly}.`;
  return withheldAround(fault(mostlyCode(mostly), 'error', takes, words), around, hasDarker);
}

export interface MarksFound {
  lightest: Reading;
  darkest: Reading;
  /** Where the crossed pattern begins; `null` where none shows. */
  cross: { mark: number; stops: number } | null;
  /** What a mark takes when approached from above less from below; `null` where both weren't tried. */
  turned: Reading | null;
  /** Largest departure of a mark from a rising row, stops. */
  residualStops: number;
}

/** A row of marks departs from rising by more than this, stops, before a word is lost on it. Our own judgement. */
const ONE_WAY_STOPS = 0.05;

export function marksInWords({ lightest, darkest, cross, turned, residualStops }: MarksFound): string[] {
  const crossing = cross
    ? `The crossed pattern begins at mark ${cross.mark.toFixed(1)} (${cross.stops.toFixed(1)} stops): beyond it the frame is uneven by more than a tenth of a stop.`
    : 'No crossed pattern shows at any mark measured.';
  const back = !turned
    ? 'Marks were approached from one side only; approach them from both, and the play of the ring is told.'
    : Math.abs(turned.value) > turned.u95
      ? `Approached from above a mark takes ${Math.abs(turned.value).toFixed(2)} stop ${turned.value > 0 ? 'more' : 'less'} than from below: always turn the same way.`
      : 'It makes no difference from which side a mark is approached.';
  return [
    `It goes from ${lightest.value.toFixed(2)} to ${darkest.value.toFixed(2)} stops.`,
    crossing,
    back,
    ...(residualStops > ONE_WAY_STOPS
      ? [`Its marks don’t run one way: they depart by ${residualStops.toFixed(2)} stop from any rising row.`]
      : []),
  ];
}
