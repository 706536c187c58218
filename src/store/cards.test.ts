/** Cards of sessions: found by words, kit and camera, in order; outdated ones known; gone with their session. */
import { smallBench } from '@/core/testing/worked';
import { describeSession } from '@/simulator/session';
import {
  actingAs,
  cardNames,
  closeStore,
  createSession,
  deleteSession,
  editSession,
  findSessions,
  listSessions,
  outdatedCards,
  readCards,
  sessionsOfKits,
  stateOfLibrary,
  wordsOf,
  writeCard,
} from '.';
import { store } from './database';
import { freshDatabase } from './testing';

beforeAll(() => freshDatabase('glade_cards'));
afterAll(closeStore);

const ALL = { text: '', kit: '', camera: '', sort: 'newest' } as const;

async function sitting(title: string, kits: string[], day: string, camera: string | null = 'Field camera') {
  const id = await createSession({ ...describeSession(smallBench(), { id: 'kit' }), title }, new Map());
  const [{ updatedAt, createdAt }] = await listSessions(1, [id]);
  await writeCard(
    { sessionId: id, sessionAt: updatedAt.getTime(), readingId: 0, madeBy: 'x'.repeat(16), entry: { title } },
    { title, begunAt: createdAt, texts: [day, camera, ...kits], day, camera, kits },
  );
  return id;
}

test.each([
  ['Ashwick Quarry bench, 2nd', ['ashwick', 'quarry', 'bench', '2nd']],
  ['ND8/PL · 2026-05-14', ['nd8', 'pl', '2026', '05', '14']],
  ['Größe Žluť', ['größe', 'žluť']],
  ['*+-()"@ ', []],
])('%j is the words %j', (text, words) => expect(wordsOf(text)).toEqual(words));

test('sessions are found by the beginnings of their words, in order, with how many there are', async () => {
  const weir10 = await sitting('Weir 10', ['Harbour Six'], '2026-05-02');
  const weir2 = await sitting('weir 2 at the Quarry', ['Foundry Set', 'Harbour Six'], '2026-05-20', 'Bench camera');
  const dam = await sitting('How the Dam was shot, ND8/PL', ['Foundry Set'], '2026-04-01', null);
  const found = async (query: Partial<Parameters<typeof findSessions>[0]>, limit = 10) => {
    const { ids, count } = await findSessions({ ...ALL, ...query }, limit);
    return [ids.map((id) => (id === weir10 ? 'weir 10' : id === weir2 ? 'weir 2' : 'dam')), count];
  };
  expect(await found({})).toEqual([['dam', 'weir 2', 'weir 10'], 3]);
  expect(await found({}, 2)).toEqual([['dam', 'weir 2'], 3]);
  expect(await found({ text: 'weir' })).toEqual([['weir 2', 'weir 10'], 2]);
  expect(await found({ text: 'QUAR weir' })).toEqual([['weir 2'], 1]);
  // Too short for the index, words that it leaves out, and signs that mean something in its language.
  expect(await found({ text: '2' })).toEqual([['dam', 'weir 2', 'weir 10'], 3]);
  expect(await found({ text: 'how the dam' })).toEqual([['dam'], 1]);
  expect(await found({ text: 'nd8/pl' })).toEqual([['dam'], 1]);
  expect(await found({ text: '2026-05' })).toEqual([['weir 2', 'weir 10'], 2]);
  expect(await found({ text: '-weir +"dam' })).toEqual([[], 0]);
  expect(await found({ text: '*' })).toEqual([[], 0]);
  expect(await found({ text: '%' })).toEqual([[], 0]);
  expect(await found({ kit: 'Foundry Set' })).toEqual([['dam', 'weir 2'], 2]);
  expect(await found({ camera: 'Bench camera', text: 'weir' })).toEqual([['weir 2'], 1]);
  expect(await found({ sort: 'title' })).toEqual([['dam', 'weir 2', 'weir 10'], 3]);
  expect(await found({ sort: 'day' })).toEqual([['weir 2', 'weir 10', 'dam'], 3]);
  expect(await cardNames()).toEqual({
    kits: expect.arrayContaining(['Foundry Set', 'Harbour Six']),
    cameras: expect.arrayContaining(['Bench camera', 'Field camera']),
  });
  expect(await sessionsOfKits(['Foundry Set'], 1)).toEqual([dam]);
  expect(await sessionsOfKits(['Foundry Set', 'Harbour Six'], 5)).toEqual([dam, weir2, weir10]);
  expect(await sessionsOfKits([], 5)).toEqual([]);

  // What is put away is in no list.
  await deleteSession(weir2);
  expect(await found({ text: 'weir' })).toEqual([['weir 10'], 1]);
  expect((await cardNames()).cameras).toEqual(['Field camera']);
  expect(await sessionsOfKits(['Foundry Set', 'Harbour Six'], 5)).toEqual([dam, weir10]);
});

test('a card says what it was made of: of an earlier state it is outdated, and it goes with its session', async () => {
  const id = await sitting('Lock', [], '2026-06-01');
  expect(await outdatedCards(10)).toEqual([]);
  const before = await stateOfLibrary();
  expect(await stateOfLibrary()).toBe(before);
  const fresh = await createSession({ ...describeSession(smallBench(), { id: 'kit' }), title: 'New' }, new Map());
  await editSession(id, (old) => ({ ...old, title: 'Lock gate' }));
  expect(await outdatedCards(10)).toEqual([fresh, id]);
  expect(await outdatedCards(1)).toEqual([fresh]);
  expect(await stateOfLibrary()).not.toBe(before);
  expect((await readCards([id])).get(id)).toMatchObject({ entry: { title: 'Lock' }, readingId: 0 });
  await store().models.Session.destroy({ where: { id } });
  expect((await readCards([id])).size).toBe(0);
  // Of one that has gone nothing is kept.
  await writeCard({ sessionId: id, sessionAt: 0, readingId: 0, madeBy: '', entry: {} }, { title: '', begunAt: new Date(), texts: [], day: '', camera: null, kits: [] }); // prettier-ignore
  expect((await readCards([id])).size).toBe(0);
});

test('a reader’s request, which changes nothing, may still leave a card', async () => {
  const reader = { account: 1, signIn: 1, name: 'Ada', role: 'reader', address: '' } as const;
  const id = await createSession({ ...describeSession(smallBench(), { id: 'kit' }), title: 'Read' }, new Map());
  await actingAs({ ...reader }, async () => {
    await writeCard({ sessionId: id, sessionAt: 0, readingId: 0, madeBy: '', entry: { title: 'Read' } }, { title: 'Read', begunAt: new Date(), texts: [], day: '', camera: null, kits: ['K'] }); // prettier-ignore
    await expect(deleteSession(id)).rejects.toThrow();
  });
  expect((await readCards([id])).size).toBe(1);
});
