/** Polarizers on small sessions: the ring sweep, glare, sky, and what is asked about. */
import { expectedCut, expectedSweep } from '@/simulator/expected/polarizer';
import { plainFilter, smallBench, work, type Worked, QUIET_CAMERA } from '@/core/testing/worked';
import type { BenchPlan, TrueFilter } from '@/simulator/truth';

const SEVEN = [5, 31, 57, 83, 109, 135, 161];
const pl = (more: Partial<TrueFilter> = {}): TrueFilter =>
  plainFilter('pl', 1.5, {
    kind: 'polarizer',
    nominal: {},
    polarizer: { axisDegrees: 12, extinctionStops: 6 },
    ...more,
  });
const bench = (more: Partial<BenchPlan> = {}): BenchPlan =>
  smallBench({
    scenes: ['screen'],
    camera: { ...QUIET_CAMERA, readNoise: 2 },
    filters: [pl()],
    bareEvery: 3,
    sweep: SEVEN,
    polarization: { lightDegrees: 20, degree: 0.8 },
    ...more,
  });

describe('seven ring angles before a screen', () => {
  const plan = bench();
  let worked: Worked;
  beforeAll(async () => {
    worked = await work(plan);
  });

  test('brightest, darkest, extinction and axis lie within their ± of Malus’ law', () => {
    for (const measure of ['brightest', 'darkest', 'extinction', 'axis'] as const) {
      const [{ error, u95 }] = worked.compared(measure, 'pl');
      expect(Math.abs(error!)).toBeLessThan(1.6 * u95!);
      expect(u95).toBeGreaterThan(0);
      expect(u95).toBeLessThan({ brightest: 0.02, darkest: 0.1, extinction: 0.1, axis: 1 }[measure]);
    }
  });

  test('what a screen should show, in closed form: half the light is not lost twice', () => {
    const { brightest, darkest, axisDegrees } = expectedSweep(plan.polarization!, plan.filters[0]);
    const found = worked.of('pl').polarizer!;
    expect(found.brightest!.value).toBeCloseTo(brightest, 1);
    expect(found.darkest!.value).toBeCloseTo(darkest, 1);
    expect(found.darkest!.value - found.brightest!.value).toBeCloseTo(6, 1);
    // The mark stands 12° off the light's 20°.
    expect(found.axisDegrees!.value).toBeCloseTo(axisDegrees, 0);
    expect(axisDegrees).toBeCloseTo(32, 9);
  });

  test('the sweep’s points are the takes’, its curve Malus’', () => {
    const { sweep } = worked.of('pl').polarizer!;
    expect(sweep!.points.map((one) => one.degrees)).toEqual(SEVEN);
    expect(sweep!.points.every((one) => !one.doubtful)).toBe(true);
    const malus = (degrees: number) => {
      const c = Math.cos(((degrees - 32) * Math.PI) / 180) ** 2;
      const { brightest, darkest } = expectedSweep(plan.polarization!, plan.filters[0]);
      return -Math.log2(2 ** -darkest + (2 ** -brightest - 2 ** -darkest) * c);
    };
    for (const point of sweep!.points) {
      expect(point.stops.value).toBeCloseTo(malus(point.degrees!), 1);
      expect(point.stops.u95).toBeGreaterThan(0);
    }
    expect(sweep!.residualStops).toBeLessThan(0.01);
    expect(sweep!.sentence).toMatch(/The takes scatter|follow the cos² law/);
  });

  test('more angles tell more: the advice says by how much', () => {
    const { design } = worked.of('pl').polarizer!.sweep!;
    expect(design.map((one) => one.angles)).toEqual([3, 7, 13]);
    for (const key of ['brightest', 'darkest', 'axisDegrees'] as const) {
      expect(design[0][key]).toBeGreaterThan(design[1][key]);
      expect(design[1][key]).toBeGreaterThan(design[2][key]);
    }
  });

  test('its ± has a budget, and light that shows itself between takes', () => {
    const { budget } = worked.of('pl').polarizer!;
    expect(budget!.length).toBeGreaterThan(0);
    expect(budget!.reduce((sum, line) => sum + line.share, 0)).toBeCloseTo(1, 2);
  });
});

test('the mark’s offset is told where the screen’s own angle is known', async () => {
  const worked = await work(bench({ optics: { screen: { screenDegrees: 20 } } }));
  const { markOffsetDegrees } = worked.of('pl').polarizer!;
  expect(markOffsetDegrees!.value).toBeCloseTo(12, 0);
});

