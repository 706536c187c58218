/** Strengths of small sessions: what is found lies at the truth, and each line of the ± is what it is reckoned from. */
import { expectedLuminousStops } from '@/simulator/expected/color';
import { noiseOfLevel, plainFilter, smallBench, work, type Worked } from '@/core/testing/worked';
import type { BudgetLine } from '../../session/readings';

const GRAY = 0.45;
const lineOf = ({ of }: Worked, filter: string, source: string): BudgetLine | undefined =>
  of(filter).density!.budget.find((line) => line.source === source);

/** Pixels of the gray card's patch. */
function grayPixels({ session }: Worked, { width, height }: { width: number; height: number }): number {
  const { rect } = session.patches.find((patch) => patch.role === 'neutral')!;
  return Math.round(rect.width * width) * Math.round(rect.height * height);
}

describe('a steady bench', () => {
  const plan = smallBench({
    filters: [plainFilter('nd4', 2.1), plainFilter('blue', 3, { stops: [3.3, 3.05, 2.8], nominal: { stops: 3 } })],
  });
  let worked: Worked;
  beforeAll(async () => {
    worked = await work(plan);
  });

  test('strengths and channels lie within their ± of the truth', () => {
    for (const { error, u95 } of [...worked.compared('strength'), ...worked.compared('channel')]) {
      expect(u95).toBeGreaterThan(0);
      expect(u95).toBeLessThan(0.006);
      expect(Math.abs(error!)).toBeLessThan(1.3 * u95!);
    }
  });

  test('luminous stops are of the light, weighted by luminance, not of the channels’ mean', () => {
    const { density } = worked.of('blue');
    expect(density!.stops.value).toBeCloseTo(expectedLuminousStops([3.3, 3.05, 2.8]), 2);
    expect(density!.channels.r.value).toBeCloseTo(3.3, 2);
    expect(density!.channels.g.value).toBeCloseTo(3.05, 2);
    expect(density!.channels.b.value).toBeCloseTo(2.8, 2);
    const { r, g, b } = density!.sensitivities!;
    expect(r + g + b).toBeCloseTo(1, 9);
    // Shares of the luminance that is left: 0.2126 · 2^−3.3 and so on.
    const parts = [0.2126 * 2 ** -3.3, 0.7152 * 2 ** -3.05, 0.0722 * 2 ** -2.8];
    const total = parts[0] + parts[1] + parts[2];
    expect([r, g, b]).toEqual(parts.map((part) => expect.closeTo(part / total, 2)));
  });

  test('the noise is that of its electrons', () => {
    const pixels = grayPixels(worked, plan);
    // Matched: filtered and bare are exposed alike; between two bare takes each of them weighs a half.
    const one = noiseOfLevel(plan.camera, GRAY * plan.bareLevel, pixels);
    const { channels, degreesOfFreedom } = lineOf(worked, 'nd4', 'noise')!;
    for (const channel of channels!) {
      expect(channel / (one * Math.sqrt(1 + 1 / 2))).toBeGreaterThan(0.8);
      expect(channel / (one * Math.sqrt(1 + 1 / 2))).toBeLessThan(1.35);
    }
    expect(degreesOfFreedom).toBeNull();
  });

  test('sixteen bits round next to nothing, nothing is cut off, marks are exact, repeats are few', () => {
    expect(lineOf(worked, 'nd4', 'rounding')?.share ?? 0).toBeLessThan(0.01);
    for (const source of ['dark cut-off', 'marks', 'response', 'places disagree'])
      expect(lineOf(worked, 'nd4', source)).toBeUndefined();
  });

  test('the label’s error, what it acts like, and its place', () => {
    const { density, nominalStops } = worked.of('nd4');
    expect(nominalStops).toBe(2);
    expect(density!.error!.value).toBeCloseTo(density!.stops.value - 2, 12);
    expect(density!.error!.u95).toBe(density!.stops.u95);
    expect(density!.actsLike).toEqual({ ndFactor: 4 });
    expect(density!.byScene).toEqual([
      {
        scene: 'chart',
        role: 'neutral',
        patch: 'gray',
        stops: expect.objectContaining({ value: density!.stops.value }),
      },
    ]);
    expect(density!.advice).toEqual(expect.any(String));
  });

  test('nothing is at fault', () => {
    expect(worked.codes).toEqual([]);
  });
});

test('repeats scatter as the lamp flickers, and are averaged', async () => {
  const flicker = 0.01;
  const worked = await work(
    smallBench({ lamps: { driftStops: 0, flickerStops: flicker }, repeats: 4, seed: 'flicker' }),
  );
  const { u, degreesOfFreedom } = lineOf(worked, 'nd4', 'repeats')!;
  // Four of the filter; four in each of two bare takes between which it stands.
  const expected = flicker * Math.sqrt(1 / 4 + 1 / 8);
  expect(u).toBeGreaterThan(0.6 * expected);
  expect(u).toBeLessThan(1.7 * expected);
  // Five takes of four pictures: three each.
  expect(degreesOfFreedom).toBeGreaterThan(8);
  expect(degreesOfFreedom).toBeLessThan(25);
  for (const { error, u95 } of worked.compared('strength')) expect(Math.abs(error!)).toBeLessThan(1.5 * u95!);
});

