import { setImmediate as turn } from 'node:timers/promises';
import { NewestFirst, OncePerKey } from './turns';

/** A work that ends when it is told to. */
function held() {
  let end: () => void = () => undefined;
  const work = new Promise<void>((resolve) => (end = resolve));
  return { work, end };
}

describe('newest first', () => {
  test('of those that wait the one asked for last is begun first, and no more at a time than were allowed', async () => {
    const turns = new NewestFirst(1);
    const begun: string[] = [];
    const first = held();
    const all = ['a', 'b', 'c'].map((name, i) =>
      turns.add(() => {
        begun.push(name);
        return i === 0 ? first.work : Promise.resolve();
      }),
    );
    await turn();
    expect(begun).toEqual(['a']);
    first.end();
    await Promise.all(all);
    expect(begun).toEqual(['a', 'c', 'b']);
  });

  test('what was given up while it waited is not begun; what had begun goes on', async () => {
    const turns = new NewestFirst(1);
    const first = held();
    const gone = new AbortController();
    const running = turns.add(() => first.work.then(() => 'done'), gone.signal);
    let begun = false;
    const waiting = turns.add(() => Promise.resolve((begun = true)), gone.signal);
    await turn();
    gone.abort();
    first.end();
    expect(await running).toBe('done');
    await expect(waiting).rejects.toThrow('aborted');
    expect(begun).toBe(false);
  });

  test('a work that fails leaves its place to the next one', async () => {
    const turns = new NewestFirst(1);
    const failing = turns.add(() => Promise.reject(new Error('no such frame')));
    const next = turns.add(() => Promise.resolve(3));
    await expect(failing).rejects.toThrow('no such frame');
    expect(await next).toBe(3);
  });
});

describe('once per key', () => {
  test('two who ask at once wait for one work; who asks afterwards has it done anew', async () => {
    const works = new OncePerKey<number>();
    let made = 0;
    const make = async () => {
      await turn();
      return ++made;
    };
    expect(await Promise.all([works.ask('a', make), works.ask('a', make), works.ask('b', make)])).toEqual([1, 1, 2]);
    expect(await works.ask('a', make)).toBe(3);
  });

  test('it is given up when the last one has gone, not before', async () => {
    const works = new OncePerKey<string>();
    const [one, other] = [new AbortController(), new AbortController()];
    const work = held();
    const told: AbortSignal[] = [];
    const make = (givenUp: AbortSignal) => {
      told.push(givenUp);
      return work.work.then(() => 'there');
    };
    const both = [works.ask('a', make, one.signal), works.ask('a', make, other.signal)];
    one.abort();
    expect(told.map(({ aborted }) => aborted)).toEqual([false]);
    other.abort();
    expect(told.map(({ aborted }) => aborted)).toEqual([true]);
    // Who comes now doesn't get what was given up.
    const later = works.ask('a', make);
    expect(told.map(({ aborted }) => aborted)).toEqual([true, false]);
    work.end();
    expect(await Promise.all([...both, later])).toEqual(['there', 'there', 'there']);
  });

  test('one who has no way to leave keeps it going; one who had left already asks for nothing', async () => {
    const works = new OncePerKey<number>();
    const gone = new AbortController();
    const work = held();
    let given: AbortSignal | undefined;
    const stays = works.ask('a', (givenUp) => ((given = givenUp), work.work.then(() => 1)));
    const leaves = works.ask('a', () => Promise.resolve(2), gone.signal);
    gone.abort();
    expect(given?.aborted).toBe(false);
    await expect(works.ask('b', () => Promise.resolve(3), gone.signal)).rejects.toThrow('aborted');
    work.end();
    expect(await Promise.all([stays, leaves])).toEqual([1, 1]);
  });

  test('a failure is everybody’s, and the next one tries again', async () => {
    const works = new OncePerKey<number>();
    const fails = () => Promise.reject(new Error('cut short'));
    const results = await Promise.allSettled([works.ask('a', fails), works.ask('a', fails)]);
    expect(results.map(({ status }) => status)).toEqual(['rejected', 'rejected']);
    expect(await works.ask('a', () => Promise.resolve(4))).toBe(4);
  });
});
