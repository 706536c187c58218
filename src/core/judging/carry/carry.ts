/** What to carry for a work: the smallest kit by measured strengths, what each further filter adds, and where it falls short. */
import { answers, bestOf, fewest, metBare, type Offer } from './choose';
import { needsOf, type Need, type Work } from './needs';

export interface CarryAsk {
  works: readonly Work[];
  /** At most so many filters to add; `null` for as many as are needed. */
  most: number | null;
  /** Ids of offers that are there already. */
  owned: readonly string[];
}

/** A filter, and what it adds to those before it. */
export interface Step {
  offer: Offer;
  isOwned: boolean;
  /** Hours a year that it adds, and that are covered with it. */
  adds: number;
  covered: number;
}

/** Why an hour isn't covered. */
export type Lack = 'dark' | 'stronger' | 'between' | 'weaker' | 'left out';

/** Hours that aren't covered, of one work and sky and for one reason. */
export interface Shortfall {
  work: number;
  sky: Need['sky'];
  lack: Lack;
  hours: number;
  months: number[];
  /** First and last hour of the day, as they begin. */
  fromHour: number;
  toHour: number;
  /** Stops that would do, the least and the most of all hours. */
  least: number;
  most: number;
}

export interface HourCovered {
  work: number;
  month: number;
  hour: number;
  /** Shares of its skies. */
  bare: number;
  filtered: number;
  /** Names of the filters that do it, the first of the steps for each sky. */
  by: string[];
}

export interface CarryAnswer {
  /** Hours a year with light in which one works. */
  hours: number;
  /** Of these, without a filter. */
  bare: number;
  /** The kit: what is owned first, then the others by what they add. */
  steps: Step[];
  covered: number;
  isExact: boolean;
  shortfalls: Shortfall[];
  grid: HourCovered[];
}

/** Answers for the works that can be read. */
export function whatToCarry({ works, most, owned }: CarryAsk, offers: readonly Offer[]): CarryAnswer {
  const needs = needsOf(works);
  const open = needs.filter((need) => !metBare(need));
  const free = offers.flatMap(({ id }, i) => (owned.includes(id) ? [i] : []));
  const all = fewest(open, offers, free);
  const chosen = most !== null && all.offers.length > most ? bestOf(most, open, offers, free) : all;
  const hours = sum(needs);
  const bare = hours - sum(open);
  const ranked = (list: readonly number[], from: { left: readonly Need[]; covered: number }, isOwned: boolean) => {
    const steps: Step[] = [];
    let { left, covered } = from;
    const rest = new Set(list);
    while (rest.size > 0) {
      const gain = (i: number) => sum(left.filter((need) => answers(offers[i], need)));
      const [next, adds] = [...rest].map((i) => [i, gain(i)] as const).reduce((a, b) => (b[1] > a[1] ? b : a));
      rest.delete(next);
      left = left.filter((need) => !answers(offers[next], need));
      covered += adds;
      steps.push({ offer: offers[next], isOwned, adds, covered });
    }
    return { steps, left, covered };
  };
  const own = ranked(free, { left: open, covered: bare }, true);
  const added = ranked(chosen.offers, own, false);
  return {
    hours,
    bare,
    steps: [...own.steps, ...added.steps],
    covered: added.covered,
    isExact: chosen.isExact,
    shortfalls: shortfallsOf(added.left, offers),
    grid: gridOf(needs, [...own.steps, ...added.steps]),
  };
}

const sum = (needs: readonly Need[]) => needs.reduce((total, { hours }) => total + hours, 0);

/** What is missing for a need that nothing carried answers. */
function lackOf(need: Need, offers: readonly Offer[]): Lack {
  if (need.most < 0) return 'dark';
  const able = need.polarizer ? offers.filter(({ polarizes }) => polarizes) : offers;
  if (able.some((one) => answers(one, need))) return 'left out';
  if (able.every(({ to, u95 }) => to - u95 < need.least)) return 'stronger';
  return able.every(({ from, u95 }) => from + u95 > need.most) ? 'weaker' : 'between';
}

function shortfallsOf(left: readonly Need[], offers: readonly Offer[]): Shortfall[] {
  const found = new Map<string, Shortfall>();
  for (const need of left) {
    const { work, sky, month, hour, hours, least, most } = need;
    const lack = lackOf(need, offers);
    const key = `${work} ${sky} ${lack}`;
    const before = found.get(key);
    if (!before) {
      found.set(key, { work, sky, lack, hours, months: [month], fromHour: hour, toHour: hour, least, most });
      continue;
    }
    before.hours += hours;
    if (!before.months.includes(month)) before.months.push(month);
    before.fromHour = Math.min(before.fromHour, hour);
    before.toHour = Math.max(before.toHour, hour);
    before.least = Math.min(before.least, least);
    before.most = Math.max(before.most, most);
  }
  return [...found.values()].sort((a, b) => b.hours - a.hours);
}

function gridOf(needs: readonly Need[], steps: readonly Step[]): HourCovered[] {
  const cells = new Map<string, HourCovered & { count: number }>();
  for (const need of needs) {
    const { work, month, hour } = need;
    const key = `${work} ${month} ${hour}`;
    const cell = cells.get(key) ?? { work, month, hour, bare: 0, filtered: 0, by: [], count: 0 };
    cell.count += 1;
    const step = metBare(need) ? null : steps.find(({ offer }) => answers(offer, need));
    if (step === null) cell.bare += 1;
    else if (step) {
      cell.filtered += 1;
      if (!cell.by.includes(step.offer.name)) cell.by.push(step.offer.name);
    }
    cells.set(key, cell);
  }
  return [...cells.values()].map(({ count, bare, filtered, ...where }) => {
    return { ...where, bare: bare / count, filtered: filtered / count };
  });
}
