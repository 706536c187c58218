/** Places found on simulated bare pictures, whose chart is known. */
import { measureEdge } from '../../measures/sharpness/edge';
import { proposePatches } from './propose';
import { edgeRects, renderTake } from '@/simulator/bench';
import { planTakes } from '@/simulator/plan';
import { randomPlan } from '@/simulator/randomBench';
import type { SimulatedScene } from '@/simulator/truth';
import type { Picture } from '../../reading/window';

const LUMINANCE = [0.2126, 0.7152, 0.0722];
const linear = (bitDepth: number) => {
  const table = Float64Array.from({ length: 2 ** bitDepth }, (_, code) => code / (2 ** bitDepth - 1));
  return [table, table, table];
};

function bare(scene: SimulatedScene, change: Partial<ReturnType<typeof randomPlan>> = {}): Picture {
  const plan = {
    ...randomPlan(`proposals/${scene}`, {
      protocol: 'matched',
      bitDepth: 16,
      drift: 0,
      bend: 0,
      flicker: 0,
      repeats: 1,
      scenes: [scene],
    }),
    ...change,
  };
  plan.camera = { ...plan.camera, response: 'linear' };
  return renderTake(plan, planTakes(plan)[0], 0);
}

const inside = (inner: { x: number; y: number; width: number; height: number }, outer: typeof inner) =>
  inner.x >= outer.x &&
  inner.y >= outer.y &&
  inner.x + inner.width <= outer.x + outer.width &&
  inner.y + inner.height <= outer.y + outer.height;

describe('on a chart', () => {
  let picture: Picture;
  let found: ReturnType<typeof proposePatches>;
  beforeAll(() => {
    picture = bare('chart');
    found = proposePatches('chart', picture, linear(16), LUMINANCE);
  });

  test('the gray card is found, and stays inside it', () => {
    const gray = found.patches.find((patch) => patch.role === 'neutral')!;
    expect(inside(gray.rect, { x: 0.41, y: 0.34, width: 0.18, height: 0.32 })).toBe(true);
    expect(gray.rect.width * gray.rect.height).toBeGreaterThan(0.02);
    expect(gray.quality).toBe('good');
    expect(gray.reason).toMatch(/^Even to \d/);
  });

  test('edges in the center and all four corners, upright and level, each measurable', () => {
    const edges = found.patches.filter((patch) => patch.role === 'edge');
    expect(edges.map((patch) => patch.id).sort()).toEqual(
      ['center', 'top-left', 'top-right', 'bottom-left', 'bottom-right']
        .flatMap((zone) => [`${zone}-level`, `${zone}-upright`])
        .sort(),
    );
    for (const edge of edges) expect(edge.reason).toMatch(/\d+ pixels long, 5\.[0-4]° off/);
    expect(found.missing).toEqual([]);
  });

  test('each lies on an edge of a square that the chart really has', () => {
    const half = (rect: { x: number; width: number }) => rect.x + rect.width / 2;
    const squares = edgeRects(picture.width, picture.height).map(({ rect }) => rect);
    for (const { rect } of found.patches.filter((patch) => patch.role === 'edge'))
      expect(squares.some((one) => Math.abs(half(one) - half(rect)) < 0.2)).toBe(true);
  });

  test('the six colors of the chart, left to right, each inside its square', () => {
    // The stand-in's chart: squares of 0.0575 × 0.0725 of the frame from 0.266 on, a step of 0.0799, 0.084 below the top (measured on the picture with a ruler).
    const colors = found.patches.filter((patch) => patch.role === 'color');
    expect(colors.map((patch) => patch.id)).toEqual([1, 2, 3, 4, 5, 6].map((i) => `color-${i}`));
    colors.forEach(({ rect, reason }, i) => {
      const middle = 0.295 + 0.0799 * i;
      expect(Math.abs(rect.x + rect.width / 2 - middle)).toBeLessThan(0.02);
      expect(rect.y + rect.height / 2).toBeGreaterThan(0.09);
      expect(rect.y + rect.height / 2).toBeLessThan(0.19);
      expect(rect.width).toBeLessThan(0.07);
      expect(reason).toContain('clearly no gray');
    });
  });

  test('a gray picture has no colors to propose', () => {
    expect(
      proposePatches('chart', bare('flat'), linear(16), LUMINANCE).patches.some((one) => one.role === 'color'),
    ).toBe(false);
  });

  test('noise and a dim picture don’t hide them', () => {
    const dim = bare('chart', { bareLevel: 0.2 });
    const patches = proposePatches('chart', dim, linear(16), LUMINANCE).patches;
    expect(patches.filter((patch) => patch.role === 'edge').length).toBeGreaterThanOrEqual(9);
    expect(patches.some((patch) => patch.role === 'neutral')).toBe(true);
  });
});