test('a wrong ring angle is found, left out, and asked about with where it could have stood', async () => {
  const plan = bench();
  const first = await work(plan);
  const take = first.session.takes.find((one) => one.setting?.ringDegrees === 57)!;
  const worked = await work(bench({ spoiled: [{ take: take.id, notedDegrees: 90 }] }));
  expect(worked.codes).toContain('ring-angle-doubtful');
  const { points } = worked.of('pl').polarizer!.sweep!;
  expect(points.filter((one) => one.doubtful).map((one) => one.take)).toEqual([take.id]);
  const asked = worked.of('pl').faults.find((one) => one.code === 'ring-angle-doubtful')! as { angles?: number[] };
  expect(asked.angles!.some((angle) => Math.abs(angle - 57) <= 2)).toBe(true);
  const [{ error, u95 }] = worked.compared('axis', 'pl');
  expect(Math.abs(error!)).toBeLessThan(1.6 * u95!);
});

test('a take without its angle is asked about, too few angles are told', async () => {
  const missing = await work(bench(), (session) => {
    delete session.takes.find((one) => one.setting?.ringDegrees === 83)!.setting;
  });
  expect(missing.codes).toContain('ring-angle-missing');
  expect(missing.of('pl').polarizer!.brightest).toBeDefined();
  const short = await work(bench({ sweep: [10, 60] }));
  expect(short.codes).toContain('sweep-too-short');
  expect(short.of('pl').polarizer?.brightest).toBeUndefined();
});

test('a darkest that noise drowns is withheld, not guessed', async () => {
  const camera = { ...bench().camera, fullWell: 200, readNoise: 6, bitDepth: 8 as const };
  const worked = await work(
    bench({
      camera,
      filters: [pl({ polarizer: { axisDegrees: 12, extinctionStops: 9 } })],
      width: 90,
      height: 60,
      protocol: 'locked',
    }),
  );
  expect(worked.of('pl').polarizer?.darkest).toBeUndefined();
});

describe('glare and sky against what stands beside them', () => {
  const plan = bench({
    scenes: ['screen', 'water', 'sky'],
    width: 360,
    height: 240,
    optics: { water: { surface: 'water', incidenceDegrees: 52 }, sky: { sunAngleDegrees: 88 } },
  });
  let worked: Worked;
  beforeAll(async () => {
    worked = await work(plan);
  });

  test('the cuts lie within their ± of what light of that degree allows', () => {
    const { glareCut, skyDarkening } = worked.of('pl').polarizer!;
    for (const [scene, found] of [
      ['water', glareCut],
      ['sky', skyDarkening],
    ] as const) {
      const expected = expectedCut(scene, plan.polarization!, plan.filters[0]);
      expect(Math.abs(found!.value - expected)).toBeLessThan(1.6 * found!.u95 + 0.01);
      expect(found!.u95).toBeLessThan(0.15);
    }
  });

  test('each has its curve over the ring, and a sentence of what the surface allows', () => {
    const { glare, sky } = worked.of('pl').polarizer!;
    expect(glare!.points).toHaveLength(SEVEN.length);
    expect(glare!.sentence).toMatch(/stop/);
    expect(sky!.sentence).toMatch(/88°|stop/);
    expect(glare!.reference).not.toBe(glare!.patch);
  });

  test('without a reference nothing can be told, and that is said', async () => {
    const bare = await work(plan, (session) => {
      session.patches = session.patches.filter((patch) => patch.role !== 'reference');
    });
    expect(bare.codes).toContain('reference-missing');
    expect(bare.of('pl').polarizer!.glareCut).toBeUndefined();
  });
});

test('its strength is read in unpolarized light alone: a screen tells none', async () => {
  const screenOnly = await work(bench());
  expect(screenOnly.of('pl').density).toBeUndefined();
  expect(screenOnly.codes).toContain('unpolarized-missing');
  const withWall = await work(bench({ scenes: ['screen', 'flat'], benchRing: [0, 90] }));
  const { density, polarizer } = withWall.of('pl');
  expect(density!.stops.value).toBeCloseTo(1.5, 1);
  expect(polarizer!.ownShare!.value).toBeCloseTo(density!.stops.value - polarizer!.brightest!.value, 9);
});
