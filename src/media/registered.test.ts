/** From files on disk through registration to figures: the camera moved a little, or too far. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { measureSession } from '@/core/measure';
import { parseSession } from '@/core/session/parse';
import { renderTake } from '@/simulator/bench';
import { planTakes } from '@/simulator/plan';
import { writePicture } from '@/simulator/files';
import { randomPlan } from '@/simulator/randomBench';
import { describeSession, fileName } from '@/simulator/session';
import { folderSource } from './folder';

const plan = {
  ...randomPlan('moved', { protocol: 'matched', bitDepth: 8, drift: 0, bend: 0, flicker: 0, repeats: 1 }),
  width: 600,
  height: 400,
};
plan.filters = plan.filters.slice(0, 2);
// Close to the card's edge, so that a patch which isn't carried along runs over it.
const rect = { x: 0.415, y: 0.36, width: 0.17, height: 0.28 };
let folder: string;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-moved-'));
  for (const take of planTakes(plan))
    await writePicture(renderTake(plan, take, 0), join(folder, fileName(take, 0, 'png')));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

/** Shifts one filter's picture by whole pixels and measures. */
async function measureShifted(pixels: number) {
  const [name] = planTakes(plan)
    .filter((take) => take.filter?.id === 'f1')
    .map((take) => fileName(take, 0, 'png'));
  const original = await sharp(join(folder, name)).toBuffer();
  try {
    const shifted = await sharp(original).extend({ left: pixels, extendWith: 'copy' }).toBuffer();
    await sharp(shifted).extract({ left: 0, top: 0, width: 600, height: 400 }).toFile(join(folder, name));
    const session = parseSession(describeSession(plan, { id: 'kit' }, 'png'));
    session.patches = [{ ...session.patches[0], rect }];
    return await measureSession(session, folderSource(folder), { createdAt: '', generator: 'test' });
  } finally {
    await sharp(original).toFile(join(folder, name));
  }
}

test('a patch follows a camera that moved by one percent of the frame', async () => {
  const [still, moved] = [await measureShifted(0), await measureShifted(6)];
  expect(moved.filters[1].density!.stops.value).toBeCloseTo(still.filters[1].density!.stops.value, 2);
  expect(moved.filters[1].faults).toEqual([]);
}, 600_000);

test('a camera that moved farther is told and the take left out', async () => {
  const readings = await measureShifted(30);
  expect(readings.filters[1].density).toBeUndefined();
  expect(readings.filters[1].faults).toEqual([expect.objectContaining({ code: 'view-moved', severity: 'error' })]);
  expect(readings.filters[0].density).toBeDefined();
}, 600_000);
