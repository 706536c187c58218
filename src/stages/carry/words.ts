/** Sentences of “What to carry”. */
import type { AskedWork } from '@/core/judging/carry/asked';
import type { CarryAnswer, Lack, Shortfall } from '@/core/judging/carry/carry';
import type { Offer } from '@/core/judging/carry/choose';
import { fixed, listed, percent, withU95 } from '@/ui/format';

export const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'] as const;

/** Hours a year, whole. */
export const hoursInWords = (hours: number) => `${fixed(hours, 0)} h`;

/** A share that never rounds to a whole it isn't. */
export function shareInWords(part: number, whole: number): string {
  if (whole <= 0) return '–';
  const share = part / whole;
  return percent(share > 0.995 && share < 1 - 1e-9 ? 0.99 : share);
}

const COUNT = ['No', 'One', 'Two', 'Three', 'Four', 'Five', 'Six', 'Seven', 'Eight', 'Nine', 'Ten'];
const filters = (count: number) => `${COUNT[count] ?? count} ${count === 1 ? 'filter' : 'filters'}`;

/** The answer in one line. */
export function titleOf({ hours, bare, steps, covered }: CarryAnswer): string {
  if (hours === 0) return 'There is no light to work in';
  const own = steps.filter(({ isOwned }) => isOwned);
  const added = steps.length - own.length;
  const all = (verb: string) => `${verb} ${covered >= hours - 1e-6 ? 'every hour' : `${shareInWords(covered, hours)} of the hours`}`; // prettier-ignore
  if (added === 0) {
    if (own.length > 0) return `What you have ${all('covers')}`;
    return bare >= hours - 1e-6 ? 'No filter is needed' : `No measured filter helps: bare ${all('covers')}`;
  }
  if (own.length > 0) return `${filters(added)} more ${all(added === 1 ? 'covers' : 'cover')}`;
  return `${filters(added)} ${all(added === 1 ? 'covers' : 'cover')}`;
}

/** A strength, or a variable filter's range. */
export function strengthOf({ from, to, u95 }: Offer): string {
  return from === to ? withU95({ value: from, u95 }) : `${fixed(from)} to ${withU95({ value: to, u95 })}`;
}

/** Months in a row as spans: "Nov–Feb, Jun"; the year goes round. */
export function monthsInWords(months: readonly number[]): string {
  const has = (month: number) => months.includes(((month + 11) % 12) + 1);
  if (months.length === 12) return 'all year';
  const starts = [...months].sort((a, b) => a - b).filter((month) => !has(month - 1));
  const name = (month: number) => MONTHS[(month + 11) % 12];
  return starts
    .map((from) => {
      let to = from;
      while (has(to + 1)) to++;
      return from === to ? name(from) : `${name(from)}–${name(to)}`;
    })
    .join(', ');
}

const LACKS: Record<Lack, (range: string) => string> = {
  dark: () => 'too dark even with no filter: a slower shutter, a higher ISO or a wider lens',
  stronger: (range) => `no measured filter is strong enough (${range} would do)`,
  weaker: (range) => `every measured filter is too strong (${range} would do)`,
  between: (range) => `no measured filter lies between (${range} would do)`,
  'left out': (range) => `a further filter would do (${range})`,
};

/** Where it falls short: "Filming, clear sky: 120 h, Jun–Aug, between 11 and 15 h: …". */
export function shortfallInWords(one: Shortfall, works: readonly { name: string }[]): string {
  const { sky, hours, months, fromHour, toHour, lack, least, most } = one;
  const work = works.length > 1 ? `${works[one.work].name}, ` : '';
  const range = `${fixed(Math.max(0, least), 1)} to ${fixed(most, 1)} stops`;
  return `${work}${SKY_WORDS[sky]}: ${hoursInWords(hours)} a year, ${monthsInWords(months)}, between ${fromHour} and ${toHour + 1} h: ${LACKS[lack](range)}.`;
}

export const SKY_WORDS: Record<Shortfall['sky'], string> = {
  clear: 'sun',
  'thin cloud': 'thin cloud',
  overcast: 'overcast',
  shade: 'shade',
};

/** What is carried, for a note to oneself. */
export function packingList({ steps }: CarryAnswer): string {
  return listed(steps.map(({ offer }) => `${offer.name} (${offer.kit})`));
}

/** Filters' names as one short text: what letters they begin with alike is written once. "ND16·128". */
export function shortNames(names: readonly string[]): string {
  const [first = '', ...rest] = names;
  const prefix = /^[A-Za-z]+/.exec(first)?.[0] ?? '';
  const isShared = rest.every((one) => one.startsWith(prefix) && one.length > prefix.length);
  return [first, ...rest.map((one) => (isShared ? one.slice(prefix.length) : one))].join('·');
}

/** What is to be done, and where: "Filming: 25 a second at 180°, ISO 100 to 400, f/2.8; 51.2° N, 2.5° W, all year, 7 to 19 h, sun and overcast". */
export function workInWords(work: AskedWork): string {
  // A field that was left empty is a dash.
  const told = (value: number) => (Number.isFinite(value) ? `${value}` : '–');
  const span = (from: number, to: number) => (from === to ? told(from) : `${told(from)} to ${told(to)}`);
  const { target, frameRate, angle, interval, seconds } = work;
  const shutter = {
    clips: `${told(frameRate)} frames a second at ${told(angle)}°`,
    hyperlapse: `a picture every ${told(interval)} s at ${told(angle)}°`,
    'long exposure': `${told(seconds)} s`,
  }[target];
  const at = `${told(Math.abs(work.latitude))}° ${work.latitude < 0 ? 'S' : 'N'}, ${told(Math.abs(work.longitude))}° ${work.longitude < 0 ? 'W' : 'E'}`;
  const skies = listed(work.skies.map((sky) => SKY_WORDS[sky]));
  const polarizing = work.polarizer ? ', polarizing' : '';
  return `${work.name}: ${shutter}, within ${told(work.tolerance)} stop, ISO ${span(work.baseIso, work.highestIso)}, f/${span(work.widest, work.narrowest)}${polarizing}; ${at}, ${monthsInWords(work.months.map(Number))}, ${told(work.fromHour)} to ${told(work.toHour)} h, ${skies}`;
}
