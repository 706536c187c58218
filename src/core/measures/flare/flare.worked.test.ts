/** Veil and ghosts of small sessions before a lamp. */
import { plainFilter, smallBench, work, QUIET_CAMERA } from '@/core/testing/worked';

const lamp = (more: Parameters<typeof plainFilter>[2] = {}) =>
  smallBench({
    scenes: ['chart', 'flare'],
    width: 360,
    height: 240,
    camera: QUIET_CAMERA,
    filters: [plainFilter('nd4', 2, more)],
  });

test.each([0, 0.004, 0.02])(
  'a veil of %d of a white surface is told as a share of the gray beside the black',
  async (veil) => {
    const { of } = await work(lamp({ veil }));
    const { veilPercent } = of('nd4').flare!;
    // The card before the lamp reflects a half: what lies on it lies on the black as well.
    const expected = 100 * ((0.004 + veil) / (0.5 + veil) - 0.004 / 0.5);
    expect(Math.abs(veilPercent.value - expected)).toBeLessThan(Math.max(0.15, 2.5 * veilPercent.u95));
    expect(veilPercent.u95).toBeLessThan(0.5);
    expect(veilPercent.u95).toBeGreaterThan(0);
  },
);

test('ghosts are found where they lie, and only in the filtered picture', async () => {
  const ghost = { x: 0.25, y: 0.7, level: 0.08, radius: 0.05 };
  const { of } = await work(lamp({ ghosts: [ghost] }));
  const { ghosts } = of('nd4').flare!;
  expect(ghosts.length).toBeGreaterThanOrEqual(1);
  const [found] = ghosts;
  expect(Math.abs(found.x - ghost.x)).toBeLessThan(0.06);
  expect(Math.abs(found.y - ghost.y)).toBeLessThan(0.06);
  expect(found.stops).toBeGreaterThan(0.1);
  const clean = await work(lamp());
  expect(clean.of('nd4').flare!.ghosts).toEqual([]);
});

test('black and gray are both asked for, and a flare scene', async () => {
  const noBlack = await work(lamp(), (session) => {
    session.patches = session.patches.filter((patch) => patch.role !== 'black');
  });
  expect(noBlack.of('nd4').flare).toBeUndefined();
  const noLamp = await work(smallBench({ filters: [plainFilter('nd4', 2)] }));
  expect(noLamp.of('nd4').flare).toBeUndefined();
});

test('the pictures and patches that it rests on are named', async () => {
  const { flare } = (await work(lamp())).of('nd4');
  expect(flare!.scene).toBe('flare');
  expect(Object.keys(flare!.patches!)).toEqual(['black', 'neutral']);
  expect(flare!.pictures?.bare).toMatch(/bare/);
  expect(flare!.pictures?.filtered).toMatch(/nd4/);
});

test('the strength is not read before the lamp where there is a chart', async () => {
  const { of, compared } = await work(lamp({ veil: 0.05 }));
  expect(of('nd4').density!.byScene.some((one) => one.scene === 'chart')).toBe(true);
  const [{ error, u95 }] = compared('strength', 'nd4');
  expect(Math.abs(error!)).toBeLessThan(1.5 * u95!);
});
