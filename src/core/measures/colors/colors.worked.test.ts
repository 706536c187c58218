/** Colors of small charts after levelling: a filter that is neutral leaves hue and chroma, one with a cast doesn't. */
import { plainFilter, smallBench, work, QUIET_CAMERA } from '@/core/testing/worked';
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
