/**
 * Kits ranked by what a reviewer counts, with how sure the order is: every figure is drawn many times from its uncertainty (a seeded Monte
 * Carlo, JCGM 101:2008), and the order that each draw gives is counted. Figures are drawn independently of each other.
 */
import { z } from 'zod';
import { seededNormals } from '../../formulas/statistics/seededNormals';
import { DEFAULT_BANDS, type Bands } from '../rating/bands';
import type { Reading } from '../../session/readings';
import { castApart, type RankedFilter, type RankedKit } from './kitAsSet';
import { risingScore, scoreOf } from './score';

export const QUALITIES = [
  'strength',
  'steps',
  'cast',
  'evenness',
  'sharpness',
  'corners',
  'polarizer',
  'handling',
  'price',
] as const;
export type Quality = (typeof QUALITIES)[number];

const weight = z.number().min(0).max(20);

export const weightsSchema = z.object({
  qualities: z.record(z.enum(QUALITIES), weight),
  /** Weight of a strength by its labelled whole stops; 1 where none is given. */
  usage: z.record(z.string().regex(/^\d{1,2}$/), weight),
  /** What a quality counts that wasn't measured for a kit: nothing (the others count more), as the worst, or as the mean of the other kits. */
  unmeasured: z.enum(['left out', 'as worst', 'as the others']),
  /** What a strength counts that other kits have and this one lacks. */
  lacking: z.enum(['left out', 'as worst']),
});

export type Weights = z.infer<typeof weightsSchema>;

/** Middle strengths are used most (common practice, no source). */
export const USUAL_USAGE: Readonly<Record<number, number>> = { 3: 2, 4: 2, 5: 2 };

const USUAL: Weights = {
  qualities: {
    strength: 4,
    steps: 2,
    cast: 1,
    evenness: 1,
    sharpness: 2,
    corners: 1,
    polarizer: 1,
    handling: 1,
    price: 1,
  },
  usage: USUAL_USAGE,
  unmeasured: 'left out',
  lacking: 'left out',
};
const counting = (quality: Quality): Weights => ({ ...USUAL, qualities: { ...USUAL.qualities, [quality]: 5 } });

export const PRESETS: Readonly<Record<'neutral first' | 'matched first', { why: string; weights: Weights }>> = {
  'neutral first': {
    why: 'The least cast wins: footage goes out as it is, and every filter is seen alone.',
    weights: counting('cast'),
  },
  'matched first': {
    why: 'The same cast in every filter wins: it is corrected once, for all clips of a day.',
    weights: counting('evenness'),
  },
};

/** What weighs a kit's filters against each other, and what weighs its qualities. */
type StrengthWeights = Pick<Weights, 'usage' | 'lacking'>;
type QualityWeights = Pick<Weights, 'qualities' | 'unmeasured'>;

type Sample = (reading: Reading) => number;
type Scores = Record<Quality, number | null>;
const asFound: Sample = ({ value }) => value;

/** What is known of all kits before one is scored: the cheapest useful filter, and the strengths that there are. */
interface Field {
  cheapest: number | null;
  currency: string | null;
  strengths: readonly number[];
}

function mean(parts: readonly { score: number; weight: number }[]): number | null {
  const total = parts.reduce((sum, one) => sum + one.weight, 0);
  return total > 0 ? parts.reduce((sum, one) => sum + one.weight * one.score, 0) / total : null;
}

const wholeStops = (nominal: number | null) => (nominal === null ? null : Math.round(nominal));

/** Filters of a kit that do what they say closely enough, and no neighbor does already. */
function usefulFilters(filters: readonly RankedFilter[], bands: Bands, sample: Sample): number {
  const close = bands.strength.filter((band) => Number.isFinite(band.upTo)).at(-1)?.upTo ?? Infinity;
  const row = filters
    .flatMap(({ stops, error, nominal }) => (stops ? [{ at: sample(stops), error, nominal }] : []))
    .sort((a, b) => a.at - b.at);
  return row.filter(({ at, error }, i) => {
    const merged = i > 0 && at - row[i - 1].at < bands.mergedBelow;
    return !merged && (!error || Math.abs(sample(error)) <= close);
  }).length;
}

