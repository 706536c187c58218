/** The main street from pictures to verdicts, on simulated sessions whose truth is known. */
import { measureSession } from './measure';
import { parseSession } from './session/parse';
import { readingsSchema, type Fault, type Readings } from './session/readings';
import type { Session } from './session/schema';
import type { OpenPicture, PictureSource } from './reading/source';
import type { Picture } from './reading/window';
import { UnreadablePicture } from './reading/facts';
import { planTakes } from '@/simulator/plan';
import { randomPlan, type BenchKind } from '@/simulator/randomBench';
import { simulateSession } from '@/simulator/session';
import { expectedCast, expectedLuminousStops } from '@/simulator/expected/color';
import { expectedMtf50 } from '@/simulator/expected/sharpness';
import type { BenchPlan } from '@/simulator/truth';

const OPTIONS = { createdAt: '2026-05-14T12:00:00Z', generator: 'test' };
const KIND: BenchKind = { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 1 };

/** A simulated session without its edges, for tests that look at strengths alone. */
function strengthOnly(plan: BenchPlan) {
  const simulated = simulateSession(plan);
  simulated.session.patches = simulated.session.patches.filter((patch) => patch.role !== 'edge');
  return simulated;
}

function measure(
  plan: BenchPlan,
  change: (session: Session) => void = () => undefined,
  wrap: (source: PictureSource) => PictureSource = (source) => source,
) {
  const { session, source } = strengthOnly(plan);
  change(session);
  return measureSession(session, wrap(source), OPTIONS);
}

/** Opens a picture whose windows are changed before anybody sees them. */
async function changed(source: PictureSource, file: string, change: (window: Picture) => void): Promise<OpenPicture> {
  const picture = await source.open(file);
  return {
    ...picture,
    async windows(rects) {
      const windows = await picture.windows(rects);
      windows.forEach(change);
      return windows;
    },
  };
}

function worstErrors(plan: BenchPlan, readings: Readings) {
  let [stops, cast] = [0, 0];
  for (const filter of plan.filters) {
    const found = readings.filters.find((one) => one.filter === filter.id)!;
    const truth = expectedLuminousStops(filter.stops);
    stops = Math.max(stops, Math.abs(found.density!.stops.value - truth));
    cast = Math.max(cast, Math.abs(found.cast!.deltaE00.value - expectedCast(filter.stops).deltaE00));
  }
  return { stops, cast };
}

const codes = (faults: Fault[]) => faults.map((one) => one.code);

describe('accuracy on benches of 12,000 electrons and 3 of read noise', () => {
  // Bounds of the project: stops, ΔE00.
  test.each<[string, BenchKind, number, number]>([
    ['matched, 16 bit', KIND, 0.005, 0.06],
    ['matched, 8 bit', { ...KIND, bitDepth: 8 }, 0.005, 0.06],
    ['automatic, 8 bit', { ...KIND, bitDepth: 8, protocol: 'automatic' }, 0.005, 0.06],
    ['drifting by 0.3 stop', { ...KIND, drift: 0.3 }, 0.01, 0.06],
    ['locked, 16 bit', { ...KIND, protocol: 'locked', repeats: 2 }, 0.008, 0.12],
  ])('%s', async (name, kind, stopsBound, castBound) => {
    for (const seed of ['a', 'b', 'c']) {
      const plan = randomPlan(`accuracy/${name}/${seed}`, kind);
      const worst = worstErrors(plan, await measure(plan));
      expect(worst.stops).toBeLessThan(stopsBound);
      expect(worst.cast).toBeLessThan(castBound);
    }
  });

  test('u95 holds the truth in most of 25 filters, and is not wide', async () => {
    let held = 0;
    for (let i = 0; i < 5; i++) {
      const plan = randomPlan(`held/${i}`, { ...KIND, repeats: 2 });
      const readings = await measure(plan);
      for (const filter of plan.filters) {
        const { stops } = readings.filters.find((one) => one.filter === filter.id)!.density!;
        if (Math.abs(stops.value - expectedLuminousStops(filter.stops)) <= stops.u95) held++;
        expect(stops.u95).toBeLessThan(0.003);
      }
    }
    // 95 % of 25 are 24; what is drawn is fixed, and the gate (coverage.test) looks at many more.
    expect(held).toBeGreaterThanOrEqual(23);
  });
});

