/** The truths themselves, against published values and closed forms that a reader can follow. */
import { randomPlan } from '../randomBench';
import { expectedCast, expectedLuminousStops, expectedSurface } from './color';
import { compareWithTruth } from './compare';
import { coverageOf, coverageTable } from './coverage';
import { expectedGraduation } from './graduation';
import { expectedCut, expectedSweep } from './polarizer';
import { expectedCorner, meanRadius4 } from './shading';
import { expectedKept, expectedKeptAtQuarter, expectedMtf50 } from './sharpness';
import { expectedStrength } from './strength';
import { expectedVeil } from './veil';
import type { TrueFilter } from '../truth';

const PLAN = randomPlan('truths', { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 1 });
const filter = (change: Partial<TrueFilter>): TrueFilter => ({
  id: 'f',
  name: 'F',
  kind: 'nd',
  nominal: {},
  stops: [3, 3, 3],
  ...change,
});

describe('color', () => {
  test('luminance weighs green most (IEC 61966-2-1: 0.2126, 0.7152, 0.0722)', () => {
    expect(expectedLuminousStops([3, 3, 3])).toBeCloseTo(3, 6);
    expect(expectedLuminousStops([99, 3, 99])).toBeCloseTo(3 - Math.log2(0.7152), 3);
    expect(expectedLuminousStops([3, 99, 99])).toBeCloseTo(3 - Math.log2(0.2126), 3);
  });

  test('gray has no cast; less blue is warm, less red is cool', () => {
    const gray = expectedCast([2, 2, 2]);
    expect(Math.hypot(gray.a, gray.b)).toBeLessThan(0.02);
    expect(Math.abs(gray.miredShift)).toBeLessThan(0.01);
    const [warm, cool] = [expectedCast([2, 2, 2.2]), expectedCast([2.2, 2, 2])];
    expect(warm.b).toBeGreaterThan(3);
    expect(warm.miredShift).toBeGreaterThan(5);
    expect(cool.miredShift).toBeLessThan(-5);
  });

  test('a neutral filter leaves a surface as it was; as shot three stops halve L* parts by the cube root (by hand: 2^-1)', () => {
    const red = expectedSurface([0.5, 0.12, 0.1], [3, 3, 3]);
    expect(red.chromaRatio).toBeCloseTo(1, 9);
    expect(red.hueShiftDegrees).toBeCloseTo(0, 9);
    expect(red.contrastStops).toBeCloseTo(0, 9);
    expect(red.asShotRatio).toBeCloseTo(0.5, 2);
  });

  test('on a surface of green alone the contrast is what green loses beyond gray', () => {
    const green = expectedSurface([0, 0.4, 0], [3, 3.5, 3]);
    expect(green.contrastStops).toBeCloseTo(3.5 - expectedLuminousStops([3, 3.5, 3]), 9);
  });

  test('half of the green gone is a magenta, as the formulas give it by hand', () => {
    // R, G, B = 1, 0.5, 1 over Y 0.6424; XYZ by the rounded matrix of IEC 61966-2-1, L*a*b* by CIE 15:2018, 8.2.1: 23.094, −15.636.
    const { a, b } = expectedCast([0, 1, 0]);
    expect(Math.abs(a - 23.094)).toBeLessThan(0.02);
    expect(Math.abs(b + 15.636)).toBeLessThan(0.02);
  });
});

describe('sharpness', () => {
  test('MTF50 without pixels is 0.18739/σ; a wide blur comes near it', () =>
    expect(expectedMtf50(4) * 4).toBeCloseTo(0.18739, 3));
  test('no blur keeps all, and blur counts at 1200 wide', () => {
    expect(expectedKept(PLAN, filter({}))).toBeCloseTo(1, 9);
    const half = { ...PLAN, width: 600 };
    expect(expectedKept(half, filter({ blurPx: 1 }))).toBeCloseTo(expectedKept(PLAN, filter({ blurPx: 0.5 })), 9);
    // exp(−2π²·0.25²) = 0.291 for a pixel of blur.
    expect(expectedKeptAtQuarter(PLAN, filter({ blurPx: 1 }))).toBeCloseTo(Math.exp((-2 * Math.PI ** 2) / 16), 9);
  });
});

