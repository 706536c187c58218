/** Which sessions were measured, with their newest readings. */
import { smallBench } from '@/core/testing/worked';
import { describeSession } from '@/simulator/session';
import type { Readings } from '@/core/session/readings';
import { claimJob, finishJob, requestMeasure } from '@/jobs/queue';
import {
  closeStore,
  createSession,
  deleteSession,
  latestReadingIds,
  latestReadings,
  measuredIds,
  restoreSession,
} from '.';
import { freshDatabase } from './testing';

beforeAll(() => freshDatabase('glade_readings'));
afterAll(closeStore);

const readings = { filters: [], faults: [] } as unknown as Readings;

async function measure(id: string): Promise<number> {
  await requestMeasure(id);
  const job = (await claimJob('w'))!;
  await finishJob(job, 'w', { state: 'done', readings, inputHash: 'x'.repeat(64), progress: { done: 1, total: 1, take: null } }); // prettier-ignore
  return (await latestReadings(id))!.id;
}

test('measured sessions come newest first, each once, with its newest readings', async () => {
  const make = () => createSession(describeSession(smallBench(), { id: 'kit' }), new Map());
  const [first, second, third] = [await make(), await make(), await make()];
  const pairs = async (limit = 10) => (await measuredIds(limit)).map(({ id, readingId }) => [id, readingId]);
  expect(await pairs()).toEqual([]);
  const old = await measure(first);
  const ofThird = await measure(third);
  expect(await pairs()).toEqual([
    [third, ofThird],
    [first, old],
  ]);
  const again = await measure(first);
  expect(again).toBeGreaterThan(old);
  expect(await pairs()).toEqual([
    [third, ofThird],
    [first, again],
  ]);
  expect(await pairs(1)).toEqual([[third, ofThird]]);
  expect(await latestReadingIds([first, second])).toEqual(new Map([[first, again]]));
  expect((await measuredIds(1))[0].updatedAt.getTime()).toBeGreaterThan(Date.UTC(2026, 0, 1));

  await deleteSession(third);
  expect(await pairs()).toEqual([[first, again]]);
  await restoreSession(third);
  expect(await pairs()).toHaveLength(2);
});