function scoresOf(kit: RankedKit, weights: StrengthWeights, bands: Bands, field: Field, sample: Sample): Scores {
  const { filters } = kit;
  const usage = (nominal: number | null) => weights.usage[wholeStops(nominal) ?? -1] ?? 1;
  const over = (pick: (one: RankedFilter) => number | null, lacking = false): number | null => {
    const parts = filters.flatMap((one) => {
      const score = pick(one);
      return score === null ? [] : [{ score, weight: usage(one.nominal) }];
    });
    if (lacking && weights.lacking === 'as worst' && parts.length > 0) {
      const own = new Set(filters.map(({ nominal }) => wholeStops(nominal)));
      for (const stops of field.strengths) if (!own.has(stops)) parts.push({ score: 0, weight: usage(stops) });
    }
    return mean(parts);
  };
  const row = filters
    .flatMap(({ nominal, stops }) => (nominal !== null && stops ? [{ nominal, at: sample(stops) }] : []))
    .sort((a, b) => a.nominal - b.nominal);
  const steps = row.slice(1).flatMap((dark, i) => {
    const labelled = dark.nominal - row[i].nominal;
    if (labelled < 0.2) return [];
    const off = Math.abs((dark.at - row[i].at) / labelled - 1);
    return [{ score: 100 * Math.max(0, 1 - off), weight: 1 }];
  });
  const casts = filters.flatMap(({ cast }) => (cast ? [{ a: sample(cast.a), b: sample(cast.b) }] : []));
  let apart = 0;
  for (let i = 0; i < casts.length; i++)
    for (let j = i + 1; j < casts.length; j++) apart = Math.max(apart, castApart(casts[i], casts[j]));
  const answered = filters.reduce((sum, { handling }) => sum + (handling?.answered ?? 0), 0);
  const good = filters.reduce((sum, { handling }) => sum + (handling?.good ?? 0), 0);
  const each = pricePerUseful(kit, bands, sample);
  return {
    strength: over(({ error }) => (error ? scoreOf(Math.abs(sample(error)), bands.strength) : null), true),
    steps: mean(steps),
    cast: over(({ cast }) =>
      cast ? scoreOf(castApart({ a: sample(cast.a), b: sample(cast.b) }, { a: 0, b: 0 }), bands.cast) : null,
    ),
    evenness: casts.length > 1 ? scoreOf(apart, bands.cast) : null,
    sharpness: over(({ kept }) => (kept ? scoreOf(1 - sample(kept), bands.sharpness) : null)),
    corners: over(({ corner }) => (corner ? scoreOf(-sample(corner), bands.corners) : null)),
    polarizer: over(({ extinction }) => (extinction ? risingScore(sample(extinction), bands.extinction) : null)),
    handling: answered > 0 ? (100 * good) / answered : null,
    price:
      each !== null && field.cheapest !== null && kit.price?.currency === field.currency
        ? Math.min(100, (100 * field.cheapest) / each)
        : null,
  };
}

/** Price of the kit over its useful filters; `null` without a price or where nothing is of use. */
export function pricePerUseful(kit: RankedKit, bands: Bands = DEFAULT_BANDS, sample: Sample = asFound): number | null {
  const useful = usefulFilters(kit.filters, bands, sample);
  return kit.price && kit.price.amount > 0 && useful > 0 ? kit.price.amount / useful : null;
}