describe('the readings', () => {
  const plan = randomPlan('readings', KIND);

  test('are what the schema says, and deterministic', async () => {
    const readings = await measure(plan);
    expect(readingsSchema.parse(JSON.parse(JSON.stringify(readings)))).toEqual(readings);
    expect(await measure(plan)).toEqual(readings);
  });

  test('of one filter alone are the same figures', async () => {
    const { session, source } = strengthOnly(plan);
    const all = await measureSession(session, source, OPTIONS);
    const one = await measureSession(session, source, { ...OPTIONS, filter: 'f2' });
    expect(one.filters).toHaveLength(1);
    expect(one.filters[0].density!.stops.value).toBeCloseTo(all.filters[2].density!.stops.value, 10);
  });

  test('come with progress, and stop when asked', async () => {
    const { session, source } = strengthOnly(plan);
    const seen: number[] = [];
    await measureSession(session, source, { ...OPTIONS, onProgress: ({ done, total }) => seen.push(done / total) });
    expect(seen[seen.length - 1]).toBe(1);
    const controller = new AbortController();
    controller.abort();
    await expect(measureSession(session, source, { ...OPTIONS, signal: controller.signal })).rejects.toThrow();
  });

  test('several neutral patches are averaged and listed', async () => {
    const readings = await measure(plan, (session) => {
      const [first] = session.patches;
      session.patches.push({ ...first, id: 'gray-2', rect: { ...first.rect, height: first.rect.height / 2 } });
    });
    expect(readings.filters[0].density!.byScene.map((one) => one.patch)).toEqual(['gray', 'gray-2']);
  });

  test('a flat scene serves where there is no neutral patch', async () => {
    const flat = { ...plan, scenes: ['flat' as const] };
    const readings = await measure(flat);
    expect(readings.filters[0].density!.byScene[0].role).toBe('field');
    expect(worstErrors(flat, readings).stops).toBeLessThan(0.02);
  });
});

