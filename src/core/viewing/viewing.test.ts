import { luminanceRow, resolveColorSpace } from '../formulas/color/spaces';
import { clampView, fitView, sideOf, spotView, zoomAt } from '@/stages/compare/viewport';
import { compressed, toScreen, whiteOf, SHOULDER } from './display';
import { guessingOdds, kendall, shuffled } from '@/stages/compare/blind';
import { keepLuminance, levelling } from './level';

describe('levelling', () => {
  test('a locked picture is raised by the strength, a matched one by what the shutter left over', () => {
    expect(levelling(3, { take: -5, bare: -5 }).gains).toEqual([8, 8, 8]);
    expect(levelling(3.1, { take: -2, bare: -5 }).raised).toBeCloseTo(0.1, 12);
    expect(levelling(0, { take: -5, bare: -5 }).gains).toEqual([1, 1, 1]);
  });

  test('channel gains bring a gray through the filter back to bare’s luminance and to gray', () => {
    const [r, g, b] = [2 ** -3.2, 2 ** -3, 2 ** -2.7];
    const row = luminanceRow(resolveColorSpace('srgb'));
    const stops = -Math.log2(row[0] * r + row[1] * g + row[2] * b);
    const channels = keepLuminance({ r: g / r, g: 1, b: g / b }, [row[0], row[1], row[2]]);
    const { gains } = levelling(stops, { take: 0, bare: 0 }, channels);
    expect(gains[0] * r).toBeCloseTo(1, 12);
    expect(gains[1] * g).toBeCloseTo(1, 12);
    expect(gains[2] * b).toBeCloseTo(1, 12);
  });
});

describe('the view', () => {
  const frame = { width: 6000, height: 4000 };
  const tile = { width: 1200, height: 700 };

  test('fits, stays on the picture, and zooms about the pointer', () => {
    expect(fitView(frame, tile)).toEqual({ x: 3000, y: 2000, scale: 0.175 });
    const closer = zoomAt(fitView(frame, tile), 4, { x: 300, y: -100 }, frame, tile);
    // The point under the pointer was 3000 + 300/0.175 and is so still.
    expect(closer.x + 300 / closer.scale).toBeCloseTo(3000 + 300 / 0.175, 6);
    expect(closer.y - 100 / closer.scale).toBeCloseTo(2000 - 100 / 0.175, 6);
    expect(clampView({ x: -50, y: 9999, scale: 1 }, frame, tile)).toEqual({ x: 600, y: 3650, scale: 1 });
    expect(clampView({ x: 0, y: 0, scale: 99 }, frame, tile).scale).toBe(8);
    expect(zoomAt(fitView(frame, tile), 0.1, { x: 0, y: 0 }, frame, tile).scale).toBe(0.175);
  });

  test('corners are at own pixels', () => {
    expect(spotView('right lower', fitView(frame, tile), frame, tile)).toEqual({ x: 5400, y: 3650, scale: 1 });
    expect(spotView('left upper', { x: 0, y: 0, scale: 4 }, frame, tile)).toEqual({ x: 150, y: 87.5, scale: 4 });
  });

  test('a wipe at any angle', () => {
    const upright = { x: 0.5, y: 0.5, angle: 0 };
    expect(sideOf(upright, 500, 10, tile)).toBe(-100);
    expect(sideOf({ ...upright, angle: 90 }, 10, 400, tile)).toBeCloseTo(50, 9);
    expect(sideOf({ ...upright, angle: 45 }, 600, 350, tile)).toBeCloseTo(0, 9);
  });
});