/** Kits are compared by price in the currency that most of them have; the others' prices count as not known. */
function fieldOf(kits: readonly RankedKit[], bands: Bands): Field {
  const counts = new Map<string, number>();
  for (const { price } of kits) if (price) counts.set(price.currency, (counts.get(price.currency) ?? 0) + 1);
  const currency = [...counts].sort(([a, n], [b, m]) => m - n || a.localeCompare(b))[0]?.[0] ?? null;
  const prices = kits.flatMap((kit) => (kit.price?.currency === currency ? (pricePerUseful(kit, bands) ?? []) : []));
  const strengths = [
    ...new Set(kits.flatMap(({ filters }) => filters.flatMap(({ nominal }) => wholeStops(nominal) ?? []))),
  ];
  return { cheapest: prices.length > 0 ? Math.min(...prices) : null, currency, strengths };
}

/** The score of a kit by its qualities; `null` where nothing that counts was measured. */
function total(scores: Scores, others: Scores, { qualities, unmeasured }: QualityWeights): number | null {
  return mean(
    QUALITIES.flatMap((quality) => {
      const own = scores[quality];
      const weight = qualities[quality];
      if (weight <= 0) return [];
      if (own !== null) return [{ score: own, weight }];
      // What no kit was measured for tells none from another.
      if (unmeasured === 'left out' || others[quality] === null) return [];
      return [{ score: unmeasured === 'as worst' ? 0 : others[quality], weight }];
    }),
  );
}

/** Mean of each quality over the kits that were measured in it. */
function meansOf(all: readonly Scores[]): Scores {
  return Object.fromEntries(
    QUALITIES.map((quality) => [
      quality,
      mean(all.flatMap((one) => (one[quality] === null ? [] : [{ score: one[quality], weight: 1 }]))),
    ]),
  ) as Scores;
}

export interface Ranked {
  kit: RankedKit;
  /** 1 is best. */
  rank: number;
  score: number;
  /** 95 % of the draws lie between. */
  interval: [number, number];
  qualities: Scores;
  /** Share of the draws in which it has each rank, best first. */
  ranks: number[];
}

export interface Swap {
  quality: Quality;
  from: number;
  to: number;
}

export interface Ranking {
  kits: Ranked[];
  /** Kits of which nothing that counts was measured. */
  unranked: RankedKit[];
  /** What a weight would have to become for the first two to change places; the smallest change first. */
  swaps: Swap[];
}

export const DRAWS = 2000;
/** Largest weight that a swap is looked for with. */
const LARGEST_WEIGHT = 20;

/** Kits with what each draw gives for each of their qualities: weights of qualities can then be changed without drawing again. */
export interface DrawnKits {
  kits: RankedKit[];
  /** As they were found. */
  found: Scores[];
  /** By draw and kit. */
  drawn: Scores[][];
}

/**
 * Draws the qualities of kits from their figures. The order of the list given doesn't matter: draws are seeded by kit.
 *
 * @param seed the same seed gives the same draws
 */
export function drawKits(
  kits: readonly RankedKit[],
  weights: StrengthWeights,
  bands: Bands = DEFAULT_BANDS,
  draws = DRAWS,
  seed = 1,
): DrawnKits {
  const order = [...kits].sort((a, b) => (a.id < b.id ? -1 : a.id > b.id ? 1 : 0));
  const field = fieldOf(order, bands);
  const normals = order.map((kit) => seededNormals(hashOf(kit.id) ^ seed));
  const drawn = Array.from({ length: draws }, () =>
    order.map((kit, i) => {
      // One value a figure and draw, however often it is asked for.
      const known = new Map<Reading, number>();
      return scoresOf(kit, weights, bands, field, (reading) => {
        let value = known.get(reading);
        if (value === undefined) {
          value = reading.value + (reading.u95 / 2) * normals[i]();
          known.set(reading, value);
        }
        return value;
      });
    }),
  );
  return { kits: order, found: order.map((kit) => scoresOf(kit, weights, bands, field, asFound)), drawn };
}

