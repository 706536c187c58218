import { differenceCiede2000 } from 'culori';
import fc from 'fast-check';
import { apply, invert, luminanceRow, multiply, resolveColorSpace } from './spaces';
import { colorTemperature, mccamyTemperature } from './temperature';
import { deltaE00, labFromXyz, type Lab } from './lab';
import { OBSERVER, OBSERVER_START_NM, OBSERVER_STEP_NM } from './observer';
import { planckianXyz } from './temperature';

/** Sharma, Wu & Dalal 2005, table 1: L, a, b twice, and ΔE00. */
// prettier-ignore
const SHARMA: number[][] = [
  [50, 2.6772, -79.7751, 50, 0, -82.7485, 2.0425], [50, 3.1571, -77.2803, 50, 0, -82.7485, 2.8615],
  [50, 2.8361, -74.02, 50, 0, -82.7485, 3.4412], [50, -1.3802, -84.2814, 50, 0, -82.7485, 1],
  [50, -1.1848, -84.8006, 50, 0, -82.7485, 1], [50, -0.9009, -85.5211, 50, 0, -82.7485, 1],
  [50, 0, 0, 50, -1, 2, 2.3669], [50, -1, 2, 50, 0, 0, 2.3669],
  [50, 2.49, -0.001, 50, -2.49, 0.0009, 7.1792], [50, 2.49, -0.001, 50, -2.49, 0.001, 7.1792],
  [50, 2.49, -0.001, 50, -2.49, 0.0011, 7.2195], [50, 2.49, -0.001, 50, -2.49, 0.0012, 7.2195],
  [50, -0.001, 2.49, 50, 0.0009, -2.49, 4.8045], [50, -0.001, 2.49, 50, 0.001, -2.49, 4.8045],
  [50, -0.001, 2.49, 50, 0.0011, -2.49, 4.7461], [50, 2.5, 0, 50, 0, -2.5, 4.3065],
  [50, 2.5, 0, 73, 25, -18, 27.1492], [50, 2.5, 0, 61, -5, 29, 22.8977],
  [50, 2.5, 0, 56, -27, -3, 31.903], [50, 2.5, 0, 58, 24, 15, 19.4535],
  [50, 2.5, 0, 50, 3.1736, 0.5854, 1], [50, 2.5, 0, 50, 3.2972, 0, 1],
  [50, 2.5, 0, 50, 1.8634, 0.5757, 1], [50, 2.5, 0, 50, 3.2592, 0.335, 1],
  [60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644], [63.0109, -31.0961, -5.8663, 62.8187, -29.7946, -4.0864, 1.263],
  [61.2901, 3.7196, -5.3901, 61.4292, 2.248, -4.962, 1.8731], [35.0831, -44.1164, 3.7933, 35.0232, -40.0716, 1.5901, 1.8645],
  [22.7233, 20.0904, -46.694, 23.0331, 14.973, -42.5619, 2.0373], [36.4612, 47.858, 18.3852, 36.2715, 50.5065, 21.2231, 1.4146],
  [90.8027, -2.0831, 1.441, 91.1528, -1.6435, 0.0447, 1.4441], [90.9257, -0.5406, -0.9208, 88.6381, -0.8985, -0.7239, 1.5381],
  [6.7747, -0.2908, -2.4247, 5.8714, -0.0985, -2.2286, 0.6377], [2.0776, 0.0795, -1.135, 0.9033, -0.0636, -0.5514, 0.9082],
];

describe('CIEDE2000', () => {
  test('the list is whole', () => expect(SHARMA).toHaveLength(34));

  test.each(SHARMA)('(%d, %d, %d) and (%d, %d, %d): %d', (l1, a1, b1, l2, a2, b2, expected) => {
    expect(deltaE00([l1, a1, b1], [l2, a2, b2])).toBeCloseTo(expected, 4);
  });

  test('agrees with culori anywhere, and does not mind the order', () => {
    const reference = differenceCiede2000();
    const lab = fc.tuple(
      fc.double({ min: 0, max: 100, noNaN: true }),
      fc.double({ min: -100, max: 100, noNaN: true }),
      fc.double({ min: -100, max: 100, noNaN: true }),
    );
    fc.assert(
      fc.property(lab, lab, (first, second) => {
        const color = ([l, a, b]: Lab) => ({ mode: 'lab65' as const, l, a, b });
        expect(deltaE00(first, second)).toBeCloseTo(reference(color(first), color(second)), 6);
        expect(deltaE00(first, second)).toBeCloseTo(deltaE00(second, first), 6);
      }),
    );
  });
});

