/** Colors of small charts after levelling: a filter that is neutral leaves hue and chroma, one with a cast doesn't. */
import { plainFilter, smallBench, work, QUIET_CAMERA } from '@/core/testing/worked';
import { expectedSurface } from '@/simulator/expected/color';
import type { Session } from '../../session/schema';

/** A patch on the chart's color in a column of its upper row, as the demo's sessions place it. */
const withColors = (session: Session) => {
  const gray = session.patches.find((patch) => patch.role === 'neutral')!;
  session.patches = [
    gray,
    { id: 'red', scene: 'chart', role: 'color', rect: { x: 0.275, y: 0.11, width: 0.04, height: 0.06 } },
    { id: 'blue', scene: 'chart', role: 'color', rect: { x: 0.595, y: 0.11, width: 0.04, height: 0.06 } },
  ];
};
const chart = (stops: [number, number, number]) =>
  smallBench({
    width: 480,
    height: 320,
    camera: QUIET_CAMERA,
    filters: [plainFilter('f', 3, { stops })],
  });

test('a neutral filter leaves chroma and hue, however dark it is', async () => {
  const { of } = await work(chart([3, 3, 3]), withColors);
  const { colors } = of('f');
  expect(colors!.map((one) => one.patch)).toEqual(['red', 'blue']);
  for (const one of colors!) {
    expect(Math.abs(one.chromaRatio!.value - 1)).toBeLessThan(Math.max(0.02, 1.6 * one.chromaRatio!.u95));
    expect(one.chromaRatio!.u95).toBeLessThan(0.06);
    if (one.hueShiftDegrees) expect(Math.abs(one.hueShiftDegrees.value)).toBeLessThan(1.5);
  }
});

/** Linear reflectances of the stand-in chart's red and blue paint. */
const PAINT = { red: [0.5, 0.12, 0.1], blue: [0.12, 0.14, 0.42] } as const;

test.each<[string, [number, number, number]]>([
  ['a warm filter', [2.7, 3, 3.3]],
  ['a cool one', [3.25, 3, 2.8]],
  ['a green one', [3.2, 2.9, 3.15]],
  ['a neutral one', [3, 3, 3]],
])('%s: chroma, hue and contrast as a color library has them, within their ±', async (_, stops) => {
  const { of } = await work(chart(stops), withColors);
  const { colors } = of('f');
  for (const [i, name] of (['red', 'blue'] as const).entries()) {
    const truth = expectedSurface(PAINT[name], stops);
    const { chromaRatio, hueShiftDegrees, contrastStops, asShotRatio } = colors![i];
    const within = (found: { value: number; u95: number }, wanted: number, floor: number) =>
      expect([name, wanted, found, Math.abs(found.value - wanted) <= 1.3 * found.u95 + floor]).toEqual([
        name,
        wanted,
        found,
        true,
      ]);
    within(chromaRatio!, truth.chromaRatio, 0.002);
    within(hueShiftDegrees!, truth.hueShiftDegrees, 0.1);
    within(contrastStops!, truth.contrastStops, 0.002);
    expect(Math.abs(asShotRatio! - truth.asShotRatio)).toBeLessThan(0.02);
    // A ± that says nothing would hold anything.
    expect(chromaRatio!.u95).toBeLessThan(0.06);
    expect(chromaRatio!.u95).toBeGreaterThan(0.001);
    expect(hueShiftDegrees!.u95).toBeLessThan(3);
    expect(contrastStops!.u95).toBeLessThan(0.05);
    expect(contrastStops!.u95).toBeGreaterThan(0.0005);
  }
});

test('noise of the camera is in the ±: four times the light halves it', async () => {
  const u95Of = async (fullWell: number) => {
    const { of } = await work(smallBench({ width: 480, height: 320, camera: { ...QUIET_CAMERA, readNoise: 0, fullWell }, filters: [plainFilter('f', 3)] }), withColors); // prettier-ignore
    return of('f').colors!.map((one) => one.contrastStops!.u95);
  };
  const [noisy, quiet] = [await u95Of(4000), await u95Of(16_000)];
  noisy.forEach((one, i) => {
    expect(one / quiet[i]).toBeGreaterThan(1.6);
    expect(one / quiet[i]).toBeLessThan(2.5);
  });
});

test('without a gray place the filter’s strength elsewhere levels; without either nothing is told', async () => {
  const noGray = (session: Session) => {
    withColors(session);
    session.patches = session.patches.filter((patch) => patch.role !== 'neutral');
  };
  const { of } = await work(chart([3, 3, 3]), noGray);
  expect(of('f').colors ?? []).toEqual([]);
});

test('a red filter makes reds stronger and blues weaker', async () => {
  const { of } = await work(chart([2.6, 3, 3.2]), withColors);
  const [red, blue] = of('f').colors!;
  expect(red.chromaRatio!.value).toBeGreaterThan(1.02);
  expect(blue.chromaRatio!.value).toBeLessThan(red.chromaRatio!.value);
});

test('a gray patch has no hue worth the name', async () => {
  const { of } = await work(chart([3, 3, 3]), (session) => {
    const gray = session.patches.find((patch) => patch.role === 'neutral')!;
    session.patches = [gray, { ...gray, id: 'as-color', role: 'color' }];
  });
  expect(of('f').colors ?? []).toEqual([]);
});
