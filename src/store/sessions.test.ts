import { closeStore, createSession, editSession, loadSession } from '.';
import { freshDatabase } from './testing';

const SESSIONS = 6;
const EDITS = 8;

beforeAll(() => freshDatabase('glade_sessions'), 60_000);
afterAll(closeStore);

const document = {
  format: 'aurora-glade-session',
  version: 1,
  title: 'Session',
  rig: { camera: 'Bench rig', response: { kind: 'srgb' } },
  kits: [{ id: 'harbour', filters: [{ id: 'nd8', kind: 'nd', nominal: { ndFactor: 8 } }] }],
  scenes: [{ id: 'chart', kind: 'chart' }],
  takes: [
    {
      id: 'bare-1',
      filter: null,
      scene: 'chart',
      files: ['a.tif'],
      exposure: { shutter: '1/2000', iso: 100, fNumber: 2.8 },
    },
  ],
  patches: [{ id: 'gray', scene: 'chart', role: 'neutral', rect: { x: 0.44, y: 0.4, width: 0.12, height: 0.2 } }],
};

test('sessions are made and edited at the same time, and every edit is kept', async () => {
  const ids = await Promise.all(Array.from({ length: SESSIONS }, () => createSession(document, new Map())));
  const edits = ids.flatMap((id) =>
    Array.from({ length: EDITS }, (_, edit) =>
      editSession(id, (old) => ({
        ...old,
        patches: [...(old.patches as object[]), { ...document.patches[0], id: `patch-${edit}` }],
      })),
    ),
  );
  const made = Promise.all(Array.from({ length: SESSIONS }, () => createSession(document, new Map())));
  await Promise.all(edits);
  await made;
  for (const id of ids) {
    const { session } = await loadSession(id);
    expect(session.patches.map((patch) => patch.id).sort()).toEqual([
      'gray',
      ...Array.from({ length: EDITS }, (_, edit) => `patch-${edit}`),
    ]);
  }
});