describe('color spaces', () => {
  test('sRGB → XYZ as IEC 61966-2-1 prints it', () => {
    const printed = [0.4124, 0.3576, 0.1805, 0.2126, 0.7152, 0.0722, 0.0193, 0.1192, 0.9505];
    resolveColorSpace('srgb').toXyz.forEach((value, i) => expect(value).toBeCloseTo(printed[i], 4));
  });

  test('luminance rows of BT.2020 and P3 (ITU-R BT.2020-2; SMPTE EG 432-1)', () => {
    [0.2627, 0.678, 0.0593].forEach((weight, i) =>
      expect(luminanceRow(resolveColorSpace('rec2020'))[i]).toBeCloseTo(weight, 4),
    );
    [0.229, 0.6917, 0.0793].forEach((weight, i) =>
      expect(luminanceRow(resolveColorSpace('display-p3'))[i]).toBeCloseTo(weight, 3),
    );
  });

  test('a matrix of the session’s own is scaled to a white of Y = 1', () => {
    const own = resolveColorSpace({ toXyz: resolveColorSpace('srgb').toXyz.map((value) => 3 * value) });
    expect(luminanceRow(own).reduce((sum, weight) => sum + weight, 0)).toBeCloseTo(1, 12);
    expect(own.white[1]).toBeCloseTo(1, 12);
  });

  test('the inverse undoes', () => {
    const { toXyz } = resolveColorSpace('rec2020');
    multiply(invert(toXyz), toXyz).forEach((value, i) => expect(value).toBeCloseTo(i % 4 === 0 ? 1 : 0, 12));
  });

  test('white is L* 100, middle gray of 18.4 % is L* 50', () => {
    const { white } = resolveColorSpace('srgb');
    expect(labFromXyz(white, white)).toEqual([100, 0, 0]);
    expect(
      labFromXyz(apply([0.18418651851, 0, 0, 0, 0.18418651851, 0, 0, 0, 0.18418651851], white), white)[0],
    ).toBeCloseTo(50, 8);
  });
});

describe('color temperature', () => {
  test('the observer sums as CIE 15 prints it (5 nm: 21.3715, 21.3713, 21.3715)', () => {
    expect(OBSERVER).toHaveLength((780 - OBSERVER_START_NM) / OBSERVER_STEP_NM + 1);
    const sums = [0, 1, 2].map((c) => OBSERVER.reduce((sum, row) => sum + row[c], 0));
    expect(sums[0]).toBeCloseTo(21.3715, 3);
    expect(sums[1]).toBeCloseTo(21.3713, 3);
    expect(sums[2]).toBeCloseTo(21.3715, 3);
  });

  test('illuminant A (0.4476, 0.4074) is 2856 K (CIE 15)', () => {
    const [x, y, z] = planckianXyz(2855.5);
    expect(x / (x + y + z)).toBeCloseTo(0.44757, 4);
    expect(y / (x + y + z)).toBeCloseTo(0.40745, 4);
    const found = colorTemperature([0.44757 / 0.40745, 1, (1 - 0.44757 - 0.40745) / 0.40745]);
    expect(found!.kelvin).toBeCloseTo(2856, -1);
    expect(found!.duv).toBeCloseTo(0, 4);
  });

  test('D65 is about 6504 K, 0.0032 above the locus; McCamy says 6505 (quoted from memory)', () => {
    const found = colorTemperature([0.3127 / 0.329, 1, (1 - 0.3127 - 0.329) / 0.329])!;
    expect(Math.abs(found.kelvin - 6504)).toBeLessThan(4);
    expect(found.duv).toBeCloseTo(0.0032, 4);
    expect(Math.abs(mccamyTemperature(0.3127, 0.329) - 6505)).toBeLessThan(1);
  });

  test('black bodies come back as themselves', () => {
    for (const kelvin of [1800, 2500, 3200, 5000, 6500, 9300, 15000]) {
      const found = colorTemperature(planckianXyz(kelvin))!;
      expect(Math.abs(found.kelvin / kelvin - 1)).toBeLessThan(0.0005);
      expect(Math.abs(found.duv)).toBeLessThan(1e-5);
    }
  });

  test('colors far from the locus have no temperature', () => expect(colorTemperature([0.3, 1, 0.2])).toBeNull());
});
