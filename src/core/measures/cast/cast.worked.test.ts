/** Casts of small sessions, against another color library's figures. */
import { converter, differenceCiede2000 } from 'culori';
import { plainFilter, smallBench, work, type Worked } from '@/core/testing/worked';

const WARM: [number, number, number] = [2.9, 3, 3.12];
const COOL: [number, number, number] = [2.22, 2.1, 2.02];

/** Gray of L* 50 as the filter leaves it when its luminance is levelled, in CIE Lab under D65, by culori. */
function labOf(stops: readonly number[]) {
  const weights = [0.2126, 0.7152, 0.0722];
  const passed = stops.map((one) => 2 ** -one);
  const luminance = passed.reduce((sum, one, c) => sum + weights[c] * one, 0);
  const gray = ((50 + 16) / 116) ** 3;
  const [r, g, b] = passed.map((one) => (gray * one) / luminance);
  return converter('lab65')({ mode: 'lrgb', r, g, b });
}

describe('a warm and a cool filter', () => {
  let worked: Worked;
  beforeAll(async () => {
    worked = await work(
      smallBench({
        filters: [plainFilter('warm', 3, { stops: WARM }), plainFilter('cool', 2, { stops: COOL })],
        repeats: 2,
      }),
    );
  });

  test.each([
    ['warm', WARM],
    ['cool', COOL],
  ] as const)('%s: a*, b* and ΔE00 are culori’s, within their ±', (id, stops) => {
    const { a, b, deltaE00 } = worked.of(id).cast!;
    const lab = labOf(stops);
    const gray = labOf([2, 2, 2]);
    const expected = differenceCiede2000()(lab, gray);
    for (const [found, truth] of [
      [a, lab.a],
      [b, lab.b],
      [deltaE00, expected],
    ] as const) {
      expect(Math.abs(found.value - truth)).toBeLessThan(Math.max(1.4 * found.u95, 0.02));
      expect(found.u95).toBeLessThan(0.2);
      expect(found.u95).toBeGreaterThan(0.002);
    }
  });

  test('the warm one is warm: more red than blue is left, and colors come out warmer', () => {
    expect(worked.of('warm').cast!.b.value).toBeGreaterThan(0);
    expect(worked.of('cool').cast!.b.value).toBeLessThan(0);
    // Warmer light has more mired.
    expect(worked.of('warm').cast!.miredShift!.value).toBeGreaterThan(0);
    expect(worked.of('cool').cast!.miredShift!.value).toBeLessThan(0);
    expect(worked.of('cool').cast!.direction).not.toBe(worked.of('warm').cast!.direction);
  });

  test('gains take the cast out: what each channel lost against green', () => {
    const { gains } = worked.of('warm').cast!;
    expect(gains.r / gains.g).toBeCloseTo(2 ** (WARM[0] - WARM[1]), 2);
    expect(gains.b / gains.g).toBeCloseTo(2 ** (WARM[2] - WARM[1]), 2);
  });

  test('a filter without a cast is neutral within its ±, which is then one-sided', async () => {
    const gray = await work(smallBench({ filters: [plainFilter('nd8', 3)], repeats: 2 }));
    const { deltaE00, a, b } = gray.of('nd8').cast!;
    expect(deltaE00.value).toBeLessThan(0.15);
    expect(Math.abs(a.value)).toBeLessThan(1.5 * a.u95);
    expect(Math.abs(b.value)).toBeLessThan(1.5 * b.u95);
  });
});
