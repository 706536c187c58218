/** A wall of waves before a moving camera, smeared exactly: each wave's mean over the exposure is known in closed form. */
import { seededRandom } from './random';

/** Waves of all directions, the finest of three pixels. */
const waves = (() => {
  const random = seededRandom('waves');
  const next = () => random.uniform();
  return Array.from({ length: 80 }, () => {
    const [k, angle] = [0.004 + 0.31 * next() ** 1.5, 2 * Math.PI * next()];
    return {
      fx: k * Math.cos(angle),
      fy: k * Math.sin(angle),
      phase: 2 * Math.PI * next(),
      size: 0.0008 / (k + 0.03) ** 1.2,
    };
  });
})();

/**
 * Light of the wall as a camera sees it at a frame's moment, its shutter open over a share of the time between two frames.
 *
 * @param path pixels that the view has moved, by frames
 * @param softPx a blur in all directions, standard deviation
 */
export function wallOfWaves(
  { width, height }: { width: number; height: number },
  path: (frame: number) => readonly [number, number],
  at: number,
  share: number,
  softPx = 0,
): { width: number; height: number; data: Float32Array } {
  const data = new Float32Array(width * height).fill(0.5);
  const [x0, y0] = path(at);
  for (const { fx, fy, phase, size } of waves) {
    // The mean of a wave over the way is the wave, smaller and turned by what the way isn't even about its middle.
    let [re, im] = [0, 0];
    for (let k = 0; k < 41; k++) {
      const [x, y] = path(at + share * ((k + 0.5) / 41 - 0.5));
      const turn = -2 * Math.PI * (fx * (x - x0) + fy * (y - y0));
      re += Math.cos(turn) / 41;
      im += Math.sin(turn) / 41;
    }
    const soft = Math.exp(-2 * (Math.PI * softPx * Math.hypot(fx, fy)) ** 2);
    const [stepCos, stepSin] = [Math.cos(2 * Math.PI * fx), Math.sin(2 * Math.PI * fx)];
    for (let y = 0; y < height; y++) {
      const start = 2 * Math.PI * (fx * -x0 + fy * (y - y0)) + phase + Math.atan2(im, re);
      let [c, s] = [Math.cos(start), Math.sin(start)];
      const amplitude = size * soft * Math.hypot(re, im);
      for (let x = 0, i = y * width; x < width; x++, i++) {
        data[i] += amplitude * s;
        [c, s] = [c * stepCos - s * stepSin, s * stepCos + c * stepSin];
      }
    }
  }
  return { width, height, data };
}
