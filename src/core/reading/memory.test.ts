/** Measuring again reads only what changed, and gives the same figures as measuring anew. */
import { measureSession } from '../measure';
import { cutWindow } from './window';
import { readWindows, type PictureSource, type ReadWindows } from './source';
import { randomPlan, type BenchKind } from '@/simulator/randomBench';
import { simulateSession } from '@/simulator/session';
import type { Memory } from './memory';

const OPTIONS = { createdAt: '2026-05-14T12:00:00Z', generator: 'test' };
const KIND: BenchKind = { protocol: 'matched', bitDepth: 8, drift: 0, bend: 0, flicker: 0, repeats: 1 };

function inMemory(): Memory & { size: () => number } {
  const kept = new Map<string, unknown>();
  return {
    recall: async (name) => structuredClone(kept.get(name)),
    keep: async (name, value) => void kept.set(name, structuredClone(value)),
    size: () => kept.size,
  };
}

/** Renders each picture once, whole, and cuts windows from it: like a file, whose pixels don't depend on what is asked. */
function steady(source: PictureSource): PictureSource {
  const whole = new Map<string, Promise<ReadWindows>>();
  return {
    ...source,
    async open(file) {
      const picture =
        whole.get(file) ?? readWindows(source.open(file), ({ width, height }) => [{ x: 0, y: 0, width, height }]);
      whole.set(file, picture);
      const { facts, windows } = await picture;
      return {
        facts,
        preview: null,
        windows: async (rects) => rects.map((rect) => cutWindow(windows[0], rect)),
        close: () => undefined,
      };
    },
  };
}

function counted(source: PictureSource): { source: PictureSource; reads: string[]; again: string[] } {
  const reads: string[] = [];
  const again: string[] = [];
  return {
    reads,
    again,
    source: {
      ...source,
      identify: (file) => `id of ${file}`,
      async open(file) {
        reads.push(file);
        return source.open(file);
      },
      async readAgain(file, rects) {
        again.push(file);
        return (await readWindows(source.open(file), () => rects)).windows;
      },
    },
  };
}

async function benchOfTwoScenes(name: string) {
  const plan = { ...randomPlan(name, { ...KIND, scenes: ['chart', 'flat'] }), width: 480, height: 320 };
  const simulated = simulateSession(plan);
  const { session } = simulated;
  session.patches = session.patches.filter((patch) => patch.role !== 'edge');
  const gray = session.patches.find((patch) => patch.role === 'neutral')!;
  return { session, gray, ...counted(steady(simulated.source)), memory: inMemory() };
}

test('a second measurement reads nothing; a patch moved a little is cut from what was kept', async () => {
  const { session, gray, source, reads, again, memory } = await benchOfTwoScenes('memory');
  const first = await measureSession(session, source, { ...OPTIONS, memory });
  expect(reads).toHaveLength(18);
  expect(await measureSession(session, source, { ...OPTIONS, memory })).toEqual(first);
  expect(reads).toHaveLength(18);

  gray.rect = { ...gray.rect, x: gray.rect.x + 0.01 };
  const moved = await measureSession(session, source, { ...OPTIONS, memory });
  expect([...reads.slice(18), ...again]).toEqual([]);
  expect(moved).toEqual(await measureSession(session, source, OPTIONS));
  expect(moved).not.toEqual(first);
});

test('a patch moved further is read anew in its own scene alone, and kept there', async () => {
  const { session, gray, source, reads, again, memory } = await benchOfTwoScenes('memory of a far move');
  await measureSession(session, source, { ...OPTIONS, memory });
  const shift = async (by: number) => {
    gray.rect = { ...gray.rect, x: gray.rect.x + by };
    return measureSession(session, source, { ...OPTIONS, memory });
  };
  const moved = await shift(0.05);
  expect(reads).toHaveLength(18);
  expect(again).toHaveLength(9);
  expect(again.every((file) => file.startsWith('chart'))).toBe(true);
  expect(moved).toEqual(await measureSession(session, source, OPTIONS));

  const count = again.length;
  const nudged = await shift(0.01);
  expect(again).toHaveLength(count);
  expect(nudged).toEqual(await measureSession(session, source, OPTIONS));
});

test('another response is another figure, never an old one', async () => {
  const { session, source: plain } = simulateSession({
    ...randomPlan('memory of a response', KIND),
    width: 480,
    height: 320,
  });
  session.patches = session.patches.filter((patch) => patch.role !== 'edge');
  const { source } = counted(steady(plain));
  const memory = inMemory();
  await measureSession(session, source, { ...OPTIONS, memory });
  session.rig.response = { kind: 'gamma', gamma: 1.9 };
  expect(await measureSession(session, source, { ...OPTIONS, memory })).toEqual(
    await measureSession(session, source, OPTIONS),
  );
});

test('a recovered response is remembered with its bracket, and found anew when an exposure is corrected', async () => {
  const { session, source: plain } = simulateSession({
    ...randomPlan('memory of a bracket', { ...KIND, protocol: 'automatic', bracket: true }),
    width: 480,
    height: 320,
  });
  session.patches = session.patches.filter((patch) => patch.role !== 'edge');
  const { source, reads } = counted(steady(plain));
  const memory = inMemory();
  const first = await measureSession(session, source, { ...OPTIONS, memory });
  const count = reads.length;
  expect(await measureSession(session, source, { ...OPTIONS, memory })).toEqual(first);
  expect(reads).toHaveLength(count);
  session.takes.find((take) => take.id === 'bracket-3')!.exposure.iso = 110;
  const corrected = await measureSession(session, source, { ...OPTIONS, memory });
  expect(reads.length).toBeGreaterThan(count);
  expect(corrected.response.residualStops).toBeGreaterThan(first.response.residualStops!);
}, 600_000);
