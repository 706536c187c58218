import { describeSession } from '@/simulator/session';
import { randomPlan } from '@/simulator/randomBench';
import { closeStore, createSession, editSession, loadSession } from '.';
import { freshDatabase } from './testing';

const SESSIONS = 6;
const EDITS = 8;

beforeAll(() => freshDatabase('glade_sessions'), 60_000);
afterAll(closeStore);

const plan = randomPlan('sessions', { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 1 });
const document = describeSession(plan, { id: 'kit' });

test('sessions are made and edited at the same time, and every edit is kept', async () => {
  const ids = await Promise.all(Array.from({ length: SESSIONS }, () => createSession(document, new Map())));
  const edits = ids.flatMap((id) =>
    Array.from({ length: EDITS }, (_, edit) =>
      editSession(id, (old) => ({
        ...old,
        patches: [...(old.patches as object[]), { ...(old.patches as object[])[0], id: `patch-${edit}` }],
      })),
    ),
  );
  const made = Promise.all(Array.from({ length: SESSIONS }, () => createSession(document, new Map())));
  await Promise.all(edits);
  await made;
  for (const id of ids) {
    const { session } = await loadSession(id);
    const added = session.patches.map((patch) => patch.id).filter((one) => one.startsWith('patch-'));
    expect(added.sort()).toEqual(Array.from({ length: EDITS }, (_, edit) => `patch-${edit}`));
  }
});

test('a session that is read while it is edited is whole: its kits keep their filters', async () => {
  const id = await createSession(document, new Map());
  const { filters } = (await loadSession(id)).session.kits[0];
  let editing = true;
  const edits = (async () => {
    for (let edit = 0; edit < 20; edit++) await editSession(id, (old) => ({ ...old, title: `Edit ${edit}` }));
    editing = false;
  })();
  while (editing) {
    const loads = await Promise.all(Array.from({ length: 4 }, () => loadSession(id)));
    for (const { session } of loads) expect(session.kits[0].filters).toEqual(filters);
  }
  await edits;
});
