/**
 * A graduated filter before cameras that change contrast place by place, where no chart shows it: its line comes out steeper and turned a
 * little, which the ± must say.
 */
import { plainFilter, quietWall } from '@/core/testing/worked';
import { drawProfile } from '@/simulator/camera/profile';
import { measuredByFiles } from './testing/byFiles';

const GRAD = plainFilter('grad', 0, {
  kind: 'graduated-nd',
  nominal: { opticalDensity: 0.9 },
  stops: [0.05, 0.05, 0.05],
  graduation: { denseStops: [2.6, 2.6, 2.6], midline: 0.45, width: 0.2, angleDegrees: 12 },
});

/** What came out of the filter's line before a camera of this gain on local contrast. */
async function lineBy(localTone: number) {
  const profile = { ...drawProfile('line', 'curve'), localTone };
  const { rows } = await measuredByFiles({ ...quietWall(GRAD), seed: 'line' }, profile, [1, 3]);
  return (measure: string) => rows.find((row) => row.measure === measure)!;
}

test.each([0.2, -0.2, 0])('gain %d: width, tilt and place of the line are held', async (gain) => {
  const of = await lineBy(gain);
  for (const measure of ['clear', 'dense', 'midline', 'width', 'tilt']) {
    const { error, u95 } = of(measure);
    expect([measure, Math.abs(error!) < u95!]).toEqual([measure, true]);
  }
  expect(of('width').u95).toBeLessThan(0.06);
  // Without doubt of what the surroundings did the ± was .004.
  if (gain !== 0) expect(Math.abs(of('width').error!)).toBeGreaterThan(0.004);
});
