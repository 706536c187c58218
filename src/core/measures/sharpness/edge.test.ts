import { seededRandom } from '@/simulator/random';
import { measureEdge, type EdgeResponse, type LumaWindow } from './edge';

/** erf by its series and continued fraction is overkill here; 1e−7 is enough (Abramowitz & Stegun 7.1.26). */
function erf(x: number): number {
  const t = 1 / (1 + 0.3275911 * Math.abs(x));
  const y =
    1 -
    ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t * Math.exp(-x * x);
  return x < 0 ? -y : y;
}

/** A Gaussian-blurred edge on square pixels: each pixel is the mean of 8 × 8 points. */
function edge(
  sigma: number,
  options: {
    degrees?: number;
    width?: number;
    height?: number;
    noise?: number;
    low?: number;
    across?: boolean;
    tilt?: number;
    seed?: string;
  } = {},
): LumaWindow {
  const {
    degrees = 5.2,
    width = 80,
    height = 120,
    noise = 0,
    low = 0.1,
    across = false,
    tilt = 0,
    seed = 'edge',
  } = options;
  const random = seededRandom(seed);
  const data = new Float64Array(width * height);
  const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let i = 0; i < 8; i++)
        for (let j = 0; j < 8; j++) {
          const u = x + (i + 0.5) / 8 - width / 2;
          const v = y + (j + 0.5) / 8 - height / 2;
          const distance = across ? v * cos - u * sin : u * cos - v * sin;
          sum += low + (1 - low) * 0.5 * (1 + erf(distance / (sigma * Math.SQRT2)));
        }
      data[y * width + x] = (sum / 64) * (1 + tilt * (x / width - 0.5)) + noise * random.normal();
    }
  return { width, height, data };
}

/** Closed form: sinc(f)·exp(−2π²σ²f²) = level, by bisection. */
function truth(sigma: number, level = 0.5): number {
  let [low, high] = [0.001, 1];
  for (let i = 0; i < 60; i++) {
    const f = (low + high) / 2;
    const value = (Math.sin(Math.PI * f) / (Math.PI * f)) * Math.exp(-2 * (Math.PI * sigma * f) ** 2);
    if (value > level) low = f;
    else high = f;
  }
  return low;
}

const measured = (window: LumaWindow) => measureEdge(window) as EdgeResponse;
const refused = (window: LumaWindow) => (measureEdge(window) as { refused: string }).refused;

test('without pixels the closed form is 0.18739/σ', () => {
  // exp(−2π²σ²f²) = ½ at f = √(ln 2/2)/(πσ).
  expect(Math.sqrt(Math.LN2 / 2) / Math.PI).toBeCloseTo(0.18739, 5);
});

test.each([0.45, 0.6, 0.8, 1.2, 2])('σ = %d px on square pixels, to 0.5 %% of MTF50', (sigma) => {
  for (const across of [false, true])
    for (const degrees of [3.1, 5.2, 8.7, 12]) {
      const window = edge(sigma, { degrees, across, width: across ? 120 : 90, height: across ? 90 : 120 });
      expect(measured(window).mtf50 / truth(sigma)).toBeCloseTo(1, 2);
      expect(Math.abs(measured(window).mtf50 / truth(sigma) - 1)).toBeLessThan(0.005);
    }
});

test('the whole curve and MTF20 follow the closed form', () => {
  const { curve, mtf20 } = measured(edge(0.8));
  expect(mtf20 / truth(0.8, 0.2)).toBeCloseTo(1, 2);
  for (let i = 1; i < 32; i++) {
    const f = i / 64;
    expect(curve[i]).toBeCloseTo((Math.sin(Math.PI * f) / (Math.PI * f)) * Math.exp(-2 * (Math.PI * 0.8 * f) ** 2), 2);
  }
});

test('noise does not look like sharpness, and u says how far it scatters', () => {
  const found = Array.from({ length: 40 }, (_, i) =>
    measured(edge(0.8, { noise: 0.05, seed: `noise ${i}`, height: 100 })),
  );
  const mean = found.reduce((sum, one) => sum + one.mtf50, 0) / found.length;
  const spread = Math.sqrt(found.reduce((sum, one) => sum + (one.mtf50 - mean) ** 2, 0) / (found.length - 1));
  expect(mean / truth(0.8)).toBeCloseTo(1, 1);
  expect(Math.abs(mean / truth(0.8) - 1)).toBeLessThan(0.02);
  const u = found.reduce((sum, one) => sum + one.u, 0) / found.length;
  expect(u / spread).toBeGreaterThan(0.6);
  expect(u / spread).toBeLessThan(1.6);
});

test('light that falls off across the chart is divided out', () => {
  expect(Math.abs(measured(edge(0.8, { tilt: 0.2 })).mtf50 / truth(0.8) - 1)).toBeLessThan(0.01);
});

test('edges that can’t be used are refused with the reason', () => {
  expect(refused(edge(0.8, { degrees: 0.5 }))).toContain('its angle of 0.5°');
  expect(refused(edge(0.8, { degrees: 25, width: 160 }))).toContain('is outside 2–15°');
  expect(refused(edge(0.8, { low: 0.8 }))).toContain('contrast of 11 %');
  expect(refused(edge(0.8, { height: 30, width: 30 }))).toContain('only 30 pixels long');
  const second = edge(0.8, { width: 100 });
  for (let y = 0; y < 120; y++) for (let x = 0; x < 16; x++) second.data[y * 100 + x] += 0.45;
  expect(refused(second)).toBe('a second edge runs through it');
  const bar = edge(0.8, { width: 100 });
  for (let y = 0; y < 120; y++) for (let x = 75; x < 100; x++) bar.data[y * 100 + x] = 0.1;
  expect(refused(bar)).toBe('two edges run through it, one up and one down');
  const bent = edge(0.8, { width: 100 });
  for (let y = 60; y < 120; y++) bent.data.copyWithin(y * 100, y * 100 + 12, y * 100 + 100);
  expect(refused(bent)).toContain('not one straight edge');
  const flat = { width: 80, height: 80, data: new Float64Array(6400).fill(0.5) };
  expect(refused(flat)).toBeTruthy();
});
