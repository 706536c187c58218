/** What a variable filter's marks come to under the definitions: means of the light that passes, over the same pixels. */
import type { PixelRect } from '@/core/reading/window';
import { passingThrough, type Passing } from '../glass';
import type { BenchPlan, TrueFilter } from '../truth';

/** Luminous stops of a variable filter at a mark over the 5 % center square, its cast left at the simulator's constant. */
export function expectedMarkStops(plan: BenchPlan, filter: TrueFilter, mark: number): number {
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