describe('blind', () => {
  test('a seed gives one order, and every order comes up', () => {
    expect(shuffled([1, 2, 3, 4, 5], 'tern')).toEqual(shuffled([1, 2, 3, 4, 5], 'tern'));
    const seen = new Map<string, number>();
    for (let i = 0; i < 6000; i++) {
      const order = shuffled(['a', 'b', 'c'], `seed ${i}`).join('');
      seen.set(order, (seen.get(order) ?? 0) + 1);
    }
    expect(seen.size).toBe(6);
    // Each of six orders about a thousand times: within five standard deviations.
    for (const count of seen.values())
      expect(Math.abs(count - 1000)).toBeLessThan(5 * Math.sqrt(6000 * (1 / 6) * (5 / 6)));
  });

  /** Fisher's tea tasting is hypergeometric; these are plain binomial tails: 10 of 10 coins 1/1024, 8 or more of 10 56/1024 (arithmetic). */
  test('odds of guessing are exact', () => {
    expect(guessingOdds(10, 10, 0.5)).toBeCloseTo(1 / 1024, 12);
    expect(guessingOdds(8, 10, 0.5)).toBeCloseTo(56 / 1024, 12);
    expect(guessingOdds(1, 1, 1 / 6)).toBeCloseTo(1 / 6, 12);
    expect(guessingOdds(0, 5, 0.2)).toBe(1);
  });

  /**
   * Kendall (1938): of four things 1 of 24 orders has no inversion, 4 at most one, 9 at most two. Two judges with ranks 1–5 and 2,1,3,5,4 have
   * two inversions of ten pairs: tau 0.6 (arithmetic).
   */
  test('Kendall’s tau and its exact odds', () => {
    expect(kendall([1, 2, 3, 4], [1, 2, 3, 4])).toEqual({ tau: 1, odds: expect.closeTo(1 / 24, 12) as number });
    expect(kendall([1, 2, 3, 4], [2, 1, 3, 4])?.odds).toBeCloseTo(4 / 24, 12);
    expect(kendall([1, 2, 3, 4], [2, 1, 4, 3])?.odds).toBeCloseTo(9 / 24, 12);
    expect(kendall([1, 2, 3, 4, 5], [2, 1, 3, 5, 4])?.tau).toBeCloseTo(0.6, 12);
    expect(kendall([1, 2, 3], [3, 2, 1])).toEqual({ tau: -1, odds: expect.closeTo(1, 12) as number });
    // tau-b with a tie: pairs (1,2) agree, (1,3) agree, (2,3) tied in b: 2/√(3·2).
    expect(kendall([1, 2, 3], [1, 2, 2])?.tau).toBeCloseTo(2 / Math.sqrt(6), 12);
    expect(kendall([1], [1])).toBeNull();
    expect(kendall([1, 2], [1, 1])).toBeNull();
  });
});

describe('the screen', () => {
  test('sRGB goes to the screen as it is, wider primaries keep white', () => {
    const same = toScreen(resolveColorSpace('srgb'));
    [1, 0, 0, 0, 1, 0, 0, 0, 1].forEach((value, i) => expect(same[i]).toBeCloseTo(value, 10));
    const wide = toScreen(resolveColorSpace('rec2020'));
    for (const row of [0, 3, 6]) expect(wide[row] + wide[row + 1] + wide[row + 2]).toBeCloseTo(1, 6);
    // ITU-R BT.2087-0 gives 1.6605 for red from BT.2020 to BT.709, from memory.
    expect(wide[0]).toBeCloseTo(1.6605, 3);
  });

  test('HDR white lies below the peak, and the curve is smooth at its shoulder', () => {
    expect(whiteOf({ kind: 'srgb' }, null)).toBe(1);
    // Scene light of 75 % HLG is 0.265 of the peak (ITU-R BT.2408, from memory).
    expect(whiteOf({ kind: 'hlg' }, null)).toBeCloseTo(0.265, 3);
    expect(whiteOf({ kind: 'file' }, { transfer: 'pq', source: null, toXyz: null, profile: null })).toBeCloseTo(
      0.0203,
      6,
    );
    const step = 1e-6;
    expect((compressed(SHOULDER + step) - compressed(SHOULDER)) / step).toBeCloseTo(1, 4);
    expect(compressed(50)).toBeLessThanOrEqual(1);
  });
});
