/** What the simulated bench's truth comes to under the definitions of the measures: closed forms and means over the same pixels. */
import type { PixelRect } from '@/core/reading/window';
import { NEUTRAL_RECT } from './bench';
import { passingThrough, type Passing } from './glass';
import type { BenchPlan, TrueFilter } from './truth';

/** MTF50 of a Gaussian blur of σ pixels on a square pixel, cycles/pixel: sinc(f)·exp(−2π²σ²f²) = ½, by bisection. */
export function trueMtf50(sigma: number): number {
  let [low, high] = [0.001, 1];
  for (let i = 0; i < 60; i++) {
    const f = (low + high) / 2;
    if ((Math.sin(Math.PI * f) / (Math.PI * f)) * Math.exp(-2 * (Math.PI * sigma * f) ** 2) > 0.5) low = f;
    else high = f;
  }
  return low;
}

/** What a filter's corner loss comes to over the corner square, against the center square, in stops. */
export function trueCorner({ width, height, camera }: BenchPlan, cornerStops: number): number {
  const side = Math.floor(0.05 * width);
  const half2 = (width * width + height * height) / 4;
  const square = (left: number, top: number) => {
    let [bare, filtered] = [0, 0];
    for (let y = top; y < top + side; y++)
      for (let x = left; x < left + side; x++) {
        const r2 = ((x + 0.5 - width / 2) ** 2 + (y + 0.5 - height / 2) ** 2) / half2;
        const light = 2 ** -(camera.falloffStops * r2);
        bare += light;
        filtered += light * 2 ** -(cornerStops * r2 * r2);
      }
    return Math.log2(filtered / bare);
  };
  return square(0, 0) - square(Math.floor((width - side) / 2), Math.floor((height - side) / 2));
}

/** Mean of r⁴ (half diagonals) over the gray card's patch: a filter's corner loss reaches into it a little. */
export function meanRadius4({ width, height }: BenchPlan): number {
  let sum = 0;
  const steps = 40;
  for (let i = 0; i < steps; i++)
    for (let j = 0; j < steps; j++) {
      const x = (NEUTRAL_RECT.x + ((i + 0.5) / steps) * NEUTRAL_RECT.width - 0.5) * width;
      const y = (NEUTRAL_RECT.y + ((j + 0.5) / steps) * NEUTRAL_RECT.height - 0.5) * height;
      sum += ((x * x + y * y) / ((width * width + height * height) / 4)) ** 2 / steps ** 2;
    }
  return sum;
}

/** Luminous stops of a variable filter at a mark over the 5 % center square, its cast left at the simulator's constant. */
export function stopsAtCenter(plan: BenchPlan, filter: TrueFilter, mark: number): number {
  return meanStops(plan, filter, mark, squareAt(plan));
}

/** Largest less smallest of the ratio map of a mark over 20 columns of equal cells, noise left out. */
export function expectedUnevenness(plan: BenchPlan, filter: TrueFilter, mark: number): number {
  const { width, height } = plan;
  const [columns, rows] = [20, Math.round((20 * height) / width)];
  const cells = Array.from({ length: columns * rows }, (_, i) =>
    meanStops(plan, filter, mark, {
      x: ((i % columns) * width) / columns,
      y: (Math.floor(i / columns) * height) / rows,
      width: width / columns,
      height: height / rows,
    }),
  );
  return Math.max(...cells) - Math.min(...cells);
}

function squareAt({ width, height }: BenchPlan): PixelRect {
  const side = Math.floor(0.05 * width);
  return { x: Math.floor((width - side) / 2), y: Math.floor((height - side) / 2), width: side, height: side };
}

/** −log2 of the mean light filtered over bare in a rectangle, luminance weights on the channels' ratios. */
function meanStops({ width, height, camera }: BenchPlan, filter: TrueFilter, mark: number, rect: PixelRect): number {
  const pass = passingThrough(filter, { mark }, 0);
  const passing = { plain: [1, 1, 1], polarized: [1, 1, 1] } as Passing;
  const half2 = (width * width + height * height) / 4;
  const sums = [0, 0, 0];
  let bare = 0;
  for (let y = Math.ceil(rect.y - 0.5); y < Math.ceil(rect.y + rect.height - 0.5); y++)
    for (let x = Math.ceil(rect.x - 0.5); x < Math.ceil(rect.x + rect.width - 0.5); x++) {
      const [dx, dy] = [x + 0.5 - width / 2, y + 0.5 - height / 2];
      const light = 2 ** (-camera.falloffStops * ((dx * dx + dy * dy) / half2));
      pass(dx / height, dy / height, passing);
      bare += light;
      for (let c = 0; c < 3; c++) sums[c] += light * passing.plain[c];
    }
  const [r, g, b] = sums;
  return -Math.log2((0.2126 * r + 0.7152 * g + 0.0722 * b) / bare);
}
