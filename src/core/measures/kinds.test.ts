/** Polarizers, variable and graduated filters end to end: simulated sessions whose truth is known, and sessions that are spoiled. */
import { previewOf } from '../laying/preview';
import { expectedLuminousStops } from '@/simulator/expected/color';
import { expectedMarkStops, expectedUnevenness } from '@/simulator/expected/marks';
import { expectedCut, expectedSweep } from '@/simulator/expected/polarizer';
import { degreeAt } from '@/simulator/polarized';
import { randomKinds } from '@/simulator/randomKinds';
import { simulateSession } from '@/simulator/session';
import type { BenchPlan, TrueFilter } from '@/simulator/truth';
import { measureSession } from '../measure';
import { readingsSchema, type FilterReadings, type Readings } from '../session/readings';
import type { Session } from '../session/schema';

const OPTIONS = { createdAt: '2026-05-14T12:00:00Z', generator: 'test' };

/** Degrees between two ring angles, which come round at 180°. */
const ringApart = (a: number, b: number) => Math.abs(a - b - 180 * Math.round((a - b) / 180));

const SEVEN = [5, 31, 57, 83, 109, 135, 161];

function benchOf(bitDepth: 8 | 16): BenchPlan {
  const plan = randomKinds(`kinds test ${bitDepth}`, bitDepth, 0.2);
  const [polarizer, variable, graduated] = plan.filters;
  const filters: TrueFilter[] = [
    { ...polarizer, stops: [1.52, 1.48, 1.5], polarizer: { axisDegrees: 4, extinctionStops: 7 } },
    {
      ...variable,
      variable: { ...variable.variable!, cross: { from: 2, stopsPerMark: 0.15, axisDegrees: 45 }, backlashStops: 0.08 },
    },
    graduated,
  ];
  return {
    ...plan,
    width: 600,
    height: 400,
    filters,
    repeats: 1,
    protocol: 'matched',
    scenes: ['chart', 'flat', 'screen', 'water', 'sky'],
    sweep: SEVEN,
    benchRing: [0, 90],
    polarization: { lightDegrees: 20, degree: 0.8, bench: 0.06 },
    optics: { water: { surface: 'water', incidenceDegrees: 52 }, sky: { sunAngleDegrees: 88 } },
  };
}

const of = (readings: Readings, id: string) => readings.filters.find((one) => one.filter === id)!;

