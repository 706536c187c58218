/** The sentence a verdict opens with: the finding of a kit, most telling first. */
import type { FilterReadings, Reading, Readings } from '../session/readings';

export interface Headline {
  title: string;
  text: string;
}

const NUMBERS = [
  'none',
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
];

function count(n: number): string {
  return NUMBERS[n] ?? String(n);
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/**
 * Title and sentence for a kit's readings.
 *
 * @param nameOf gives the engraved name of a filter id
 */
export function writeHeadline(readings: Readings, nameOf: (id: string) => string): Headline {
  const { filters } = readings;
  const isMeasured = (one: FilterReadings) => Boolean(one.density ?? one.variable ?? one.graduation);
  const measured = filters.filter(isMeasured);
  const withheld = filters.filter((one) => !isMeasured(one));
  const labelled = measured.filter((one) => errorOf(one) !== null);
  if (filters.length === 0) return { title: 'No filter in this session', text: 'Add a kit, or takes of its filters.' };
  if (measured.length === 0)
    return { title: 'Nothing could be measured', text: 'Every figure is withheld; the notes say what to shoot again.' };

  const merged = firstFault(filters, 'steps-merged');
  const swapped = firstFault(filters, 'order-suspect');
  const off = labelled.filter((one) => one.verdict.label === 'off');
  const worst = [...labelled].sort((a, b) => offBy(b) - offBy(a))[0];
  const sentences: string[] = [];
  let title: string;
  if (swapped) {
    title = 'Two filters stand in the wrong order';
    sentences.push(swapped.message);
  } else if (merged) {
    title = `Two of these ${count(filters.length)} are nearly the same filter`;
    sentences.push(merged.message);
  } else if (labelled.length === 0) {
    title = measured.length === 1 ? 'This filter carries no label' : 'These filters carry no labels';
  } else if (off.length === 0 && labelled.every((one) => one.verdict.label === 'true')) {
    title =
      labelled.length === 1
        ? 'The label is true'
        : labelled.length === 2
          ? 'Both labels are true'
          : `All ${count(labelled.length)} labels are true`;
  } else if (sameSide(labelled)) {
    title = `All ${count(labelled.length)} are ${errorOf(worst)!.value > 0 ? 'darker' : 'lighter'} than they say`;
  } else if (off.length > 0) {
    title =
      off.length === 1
        ? `${nameOf(off[0].filter)} isn’t what it says`
        : off.length === labelled.length && off.length === 2
          ? 'Both labels are off'
          : `${capital(count(off.length))} of ${count(labelled.length)} labels are off`;
  } else if (labelled.length === 1) {
    title = `The label is ${labelled[0].verdict.label}`;
  } else {
    const right = labelled.filter((one) => one.verdict.label === 'true').length;
    const all = count(labelled.length);
    if (right > 0) title = `${capital(count(right))} of ${all} labels ${right === 1 ? 'is' : 'are'} true`;
    else title = labelled.length === 2 ? 'Neither label is true' : `None of ${all} labels is true`;
  }
  const farthest = worst && errorOf(worst);
  if (farthest) {
    const { value, u95 } = farthest;
    if (Math.abs(value) > u95)
      sentences.push(
        `${nameOf(worst.filter)} is farthest from its label, ${Math.abs(value).toFixed(2)} stop ${value > 0 ? 'darker' : 'lighter'}.`,
      );
  }
  const tinted = measured
    .filter((one) => one.cast && one.cast.deltaE00.value >= 1)
    .sort((a, b) => b.cast!.deltaE00.value - a.cast!.deltaE00.value);
  if (tinted.length === 0 && measured.some((one) => one.cast))
    sentences.push('No filter adds a color that an eye could see.');
  else if (tinted.length > 0)
    sentences.push(
      `${nameOf(tinted[0].filter)} adds the most color (ΔE00 ${tinted[0].cast!.deltaE00.value.toFixed(1)}, ${tinted[0].cast!.direction}).`,
    );
  if (withheld.length > 0)
    sentences.push(
      `${capital(count(withheld.length))} ${withheld.length === 1 ? 'filter is' : 'filters are'} withheld: the pictures can’t carry a figure.`,
    );
  return { title, text: sentences.join(' ') };
}

/** What a filter is off its label by: of a labelled range the worse end, of a graduated filter its dense half. */
function errorOf({ density, variable, graduation, nominalStops }: FilterReadings): Reading | null {
  if (density) return density.error ?? null;
  if (variable?.errors) {
    const { low, high } = variable.errors;
    return Math.abs(low.value) > Math.abs(high.value) ? low : high;
  }
  if (graduation && nominalStops !== null)
    return { value: graduation.denseStops.value - nominalStops, u95: graduation.denseStops.u95 };
  return null;
}

/** Size of that error, stops; 0 where there is nothing to rate. */
export function offBy(filter: FilterReadings): number {
  return Math.abs(errorOf(filter)?.value ?? 0);
}

function sameSide(labelled: FilterReadings[]): boolean {
  if (labelled.length < 3) return false;
  const errors = labelled.map((one) => errorOf(one)!);
  const clear = errors.every(({ value, u95 }) => Math.abs(value) > Math.max(u95, 0.1));
  return clear && errors.every(({ value }) => Math.sign(value) === Math.sign(errors[0].value));
}

function firstFault(filters: FilterReadings[], code: string) {
  return filters.flatMap((one) => one.faults).find((one) => one.code === code);
}
