/** What was put away is listed last first with its end, and is gone from the list once it is back. */
import { smallBench } from '@/core/testing/worked';
import { describeSession } from '@/simulator/session';
import {
  closeStore,
  createSession,
  deleteSession,
  freezeReport,
  listPutAway,
  purgeDeleted,
  putKitAway,
  putReportAway,
  readVersion,
  restoreSession,
  writeKit,
  writeReport,
} from '.';
import { freshDatabase } from './testing';

beforeAll(() => freshDatabase('glade_put_away'));
afterAll(closeStore);

test('sessions and kits, last first, each kept for 30 days', async () => {
  expect(await listPutAway()).toEqual([]);
  const session = await createSession({ ...describeSession(smallBench(), { id: 'kit' }), title: 'Quarry' }, new Map());
  const kit = await writeKit({
    id: 'k',
    name: 'Foundry Set',
    filters: [{ id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 } }],
  });
  await deleteSession(session);
  await new Promise((resolve) => setTimeout(resolve, 20));
  await putKitAway(kit.id, true);
  const found = await listPutAway();
  expect(found.map(({ kind, name }) => [kind, name])).toEqual([
    ['kit', 'Foundry Set'],
    ['session', 'Quarry'],
  ]);
  for (const { at, until } of found) expect(until!.getTime() - at.getTime()).toBe(30 * 24 * 3600 * 1000);
  await restoreSession(session);
  expect((await listPutAway()).map(({ kind }) => kind)).toEqual(['kit']);
});

test('what was frozen outlives its report; a report without a version goes after 30 days', async () => {
  const [kept, gone] = [
    await writeReport({ title: 'Kept', sessions: ['s'] }),
    await writeReport({ title: 'Gone', sessions: ['s'] }),
  ];
  const { number } = await freezeReport(kept.id, { report: { title: 'Kept' } });
  for (const { id } of [kept, gone]) await putReportAway(id, true);
  await purgeDeleted(Date.now() + 31 * 24 * 3600 * 1000);
  const reports = (await listPutAway()).filter(({ kind }) => kind === 'report');
  expect(reports.map(({ name, until }) => [name, until])).toEqual([['Kept', null]]);
  expect((await readVersion(kept.id, number))?.document).toEqual({ report: { title: 'Kept' } });
});
