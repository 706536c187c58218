/**
 * Veil before cameras that don't tell their curve: a strong filter's black trap lies stops below anything that the curve was learned from, where
 * a style may lift black, which the ± must say.
 */
import { drawProfile, type CameraClass } from '@/simulator/camera/profile';
import { CHART_AND_WALL, randomPlan, type BenchKind } from '@/simulator/randomBench';
import { measuredByFiles } from './testing/byFiles';

/** Veils of two filters, each beside its truth. */
async function veilsBy(kind: CameraClass, protocol: BenchKind['protocol'], i: number) {
  const drawn = randomPlan(`veil/${kind}/${protocol}/${i}`, { ...CHART_AND_WALL, protocol });
  const filters = drawn.filters.slice(0, 2).map((filter, k) => ({ ...filter, veil: [0.004, 0.02][k] }));
  const plan = { ...drawn, width: 480, height: 320, scenes: ['chart' as const, 'flare' as const], filters };
  const { rows } = await measuredByFiles(plan, drawProfile(plan.seed, kind), [1, 3]);
  return rows.filter(({ measure, error }) => measure === 'veil' && error !== null);
}

test.each([
  ['curve', 'locked', 0],
  ['curve', 'locked', 1],
  ['processed', 'locked', 1],
] as const)('%s, %s, %d: black far down the curve is held', async (kind, protocol, i) => {
  const veils = await veilsBy(kind, protocol, i);
  expect(veils).toHaveLength(2);
  for (const { error, u95 } of veils) expect(Math.abs(error!)).toBeLessThan(u95!);
  // The weaker veil, through the stronger filter, is off by more than the other's whole doubt.
  expect(veils[0].u95).toBeGreaterThan(3);
});

test('matched, black lies where the curve is known: closely', async () => {
  const veils = await veilsBy('curve', 'matched', 0);
  expect(veils).toHaveLength(2);
  for (const { error, u95 } of veils) {
    expect(Math.abs(error!)).toBeLessThan(u95!);
    expect(u95).toBeLessThan(0.5);
  }
});
