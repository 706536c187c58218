/** What a filter's fall of light comes to under the definitions: means over the same pixels. */
import { NEUTRAL_RECT } from '../bench';
import type { BenchPlan } from '../truth';

/** What a filter's corner loss comes to over the corner square, against the center square, in stops. */
export function expectedCorner({ width, height, camera }: BenchPlan, cornerStops: number): number {
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
