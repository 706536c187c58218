/** Ordinary scenes against simulated walks whose truth is known. */
import { measureSession } from '../measure';
import type { FilterReadings, Readings } from '../session/readings';
import { expectedCast } from '@/simulator/expected/color';
import { expectedCorner } from '@/simulator/expected/shading';
import { expectedKeptAtQuarter } from '@/simulator/expected/sharpness';
import { simulateSession } from '@/simulator/session';
import type { BenchPlan, TrueFilter } from '@/simulator/truth';

const ND: TrueFilter = {
  id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 }, stops: [3.12, 3, 2.9], blurPx: 1.6, cornerStops: 0.25,
}; // prettier-ignore
const DEEP: TrueFilter = {
  id: 'nd64', name: 'ND64', kind: 'nd', nominal: { ndFactor: 64 }, stops: [6.2, 6.1, 6.15], blurPx: 0.4, cornerStops: 0.1,
}; // prettier-ignore

const WALK: BenchPlan = {
  title: 'Walk',
  seed: 'walk-test',
  width: 400,
  height: 225,
  camera: { response: 'linear', bitDepth: 16, fullWell: 15000, readNoise: 3, falloffStops: 0.6, blurPx: 0.6 },
  lamps: { driftStops: 0.03 },
  protocol: 'matched',
  bareLevel: 0.75,
  filters: [ND, DEEP],
  repeats: 3,
  bareEvery: 2,
  startedAt: '2026-06-14T09:00:00Z',
  scenes: ['outdoor'],
  walk: {
    landscape: 'walk-test',
    driftPx: 10,
    shakePx: 2,
    turnDegrees: 0.4,
    zoom: 0.006,
    parallax: 0.5,
    wind: 1,
    walker: true,
  },
};

/** Less to look at, for what needs no exact figure. */
const SMALL: BenchPlan = { ...WALK, width: 288, height: 162, repeats: 2, filters: [ND] };

async function measured(plan: BenchPlan): Promise<Readings> {
  const { session, source } = simulateSession(plan);
  return measureSession(session, source, { createdAt: plan.startedAt, generator: 'test' });
}

function luminous([r, g, b]: readonly number[]): number {
  return -Math.log2(0.2126 * 2 ** -r + 0.7152 * 2 ** -g + 0.0722 * 2 ** -b);
}

const keptOf = (filter: TrueFilter, plan: BenchPlan) => expectedKeptAtQuarter(plan, filter);

describe('a walk with drift, shake, wind and somebody walking by', () => {
  let readings: Readings;
  const of = (id: string): FilterReadings => readings.filters.find(({ filter }) => filter === id)!;
  beforeAll(async () => {
    readings = await measured(WALK);
  });

  test.each([ND, DEEP])('strength within 0.02 stop, channels within 0.04, cast within 0.4: $name', (filter) => {
    const { density, cast } = of(filter.id);
    expect(Math.abs(density!.stops.value - luminous(filter.stops))).toBeLessThan(0.02);
    (['r', 'g', 'b'] as const).forEach((c, i) =>
      expect(Math.abs(density!.channels[c].value - filter.stops[i])).toBeLessThan(0.04),
    );
    const truth = expectedCast(filter.stops);
    expect(Math.abs(cast!.a.value - truth.a)).toBeLessThan(0.4);
    expect(Math.abs(cast!.b.value - truth.b)).toBeLessThan(0.4);
    expect(Math.abs(cast!.deltaE00.value - truth.deltaE00)).toBeLessThan(0.4);
  });

  test.each([ND, DEEP])('corners within 0.03 stop: $name', (filter) => {
    const { shading } = of(filter.id);
    expect(shading!.ordinary).toBe(true);
    const corners = Object.values(shading!.corners);
    expect(corners).toHaveLength(4);
    for (const corner of corners)
      expect(Math.abs(corner!.value - expectedCorner(WALK, filter.cornerStops!))).toBeLessThan(0.03);
  });

  test.each([ND, DEEP])('kept sharpness at a quarter cycle within 0.05: $name', (filter) => {
    const [sharpness] = of(filter.id).sharpness!;
    expect(sharpness.atFrequency).toBe(0.25);
    expect(sharpness).not.toHaveProperty('mtf50');
    expect(Math.abs(sharpness.retained.value - keptOf(filter, WALK))).toBeLessThan(0.05);
  });

  test('every picture is paired with bare ones before and after, and what moved is left out', () => {
    const [{ pairs, unpaired, columns, rows }] = of('nd8').ordinary!;
    expect(unpaired).toEqual([]);
    expect(new Set(pairs.map(({ bareTake }) => bareTake))).toEqual(new Set(['outdoor-bare-1', 'outdoor-bare-2']));
    for (const { cells, errorPx, agreement } of pairs) {
      expect(cells).toHaveLength(columns * rows);
      expect(errorPx).toBeLessThan(0.15);
      expect(agreement).toBeGreaterThan(0.6);
      // Water and leaves move: cells of them are left out.
      expect(cells).toContain('4');
      expect([...cells].filter((one) => one === '0').length).toBeGreaterThan(0.5 * cells.length);
    }
  });

  test('the light over the walk: a point a picture, flat within what drifted', () => {
    const [{ scene, points }] = readings.light!;
    expect(scene).toBe('outdoor');
    expect(points).toHaveLength(4 * WALK.repeats);
    for (const { stops } of points) expect(Math.abs(stops)).toBeLessThan(0.05);
  });
});