describe('spoiled sessions', () => {
  const plan = randomPlan('spoiled', KIND);

  test('bare takes clipped in the patch: withheld, with the fault', async () => {
    const readings = await measure({ ...plan, bareLevel: 2.6 });
    for (const one of readings.filters) {
      expect(one.density).toBeUndefined();
      expect(codes(one.faults)).toContain('clipped');
      expect(one.verdict.label).toBe('withheld');
    }
  });

  test('one filter clipped: that one alone', async () => {
    const brighter = strengthOnly({
      ...plan,
      filters: plan.filters.map((filter, i) =>
        i === 1 ? { ...filter, stops: [0, 0, 0] as [number, number, number] } : filter,
      ),
      protocol: 'matched',
    });
    expect((await measureSession(brighter.session, brighter.source, OPTIONS)).filters[1].density).toBeDefined();
    const takes = planTakes(plan);
    const shot = takes.find((take) => take.filter?.id === 'f1')!;
    const readings = await measure(plan, undefined, (source) => ({
      ...source,
      open: (file) =>
        changed(source, file, ({ data }) => {
          if (file.startsWith(shot.id)) data.fill(65535);
        }),
    }));
    expect(codes(readings.filters[1].faults)).toEqual(['clipped']);
    expect(readings.filters[1].faults[0].takes).toEqual([shot.id]);
    expect(readings.filters[0].density).toBeDefined();
  });

  test('no bare take', async () => {
    const readings = await measure(
      plan,
      (session) => (session.takes = session.takes.filter((take) => take.filter !== null)),
    );
    expect(codes(readings.filters[0].faults)).toEqual(['bare-missing']);
  });

  test('an exposure that neither session nor file knows', async () => {
    const readings = await measure(
      plan,
      (session) => delete session.takes.find((take) => take.filter === 'f0')!.exposure.shutter,
    );
    expect(codes(readings.filters[0].faults)).toEqual(['exposure-missing']);
    expect(readings.filters[0].faults[0].message).toContain('shutter is neither in the session nor in the file');
    expect(readings.filters[1].density).toBeDefined();
  });

  test('with a variable aperture the f-number is needed', async () => {
    const readings = await measure(plan, (session) => {
      session.rig.aperture = 'variable';
      for (const take of session.takes) delete take.exposure.fNumber;
    });
    expect(codes(readings.faults)).toEqual([
      'exposure-missing',
      'exposure-missing',
      'exposure-missing',
      'exposure-missing',
    ]);
  });

  test('a damaged file is left out, the rest is measured', async () => {
    const readings = await measure(plan, undefined, (source) => ({
      ...source,
      async open(file) {
        if (file.includes('f3')) throw new UnreadablePicture(file, 'the file is cut short or damaged.');
        return source.open(file);
      },
    }));
    expect(codes(readings.filters[3].faults)).toEqual(['file-unreadable']);
    expect(readings.filters[3].faults[0].message).toContain('cut short');
    expect(readings.filters.filter((one) => one.density)).toHaveLength(4);
  });

  test('a picture of another size is left out', async () => {
    const readings = await measure(plan, undefined, (source) => ({
      ...source,
      async open(file) {
        const picture = await source.open(file);
        return file.includes('f3') ? { ...picture, facts: { ...picture.facts, width: 450 } } : picture;
      },
    }));
    expect(codes(readings.filters[3].faults)).toEqual(['size-differs']);
    expect(readings.filters[3].density).toBeUndefined();
  });

  test('light that jumps is named, and the ± covers it', async () => {
    const jumping = { ...plan, lamps: { driftStops: 0, jump: { at: 0.55, stops: 0.4 } } };
    const readings = await measure(jumping);
    expect(codes(readings.faults)).toContain('light-jumped');
    for (const filter of plan.filters) {
      const one = readings.filters.find((found) => found.filter === filter.id)!;
      if (!one.density) {
        // What is withheld for the light isn't called dark: more light would not help.
        expect(codes(one.faults)).toContain('light-jumped');
        expect(codes(one.faults)).not.toContain('too-dark');
        continue;
      }
      const error = Math.abs(one.density.stops.value - expectedLuminousStops(filter.stops));
      expect(error).toBeLessThanOrEqual(one.density.stops.u95);
    }
  });

  test('light that drifts is named', async () => {
    const readings = await measure({ ...plan, lamps: { driftStops: 0.3 } });
    expect(codes(readings.faults)).toContain('light-drifted');
  });

  test('strong filters that drown in the dark are withheld, not guessed', async () => {
    const dark = randomPlan('dark', { ...KIND, protocol: 'locked', bitDepth: 8 });
    dark.camera.response = 'linear';
    dark.filters = dark.filters.map((filter) => ({ ...filter, stops: [9.2, 9, 9.1] }));
    const readings = await measure(dark);
    for (const one of readings.filters) {
      expect(one.density).toBeUndefined();
      expect(codes(one.faults)).toContain('too-dark');
    }
  });

  test('a moved white balance withholds the cast, not the strength', async () => {
    const readings = await measure(
      plan,
      (session) => (session.takes.find((take) => take.filter === 'f0')!.whiteBalance = 'cloudy'),
    );
    expect(readings.filters[0].cast).toBeUndefined();
    expect(readings.filters[0].density).toBeDefined();
    expect(codes(readings.filters[0].faults)).toEqual(['white-balance-moved']);
  });

  test('an unknown response is told', async () => {
    const readings = await measure(plan, (session) => (session.rig.response = { kind: 'file' }));
    expect(codes(readings.faults)).toContain('response-unknown');
  });

  test('swapped takes are suspected', async () => {
    const labelled = {
      ...plan,
      filters: plan.filters.map((filter, i) => ({
        ...filter,
        nominal: { stops: i + 2 },
        stops: [i + 2, i + 2, i + 2] as [number, number, number],
      })),
    };
    const { session, source } = strengthOnly(labelled);
    const [a, b] = [
      session.takes.find((take) => take.filter === 'f1')!,
      session.takes.find((take) => take.filter === 'f2')!,
    ];
    [a.filter, b.filter] = [b.filter, a.filter];
    const readings = await measureSession(parseSession(session), source, OPTIONS);
    expect(codes(readings.filters[1].faults)).toContain('order-suspect');
    expect(readings.filters[1].faults.find((one) => one.code === 'order-suspect')!.takes).toEqual(
      expect.arrayContaining([a.id, b.id]),
    );
  });

  test('repeats far apart are asked about', async () => {
    const twice = randomPlan('repeats', { ...KIND, repeats: 3 });
    const readings = await measure(twice, undefined, (source) => ({
      ...source,
      open: (file) =>
        changed(source, file, (window) => {
          if (file === 'chart-f1-2.tif') window.data = window.data.map((code) => code * 0.9);
        }),
    }));
    expect(codes(readings.filters[1].faults)).toContain('repeats-disagree');
  });
});

