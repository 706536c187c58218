/** Measuring again reads only what changed, and gives the same figures as measuring anew. */
import { measureSession } from '../measure';
import type { PictureSource } from '../source';
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

function counted(source: PictureSource): { source: PictureSource; reads: string[]; again: string[] } {
  const reads: string[] = [];
  const again: string[] = [];
  return {
    reads,
    again,
    source: {
      ...source,
      identify: (file) => `id of ${file}`,
      async read(file, choose) {
        reads.push(file);
        return source.read(file, choose);
      },
      async readAgain(file, rects) {
        again.push(file);
        return (await source.read(file, () => [...rects])).windows;
      },
    },
  };
}

test('a second measurement reads nothing; a moved patch is read anew in its own scene alone', async () => {
  const plan = { ...randomPlan('memory', { ...KIND, scenes: ['chart', 'flat'] }), width: 480, height: 320 };
  const simulated = simulateSession(plan);
  const { session } = simulated;
  session.patches = session.patches.filter((patch) => patch.role !== 'edge');
  const { source, reads, again } = counted(simulated.source);
  const memory = inMemory();
  const first = await measureSession(session, source, { ...OPTIONS, memory });
  expect(reads).toHaveLength(18);
  expect(await measureSession(session, source, { ...OPTIONS, memory })).toEqual(first);
  expect(reads).toHaveLength(18);

  const gray = session.patches.find((patch) => patch.role === 'neutral')!;
  gray.rect = { ...gray.rect, x: gray.rect.x + 0.01 };
  const moved = await measureSession(session, source, { ...OPTIONS, memory });
  expect(reads).toHaveLength(18);
  expect(again).toHaveLength(9);
  expect(again.every((file) => file.startsWith('chart'))).toBe(true);
  expect(moved).toEqual(await measureSession(session, source, OPTIONS));
  expect(moved).not.toEqual(first);
});

test('another response is another figure, never an old one', async () => {
  const { session, source: plain } = simulateSession({
    ...randomPlan('memory of a response', KIND),
    width: 480,
    height: 320,
  });
  session.patches = session.patches.filter((patch) => patch.role !== 'edge');
  const { source } = counted(plain);
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
  const { source, reads } = counted(plain);
  const memory = inMemory();
  const first = await measureSession(session, source, { ...OPTIONS, memory });
  const count = reads.length;
  expect(await measureSession(session, source, { ...OPTIONS, memory })).toEqual(first);
  expect(reads).toHaveLength(count);
  session.takes.find((take) => take.id === 'bracket-3')!.exposure.iso = 110;
  const corrected = await measureSession(session, source, { ...OPTIONS, memory });
  expect(reads.length).toBeGreaterThan(count);
  expect(corrected.response.residualStops).toBeGreaterThan(first.response.residualStops!);
}, 60_000);
