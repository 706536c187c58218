import Color from 'colorjs.io';
import { resolveColorSpace } from '../../formulas/color/spaces';
import { diagonal } from '../../formulas/statistics/covariance';
import type { Contribution } from '../../formulas/statistics/budget';
import { castColor, castDirection, estimateCast, measureCast, NEUTRAL_BELOW } from './cast';

const SRGB = resolveColorSpace('srgb');
const noise = (u: number): Contribution[] => [
  { source: 'noise', covariance: diagonal([u, u, u]), degreesOfFreedom: Infinity },
];

describe('cast', () => {
  test('a filter that takes all channels alike has none', () => {
    const cast = measureCast([3, 3, 3], noise(0.001), SRGB);
    expect(cast.deltaE00.value).toBeCloseTo(0, 9);
    expect(cast.direction).toBe('neutral');
    expect(cast.gains).toEqual({ r: 1, g: 1, b: 1 });
    expect(cast.miredShift!.value).toBeCloseTo(0, 6);
  });

  test('does not depend on the strength', () => {
    const a = castColor([3.1, 3, 2.9], SRGB);
    const b = castColor([7.1, 7, 6.9], SRGB);
    expect(a.a).toBeCloseTo(b.a, 9);
    expect(a.deltaE00).toBeCloseTo(b.deltaE00, 9);
  });

  test('a*, b* agree with colorjs.io', () => {
    // The library's white differs in the fifth digit and its lab is D50-adapted by Bradford; lab-d65 is the plain one.
    const channels = [3.12, 3, 2.85];
    const level = channels.map((stops) => 2 ** -stops);
    const y = 0.2126 * level[0] + 0.7152 * level[1] + 0.0722 * level[2];
    const scaled = level.map((light) => (light / y) * 0.18418651851) as [number, number, number];
    const [l, a, b] = new Color('srgb-linear', scaled).to('lab-d65').coords as [number, number, number];
    const ours = castColor(channels, SRGB);
    expect(l).toBeCloseTo(50, 2);
    expect(ours.a).toBeCloseTo(a, 2);
    expect(ours.b).toBeCloseTo(b, 2);
  });

  test('gains cancel it', () => {
    const { gains } = measureCast([3.2, 3, 2.7], noise(0.001), SRGB);
    expect(2 ** -3.2 * gains.r).toBeCloseTo(2 ** -3, 12);
    expect(2 ** -2.7 * gains.b).toBeCloseTo(2 ** -3, 12);
  });

  test.each([
    // Stops that R, G, B lose beyond the others, and what an eye says.
    [[0, 0.05, 0.25], 'warm'],
    [[0.25, 0.05, 0], 'cool'],
    [[0.2, 0, 0.2], 'green'],
    [[0, 0.2, 0], 'magenta'],
    [[0.3, 0, 0], 'cyan'],
    [[0, 0.3, 0.3], 'red'],
  ])('%j looks %s', (extra, word) =>
    expect(
      measureCast(
        extra.map((stops) => 3 + stops),
        noise(0.001),
        SRGB,
      ).direction,
    ).toBe(word),
  );

  test('warm light has a positive mired shift', () =>
    expect(castColor([3, 3.1, 3.3], SRGB).miredShift).toBeGreaterThan(10));

  test('every hue has a word', () => {
    for (let hue = 0; hue < 360; hue++)
      expect(castDirection(5 * Math.cos((hue * Math.PI) / 180), 5 * Math.sin((hue * Math.PI) / 180), 5)).toBeTruthy();
    expect(castDirection(3, 0, 0.5)).toBe('neutral');
  });

  test('u95 of ΔE00 is first order: it matches a finite change', () => {
    const { deltaE00 } = measureCast([3.2, 3, 2.9], noise(0.001), SRGB);
    const changes = [0, 1, 2].map((c) => {
      const moved = [3.2, 3, 2.9].map((stops, i) => stops + (i === c ? 0.001 : 0));
      return castColor(moved, SRGB).deltaE00 - castColor([3.2, 3, 2.9], SRGB).deltaE00;
    });
    expect(deltaE00.u95).toBeCloseTo(2 * Math.hypot(...changes), 3);
  });

  test('at gray the ± is that of a*, b*, not zero', () => {
    expect(measureCast([3, 3, 3], noise(0.002), SRGB).deltaE00.u95).toBeGreaterThan(0.02);
  });
});