test('a chart that stands straight has edges, but none to use, and the reason is told', () => {
  const [width, height] = [900, 600];
  const data = new Uint16Array(width * height * 3).fill(30000);
  for (let y = 200; y < 400; y++) data.fill(4000, (y * width + 300) * 3, (y * width + 600) * 3);
  const { patches, missing } = proposePatches(
    'chart',
    { width, height, channels: 3, bitDepth: 16, data },
    linear(16),
    LUMINANCE,
  );
  expect(patches.filter((patch) => patch.role === 'edge')).toEqual([]);
  expect(missing.join(' ')).toContain('turned by about five degrees');
});

test('an even wall is proposed whole, a sheet that leaves a margin in part, a clipped one not at all', () => {
  const wall = bare('flat');
  expect(proposePatches('flat', wall, linear(16), LUMINANCE).patches).toEqual([
    expect.objectContaining({ role: 'field', quality: 'good', rect: { x: 0, y: 0, width: 1, height: 1 } }),
  ]);
  const margin = { ...wall, data: wall.data.slice() };
  for (let y = 0; y < wall.height; y++) margin.data.fill(500, y * wall.width * 3, (y * wall.width + 150) * 3);
  const [part] = proposePatches('flat', margin, linear(16), LUMINANCE).patches;
  expect(part.rect.x).toBeGreaterThan(0.12);
  expect(part.quality).toBe('fair');
  const clipped = { ...wall, data: wall.data.slice().fill(65535) };
  expect(proposePatches('flat', clipped, linear(16), LUMINANCE).missing[0]).toContain('clipped');
});

test('a flare scene gives its trap and its card', () => {
  const { patches } = proposePatches('flare', bare('flare'), linear(16), LUMINANCE);
  const black = patches.find((patch) => patch.role === 'black')!;
  expect(inside(black.rect, { x: 0.408, y: 0.404, width: 0.144, height: 0.192 })).toBe(true);
  const gray = patches.find((patch) => patch.role === 'neutral')!;
  expect(inside(gray.rect, { x: 0.708, y: 0.404, width: 0.144, height: 0.192 })).toBe(true);
});

test('a proposed edge measures as sharp as the closed form says', () => {
  const picture = bare('chart');
  const edge = proposePatches('chart', picture, linear(16), LUMINANCE).patches.find(
    (one) => one.id === 'center-level',
  )!;
  const [x, y] = [Math.round(edge.rect.x * 1200), Math.round(edge.rect.y * 800)];
  const [width, height] = [Math.round(edge.rect.width * 1200), Math.round(edge.rect.height * 800)];
  const data = new Float64Array(width * height);
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) data[j * width + i] = picture.data[((y + j) * 1200 + x + i) * 3 + 1];
  const result = measureEdge({ width, height, data });
  // sinc(f)·exp(−2π²σ²f²) = ½ at σ = 0.6 px, by bisection: 0.2714 cycles/pixel (closed form).
  expect((result as { mtf50: number }).mtf50).toBeGreaterThan(0.26);
  expect((result as { mtf50: number }).mtf50).toBeLessThan(0.29);
});
