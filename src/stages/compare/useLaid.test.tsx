/** @jest-environment jsdom */
import { act, renderHook } from '@testing-library/react';
import { comparedPicture, comparedSession } from '@/ui/testing/compared';
import { IDENTITY } from '@/core/laying/align';
import type { Film } from '@/server/compare';
import { AT_REST, type Playback } from './playback';
import type { Shown } from './shown';
import { useLaid } from './useLaid';

const film: Film = {
  seconds: 10,
  framesPerSecond: 25,
  from: 0,
  to: 10,
  encoding: { transfer: 'bt709', source: null, toXyz: null, profile: null },
  steps: null,
};
const shown: Shown[] = [
  {
    picture: comparedPicture('nd8', { film }),
    bare: comparedPicture('bare', { film }),
    session: comparedSession,
  },
];

interface Asked {
  at: string | null;
  givenUp: boolean;
  answer: (dx: number) => Promise<void>;
}

let asked: Asked[] = [];
const { fetch: ownFetch } = globalThis;
beforeEach(() => {
  asked = [];
  globalThis.fetch = jest.fn(
    (address: string, init: RequestInit) =>
      new Promise((resolve, reject) => {
        const one: Asked = {
          at: new URL(address, 'http://localhost').searchParams.get('at'),
          givenUp: false,
          answer: (dx) =>
            act(async () => {
              resolve(Response.json({ pose: { ...IDENTITY, dx }, problem: null, movedPx: dx }));
              await new Promise((done) => setTimeout(done, 0));
            }),
        };
        asked.push(one);
        init.signal?.addEventListener('abort', () => {
          one.givenUp = true;
          reject(new DOMException('', 'AbortError'));
        });
      }),
  ) as unknown as typeof fetch;
  globalThis.Response ??= { json: (value: unknown) => ({ json: () => Promise.resolve(value) }) } as never;
});
afterEach(() => {
  globalThis.fetch = ownFetch;
});

const at = (moment: number, moving = false): Playback => ({ ...AT_REST, moment, moving });

test('of moments chosen one after the other only the last is waited for, and how it lies there is told', async () => {
  const { result, rerender } = renderHook(({ playback }) => useLaid(shown, playback), {
    initialProps: { playback: at(1) },
  });
  for (const moment of [2, 3]) rerender({ playback: at(moment) });
  expect(asked.map((one) => [one.at, one.givenUp])).toEqual([
    ['1', true],
    ['2', true],
    ['3', false],
  ]);
  await asked[2].answer(7);
  expect(result.current.get('nd8')?.pose.dx).toBe(7);
});

test('a moment that was given up is asked for again when it is come back to', async () => {
  const { result, rerender } = renderHook(({ playback }) => useLaid(shown, playback), {
    initialProps: { playback: at(1) },
  });
  rerender({ playback: at(2) });
  rerender({ playback: at(1) });
  expect(asked.map((one) => [one.at, one.givenUp])).toEqual([
    ['1', true],
    ['2', true],
    ['1', false],
  ]);
  await asked[2].answer(4);
  expect(result.current.get('nd8')?.pose.dx).toBe(4);
});

test('while it plays whole seconds are asked for, one at a time, and none of them is given up', async () => {
  const { result, rerender } = renderHook(({ playback }) => useLaid(shown, playback), {
    initialProps: { playback: at(1.1, true) },
  });
  for (const moment of [1.4, 1.8, 2.2]) rerender({ playback: at(moment, true) });
  expect(asked.map((one) => [one.at, one.givenUp])).toEqual([['1', false]]);
  await asked[0].answer(2);
  expect(result.current.get('nd8')?.pose.dx).toBe(2);
  rerender({ playback: at(2.3, true) });
  expect(asked.map((one) => one.at)).toEqual(['1', '2']);
});
