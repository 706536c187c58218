'use client';

import type { Ranking } from '@/core/judging/ranking/rank';
import { CardButtons } from '@/ui/CardButtons';
import { fixed, percent } from '@/ui/format';

/** The ranking as a card for a video. */
export function KitCardButtons({ order }: { order: Ranking }) {
  if (order.kits.length === 0) return null;
  const [first] = order.kits;
  return (
    <CardButtons
      words="The ranking as a card:"
      name="ranking"
      card={{
        title: 'The ranking',
        subtitle: `${first.kit.name} keeps the first place in ${percent(first.ranks[0])} of all draws`,
        figures: [],
        rows: order.kits.map(({ kit, score, interval, rank }) => ({
          name: `${rank}  ${kit.name}`,
          value: fixed(score, 1),
          word: `${fixed(interval[0], 0)} to ${fixed(interval[1], 0)}`,
        })),
        foot: 'Scores of 0 to 100 with the range that holds 95 % of draws from the uncertainties',
      }}
    />
  );
}
