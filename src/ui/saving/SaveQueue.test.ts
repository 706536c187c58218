/** Changes on their way to the server: nothing that was typed is lost, whatever the server answers. */
import { NO_LINE, SaveQueue, type SaveStatus, type Written } from './SaveQueue';

const TAKEN: Written = { ok: true };
const REFUSED: Written = { ok: false, error: 'Somebody else changed it.' };

/** A server whose answers are given by hand, in the order of the writes. */
function server() {
  const asked: { what: string; answer: (answer: Written | Error) => void }[] = [];
  const write = (what: string) => () =>
    new Promise<Written>((resolve, reject) => {
      asked.push({ what, answer: (answer) => (answer instanceof Error ? reject(answer) : resolve(answer)) });
    });
  return { asked, write };
}

let told: SaveStatus[];
let queue: SaveQueue;
const last = () => told.at(-1);
const turn = () => jest.advanceTimersByTimeAsync(0);

beforeEach(() => {
  jest.useFakeTimers();
  told = [];
  queue = new SaveQueue((status) => told.push(status));
});
afterEach(() => {
  queue.stop();
  jest.useRealTimers();
});

test('a change is written when no other has come for half a second, and the newest alone', async () => {
  const { asked, write } = server();
  queue.put('title', write('B'));
  expect(last()).toEqual({ state: 'changed', problem: null });
  await jest.advanceTimersByTimeAsync(499);
  queue.put('title', write('Be'));
  await jest.advanceTimersByTimeAsync(499);
  expect(asked).toHaveLength(0);
  await jest.advanceTimersByTimeAsync(1);
  expect(asked.map((one) => one.what)).toEqual(['Be']);
  expect(last()).toEqual({ state: 'keeping', problem: null });
  asked[0].answer(TAKEN);
  await turn();
  expect(last()).toEqual({ state: 'kept', problem: null });
  expect(queue.pending).toBe(false);
});

test('writes follow each other; what was changed while one was under way is written next', async () => {
  const { asked, write } = server();
  queue.put('a', write('a1'));
  queue.put('b', write('b1'));
  void queue.flush();
  await turn();
  expect(asked.map((one) => one.what)).toEqual(['a1']);
  queue.put('a', write('a2'));
  asked[0].answer(TAKEN);
  await turn();
  expect(asked.map((one) => one.what)).toEqual(['a1', 'a2']);
  asked[1].answer(TAKEN);
  await turn();
  asked[2].answer(TAKEN);
  await turn();
  expect(asked.map((one) => one.what)).toEqual(['a1', 'a2', 'b1']);
  expect(last()?.state).toBe('kept');
});

test('a refused change stays, is told, lets others pass, and is tried again later and later', async () => {
  const { asked, write } = server();
  queue.put('a', write('a'));
  queue.put('b', write('b'));
  void queue.flush();
  await turn();
  asked[0].answer(REFUSED);
  await turn();
  asked[1].answer(TAKEN);
  await turn();
  expect(last()).toEqual({ state: 'changed', problem: 'Somebody else changed it.' });
  await jest.advanceTimersByTimeAsync(4000);
  expect(asked.map((one) => one.what)).toEqual(['a', 'b', 'a']);
  asked[2].answer(REFUSED);
  await turn();
  await jest.advanceTimersByTimeAsync(7999);
  expect(asked).toHaveLength(3);
  await jest.advanceTimersByTimeAsync(1);
  expect(asked).toHaveLength(4);
  asked[3].answer(TAKEN);
  await turn();
  expect(last()).toEqual({ state: 'kept', problem: null });
});

test('without a line the sentence says so, and the change is sent when there is one', async () => {
  const { asked, write } = server();
  queue.put('a', write('a'));
  void queue.flush();
  await turn();
  asked[0].answer(new TypeError('Failed to fetch'));
  await turn();
  expect(last()).toEqual({ state: 'changed', problem: NO_LINE });
  await jest.advanceTimersByTimeAsync(4000);
  asked[1].answer(TAKEN);
  await turn();
  expect(last()).toEqual({ state: 'kept', problem: null });
});

test('a newer change replaces a refused one, and its problem with it', async () => {
  const { asked, write } = server();
  queue.put('a', write('wrong'));
  void queue.flush();
  await turn();
  asked[0].answer(REFUSED);
  await turn();
  queue.put('a', write('right'));
  expect(last()).toEqual({ state: 'changed', problem: null });
  await jest.advanceTimersByTimeAsync(500);
  asked[1].answer(TAKEN);
  await turn();
  expect(asked.map((one) => one.what)).toEqual(['wrong', 'right']);
  expect(last()).toEqual({ state: 'kept', problem: null });
});
