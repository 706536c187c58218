/**
 * The smallest kit for a work. A need is a range of stops; a filter answers it by a strength, or a variable one by any of a range, as surely
 * as its ± says. Which fewest filters answer all that can be answered is a set cover: solved exactly by branch and bound, after what can't
 * matter is left out. Where nothing has to polarize the needs are intervals on one line, and a sweep along it is as good; it begins the search.
 */
import type { Need } from './needs';

/** A filter that could be carried. */
export interface Offer {
  id: string;
  name: string;
  /** Name of the kit that it is of. */
  kit: string;
  /** Stops: twice the same, or a variable filter's ends. */
  from: number;
  to: number;
  u95: number;
  polarizes: boolean;
}

type Range = Pick<Need, 'least' | 'most' | 'polarizer'>;

/** Whether a filter, wherever in its ± its strength lies, answers a need. */
export function answers({ from, to, u95, polarizes }: Omit<Offer, 'id' | 'name' | 'kit'>, need: Range): boolean {
  return from + u95 <= need.most && to - u95 >= need.least && (polarizes || !need.polarizer);
}

/** Whether a need is met with no filter. */
export const metBare = ({ least, most, polarizer }: Range): boolean => least <= 0 && most >= 0 && !polarizer;

/** Needs that the same offers answer, as one. */
interface Group {
  offers: readonly number[];
  hours: number;
}

export interface Chosen {
  /** Places in the list of offers. */
  offers: number[];
  /** Whether it is known that no fewer, or no better ones, would do. */
  isExact: boolean;
}

/** Steps of the search after which the best so far is taken; small cases need a few hundred. */
const MOST_STEPS = 400_000;

/**
 * The fewest offers that answer all needs which any of them answers.
 *
 * @param free offers that are carried anyway: what they answer needs no other
 */
export function fewest(needs: readonly Need[], offers: readonly Offer[], free: readonly number[] = []): Chosen {
  const open = needs.filter((need) => !free.some((i) => answers(offers[i], need)));
  const groups = withoutImplied(groupsOf(open, offers));
  const useful = undominated(groups, offers);
  const sorted = [...useful];
  let best = sweep(
    open,
    sorted.map((i) => offers[i]),
  ).map((k) => sorted[k]);
  const search = new Search();
  const of = groups.map((group) => group.offers.filter((i) => useful.has(i)));
  const holds = new Map([...useful].map((i) => [i, of.flatMap((one, g) => (one.includes(i) ? [g] : []))]));
  const descend = (left: ReadonlySet<number>, taken: readonly number[]): void => {
    if (left.size === 0) {
      best = [...taken];
      return;
    }
    if (search.isOver()) return;
    const gain = (i: number) => holds.get(i)!.filter((g) => left.has(g)).length;
    const most = Math.max(...[...useful].map(gain));
    if (taken.length + Math.ceil(left.size / most) >= best.length) return;
    const hardest = [...left].reduce((a, b) => (of[b].length < of[a].length ? b : a));
    for (const i of [...of[hardest]].sort((a, b) => gain(b) - gain(a))) {
      const own = new Set(holds.get(i));
      descend(new Set([...left].filter((g) => !own.has(g))), [...taken, i]);
    }
  };
  descend(new Set(groups.keys()), []);
  return { offers: best, isExact: !search.isOver() };
}

/**
 * The offers, at most so many, that answer needs of the most hours together.
 *
 * @param free as in {@link fewest}
 */
