/** Corners and hot spots of small sessions before an even wall. */
import { plainFilter, smallBench, work, type Worked, QUIET_CAMERA } from '@/core/testing/worked';

const wall = smallBench({
  width: 300,
  height: 200,
  scenes: ['flat'],
  camera: QUIET_CAMERA,
  filters: [
    plainFilter('even', 2.5),
    plainFilter('dark', 3, { cornerStops: 0.4 }),
    plainFilter('spot', 4, { hotSpot: { stops: 0.3, radius: 0.06 } }),
  ],
});

describe('before an even wall', () => {
  let worked: Worked;
  beforeAll(async () => {
    worked = await work(wall);
  });

  test('corners lie within their ± of the squares’ closed form', () => {
    const rows = worked.compared('corner').filter((one) => one.filter !== 'spot');
    expect(rows).toHaveLength(8);
    for (const { error, u95 } of rows) {
      expect(Math.abs(error!)).toBeLessThan(1.5 * u95!);
      expect(u95).toBeLessThan(0.03);
      expect(u95).toBeGreaterThan(0.001);
    }
  });

  test('the lens’s own falloff is the bare picture’s, not the filter’s', () => {
    const { corners, worst } = worked.of('even').shading!;
    for (const corner of Object.values(corners)) expect(Math.abs(corner!.value)).toBeLessThan(0.02);
    expect(Math.abs(worst!.value)).toBeLessThan(0.02);
    // A corner lies at a radius of nearly one: 0.4 stop, a little less over its square.
    const dark = worked.of('dark').shading!;
    expect(dark.worst!.value).toBeLessThan(-0.3);
    expect(dark.worst!.value).toBeGreaterThan(-0.42);
    expect(Math.min(...Object.values(dark.corners).map((one) => one!.value))).toBe(dark.worst!.value);
  });

  test('four corners, named as they lie', () => {
    expect(Object.keys(worked.of('dark').shading!.corners).sort()).toEqual(
      ['topLeft', 'topRight', 'bottomLeft', 'bottomRight'].sort(),
    );
  });

  test('the map shows what the filter does over the field: symmetric, darkest outside', () => {
    const { map } = worked.of('dark').shading!;
    const { columns, rows, stops } = map;
    expect(stops).toHaveLength(columns * rows);
    const at = (x: number, y: number) => stops[y * columns + x];
    const middle = at(Math.floor(columns / 2), Math.floor(rows / 2));
    for (const [x, y] of [
      [0, 0],
      [columns - 1, 0],
      [0, rows - 1],
      [columns - 1, rows - 1],
    ]) {
      expect(at(x, y)).toBeLessThan(middle - 0.2);
      expect(Math.abs(at(x, y) - at(columns - 1 - x, rows - 1 - y))).toBeLessThan(0.08);
    }
  });

  test('a bright middle is a hot spot, as high as it was drawn above what lies around', () => {
    const { hotSpot } = worked.of('spot').shading!;
    expect(Math.abs(hotSpot!.value - 0.3)).toBeLessThan(0.02);
    expect(hotSpot!.u95).toBeLessThan(0.05);
    expect(worked.of('even').shading!.hotSpot!.value).toBeLessThan(0.05);
  });

  test('strengths are read off the wall’s middle too', () => {
    for (const id of ['even', 'dark']) {
      const { density } = worked.of(id);
      const truth = id === 'even' ? 2.5 : 3;
      expect(density!.stops.value).toBeGreaterThan(truth - 0.01);
      expect(density!.stops.value).toBeLessThan(truth + 0.12);
    }
  });
});

test('without a field patch there are no corners, and no fault either', async () => {
  const { of, codes } = await work(smallBench({ filters: [plainFilter('nd4', 2)] }));
  expect(of('nd4').shading).toBeUndefined();
  expect(codes).toEqual([]);
});

test('a noisy camera: the ± grows, and still holds', async () => {
  const camera = { ...wall.camera, fullWell: 3000, readNoise: 3 };
  const noisy = await work({ ...wall, camera, filters: wall.filters.slice(0, 2), seed: 'noisy wall' });
  for (const { error, u95 } of noisy.compared('corner')) {
    expect(u95).toBeGreaterThan(0.006);
    expect(Math.abs(error!)).toBeLessThan(1.5 * u95!);
  }
});

test('two pictures a take halve the variance of what is noise', async () => {
  const camera = { ...wall.camera, fullWell: 3000, readNoise: 3 };
  const filters = [wall.filters[1]];
  const mean = (rows: { u95: number | null }[]) => rows.reduce((sum, one) => sum + one.u95!, 0) / rows.length;
  const once = mean((await work({ ...wall, camera, filters, repeats: 1 })).compared('corner'));
  const often = mean((await work({ ...wall, camera, filters, repeats: 4 })).compared('corner'));
  expect(often).toBeLessThan(0.75 * once);
  expect(often).toBeGreaterThan(0.3 * once);
});
