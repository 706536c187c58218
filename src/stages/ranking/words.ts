import { DRAWS, type Ranking as Order } from '@/core/judging/ranking/rank';
import { fixed, percent } from '@/ui/format';

/** What comes first, as the page's title. */
export function titleOf({ kits }: Order): string {
  if (kits.length === 0) return 'No kit can be ranked by these weights';
  if (kits.length === 1) return `${kits[0].kit.name} stands alone`;
  const [first, second] = kits;
  return first.ranks[0] < 0.8
    ? `${first.kit.name} or ${second.kit.name}: too near to tell`
    : `${first.kit.name} comes first`;
}

/** How sure the order is, and what would turn it. */
export function stabilityOf({ kits, swaps }: Order): string {
  if (kits.length < 2) return 'A ranking needs two kits at least.';
  const [first, second] = kits;
  const sure = `${first.kit.name} keeps the first place in ${percent(first.ranks[0])} of ${DRAWS.toLocaleString('en')} draws from the uncertainties.`;
  const [swap] = swaps;
  const turn = swap
    ? ` ${second.kit.name} would pass it if ${swap.quality} counted ${fixed(swap.to, 1)} instead of ${fixed(swap.from, 1)}.`
    : ` No single weight would bring ${second.kit.name} past it.`;
  return sure + turn;
}
