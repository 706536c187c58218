/** What blurs of known width come to as MTF50 and as kept sharpness: closed forms. */
import type { BenchPlan, TrueFilter } from '../truth';

/** MTF50 of a Gaussian blur of σ pixels on a square pixel, cycles/pixel: sinc(f)·exp(−2π²σ²f²) = ½, by bisection. */
export function expectedMtf50(sigma: number): number {
  let [low, high] = [0.001, 1];
  for (let i = 0; i < 60; i++) {
    const f = (low + high) / 2;
    if ((Math.sin(Math.PI * f) / (Math.PI * f)) * Math.exp(-2 * (Math.PI * sigma * f) ** 2) > 0.5) low = f;
    else high = f;
  }
  return low;
}

/** Pixels of a filter's blur in a picture of this width: it is told at 1200 wide. */
const blurOf = ({ blurPx = 0 }: TrueFilter, { width }: Pick<BenchPlan, 'width'>) => (blurPx * width) / 1200;

/** Share of the MTF50 that a filter keeps on a chart: widths of Gaussian blurs add in squares. */
export function expectedKept(plan: BenchPlan, filter: TrueFilter): number {
  const bare = plan.camera.blurPx;
  return expectedMtf50(Math.hypot(bare, blurOf(filter, plan))) / expectedMtf50(bare);
}

/** Share of the MTF at a quarter cycle a pixel that a filter keeps on an ordinary scene: exp(−2π²σ²f²). */
export function expectedKeptAtQuarter(plan: BenchPlan, filter: TrueFilter): number {
  return Math.exp(-2 * (Math.PI * blurOf(filter, plan) * 0.25) ** 2);
}
