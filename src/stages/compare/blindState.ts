/** A round of judging without names. */
import { guessingOdds, kendall, shuffled } from './blind';
import type { Shown } from './shown';

export interface Votes {
  /** Index of a tile. */
  neutral: number | null;
  sharpest: number | null;
  /** Tiles by color, most neutral first. */
  ranks: number[];
}

export interface BlindState {
  seed: string;
  order: Shown[];
  votes: Votes;
  /** Votes are kept before names are shown, and don't change after. */
  revealed: boolean;
  /** All rounds of the session, this one last, once it is kept. */
  rounds: KeptRound[];
}

/** A round as the session file keeps it. */
export interface KeptRound {
  at: string;
  seed: string;
  /** Files in the order in which they were shown. */
  files: string[];
  votes: Votes;
}

export function startBlind(pictures: readonly Shown[], seed: string): BlindState {
  return {
    seed,
    order: shuffled(pictures, seed),
    votes: { neutral: null, sharpest: null, ranks: [] },
    revealed: false,
    rounds: [],
  };
}

/** ΔE00 of a tile as measured; bare is neutral by itself. `null` where nothing was measured. */
export const castOfTile = ({ picture }: Shown) => (picture.filter === null ? 0 : (picture.found?.deltaE00 ?? null));
/** Sharpness kept; bare keeps all. */
export const keptOfTile = ({ picture }: Shown) => (picture.filter === null ? 1 : (picture.found?.kept ?? null));

export interface Outcome {
  /** Whether the vote is what was measured; `null` where there was no vote, or nothing measured. */
  neutral: boolean | null;
  sharpest: boolean | null;
  /** Chance that guessing picks it. */
  chance: number;
  rank: { tau: number; odds: number | null } | null;
}

const best = (values: readonly (number | null)[], better: (a: number, b: number) => boolean): number[] | null => {
  if (values.some((value) => value === null)) return null;
  const list = values as number[];
  const top = list.reduce((one, other) => (better(other, one) ? other : one));
  return list.flatMap((value, i) => (value === top ? [i] : []));
};

/** Votes beside what was measured. */
export function outcomeOf({ order, votes }: Pick<BlindState, 'order' | 'votes'>): Outcome {
  const casts = order.map(castOfTile);
  const neutral = best(casts, (a, b) => a < b);
  const sharpest = best(order.map(keptOfTile), (a, b) => a > b);
  const hit = (vote: number | null, right: number[] | null) =>
    vote === null || right === null ? null : right.includes(vote);
  const ranked = votes.ranks.length === order.length && casts.every((one) => one !== null);
  return {
    neutral: hit(votes.neutral, neutral),
    sharpest: hit(votes.sharpest, sharpest),
    chance: 1 / order.length,
    rank: ranked
      ? kendall(
          votes.ranks.map((_, place) => place),
          votes.ranks.map((tile) => casts[tile]!),
        )
      : null,
  };
}

/** How often guessing would have done as well over several rounds of as many pictures. */
export function oddsOf(outcomes: readonly Outcome[]): { hits: number; trials: number; odds: number } | null {
  if (outcomes.length === 0) return null;
  const votes = outcomes.flatMap(({ neutral, sharpest }) => [neutral, sharpest]).filter((one) => one !== null);
  if (votes.length === 0) return null;
  const hits = votes.filter(Boolean).length;
  return { hits, trials: votes.length, odds: guessingOdds(hits, votes.length, outcomes[0].chance) };
}