export function bestOf(
  count: number,
  needs: readonly Need[],
  offers: readonly Offer[],
  free: readonly number[] = [],
): Chosen {
  const open = needs.filter((need) => !free.some((i) => answers(offers[i], need)));
  const groups = groupsOf(open, offers);
  const useful = [...undominated(groups, offers)];
  const holds = new Map(useful.map((i) => [i, groups.flatMap((one, g) => (one.offers.includes(i) ? [g] : []))]));
  const search = new Search();
  let best: { offers: number[]; hours: number } = { offers: [], hours: 0 };
  const descend = (
    left: ReadonlySet<number>,
    taken: readonly number[],
    hours: number,
    from: readonly number[],
  ): void => {
    if (hours > best.hours + 1e-9) best = { offers: [...taken], hours };
    if (taken.length === count || search.isOver()) return;
    const gains = from
      .map((i) => ({ i, gain: holds.get(i)!.reduce((sum, g) => sum + (left.has(g) ? groups[g].hours : 0), 0) }))
      .filter(({ gain }) => gain > 0)
      .sort((a, b) => b.gain - a.gain);
    gains.forEach(({ i, gain }, k) => {
      // What comes adds no more than the largest gains do that are left.
      const bound = gains.slice(k, k + count - taken.length).reduce((sum, one) => sum + one.gain, hours);
      if (bound <= best.hours + 1e-9) return;
      const own = new Set(holds.get(i));
      const rest = gains.slice(k + 1).map((one) => one.i);
      descend(new Set([...left].filter((g) => !own.has(g))), [...taken, i], hours + gain, rest);
    });
  };
  descend(new Set(groups.keys()), [], 0, useful);
  return { offers: best.offers, isExact: !search.isOver() };
}

/**
 * All needs answered along the line of stops: the one whose range ends first takes, of the filters that answer it, the one that reaches
 * darkest, which answers whatever of the others the rest would. As few as can be where nothing has to polarize.
 */
export function sweep(needs: readonly Need[], offers: readonly Offer[]): number[] {
  const taken: number[] = [];
  const order = [...needs].sort((a, b) => Number(b.polarizer) - Number(a.polarizer) || a.most - b.most);
  for (const need of order) {
    if (taken.some((i) => answers(offers[i], need))) continue;
    const able = offers.flatMap((one, i) => (answers(one, need) ? [i] : []));
    if (able.length === 0) continue;
    taken.push(able.reduce((a, b) => (offers[b].to - offers[b].u95 > offers[a].to - offers[a].u95 ? b : a)));
  }
  return taken;
}

class Search {
  private steps = 0;
  /** Counts a step once it is asked for. */
  isOver(): boolean {
    return this.steps >= MOST_STEPS || ++this.steps >= MOST_STEPS;
  }
}

/** Needs that some offer answers, those with the same offers together. */
function groupsOf(needs: readonly Need[], offers: readonly Offer[]): Group[] {
  const groups = new Map<string, Group>();
  for (const need of needs) {
    const able = offers.flatMap((one, i) => (answers(one, need) ? [i] : []));
    if (able.length === 0) continue;
    const key = able.join(' ');
    groups.set(key, { offers: able, hours: (groups.get(key)?.hours ?? 0) + need.hours });
  }
  return [...groups.values()];
}

/** Without groups that are answered by whatever answers another one. */
function withoutImplied(groups: readonly Group[]): Group[] {
  const holding = groups.map(({ offers }) => new Set(offers));
  return groups.filter(
    (_, g) =>
      !groups.some(
        ({ offers }, k) => k !== g && offers.length < holding[g].size && offers.every((i) => holding[g].has(i)),
      ),
  );
}

/** Offers that no other one replaces: of equals the one that doesn't polarize, is known best, comes first. */
function undominated(groups: readonly Group[], offers: readonly Offer[]): Set<number> {
  const holds = offers.map((_, i) => new Set(groups.flatMap(({ offers: able }, g) => (able.includes(i) ? [g] : []))));
  const isBetter = (a: number, b: number) =>
    Number(offers[a].polarizes) - Number(offers[b].polarizes) || offers[a].u95 - offers[b].u95 || a - b;
  const replaced = (i: number) =>
    holds.some(
      (other, k) =>
        k !== i &&
        other.size >= holds[i].size &&
        [...holds[i]].every((g) => other.has(g)) &&
        (other.size > holds[i].size || isBetter(k, i) < 0),
    );
  return new Set(offers.flatMap((_, i) => (holds[i].size > 0 && !replaced(i) ? [i] : [])));
}
