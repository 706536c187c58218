/**
 * The coverage gate: over seeded sessions of every kind each measure's ± must hold the truth often enough, and be no wider than it need
 * be. The bounds are such that a ± scaled by 0.6 or by 2 breaks them, which is tested too. `npm run coverage` looks at many more.
 */
import { compareWithTruth, type Comparison } from '@/simulator/expected/compare';
import { coverageTable, notWithin, scaledBy, type CoverageBounds } from '@/simulator/expected/coverage';
import { randomPlan, type BenchKind } from '@/simulator/randomBench';
import { randomKinds } from '@/simulator/randomKinds';
import { simulateSession } from '@/simulator/session';
import type { BenchPlan } from '@/simulator/truth';
import { measureSession } from './measure';

const BASE: BenchKind = { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 2 };
const BENCHES: BenchKind[] = [
  BASE,
  { ...BASE, bitDepth: 8 },
  { ...BASE, protocol: 'automatic', bitDepth: 8, drift: 0.3 },
  { ...BASE, drift: 0.1, flicker: 0.004, repeats: 3 },
];

/** Strengths and casts: the gray card alone, so that many sessions take little time. */
const strengths = (i: number): BenchPlan => ({
  ...randomPlan(`gate/strength/${i}`, BENCHES[i % BENCHES.length]),
  width: 480,
  height: 320,
});
const edges = (i: number): BenchPlan => {
  const plan = randomPlan(`gate/edges/${i}`, { ...BASE, bitDepth: i % 2 === 0 ? 16 : 8, noisy: i % 3 === 2 });
  return { ...plan, width: 840, height: 560, filters: plan.filters.slice(0, 2) };
};
const walls = (i: number): BenchPlan => {
  const plan = randomPlan(`gate/walls/${i}`, { ...BASE, bitDepth: i % 2 === 0 ? 16 : 8, scenes: ['flat'] });
  return { ...plan, width: 300, height: 200, filters: plan.filters.slice(0, 3), repeats: 1 };
};
const kinds = (i: number): BenchPlan => ({
  ...randomKinds(`gate/kinds/${i}`, i % 2 === 0 ? 16 : 8, i % 4 < 2 ? 0 : 0.2),
  width: 240,
  height: 160,
  repeats: 1,
});

async function rowsOf(count: number, planOf: (index: number) => BenchPlan, role?: string): Promise<Comparison[]> {
  const rows: Comparison[] = [];
  for (let i = 0; i < count; i++) {
    const plan = planOf(i);
    const { session, source } = simulateSession(plan);
    if (role) session.patches = session.patches.filter((patch) => patch.role === role);
    rows.push(...compareWithTruth(plan, await measureSession(session, source, { createdAt: '', generator: '' })));
  }
  return rows;
}

/** Three quarters and one and a half of the widths that were found. */
const BOUNDS = {
  strengths: { strength: [0.92, 1.45, 2.9], channel: [0.92, 1.58, 3.17], 'a*': [0.92, 2.27, 4.54], 'b*': [0.92, 2.16, 4.32], 'ΔE00': [0.92, 2.27, 4.53] },
  edges: { kept: [0.92, 1.77, 3.54] },
  walls: { corner: [0.92, 2.14, 4.28], strength: [0.9, 2.45, 4.91] },
  kinds: { brightest: [0.85, 2.86, 5.73], darkest: [0.85, 2.42, 4.83], extinction: [0.85, 2.2, 4.4], axis: [0.85, 5.21, 10.41], 'glare cut': [0.85, 1.81, 3.63], sky: [0.85, 2.38, 4.75], mark: [0.92, 1.97, 3.93], unevenness: [0.92, 1.69, 3.39], clear: [0.85, 7.79, 15.57], dense: [0.85, 5.66, 11.32], midline: [0.85, 2.96, 5.91], width: [0.85, 2.83, 5.66], tilt: [0.85, 2.86, 5.71] },
} satisfies Record<string, CoverageBounds>; // prettier-ignore

const SETS: [keyof typeof BOUNDS, () => Promise<Comparison[]>][] = [
  ['strengths', () => rowsOf(32, strengths, 'neutral')],
  ['edges', () => rowsOf(3, edges)],
  ['walls', () => rowsOf(6, walls)],
  ['kinds', () => rowsOf(16, kinds)],
];

describe.each(SETS)('%s', (name, measure) => {
  const bounds: CoverageBounds = BOUNDS[name];
  let rows: Comparison[];
  beforeAll(async () => {
    rows = await measure();
  }, 300_000);

  test('every measure’s ± holds the truth, and is no wider than it need be', () => {
    const table = coverageTable(rows).join('\n');
    expect({ outside: notWithin(rows, bounds), table }).toEqual({ outside: [], table });
    const given = new Set(rows.filter((row) => row.error !== null).map((row) => row.measure));
    expect(Object.keys(bounds).filter((one) => !given.has(one as Comparison['measure']))).toEqual([]);
  });

  test.each([0.6, 2])('a ± scaled by %d would be told, of every measure', (factor) => {
    expect(notWithin(scaledBy(rows, factor), bounds).sort()).toEqual(Object.keys(bounds).sort());
  });
});
