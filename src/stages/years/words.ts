/** What a kit's years come to, in sentences. */
import type { Change } from '@/core/judging/overTime/change';
import type { Rule, Signal } from '@/core/judging/overTime/controlChart';
import {
  FOLLOWED,
  type FilterLife,
  type Followed,
  type LifeEvent,
  type LifePoint,
} from '@/core/judging/overTime/lives';
import type { Components } from '@/core/formulas/statistics/varianceComponents';
import type { Product, Sample } from '@/core/judging/overTime/samples';
import { decimalsFor, fixed, listed, monthOf, signedWithU95 } from '@/ui/format';

export const dayOf = (day: number) => new Date(day).toISOString().slice(0, 10);

/** The page's title: who has changed. */
export function titleOf(filters: readonly FilterLife[], benchMoved: boolean): string {
  const of = (word: Change['word']) => filters.filter(({ change }) => change?.word === word).map(({ name }) => name);
  const followed = filters.filter(({ change }) => change !== null);
  if (followed.length === 0) return 'Nothing to follow yet';
  const [changed, perhaps, open] = [of('changed'), of('perhaps changed'), of('open')];
  // What the bench did to all of them is no filter's change.
  if (benchMoved && changed.length + perhaps.length > 0) return 'The bench has moved, or the filters have changed';
  if (changed.length > 0) return `${listed(changed)} ${changed.length === 1 ? 'has' : 'have'} changed`;
  if (perhaps.length > 0) return `${listed(perhaps)} may have changed`;
  if (open.length === followed.length) return 'Too roughly measured to tell';
  return open.length > 0 ? 'No change is seen' : 'Nothing has changed';
}

/**
 * What stands below it.
 *
 * @param benchMoved whether the bench is seen to have moved by itself, and that is still in the figures
 */
export function sentenceOf(filters: readonly FilterLife[], quality: Followed, benchMoved: boolean): string {
  const bench = benchMoved ? ' The bench itself moved too: take its change out to see what is the filters’ own.' : '';
  return `${changeSentence(filters, quality)}${bench}`;
}

function changeSentence(filters: readonly FilterLife[], quality: Followed): string {
  const followed = filters.filter(({ change }) => change !== null);
  if (followed.length === 0)
    return 'A change needs two sittings of a filter on different days. Measure the kit again in some months.';
  const largest = [...followed].sort((a, b) => strikes(b) - strikes(a))[0];
  const { over, word } = largest.change!;
  const days = largest.points;
  if (word === 'changed' || word === 'perhaps changed')
    return `${largest.name}: ${quality} ${signedWithU95(over)} ${FOLLOWED[quality].unit} from ${monthOf(days[0].day)} to ${monthOf(days.at(-1)!.day)}, over ${days.length} sittings.`;
  const widest = Math.max(...followed.map(({ change }) => Math.abs(change!.over.value) + change!.over.u95));
  return `A change of ${quality} by more than ${fixed(widest)} ${FOLLOWED[quality].unit} can be excluded for all of them.`;
}

/** Size of a change in its own ±. */
const strikes = ({ change }: FilterLife) => Math.abs(change!.over.value) / change!.over.u95;

/** "Dropped on 2025-03-02: +0.12 ±0.03 stops from the sitting before it to the next." */
export function eventWords({ what, date, step }: LifeEvent, unit: string): string {
  const jump = step
    ? `${signedWithU95(step)} ${unit} from the sitting before it to the next`
    : 'no sitting stands on both sides of it';
  return `${what.charAt(0).toUpperCase()}${what.slice(1)} on ${date}: ${jump}.`;
}

const RULES: Record<Rule, (side: string, count: number) => string> = {
  // Both limits together leave out one in 370.
  'beyond 3σ': (side, count) =>
    count === 1
      ? `${side} the limits, as one sitting in 370 would be by chance`
      : `${count} sittings ${side} the limits`,
  '2 of 3 beyond 2σ': (side) => `two of three sittings far ${side} the middle`,
  '4 of 5 beyond 1σ': (side) => `four of five sittings ${side} the middle by more than their usual scatter`,
  '8 on one side': (side) => `eight sittings in a row ${side} the middle`,
};

/** A signal with its months: "From Mar 2025 to May 2025: eight sittings in a row above the middle." */
export function signalWords({ rule, side, from, to }: Signal, points: readonly LifePoint[]): string {
  const [first, last] = [monthOf(points[from].day), monthOf(points[to].day)];
  return `${first === last ? first : `From ${first} to ${last}`}: ${RULES[rule](side, to - from + 1)}.`;
}

/** A sample by what is engraved on it, or by a letter in the order of its first sitting. */
export const sampleName = ({ serial }: Pick<Sample, 'serial'>, index: number): string =>
  serial ?? `sample ${String.fromCharCode(65 + (index % 26))}`;

/** A standard deviation with its limits: "0.08 (0.03 to 0.41)"; a dash where there is none. */
export function componentInWords(component: Components['between'] | undefined): string {
  if (!component) return '–';
  const decimals = decimalsFor(component.value === 0 ? component.high : component.value);
  const [value, low, high] = [component.value, component.low, component.high].map((one) => fixed(one, decimals));
  return `${value} (${low} to ${high})`;
}

/** What samples come to: whether they differ by more than their sittings. */
export function samplesSentence(products: readonly Product[], unit: string): string {
  const apart = products.filter(({ spread }) => spread !== null && spread.between.low > 0);
  const told = products.filter(({ spread }) => spread !== null);
  if (told.length === 0)
    return 'Each sample was measured once: whether they differ or the sittings did can’t be told. Measure one of them again.';
  if (apart.length === 0)
    return `They differ by no more than sittings of one sample do, as far as ${told.length === 1 ? 'its' : 'their'} limits tell.`;
  const names = listed(apart.map(({ name }) => name));
  const [{ spread }] = [...apart].sort((a, b) => b.spread!.between.value - a.spread!.between.value);
  return `Samples of ${names} differ by more than sittings of one sample do: by ${fixed(spread!.between.value)} ${unit}${apart.length > 1 ? ' at most' : ''}, as a standard deviation.`;
}