test('a cloud between the clips is named, and u95 covers it', async () => {
  const readings = await measured({ ...SMALL, lamps: { driftStops: 0, jump: { at: 0.5, stops: -0.6 } } });
  const [{ density }] = readings.filters;
  expect(readings.faults.map(({ code }) => code)).toContain('light-jumped');
  // A strength that may be wrong by more than 0.15 stop is withheld, with the reason.
  expect(density).toBeUndefined();
  const small = await measured({ ...SMALL, lamps: { driftStops: 0, jump: { at: 0.5, stops: -0.16 } } });
  const { value, u95 } = small.filters[0].density!.stops;
  expect(Math.abs(value - luminous(ND.stops))).toBeLessThan(u95);
  expect(u95).toBeGreaterThan(0.07);
});

test('a take of another place is left out with both pictures named, and others of the filter speak', async () => {
  const plan: BenchPlan = { ...SMALL, spoiled: [{ take: 'outdoor-nd8', elsewhere: true }] };
  const { filters } = await measured(plan);
  const fault = filters[0].faults.find(({ code }) => code === 'registration-failed')!;
  expect(fault.severity).toBe('error');
  expect(fault.message).toMatch(/outdoor-nd8-1\.tif on outdoor-bare-1-\d\.tif/);
  expect(filters[0].density).toBeUndefined();
  expect(filters[0].ordinary![0].unpaired).toHaveLength(2);
  const one = await measured({ ...plan, spoiled: [{ take: 'outdoor-nd8', index: 0, elsewhere: true }] });
  expect(one.filters[0].faults.map(({ code, severity }) => [code, severity])).toContainEqual([
    'registration-failed',
    'warning',
  ]);
  expect(Math.abs(one.filters[0].density!.stops.value - luminous(ND.stops))).toBeLessThan(0.02);
});

test('a picture blurred by a movement is told, and the sharpest speak', async () => {
  const plan: BenchPlan = {
    ...WALK,
    filters: [{ ...ND, blurPx: 0.3 }],
    repeats: 5,
    spoiled: [{ take: 'outdoor-nd8', index: 4, shakePx: [1.2, 0] }],
  };
  const [{ faults, sharpness }] = (await measured(plan)).filters;
  expect(faults.map(({ code }) => code)).toContain('soft-by-motion');
  expect(Math.abs(sharpness![0].retained.value - keptOf(plan.filters[0], plan))).toBeLessThan(0.05);
});

test('takes that are zoomed against each other, before a soft lens: kept sharpness stays the filter’s own', async () => {
  const plan: BenchPlan = {
    ...WALK,
    camera: { ...WALK.camera, blurPx: 0.9 },
    filters: [{ ...ND, blurPx: 1.2 }],
    walk: { ...WALK.walk, zoom: 0.02 },
  };
  const [{ sharpness }] = (await measured(plan)).filters;
  const { value, u95 } = sharpness![0].retained;
  expect(Math.abs(value - keptOf(plan.filters[0], plan))).toBeLessThan(Math.min(0.05, u95));
});

test('bare pictures that are clipped nearly everywhere give no figure, and the reason', async () => {
  // Overexposed bare, and a filter that brings all of it back into range.
  const { filters, faults } = await measured({ ...SMALL, protocol: 'locked', bareLevel: 12 });
  expect(filters[0].density).toBeUndefined();
  const errors = [...faults, ...filters[0].faults].filter(({ severity }) => severity === 'error');
  expect(new Set(errors.map(({ code }) => code))).toEqual(new Set(['clipped']));
  expect(errors.map(({ message }) => message).join(' ')).toMatch(
    /^outdoor-\S+: nearly all of it, or of bare, is clipped; it is left out\./,
  );
});

test('a polarizer gets no strength from an ordinary scene, but what it takes from each kind of area', async () => {
  const polarizer: TrueFilter = { id: 'pl', name: 'CPL', kind: 'polarizer', nominal: { stops: 1.5 }, stops: [1.5, 1.5, 1.5] }; // prettier-ignore
  const { filters } = await measured({ ...SMALL, filters: [polarizer] });
  const [{ density, ordinary, faults }] = filters;
  expect(density).toBeUndefined();
  expect(faults.map(({ code }) => code)).toContain('unpolarized-missing');
  const areas = ordinary![0].areas!;
  expect(areas.map(({ area }) => area)).toEqual(expect.arrayContaining(['sky', 'leaves', 'rest']));
  // The simulated light isn't polarized: every area loses the filter's own strength.
  for (const { area, stops } of areas)
    expect({ area, off: Math.abs(stops.value - 1.5) < 0.05 }).toEqual({ area, off: true });
});

test('of a polarized sky and water a polarizer takes what physics says, of the rest its own strength', async () => {
  const polarizer: TrueFilter = {
    id: 'pl', name: 'CPL', kind: 'polarizer', nominal: { stops: 1.5 }, stops: [1.5, 1.5, 1.5], polarizer: { axisDegrees: 90, extinctionStops: 10 },
  }; // prettier-ignore
  const walk = { ...SMALL.walk, polarized: { sky: 0.6, water: 0.4 } };
  const [{ ordinary }] = (await measured({ ...SMALL, filters: [polarizer], walk })).filters;
  // Crossed with light of a degree of polarization p an ideal polarizer passes (1 − p) of what it does of light without (Malus's law).
  const truths: Record<string, number> = {
    sky: 1.5 - Math.log2(1 - 0.6),
    water: 1.5 - Math.log2(1 - 0.4),
    leaves: 1.5,
  };
  const areas = ordinary![0].areas!;
  expect(areas.map(({ area }) => area)).toEqual(expect.arrayContaining(['sky', 'water', 'leaves', 'rest']));
  for (const { area, stops } of areas) {
    if (area in truths) expect(Math.abs(stops.value - truths[area])).toBeLessThan(0.1);
    // Water that mirrors the hills isn't blue: it is in the rest, which lies between.
    else expect([stops.value > 1.45, stops.value < truths.water]).toEqual([true, true]);
  }
});