/** Ranks kits by their weights, with the shares of draws that each rank has. */
export function rankKits(
  kits: readonly RankedKit[],
  weights: Weights,
  bands: Bands = DEFAULT_BANDS,
  draws = DRAWS,
  seed = 1,
): Ranking {
  return rankDrawn(drawKits(kits, weights, bands, draws, seed), weights);
}

/** Ranks what was drawn: a weight of a quality costs no new draw. */
export function rankDrawn({ kits: order, found, drawn: samples }: DrawnKits, weights: QualityWeights): Ranking {
  const draws = samples.length;
  const totals = (all: readonly Scores[]) => {
    const means = meansOf(all);
    return all.map((one) => total(one, means, weights));
  };
  const scores = totals(found);
  const ranked = order.flatMap((_, i) => (scores[i] === null ? [] : [i]));
  const drawn = ranked.map(() => new Float64Array(draws));
  const ranks = ranked.map(() => new Array<number>(ranked.length).fill(0));
  samples.forEach((one, n) => {
    const now = totals(one);
    const placed = ranked.map((i, k) => ({ k, score: now[i] ?? 0 })).sort((a, b) => b.score - a.score || a.k - b.k);
    placed.forEach(({ k, score }, rank) => {
      ranks[k][rank]++;
      drawn[k][n] = score;
    });
  });
  const list = ranked
    .map((i, k): Ranked => {
      const sorted = drawn[k].sort();
      const at = (share: number) => sorted[Math.min(draws - 1, Math.floor(share * draws))] ?? scores[i]!;
      return {
        kit: order[i],
        rank: 0,
        score: scores[i]!,
        interval: [Math.min(at(0.025), scores[i]!), Math.max(at(0.975), scores[i]!)],
        qualities: found[i],
        ranks: ranks[k].map((count) => count / Math.max(1, draws)),
      };
    })
    .sort((a, b) => b.score - a.score || (a.kit.id < b.kit.id ? -1 : 1));
  list.forEach((one, i) => (one.rank = i + 1));
  return {
    kits: list,
    unranked: order.filter((_, i) => scores[i] === null),
    swaps: list.length > 1 ? swapsOf(list[0].qualities, list[1].qualities, meansOf(found), weights) : [],
  };
}

function hashOf(text: string): number {
  let hash = 2166136261;
  for (const char of text) hash = Math.imul(hash ^ char.codePointAt(0)!, 16777619);
  return hash >>> 0;
}

/** For each quality the nearest weight, if there is one, at which the first two change places. */
function swapsOf(first: Scores, second: Scores, means: Scores, weights: QualityWeights): Swap[] {
  const swaps = QUALITIES.flatMap((quality): Swap[] => {
    const lead = (weight: number) => {
      const changed = { ...weights, qualities: { ...weights.qualities, [quality]: weight } };
      return (total(first, means, changed) ?? 0) - (total(second, means, changed) ?? 0);
    };
    const from = weights.qualities[quality];
    const crossing = (end: number): number | null => {
      // Each score is a ratio of straight lines in one weight, their difference crosses nothing at most twice.
      const parts = 200;
      for (let i = 1; i <= parts; i++) {
        let [low, high] = [from + ((end - from) * (i - 1)) / parts, from + ((end - from) * i) / parts];
        if (lead(high) >= 0) continue;
        for (let k = 0; k < 40; k++) {
          const middle = (low + high) / 2;
          if (lead(middle) < 0) high = middle;
          else low = middle;
        }
        return high;
      }
      return null;
    };
    const found = [crossing(0), crossing(LARGEST_WEIGHT)].flatMap((to) => (to === null ? [] : [to]));
    const nearest = found.sort((a, b) => Math.abs(a - from) - Math.abs(b - from))[0];
    return nearest === undefined ? [] : [{ quality, from, to: nearest }];
  });
  return swaps.sort((a, b) => Math.abs(a.to - a.from) - Math.abs(b.to - b.from));
}
