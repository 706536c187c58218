/** A graduated filter on small sessions: both halves, and the line between them as it was drawn. */
import { plainFilter, quietWall, smallBench, work } from '@/core/testing/worked';
import type { TrueFilter } from '@/simulator/truth';

const grad = (more: Partial<NonNullable<TrueFilter['graduation']>> = {}): TrueFilter =>
  plainFilter('grad', 0, {
    kind: 'graduated-nd',
    nominal: { opticalDensity: 0.9 },
    stops: [0.05, 0.05, 0.05],
    graduation: { denseStops: [3, 3, 3], midline: 0.5, width: 0.2, angleDegrees: 0, ...more },
  });
const shoot = (filter: TrueFilter) => work(quietWall(filter));

describe.each([
  ['level, in the middle', {}],
  ['higher', { midline: 0.38 }],
  ['soft', { width: 0.4 }],
  ['hard', { width: 0.07 }],
  ['tilted', { angleDegrees: 25 }],
  ['tilted the other way', { angleDegrees: -35, midline: 0.55 }],
  ['weaker', { denseStops: [1.6, 1.6, 1.6] as [number, number, number] }],
])('%s', (_, drawn) => {
  test('clear, dense, midline, width and tilt lie within their ± of what was drawn', async () => {
    const worked = await shoot(grad(drawn));
    expect(worked.of('grad').graduation).toBeDefined();
    for (const measure of ['clear', 'dense', 'midline', 'width', 'tilt'] as const) {
      const [{ error, u95 }] = worked.compared(measure, 'grad');
      expect(error).not.toBeNull();
      expect(Math.abs(error!)).toBeLessThan(2 * u95! + { clear: 0.01, dense: 0.02, midline: 0.003, width: 0.01, tilt: 0.3 }[measure]); // prettier-ignore
    }
  });
});

test('turned over, the dark half lies below', async () => {
  const worked = await shoot(grad({ angleDegrees: 180 }));
  const { angleDegrees, denseStops, clearStops } = worked.of('grad').graduation!;
  expect(Math.abs(Math.abs(angleDegrees.value) - 180)).toBeLessThan(2);
  expect(denseStops.value - clearStops.value).toBeCloseTo(2.95, 1);
});

test('each half has a ±, and the figures their order', async () => {
  const { graduation } = (await shoot(grad())).of('grad');
  for (const one of [
    graduation!.clearStops,
    graduation!.denseStops,
    graduation!.midline,
    graduation!.transitionWidth,
  ]) {
    expect(one!.u95).toBeGreaterThan(0);
    expect(one!.u95).toBeLessThan(0.2);
  }
  expect(graduation!.clearStops.value).toBeLessThan(0.15);
  expect(graduation!.denseStops.value).toBeGreaterThan(2.8);
  expect(graduation!.midline!.value).toBeCloseTo(0.5, 1);
});

test('without a picture of an even field there is no line to tell', async () => {
  const worked = await work(smallBench({ scenes: ['chart'], filters: [grad()] }));
  expect(worked.of('grad').graduation).toBeUndefined();
});