/** The bounds asked of 16-bit stills; 8-bit ones may be off by twice as much. */
describe.each([
  [16, 1],
  [8, 2],
] as const)('%i-bit stills while the light drifts by 0.2 stop', (bitDepth, factor) => {
  const plan = benchOf(bitDepth);
  const [polarizer, variable, graduated] = plan.filters;
  let readings: Readings;
  let session: Session;
  beforeAll(async () => {
    const simulated = simulateSession(plan);
    session = simulated.session;
    readings = await measureSession(session, simulated.source, OPTIONS);
  }, 600_000);
  const within = (found: { value: number } | undefined, truth: number, bound: number) =>
    expect(Math.abs(found!.value - truth)).toBeLessThan(factor * bound);

  test('the readings keep to their schema', () => {
    expect(readingsSchema.safeParse(JSON.parse(JSON.stringify(readings))).error).toBeUndefined();
  });

  test('brightest to 0.01, darkest and extinction to 0.03 stop, axis to 0.2°', () => {
    const found = of(readings, 'pl').polarizer!;
    const { brightest, darkest } = expectedSweep(plan.polarization!, polarizer);
    within(found.brightest, brightest, 0.01);
    within(found.darkest, darkest, 0.03);
    within(found.extinctionStops, 7, 0.03);
    expect(ringApart(found.axisDegrees!.value, 24)).toBeLessThan(factor * 0.2);
    within(found.markOffsetDegrees, 4, 0.2);
    expect(found.sweep!.sentence).toContain('4.0° off');
    expect(found.sweep!.points).toHaveLength(SEVEN.length);
  });

  test('glare cut and sky darkening to 0.01 stop, with what the surface allows', () => {
    const found = of(readings, 'pl').polarizer!;
    within(found.glareCut, expectedCut('water', plan.polarization!, polarizer), 0.01);
    within(found.skyDarkening, expectedCut('sky', plan.polarization!, polarizer), 0.01);
    expect(found.sky!.patch).toBe('sky-across');
    expect(found.glare!.sentence).toContain('53°');
    expect(found.sky!.sentence).toContain('88°');
  });

  test('its strength comes from chart and wall alone, the lamps’ own polarization averaged out and told', () => {
    const found = of(readings, 'pl');
    within(found.density!.stops, expectedLuminousStops(polarizer.stops), 0.005);
    expect(found.density!.byScene.map((one) => one.scene).sort()).toEqual(['chart', 'flat']);
    expect(found.faults.map((one) => one.code)).toContain('light-polarized');
    within(found.polarizer!.ownShare, 1 - Math.log2(1 + 2 ** -7), 0.01);
  });

  test('leaves get more color than their darkening explains, paint that doesn’t shine none', () => {
    const [leaves, paint] = of(readings, 'pl').colors!;
    expect(leaves.chromaRatio.value).toBeGreaterThan(1.1);
    expect(leaves.asShotRatio).toBeLessThan(leaves.chromaRatio.value);
    expect(Math.abs(paint.chromaRatio.value - 1)).toBeLessThan(0.03);
    within(paint.contrastStops, 0, 0.02);
  });

  test('marks to 0.005, unevenness to 0.01 stop, backlash told', () => {
    const found = of(readings, 'vnd');
    expect(found.density).toBeUndefined();
    // Marks that were approached from both sides lie between the two: the first and last were not.
    const [first, , , last] = found.marks!;
    within(first.stops, expectedMarkStops(plan, variable, 1) + 0.08 / 2, 0.005);
    within(last.stops, expectedMarkStops(plan, variable, 4), 0.005);
    for (const mark of found.marks!) within(mark.unevenness, expectedUnevenness(plan, variable, mark.mark), 0.01);
    within(found.variable!.hysteresis, 0.08, 0.005);
    expect(found.variable!.crossBegins!.mark).toBeGreaterThan(2);
    expect(found.verdict.sentence).toContain('It goes from');
  });

  test('graduation: stops to 0.005, midline to 0.002, width to 0.005, tilt to 0.2°', () => {
    const { denseStops, midline, width, angleDegrees } = graduated.graduation!;
    const found = of(readings, 'grad').graduation!;
    within(found.clearStops, 0.03, 0.005);
    within(found.denseStops, denseStops[0], 0.005);
    within(found.midline, midline, 0.002);
    within(found.transitionWidth, width, 0.005);
    const turned = found.angleDegrees.value - angleDegrees;
    within({ value: turned - 360 * Math.round(turned / 360) }, 0, 0.2);
    expect(of(readings, 'grad').shading).toBeUndefined();
  });
});

