/** Sharpness kept on small charts: closed forms of Gaussian blurs. */
import { expectedMtf50 } from '@/simulator/expected/sharpness';
import { plainFilter, smallBench, work, type Worked, QUIET_CAMERA } from '@/core/testing/worked';

/** Blurs are drawn in pixels of a frame 1200 wide. */
const WIDTH = 600;
const chart = smallBench({
  width: WIDTH,
  height: 400,
  camera: { ...QUIET_CAMERA, blurPx: 0.6 },
  filters: [plainFilter('clean', 2), plainFilter('soft', 2.5, { blurPx: 1.4 })],
});

describe('edges of a chart', () => {
  let worked: Worked;
  beforeAll(async () => {
    worked = await work(chart, () => undefined, true);
  });
  const edgesOf = (filter: string) => worked.of(filter).sharpness!.filter((one) => one.mtf50 !== undefined);

  test('each edge’s share that is kept lies within its ± of the closed form', () => {
    const rows = worked.compared('kept');
    expect(rows.length).toBeGreaterThan(6);
    const held = rows.filter(({ error, u95 }) => Math.abs(error!) <= u95!);
    // 95 % are asked of many; of these few nine in ten.
    expect(held.length / rows.length).toBeGreaterThan(0.85);
    for (const { error, u95 } of rows) expect(Math.abs(error!)).toBeLessThan(3 * u95!);
  });

  test('a clean filter keeps all, a soft one less, and no filter adds', () => {
    for (const one of edgesOf('clean')) expect(one.retained.value).toBeCloseTo(1, 1);
    for (const one of edgesOf('soft')) {
      expect(one.retained.value).toBeLessThan(0.9);
      expect(one.retained.value).toBeGreaterThan(0.4);
    }
  });

  test('bare’s MTF50 is that of its blur', () => {
    // The lens's and the pixel's own; the edge is drawn through a box of a pixel.
    const gaussian = expectedMtf50(0.6);
    for (const one of edgesOf('clean')) {
      expect(one.baselineMtf50!.value).toBeGreaterThan(0.7 * gaussian);
      expect(one.baselineMtf50!.value).toBeLessThan(1.15 * gaussian);
      expect(one.mtf50!.value / one.baselineMtf50!.value).toBeCloseTo(one.retained.value, 2);
    }
  });

  test('curves begin at 1 and fall; 65 values from 0 to one cycle a pixel', () => {
    const { curves } = edgesOf('soft')[0];
    for (const curve of [curves!.bare, curves!.filtered]) {
      expect(curve).toHaveLength(65);
      expect(curve[0]).toBeCloseTo(1, 6);
      expect(curve[16]).toBeLessThan(curve[4]);
    }
    expect(curves!.filtered[16]).toBeLessThan(curves!.bare[16]);
  });

  test('edges know where they lie and which way they run', () => {
    const all = edgesOf('soft');
    expect(new Set(all.map((one) => one.runs))).toEqual(new Set(['upright', 'level']));
    expect(all.some((one) => one.region === 'center')).toBe(true);
    for (const one of all) {
      expect(one.angleDegrees).toBeGreaterThan(2);
      expect(one.angleDegrees).toBeLessThan(12);
      expect(one.pictures!.bare.file).toMatch(/bare/);
    }
  });
});

test('a focus that moved for all of a take is told, and its sharpness not laid to the filter', async () => {
  const { codes } = await work(
    { ...chart, filters: [chart.filters[0]], spoiled: [{ take: 'chart-clean', focusPx: { center: 3, corner: 0.4 } }] },
    () => undefined,
    true,
  );
  expect(codes.some((code) => code === 'focus-moved' || code === 'edge-unusable')).toBe(true);
});
