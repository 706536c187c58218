/** Many hands at one session: nothing that was answered for is lost, and each edit is taken back by itself. */
import { applyEdits, differences, type FieldEdit } from '@/core/session/edits';
import { describeSession } from '@/simulator/session';
import { randomPlan } from '@/simulator/randomBench';
import { seededRandom } from '@/simulator/random';
import { closeStore, createSession, editSession, listRevisions, loadSession, withTapsOf } from '.';
import { freshDatabase } from './testing';

beforeAll(() => freshDatabase('glade_revisions'), 60_000);
afterAll(closeStore);

type Json = Record<string, unknown>;
const plan = randomPlan('revisions', { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 1 });
const document = describeSession(plan, { id: 'kit' });
const made = () => createSession(document, new Map());
const now = async (id: string) => (await loadSession(id)).document;

async function edit(id: string, edits: FieldEdit[]) {
  let refused = 0;
  const revision = await editSession(id, (old) => {
    const result = applyEdits(old, edits);
    refused = result.refused.length;
    return result.document;
  });
  return { revision, refused };
}

test('each edit is a revision, the first beside what it began with; what changes nothing is none', async () => {
  const id = await made();
  expect(await listRevisions(id)).toEqual([]);
  expect(await editSession(id, (old) => ({ ...old, title: 'A' }))).toBe(2);
  expect(await editSession(id, (old) => old)).toBeNull();
  expect(await editSession(id, (old) => ({ ...old, title: 'B' }))).toBe(3);
  const list = await listRevisions(id);
  expect(list.map(({ number, changes }) => [number, changes])).toEqual([
    [3, [{ at: ['title'], how: 'changed' }]],
    [2, [{ at: ['title'], how: 'changed' }]],
    [1, []],
  ]);
  await editSession(id, async (_, revisions) => (await revisions.documentAt(1))!);
  expect(await now(id)).toEqual(document);
});

test('taps and votes are no revisions, and stay when an earlier state is brought back', async () => {
  const id = await made();
  await editSession(id, (old) => ({ ...old, plan: { note: 'x', log: [1] } }));
  const before = (await listRevisions(id))[0].number;
  await editSession(id, (old) => ({ ...old, title: 'later' }));
  expect(await editSession(id, (old) => ({ ...old, plan: { note: 'x', log: [1, 2] }, blindRounds: [3] }))).toBeNull();
  await editSession(id, async (old, revisions) => withTapsOf((await revisions.documentAt(before))!, old));
  expect(await now(id)).toMatchObject({ title: document.title, plan: { note: 'x', log: [1, 2] }, blindRounds: [3] });
});

test('the last two hundred are kept', async () => {
  const id = await made();
  for (let n = 0; n < 203; n++) await editSession(id, (old) => ({ ...old, title: `Edit ${n}` }));
  const numbers = (await listRevisions(id)).map((one) => one.number);
  expect(numbers).toEqual(Array.from({ length: 200 }, (_, i) => 204 - i));
  const missing = await editSession(id, async (old, revisions) => ({
    ...old,
    title: String(await revisions.documentAt(4)),
  }));
  expect(missing).toBe(205);
  expect((await now(id)).title).toBe('null');
}, 120_000);

test('twelve people edit one session by fields: what was answered for stands, until its own field is changed again', async () => {
  const id = await made();
  const first = (await now(id)) as { takes: { id: string }[] };
  const takes = first.takes.map((take) => take.id);
  /** Last value that was acknowledged of each field. */
  const acknowledged = new Map<string, unknown>();
  let refusals = 0;
  await Promise.all(
    Array.from({ length: 12 }, async (_, person) => {
      const random = seededRandom(`person ${person}`);
      for (let n = 0; n < 8; n++) {
        const at = [
          'takes',
          takes[Math.floor(random.uniform() * takes.length)],
          `field ${Math.floor(random.uniform() * 3)}`,
        ];
        const seen = acknowledged.get(at.join());
        const to = `${person}.${n}`;
        const { refused } = await edit(id, [{ at, seen: [seen], to }]);
        refusals += refused;
        if (refused === 0) acknowledged.set(at.join(), to);
      }
    }),
  );
  const { takes: after } = (await now(id)) as { takes: Json[] };
  const stands = new Map(
    after.flatMap((take) => [0, 1, 2].map((k) => [`takes,${String(take.id)},field ${k}`, take[`field ${k}`]])),
  );
  // Each edit went with the value that was acknowledged before it: the last one that was, stands.
  expect(acknowledged.size).toBeGreaterThan(3);
  for (const [key, value] of acknowledged) expect(stands.get(key)).toBe(value);
  const revisions = await listRevisions(id);
  expect(revisions.length - 1).toBe(96 - refusals);
}, 120_000);

test('undo of an edit leaves what came since, in whatever order', async () => {
  const id = await made();
  const fields = ['a', 'b', 'c', 'd', 'e'];
  const made1 = new Map<string, number>();
  await Promise.all(
    fields.map(async (key) => made1.set(key, (await edit(id, [{ at: [key], seen: [undefined], to: 1 }])).revision!)),
  );
  const undo = (number: number) =>
    editSession(id, async (old, revisions) => {
      const back = differences(await revisions.documentAt(number), await revisions.documentAt(number - 1));
      return applyEdits(old, back).document;
    });
  await Promise.all(['d', 'a'].map((key) => undo(made1.get(key)!)));
  const stands = await now(id);
  expect(fields.filter((key) => key in stands)).toEqual(['b', 'c', 'e']);
});
