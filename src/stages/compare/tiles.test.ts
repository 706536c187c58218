import { setImmediate as turn } from 'node:timers/promises';
import { levelsOf } from '@/core/viewing/pyramid';
import { TileStore, type PictureKey } from './tiles';

/** A server that answers when it is told to; what was given up counts as such. */
function slowServer() {
  const asked = new Map<string, { answer: () => void; givenUp: boolean }>();
  const pyramid = { channels: 3, top: [1, 1, 1], dark: [0, 0, 0], levels: levelsOf(512, 256, 3, 0) };
  globalThis.fetch = jest.fn((address: string, init?: RequestInit) => {
    return new Promise((resolve, reject) => {
      const isTile = address.includes('level=');
      const body = { json: () => Promise.resolve(pyramid), arrayBuffer: () => Promise.resolve(new ArrayBuffer(8)) };
      const one = { answer: () => resolve({ ok: true, ...body }), givenUp: false };
      asked.set(`${isTile ? 'tile' : 'pyramid'} ${/at=([\d.]+)/.exec(address)?.[1] ?? 'still'}`, one);
      init?.signal?.addEventListener('abort', () => {
        one.givenUp = true;
        reject(new DOMException('', 'AbortError'));
      });
    });
  }) as unknown as typeof fetch;
  return asked;
}

const at = (moment?: number): PictureKey => ({ sha256: 'clip', response: { kind: 'srgb' }, at: moment });
type Store = TileStore<Uint16Array<ArrayBuffer>>;
const storeOf = (onChange = () => undefined as void) =>
  new TileStore(
    (halves: Uint16Array<ArrayBuffer>) => halves,
    () => undefined,
    onChange,
  );

/** One drawing that looks at a picture’s coarsest tile. */
function look(store: Store, key: PictureKey | null): void {
  store.beginDrawing();
  if (key && store.pyramid(key)) store.get(key, { level: 0, column: 0, row: 0 }, 3);
  store.endDrawing();
}

const { fetch: ownFetch } = globalThis;
afterEach(() => {
  globalThis.fetch = ownFetch;
});

test('moments that were passed are given up; the one that is looked at comes, and nothing else is waited for', async () => {
  const asked = slowServer();
  const store = storeOf();
  for (const moment of [1, 2, 3]) look(store, at(moment));
  await turn();
  expect([...asked].map(([name, { givenUp }]) => [name, givenUp])).toEqual([
    ['pyramid 1.0000', true],
    ['pyramid 2.0000', true],
    ['pyramid 3.0000', false],
  ]);
  expect(store.settled).toBe(false);
  asked.get('pyramid 3.0000')!.answer();
  await turn();
  look(store, at(3));
  await turn();
  asked.get('tile 3.0000')!.answer();
  await turn();
  expect(store.settled).toBe(true);
  expect(store.get(at(3), { level: 0, column: 0, row: 0 }, 3)).toHaveLength(4);
});

test('a moment that is come back to is asked for anew; it is told when one was given up', async () => {
  const asked = slowServer();
  let changes = 0;
  const store = storeOf(() => void changes++);
  look(store, at(1));
  look(store, null);
  await turn();
  expect(changes).toBe(1);
  look(store, at(1));
  await turn();
  expect(fetch).toHaveBeenCalledTimes(2);
  expect(asked.get('pyramid 1.0000')!.givenUp).toBe(false);
});

test('tiles of a passed moment are given up too; a still’s are not, nor its pyramid', async () => {
  const asked = slowServer();
  const store = storeOf();
  for (const key of [at(1), at()]) look(store, key);
  look(store, null);
  await turn();
  expect(asked.get('pyramid still')!.givenUp).toBe(false);
  look(store, at(1));
  await turn();
  asked.get('pyramid 1.0000')!.answer();
  asked.get('pyramid still')!.answer();
  await turn();
  for (const key of [at(1), at()]) {
    look(store, key);
    await turn();
  }
  expect([asked.get('tile 1.0000')!.givenUp, asked.get('tile still')!.givenUp]).toEqual([true, false]);
  store.leave();
  await turn();
  expect(asked.get('tile still')!.givenUp).toBe(false);
});