test('a filter’s own primaries are converted to the session’s color space and said so', async () => {
  const plan = randomPlan('primaries', KIND);
  // Display P3 to XYZ: SMPTE EG 432-1 primaries, D65, as CSS Color 4 lists the matrix (section 10.10).
  const p3 = [
    0.4865709486482162, 0.26566769316909306, 0.1982172852343625, 0.2289745640697488, 0.6917385218365064,
    0.079286914093745, 0, 0.04511338185890264, 1.043944368900976,
  ];
  const readings = await measure(plan, undefined, (source) => ({
    ...source,
    async open(file) {
      const picture = await source.open(file);
      const encoding = { ...picture.facts.encoding, toXyz: [...p3], profile: 'Display P3' };
      return { ...picture, facts: { ...picture.facts, encoding } };
    },
  }));
  expect(readings.faults).toEqual([expect.objectContaining({ code: 'color-space-differs', severity: 'info' })]);
  // Saturation of P3 light in sRGB terms grows; a gray filter's strength stays.
  const truth = expectedCast(plan.filters[0].stops).deltaE00;
  expect(readings.filters[0].cast!.deltaE00.value).toBeGreaterThan(truth);
});

describe('the whole bench: sharpness, corners, hot spot, flare, recovered response', () => {
  const whole: BenchKind = { ...KIND, scenes: ['chart', 'flat', 'flare'], repeats: 2 };
  const complete = randomPlan('complete', whole);
  complete.filters = complete.filters.slice(0, 3).map((filter) => ({ ...filter, blurPx: 0, cornerStops: 0 }));
  complete.filters[0] = { ...complete.filters[0], blurPx: 0.7, cornerStops: 0.4 };
  complete.filters[1] = { ...complete.filters[1], hotSpot: { stops: Math.log2(1.12), radius: 0.06 } };
  complete.filters[2] = { ...complete.filters[2], veil: 0.01, ghosts: [{ x: 0.3, y: 0.7, level: 0.05, radius: 0.03 }] };
  let readings: Readings;
  beforeAll(async () => {
    const { session, source } = simulateSession(complete);
    readings = await measureSession(session, source, OPTIONS);
  }, 600_000);

  test('sharpness kept at every edge, to 0.05', () => {
    const truth = expectedMtf50(Math.hypot(0.6, 0.7)) / expectedMtf50(0.6);
    expect(readings.filters[0].sharpness).toHaveLength(12);
    for (const edge of readings.filters[0].sharpness!) expect(Math.abs(edge.retained.value - truth)).toBeLessThan(0.05);
    for (const edge of readings.filters[1].sharpness!) expect(Math.abs(edge.retained.value - 1)).toBeLessThan(0.05);
    expect(readings.filters[0].verdict.sharpness).toBe('soft');
  });

  test('corners to 0.005 stop, the lens’s own falloff left out', () => {
    // r⁴ averaged over the corner square, less that over the center square (nearly nothing).
    const side = 60;
    let mean = 0;
    for (let y = 0; y < side; y++)
      for (let x = 0; x < side; x++)
        mean += (((x + 0.5 - 600) ** 2 + (y + 0.5 - 400) ** 2) / (600 ** 2 + 400 ** 2)) ** 2 / side ** 2;
    for (const corner of Object.values(readings.filters[0].shading!.corners))
      expect(Math.abs(corner!.value + 0.4 * mean)).toBeLessThan(0.005);
    for (const corner of Object.values(readings.filters[1].shading!.corners))
      // The center square holds the spot, less what its edges lose, so corners come out darker by nearly its height.
      expect(Math.abs(corner!.value + 0.86 * Math.log2(1.12))).toBeLessThan(0.012);
    expect(readings.filters[0].shading!.hotSpot!.value).toBe(0);
  });

  test('a hot spot of 12 % is found within 0.01 stop and named', () => {
    // The map is normalised over the center square, so the spot's height is what stands above the plateau around it.
    expect(Math.abs(readings.filters[1].shading!.hotSpot!.value - Math.log2(1.12))).toBeLessThan(0.01);
    expect(readings.filters[1].verdict.hotSpot).toContain('hot spot');
  });

  test('veil and ghosts', () => {
    const { veilPercent, ghosts } = readings.filters[2].flare!;
    // Black 0.004 and neutral 0.5 under 0.002 of the lens's own and 0.01 of the filter's stray light.
    // The card stands where the lens has fallen off, which darkens it and not the trap.
    const falloff = 2 ** (complete.camera.falloffStops * (((0.78 - 0.5) * 1200) ** 2 / (600 ** 2 + 400 ** 2)));
    const truth = 100 * falloff * (0.016 / 0.512 - 0.006 / 0.502);
    expect(Math.abs(veilPercent.value - truth)).toBeLessThan(0.15);
    expect(ghosts[0].x).toBeCloseTo(0.3, 1);
    expect(ghosts[0].y).toBeCloseTo(0.7, 1);
    expect(Math.abs(readings.filters[0].flare!.veilPercent.value)).toBeLessThan(0.1);
    expect(readings.filters[0].flare!.ghosts).toEqual([]);
  });

  test('an S-shaped response is recovered from an eight-step bracket', async () => {
    const plan = randomPlan('bracket', { ...KIND, protocol: 'automatic', bitDepth: 8, bracket: true, repeats: 2 });
    const { session, source } = strengthOnly(plan);
    const found = await measureSession(session, source, OPTIONS);
    expect(found.response).toMatchObject({ kind: 'bracket', residualStops: expect.any(Number) });
    const worst = worstErrors(plan, found);
    expect(worst.stops).toBeLessThan(0.004);
    expect(worst.cast).toBeLessThan(0.1);
  }, 600_000);

  test('a response that does not fit the files is told by the bracket, with its size', async () => {
    const plan = { ...randomPlan('misfit', { ...KIND, bitDepth: 8 }), bracket: 6 };
    const choose = (kind: 'srgb' | 'bt709' | 'linear') => measure(plan, (session) => (session.rig.response = { kind }));
    const right = plan.camera.response as 'srgb' | 'bt709';
    expect(codes((await choose(right)).faults)).not.toContain('response-misfit');
    const wrong = await choose('linear');
    expect(wrong.faults.find((one) => one.code === 'response-misfit')!.message).toMatch(/[1-9]\.\d\d stop different/);
  }, 600_000);

  test('a bracket that isn’t there is told', async () => {
    const found = await measure(
      randomPlan('no bracket', KIND),
      (session) => (session.rig.response = { kind: 'bracket' }),
    );
    expect(codes(found.faults)).toContain('response-unknown');
  }, 600_000);
});