test('light that drifts evenly is taken out', async () => {
  const drifting = await work(smallBench({ lamps: { driftStops: 0.4 } }));
  for (const { error, u95 } of drifting.compared('strength')) {
    expect(Math.abs(error!)).toBeLessThan(1.2 * u95!);
    expect(u95).toBeLessThan(0.004);
  }
});

test('light that bends strays between bare takes: the ± grows with it, and holds', async () => {
  const filters = [1, 2, 3, 4].map((i) => plainFilter(`f${i}`, 1 + i / 2));
  const bent = (bendStops: number) =>
    work(smallBench({ filters, bareEvery: 2, lamps: { driftStops: 0, bendStops }, seed: 'bend' }));
  const [little, much] = [await bent(0.02), await bent(0.12)];
  for (const { id } of filters) {
    expect(lineOf(much, id, 'light drift')!.u).toBeGreaterThan(2 * (lineOf(little, id, 'light drift')?.u ?? 0));
    const [{ error, u95 }] = much.compared('strength', id);
    expect(Math.abs(error!)).toBeLessThan(1.3 * u95!);
    // Between two bare takes a bend of 0.12 stop over the session strays by hundredths.
    expect(u95).toBeLessThan(0.1);
  }
});

test('marks of a dial are known to 0.02 stop each, and cancel where exposures are the same', async () => {
  const marked = (session: Worked['session']) => {
    session.rig.shutterMarks = 'nominal';
  };
  const matched = await work(smallBench(), marked);
  const line = lineOf(matched, 'nd4', 'marks')!;
  expect(line.u).toBeCloseTo(0.02 * Math.SQRT2, 9);
  expect(matched.of('nd4').density!.stops.u95).toBeGreaterThan(2 * line.u);
  const locked = await work(smallBench({ protocol: 'locked' }), marked);
  expect(lineOf(locked, 'nd4', 'marks')).toBeUndefined();
});

test('eight bits round by a step’s twelfth, the darker the more', async () => {
  const camera = { ...smallBench().camera, bitDepth: 8 as const, fullWell: 1e7, readNoise: 1 };
  const worked = await work(smallBench({ camera, protocol: 'locked' }));
  const [light, dark] = [lineOf(worked, 'nd4', 'rounding')!, lineOf(worked, 'nd8', 'rounding')!];
  expect(light.u).toBeGreaterThan(0);
  expect(dark.u).toBeGreaterThan(1.3 * light.u);
  for (const { error, u95 } of worked.compared('strength')) expect(Math.abs(error!)).toBeLessThan(1.2 * u95!);
});

describe('what can’t be measured is told', () => {
  const takesOf = (session: Worked['session'], filter: string | null) =>
    session.takes.filter((take) => take.filter === filter);

  test('no bare take', async () => {
    const { codes, of } = await work(smallBench(), (session) => {
      session.takes = session.takes.filter((take) => take.filter !== null);
    });
    expect(codes).toContain('bare-missing');
    expect(of('nd4').density).toBeUndefined();
  });

  test('a filter without takes', async () => {
    const { of } = await work(smallBench(), (session) => {
      session.takes = session.takes.filter((take) => take.filter !== 'nd8');
    });
    expect(of('nd8').density).toBeUndefined();
    expect(of('nd4').density).toBeDefined();
  });

  test('a bare picture that is clipped', async () => {
    const { codes, of } = await work(smallBench({ bareLevel: 2.6 }));
    expect(codes).toContain('clipped');
    expect(of('nd4').density).toBeUndefined();
  });

  test('an exposure that nobody knows', async () => {
    const { of, codes } = await work(smallBench(), (session) => {
      for (const take of takesOf(session, 'nd4')) take.exposure = {};
    });
    expect(of('nd4').density).toBeUndefined();
    expect(codes.some((code) => code.includes('exposure'))).toBe(true);
  });

  test('places that disagree widen the ±', async () => {
    const { of } = await work(
      smallBench({
        filters: [plainFilter('nd4', 2.1, { cornerStops: 0.1 })],
        width: 360,
        height: 240,
        scenes: ['flat'],
      }),
      (session) => {
        session.patches = [
          { id: 'middle', scene: 'flat', role: 'neutral', rect: { x: 0.46, y: 0.4, width: 0.08, height: 0.2 } },
          { id: 'corner', scene: 'flat', role: 'neutral', rect: { x: 0.1, y: 0.15, width: 0.1, height: 0.2 } },
        ];
      },
    );
    expect(of('nd4').density!.budget.map((line) => line.source)).toContain('places disagree');
    expect(of('nd4').density!.byScene).toHaveLength(2);
  });
});

test('a strength less certain than 0.15 stop is withheld, with what makes it so', async () => {
  const camera = { ...smallBench().camera, fullWell: 30, readNoise: 3 };
  const { of, codes } = await work(
    smallBench({ camera, protocol: 'locked', filters: [plainFilter('nd64', 6)], width: 60, height: 40 }),
  );
  expect(of('nd64').density).toBeUndefined();
  expect(codes.length).toBeGreaterThan(0);
});
