/**
 * A graduated filter before cameras that change contrast place by place, where no chart shows it: its line comes out steeper and turned a
 * little, which the ± must say.
 */
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { measureSession } from '@/core/measure';
import { parseSession } from '@/core/session/parse';
import { plainFilter, quietWall } from '@/core/testing/worked';
import { drawProfile, type CameraProfile } from '@/simulator/camera/profile';
import { shootSession } from '@/simulator/camera/shoot';
import { compareWithTruth } from '@/simulator/expected/compare';
import { folderSource } from './folder';

const GRAD = plainFilter('grad', 0, {
  kind: 'graduated-nd',
  nominal: { opticalDensity: 0.9 },
  stops: [0.05, 0.05, 0.05],
  graduation: { denseStops: [2.6, 2.6, 2.6], midline: 0.45, width: 0.2, angleDegrees: 12 },
});

/** What came out of the filter's line before a camera of this gain on local contrast. */
async function lineBy(localTone: number) {
  const plan = { ...quietWall(GRAD), seed: 'line' };
  const profile: CameraProfile = { ...drawProfile('line', 'curve'), localTone };
  const folder = await mkdtemp(join(tmpdir(), 'line-'));
  try {
    await shootSession(plan, profile, folder, [1, 3]);
    const session = parseSession(JSON.parse(await readFile(join(folder, 'session.glade.json'), 'utf8')));
    const readings = await measureSession(session, folderSource(folder), { createdAt: '', generator: '' });
    const rows = compareWithTruth(plan, readings);
    return (measure: string) => rows.find((row) => row.measure === measure)!;
  } finally {
    await rm(folder, { recursive: true });
  }
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