describe('shading', () => {
  test('a veil lifts the black trap (.004 and the lens’s .002) against the card; falls of light move it a little', () => {
    const flat = { ...PLAN, camera: { ...PLAN.camera, falloffStops: 0 } };
    const byHand = (veil: number) => 100 * ((0.006 + veil) / (0.502 + veil) - 0.006 / 0.502);
    expect(byHand(0.02)).toBeCloseTo(3.786, 3);
    expect(expectedVeil(flat, filter({ veil: 0.02, stops: [9, 9, 9] }))).toBeCloseTo(byHand(0.02), 9);
    expect(expectedVeil(flat, filter({}))).toBeCloseTo(0, 12);
    // The card lies farther out, where the lens takes more: black weighs more against it, at most by what is taken there.
    const fallen = expectedVeil({ ...PLAN, camera: { ...PLAN.camera, falloffStops: 1 } }, filter({ veil: 0.02 }));
    expect(fallen / byHand(0.02)).toBeGreaterThan(1.1);
    expect(fallen / byHand(0.02)).toBeLessThan(2 ** 0.36);
    // A ghost over the card alone darkens black against it, one over the trap is a veil of its own.
    const ghost = (x: number) => filter({ ghosts: [{ x, y: 0.5, level: 0.05, radius: 0.1 }] });
    expect(expectedVeil(flat, ghost(0.78))).toBeLessThan(0);
    expect(expectedVeil(flat, ghost(0.48))).toBeGreaterThan(byHand(0.02));
  });

  test('a corner square’s middle lies 0.95 of the way out, so that it loses about 0.95⁴', () => {
    const corner = expectedCorner({ ...PLAN, camera: { ...PLAN.camera, falloffStops: 0 } }, 1);
    expect(corner).toBeGreaterThan(-(0.95 ** 4));
    expect(corner).toBeLessThan(-(0.92 ** 4));
  });
  test('a filter’s fall reaches into the gray card a little', () => {
    const reach = meanRadius4(PLAN);
    expect(reach).toBeGreaterThan(0);
    expect(reach).toBeLessThan(0.002);
    expect(expectedStrength(PLAN, filter({ cornerStops: 0.5 }))).toBeCloseTo(3 + 0.5 * reach, 6);
  });
});

describe('polarizers and graduations', () => {
  test('a perfect polarizer passes a stop more along its axis than of unpolarized light', () => {
    const polarizer = { axisDegrees: 10, extinctionStops: 30 };
    const sweep = expectedSweep({ lightDegrees: 20, degree: 1 }, filter({ stops: [1.5, 1.5, 1.5], polarizer }));
    expect(sweep.brightest).toBeCloseTo(0.5, 6);
    expect(sweep.darkest).toBeCloseTo(30.5, 6);
    expect(sweep.axisDegrees).toBe(30);
  });
  test('what isn’t polarized isn’t cut', () => {
    const polarizer = { axisDegrees: 0, extinctionStops: 10 };
    expect(expectedCut('sky', { lightDegrees: 0, degree: 0 }, { stops: [1, 1, 1], polarizer })).toBeLessThan(0.01);
    expect(expectedCut('sky', { lightDegrees: 0, degree: 0.9 }, { stops: [1, 1, 1], polarizer })).toBeGreaterThan(0.5);
  });
  test('a graduation is what was drawn', () => {
    const graduation = {
      denseStops: [3, 3, 3] as [number, number, number],
      midline: 0.4,
      width: 0.2,
      angleDegrees: 10,
    };
    expect(expectedGraduation(filter({ stops: [0.03, 0.03, 0.03], graduation }))).toMatchObject({
      dense: expect.closeTo(3, 5),
      clear: expect.closeTo(0.03, 5),
      midline: 0.4,
    });
  });
});

describe('coverage', () => {
  const row = (error: number | null, u95: number | null) => ({ measure: 'strength' as const, filter: 'f', error, u95 });

  test('counts what is held, given and withheld', () => {
    const [found] = coverageOf([row(0.01, 0.02), row(-0.03, 0.02), row(0.02, 0.02), row(null, null)]);
    expect(found).toMatchObject({ count: 3, withheld: 1, largestError: 0.03, medianError: 0.02, width: 1 });
    expect(found.held).toBeCloseTo(2 / 3, 9);
    expect(coverageTable([row(0.01, 0.02)])[1]).toContain('strength');
  });

  test('a filter that readings don’t have is left out; a figure that is withheld is a row without numbers', () => {
    const readings = {
      filters: [{ filter: 'f0', kit: 'kit', nominalStops: 3, verdict: { label: '', sentence: '' }, faults: [] }],
    };
    const rows = compareWithTruth(PLAN, readings as never);
    expect(new Set(rows.map((one) => one.filter))).toEqual(new Set(['f0']));
    expect(rows.every((one) => one.error === null)).toBe(true);
    expect(rows.map((one) => one.measure)).toContain('ΔE00');
  });
});