describe('sweeps that are spoiled', () => {
  const plan: BenchPlan = {
    ...benchOf(16),
    scenes: ['chart', 'screen'],
    filters: [benchOf(16).filters[0]],
    sweep: SEVEN,
  };
  const measure = async (change: (session: Session) => void): Promise<FilterReadings> => {
    const { session, source } = simulateSession(plan);
    session.patches = session.patches.filter((patch) => patch.role !== 'edge');
    change(session);
    return of(await measureSession(session, source, OPTIONS), 'pl');
  };
  const sweepTakes = (session: Session) => session.takes.filter((take) => take.role === 'sweep');

  test('an angle noted wrongly is asked about and left out', async () => {
    const found = await measure((session) => {
      sweepTakes(session)[2].setting!.ringDegrees = 85;
    });
    const [fault] = found.faults.filter((one) => one.code === 'ring-angle-doubtful');
    expect(fault.takes).toEqual(['screen-pl-r57']);
    expect(fault.angles).toContainEqual(expect.closeTo(57, 0));
    expect(ringApart(found.polarizer!.axisDegrees!.value, 24)).toBeLessThan(0.2);
  });

  test('a missing angle is found from the fit', async () => {
    const found = await measure((session) => {
      delete sweepTakes(session)[4].setting;
    });
    const [fault] = found.faults.filter((one) => one.code === 'ring-angle-missing');
    expect(fault.angles).toContainEqual(expect.closeTo(109, 0));
    expect(found.polarizer!.sweep!.points.filter((one) => one.degrees === null)).toHaveLength(1);
  });

  test('what it does to water and sky is not taken for a camera that moved', async () => {
    const { session, source } = simulateSession({ ...plan, scenes: ['water', 'sky'], sweep: [5, 65, 125] }, previewOf);
    const found = of(await measureSession(session, source, OPTIONS), 'pl');
    expect(found.faults.filter((one) => one.code === 'view-moved' || one.code === 'registration-failed')).toEqual([]);
    const truth = (scene: 'water' | 'sky') => expectedCut(scene, plan.polarization!, plan.filters[0]);
    expect(Math.abs(found.polarizer!.glareCut!.value - truth('water'))).toBeLessThan(0.01);
    expect(Math.abs(found.polarizer!.skyDarkening!.value - truth('sky'))).toBeLessThan(0.01);
  });

  test('a camera that turns about gives darkening by heading, with the sun beside it', async () => {
    const turn = { sun: { azimuth: 200, altitude: 35 }, altitude: 15, clarity: 0.8, pictures: 13 };
    const { session, source } = simulateSession({
      ...plan,
      scenes: ['turn'],
      turn,
      optics: { turn: { place: { latitude: 47, longitude: 8 }, view: { azimuth: 0, altitude: 15 } } },
    });
    const found = of(await measureSession(session, source, OPTIONS), 'pl').polarizer!.turn!;
    expect(found.points).toHaveLength(13);
    const leak = 2 ** -7;
    for (const { heading, stops } of found.points) {
      const degree = degreeAt(turn, heading);
      const truth = -Math.log2(1 - degree + (degree * 2 * leak) / (1 + leak));
      expect(Math.abs(stops.value - truth)).toBeLessThan(0.01);
    }
    expect(found.sun!.altitude).toBeGreaterThan(20);
    expect(found.expected!.length).toBeGreaterThan(30);
    expect(found.sentence).toMatch(/darkens most at \d+°/);
  });

  test('where a lost picture leaves too few angles for the turn, the largest of the rest is no figure', async () => {
    const { session, source } = simulateSession({ ...plan, scenes: ['water', 'sky'], sweep: [10, 60, 120] });
    const lost = session.takes.find((take) => take.scene === 'water' && take.setting?.ringDegrees === 120)!;
    lost.exposure = { ...lost.exposure, shutter: undefined };
    const found = of(await measureSession(session, source, OPTIONS), 'pl');
    expect(found.polarizer?.glareCut).toBeUndefined();
    expect(found.faults.find((one) => one.code === 'ring-angles-lost')?.message).toContain(
      'of its 3 ring angles only 2',
    );
    expect(found.polarizer?.skyDarkening).toBeDefined();
  });

  test('of several sky places the one that can’t be told may darken most: no other stands in for it', async () => {
    const { session, source } = simulateSession({ ...plan, scenes: ['sky'], sweep: [10, 60, 120] });
    const sky = session.patches.find((patch) => patch.role === 'sky')!;
    const measured = async () => of(await measureSession(session, source, OPTIONS), 'pl');
    session.patches.push({ ...sky, id: 'second sky' });
    expect((await measured()).polarizer?.skyDarkening).toBeDefined();
    const lost = session.takes.find((take) => take.setting?.ringDegrees === 120)!;
    lost.exposure = { ...lost.exposure, shutter: undefined };
    const found = await measured();
    expect(found.polarizer?.skyDarkening).toBeUndefined();
    expect(found.faults.map((one) => one.code)).toContain('ring-angles-lost');
  });

  test('two angles that were all that was shot give the larger of them', async () => {
    const { session, source } = simulateSession({ ...plan, scenes: ['water'], sweep: [10, 100] });
    const found = of(await measureSession(session, source, OPTIONS), 'pl');
    expect(found.polarizer?.glareCut).toBeDefined();
    expect(found.faults.map((one) => one.code)).not.toContain('ring-angles-lost');
  });

  test('without a reference beside the glare nothing is made up', async () => {
    const { session, source } = simulateSession({ ...plan, scenes: ['water'] });
    session.patches = session.patches.filter((patch) => patch.role !== 'reference');
    const found = of(await measureSession(session, source, OPTIONS), 'pl');
    expect(found.polarizer?.glareCut).toBeUndefined();
    expect(found.faults.map((one) => one.code)).toContain('reference-missing');
  });

  test('two angles that aren’t crossed leave the lamps’ polarization in the ±', async () => {
    const { session, source } = simulateSession({
      ...plan,
      scenes: ['chart'],
      benchRing: [20, 70],
      polarization: { ...plan.polarization!, bench: 0.03 },
    });
    session.patches = session.patches.filter((patch) => patch.role === 'neutral');
    const found = of(await measureSession(session, source, OPTIONS), 'pl');
    const truth = expectedLuminousStops(plan.filters[0].stops);
    expect(Math.abs(found.density!.stops.value - truth)).toBeLessThan(found.density!.stops.u95);
    expect(found.faults.find((one) => one.code === 'light-polarized')!.message).toContain('don’t lie 90° apart');
  });

  test('two angles are too few, and it is said', async () => {
    const found = await measure((session) => {
      const dropped = new Set(sweepTakes(session).slice(2));
      session.takes = session.takes.filter((take) => !dropped.has(take));
    });
    expect(found.polarizer).toBeUndefined();
    expect(found.faults.map((one) => one.code)).toContain('sweep-too-short');
  });

  test('a polarizer seen before the screen only has no strength', async () => {
    const found = await measure((session) => {
      session.takes = session.takes.filter((take) => take.scene !== 'chart' || take.filter === null);
    });
    expect(found.density).toBeUndefined();
    expect(found.faults.map((one) => one.code)).toContain('unpolarized-missing');
  });
});