test.each([
  [350, 'red'],
  [0, 'red'],
  [47.9, 'red'],
  [48, 'warm'],
  [124.9, 'warm'],
  [125, 'green'],
  [189.9, 'green'],
  [190, 'cyan'],
  [219.9, 'cyan'],
  [220, 'cool'],
  [294.9, 'cool'],
  [295, 'violet'],
  [315.01, 'magenta'],
  [349.9, 'magenta'],
] as const)('a cast at %d° is called %s: each word reaches from its bound to the next', (hue, word) => {
  const [a, b] = [6 * Math.cos((hue * Math.PI) / 180), 6 * Math.sin((hue * Math.PI) / 180)];
  // At a bound itself rounding may tip the angle below it.
  const inside = hue === 350 ? [a - 0, b + 1e-9] : [a, b];
  expect(castDirection(inside[0] + (Number.isInteger(hue) ? -1e-9 * Math.sin((hue * Math.PI) / 180) : 0), inside[1] + (Number.isInteger(hue) ? 1e-9 * Math.cos((hue * Math.PI) / 180) : 0), 6)).toBe(word); // prettier-ignore
});

test('a cast of exactly what an eye can name has a name', () => {
  expect(castDirection(1, 0, NEUTRAL_BELOW)).toBe('red');
  expect(castDirection(1, 0, NEUTRAL_BELOW - 1e-9)).toBe('neutral');
});

describe('the ± of a cast', () => {
  const channels = [3.2, 3, 2.9];

  test('of a*, b* and mired is first order: a change of each channel by hand', () => {
    const { a, b, miredShift } = measureCast(channels, noise(0.001), SRGB);
    const base = castColor(channels, SRGB);
    const change = (key: 'a' | 'b' | 'miredShift') =>
      [0, 1, 2].map((c) => castColor(channels.map((stops, i) => stops + (i === c ? 0.001 : 0)), SRGB)[key]! - base[key]!); // prettier-ignore
    expect(a.u95 / (2 * Math.hypot(...change('a')))).toBeCloseTo(1, 2);
    expect(b.u95 / (2 * Math.hypot(...change('b')))).toBeCloseTo(1, 2);
    expect(miredShift!.u95 / (2 * Math.hypot(...change('miredShift')))).toBeCloseTo(1, 2);
  });

  test('at gray is the root mean square of those of a* and b*', () => {
    const { a, b, deltaE00 } = measureCast([3, 3, 3], noise(0.002), SRGB);
    expect(deltaE00.u95).toBeCloseTo(Math.sqrt((a.u95 ** 2 + b.u95 ** 2) / 2), 9);
    // A faint cast well inside its ± is told the same way; one three times beyond it by its own derivative.
    const faint = measureCast([3.002, 3, 3], noise(0.01), SRGB);
    expect(faint.deltaE00.u95).toBeCloseTo(Math.sqrt((faint.a.u95 ** 2 + faint.b.u95 ** 2) / 2), 9);
    const strong = measureCast([3.1, 3, 3], noise(0.002), SRGB);
    expect(strong.deltaE00.u95).not.toBeCloseTo(Math.sqrt((strong.a.u95 ** 2 + strong.b.u95 ** 2) / 2), 3);
  });

  test('that passes what an eye tells apart is withheld, with the takes and what makes it so wide', () => {
    const strength = (u: number) => ({ channels, contributions: noise(u), places: [{ strength: { takes: ['bare', 'nd8'] } }, { strength: { takes: ['nd8-2'] } }] }) as never; // prettier-ignore
    const narrow = estimateCast(strength(0.002), SRGB);
    expect(narrow.faults).toEqual([]);
    expect(narrow.cast!.deltaE00.u95).toBeLessThan(2.3);
    const wide = estimateCast(strength(0.2), SRGB);
    expect(wide.cast).toBeUndefined();
    expect(wide.faults).toHaveLength(1);
    expect(wide.faults[0].takes).toEqual(['bare', 'nd8', 'nd8-2']);
    expect(wide.faults[0].message).toMatch(/uncertain by ΔE00 1\d\.\d/);
    // By what makes it so wide it is told what to do: more light against noise.
    expect(wide.faults[0].code).toBe('too-dark');
  });

  test('light without a color temperature has no mired shift', () => {
    // Hardly any red and blue left: a green that lies beside every daylight and lamp.
    const green = measureCast([9, 3, 9], noise(0.001), SRGB);
    expect(castColor([9, 3, 9], SRGB).miredShift).toBeNull();
    expect('miredShift' in green).toBe(false);
  });
});
