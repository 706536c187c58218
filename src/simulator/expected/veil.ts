/** What a filter's veil comes to under the definitions: black over the card, filtered less bare, by means over the same pixels. */
import { FLARE_RECTS } from '../bench';
import type { BenchPlan, TrueFilter } from '../truth';

/** What the trap and the card send back of full white, and what the lens alone strays over both. */
const TRAP = 0.004;
const CARD = 0.5;
const LENS = 0.002;
/** A ghost's radius is where half of it is left. */
const HALF_WIDTHS = Math.sqrt(2 * Math.LN2);

/**
 * A filter's veil in percent of the card. Its strength and color stand over both alike and cancel.
 *
 * @param filter as drawn: veil, ghosts and its fall of light
 */
export function expectedVeil(plan: BenchPlan, filter: TrueFilter): number {
  const shown = (through: TrueFilter | null) =>
    meanOver(plan, FLARE_RECTS.black, TRAP, through) / meanOver(plan, FLARE_RECTS.neutral, CARD, through);
  return 100 * (shown(filter) - shown(null));
}

function meanOver(
  { width, height, camera }: BenchPlan,
  rect: { x: number; y: number; width: number; height: number },
  tone: number,
  filter: TrueFilter | null,
): number {
  const steps = 60;
  let sum = 0;
  for (let i = 0; i < steps; i++)
    for (let j = 0; j < steps; j++) {
      const x = rect.x + ((i + 0.5) / steps) * rect.width;
      const y = rect.y + ((j + 0.5) / steps) * rect.height;
      const r2 = (((x - 0.5) * width) ** 2 + ((y - 0.5) * height) ** 2) / ((width * width + height * height) / 4);
      const fall = camera.falloffStops * r2 + (filter?.cornerStops ?? 0) * r2 * r2;
      const ghosts = (filter?.ghosts ?? []).map((one) => {
        const away2 = (x - one.x) ** 2 + (((y - one.y) * height) / width) ** 2;
        return one.level * Math.exp(-away2 / (2 * (one.radius / HALF_WIDTHS) ** 2));
      });
      const stray = LENS + (filter?.veil ?? 0) + ghosts.reduce((all, one) => all + one, 0);
      sum += (tone + stray) * 2 ** -fall;
    }
  return sum / steps ** 2;
}
