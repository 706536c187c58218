/** Reports, their links and frozen versions, and what the reviewer has set, in the database that `./glade test` starts. */
import { createHash } from 'node:crypto';
import { closeStore } from './database';
import { endLinks, freezeReport, linkOf, makeLink, readVersion, reportByLink, reportVersions } from './reports';
import { readSetting, writeSetting } from './settings';
import { putReportAway, readReport, writeReport } from './shelf';
import { freshDatabase } from './testing';

beforeAll(() => freshDatabase('glade_reports'), 60_000);
afterAll(closeStore);

test('a report is found by its link alone, and not when it was ended, is too old, or the report is put away', async () => {
  const report = { title: 'One', sessions: ['s'] };
  const { id, revision } = await writeReport(report);
  const { token, until } = await makeLink(id);
  expect(token).toMatch(/^[0-9a-f]{32}$/);
  expect((await reportByLink(token))?.id).toBe(id);
  expect(await linkOf(id)).toEqual({ token, until });
  expect(await reportByLink('cd'.repeat(16))).toBeNull();
  expect(await reportByLink("' OR 1=1 -- '")).toBeNull();
  expect(await reportByLink(token, until.getTime() + 1)).toBeNull();
  await putReportAway(id, true);
  expect(await reportByLink(token)).toBeNull();
  await putReportAway(id, false);
  const other = await makeLink(id);
  expect(await reportByLink(token)).toBeNull();
  await endLinks(id);
  expect([await reportByLink(other.token), await linkOf(id)]).toEqual([null, null]);
  // One that is written into the report by whoever edits it opens nothing.
  await writeReport({ ...report, link: 'ab'.repeat(16) }, { id, revision });
  expect(await reportByLink('ab'.repeat(16))).toBeNull();
  await expect(writeReport(report, { id, revision })).rejects.toThrow('changed in another window');
  await expect(writeReport({ title: '', sessions: ['s'] })).rejects.toThrow('Give the report a title.');
});

test('frozen versions count up, carry the hash of what they hold, and stay as they were', async () => {
  const { id, revision } = await writeReport({ title: 'Two', sessions: ['s'] });
  const document = { report: { title: 'Two' }, figures: { sessions: [] } };
  const first = await freezeReport(id, document);
  await writeReport({ title: 'Two, changed', sessions: ['s'] }, { id, revision });
  const second = await freezeReport(id, { ...document, report: { title: 'Two, changed' } });
  expect([first.number, second.number]).toEqual([1, 2]);
  expect(first.hash).toBe(createHash('sha256').update(JSON.stringify(document)).digest('hex'));
  const kept = await readVersion(id, 1);
  expect(kept?.document).toEqual(document);
  expect((await reportVersions(id)).map((one) => one.number)).toEqual([2, 1]);
  expect(await readVersion(id, 3)).toBeNull();
  expect((await readReport(id))?.item.title).toBe('Two, changed');
});

test('a setting is kept, changed and forgotten', async () => {
  await writeSetting('weights', { a: 1 });
  await writeSetting('weights', { a: 2 });
  expect(await readSetting('weights')).toEqual({ a: 2 });
  await writeSetting('weights', null);
  expect(await readSetting('weights')).toBeNull();
});
