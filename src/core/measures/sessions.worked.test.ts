/** Whole small sessions, protocol by protocol and camera by camera: every figure within its ±, every spoiled picture told. */
import { plainFilter, smallBench, work, type Worked } from '../testing/worked';
import type { BenchPlan } from '@/simulator/truth';

const CAMERA = smallBench().camera;
const holds = (worked: Worked, factor = 1.5) => {
  for (const measure of ['strength', 'channel', 'a*', 'b*', 'ΔE00'] as const)
    for (const { error, u95 } of worked.compared(measure)) {
      expect(error).not.toBeNull();
      expect(Math.abs(error!)).toBeLessThan(factor * u95! + (measure === 'ΔE00' ? 0.03 : 0.002));
    }
};
const colored = [plainFilter('warm', 2.4, { stops: [2.3, 2.4, 2.55] }), plainFilter('nd16', 4.05)];

describe.each(['matched', 'locked', 'automatic'] as const)('%s', (protocol) => {
  test.each([
    ['linear, 16 bits', 'linear', 16],
    ['sRGB, 16 bits', 'srgb', 16],
    ['BT.709, 8 bits', 'bt709', 8],
    ['HLG, 16 bits', 'hlg', 16],
    ['gamma 2.4, 16 bits', { gamma: 2.4 }, 16],
  ] as const)('%s', async (name, response, bitDepth) => {
    const worked = await work(
      smallBench({
        seed: `${protocol} ${name}`,
        protocol,
        camera: { ...CAMERA, fullWell: 40_000, response, bitDepth },
        filters: protocol === 'locked' ? colored.slice(0, 1) : colored,
        repeats: 2,
      }),
    );
    holds(worked);
    expect(worked.codes).toEqual([]);
  });
});

test('a curve that nobody knows is recovered from a bare bracket', async () => {
  const worked = await work(
    smallBench({
      camera: { ...CAMERA, fullWell: 40_000, response: 's-curve', bitDepth: 8 },
      bracket: 8,
      filters: colored,
      repeats: 2,
      width: 360,
      height: 240,
    }),
  );
  expect(worked.readings.response.kind).toBe('bracket');
  expect(worked.readings.response.residualStops).toBeLessThan(0.02);
  holds(worked, 2);
  expect(worked.of('nd16').density!.budget.map((line) => line.source)).toContain('response');
});

describe('spoiled pictures are left out or told', () => {
  const spoil = (spoiled: BenchPlan['spoiled'], more: Partial<BenchPlan> = {}) =>
    work(
      smallBench({ width: 480, height: 320, camera: { ...CAMERA, fullWell: 40_000 }, repeats: 3, spoiled, ...more }),
    );

  test('the lens cap was on', async () => {
    const { codes, of } = await spoil([{ take: 'chart-nd4', covered: true }]);
    expect(codes).toContain('too-dark');
    expect(of('nd4').density).toBeUndefined();
    expect(of('nd8').density).toBeDefined();
  });

  test('one repeat was exposed otherwise: the scatter is told and in the ±', async () => {
    const { codes, of, compared } = await spoil([{ take: 'chart-nd4', index: 1, exposureStops: 0.3 }]);
    expect(codes.some((code) => code === 'repeats-disagree' || code === 'exposure-moved')).toBe(true);
    expect(of('nd4').density?.stops.u95 ?? 1).toBeGreaterThan(0.02);
    expect(compared('strength', 'nd8')[0].error).not.toBeNull();
  });

  test('a few pixels of movement are followed', async () => {
    const worked = await spoil([{ take: 'chart-nd4', movedPx: [3, -2] }]);
    const [{ error, u95 }] = worked.compared('strength', 'nd4');
    expect(Math.abs(error!)).toBeLessThan(2 * u95!);
  });

  test('the lamps jumped in the middle', async () => {
    const filters = [2, 3, 4, 5].map((stops) => plainFilter(`nd${2 ** stops}`, stops + 0.05));
    const worked = await spoil([], { filters, bareEvery: 2, lamps: { driftStops: 0, jump: { at: 0.5, stops: 0.4 } } });
    expect(worked.codes).toContain('light-jumped');
    for (const { error, u95 } of worked.compared('strength')) if (error !== null) expect(Math.abs(error)).toBeLessThan(1.2 * u95!); // prettier-ignore
  });
});

test('the same plan gives the same figures, another draw of noise others', async () => {
  const [first, again, other] = [
    await work(smallBench()),
    await work(smallBench()),
    await work(smallBench({ seed: 'another' })),
  ];
  expect(again.readings).toEqual(first.readings);
  expect(other.of('nd4').density!.stops.value).not.toBe(first.of('nd4').density!.stops.value);
  expect(Math.abs(other.of('nd4').density!.stops.value - first.of('nd4').density!.stops.value)).toBeLessThan(0.005);
});