describe('marks and lines that can’t be told', () => {
  const [, variable, graduated] = benchOf(16).filters;
  const measure = async (filter: TrueFilter, change: (session: Session) => void) => {
    const { session, source } = simulateSession({ ...benchOf(16), scenes: ['chart', 'flat'], filters: [filter] });
    session.patches = session.patches.filter((patch) => patch.role !== 'edge');
    change(session);
    return measureSession(session, source, OPTIONS);
  };

  test('a graduated filter without an even wall has no strength of its middle', async () => {
    const found = of(
      await measure(graduated, (session) => {
        session.patches = session.patches.filter((patch) => patch.role !== 'field');
      }),
      'grad',
    );
    expect(found.density).toBeUndefined();
    expect(found.faults.map((one) => one.code)).toContain('field-missing');
  });

  test('a mark that isn’t noted is named; with a moved white balance no mark has a cast', async () => {
    const found = of(
      await measure(variable, (session) => {
        const takes = session.takes.filter((take) => take.filter === 'vnd');
        delete takes[0].setting;
        for (const take of takes) take.whiteBalance = 'shade';
      }),
      'vnd',
    );
    expect(found.faults.map((one) => one.code)).toEqual(
      expect.arrayContaining(['mark-missing', 'white-balance-moved']),
    );
    expect(found.marks!.every((mark) => mark.cast === undefined)).toBe(true);
    expect(found.density).toBeUndefined();
  });

  test('marks read on a gray card use its middle', async () => {
    const found = of(
      await measure(variable, (session) => {
        session.patches = session.patches.filter((patch) => patch.role === 'neutral');
      }),
      'vnd',
    );
    const [first] = found.marks!;
    expect(Math.abs(first.stops.value - expectedMarkStops(benchOf(16), variable, 1) - 0.04)).toBeLessThan(0.005);
    expect(first.unevenness).toBeUndefined();
  });
});
