/** Transfer functions against published values and another color library. */
import { converter } from 'culori';
import fc from 'fast-check';
import {
  decodeBt709,
  decodeCurve,
  decodeGamma,
  decodeHlg,
  decodeLinear,
  decodePq,
  decodeSrgb,
  linearTable,
} from './transfer';

describe('sRGB (IEC 61966-2-1)', () => {
  const toLinear = converter('lrgb');

  test.each([0, 0.01, 0.04, 0.04045, 0.041, 0.1, 0.25, 0.5, 0.75, 1])('%d as culori has it', (value) => {
    expect(decodeSrgb(value)).toBeCloseTo(toLinear({ mode: 'rgb', r: value, g: 0, b: 0 }).r, 10);
  });

  test('both parts meet at the knee', () => {
    expect(Math.abs(decodeSrgb(0.04045 + 1e-9) - decodeSrgb(0.04045))).toBeLessThan(1e-6);
    // Code 119 of 255 is near 18.5 % gray, as tables have it.
    expect(decodeSrgb(119 / 255)).toBeCloseTo(0.1845, 3);
  });
});

describe('BT.709', () => {
  /** OETF of ITU-R BT.709-6, item 1.2. */
  const encode = (light: number) => (light < 0.018 ? 4.5 * light : 1.099 * light ** 0.45 - 0.099);

  test.each([0, 0.005, 0.0179, 0.019, 0.1, 0.18, 0.5, 0.9, 1])('undoes the OETF at %d', (light) => {
    expect(decodeBt709(encode(light))).toBeCloseTo(light, 10);
  });

  test('18 % gray lies at 40.9 % (common practice, no source)', () => {
    expect(encode(0.18)).toBeCloseTo(0.409, 3);
    expect(decodeBt709(0.409)).toBeCloseTo(0.18, 3);
  });
});

describe('HLG (ITU-R BT.2100-2, table 5)', () => {
  const [a, b, c] = [0.17883277, 0.28466892, 0.55991073];
  const encode = (light: number) => (light <= 1 / 12 ? Math.sqrt(3 * light) : a * Math.log(12 * light - b) + c);

  test.each([0, 0.01, 0.05, 1 / 12, 0.1, 0.265, 0.5, 1])('undoes the OETF at %d', (light) => {
    expect(decodeHlg(encode(light))).toBeCloseTo(light, 6);
  });

  test('half of the code is a twelfth of the light', () => {
    expect(decodeHlg(0.5)).toBeCloseTo(1 / 12, 9);
    expect(decodeHlg(1)).toBeCloseTo(1, 6);
  });
});

describe('PQ (ITU-R BT.2100-2, table 4)', () => {
  const [m1, m2] = [0.1593017578125, 78.84375];
  const [c1, c2, c3] = [0.8359375, 18.8515625, 18.6875];
  const encode = (light: number) => ((c1 + c2 * light ** m1) / (1 + c3 * light ** m1)) ** m2;

  test.each([0.0001, 0.001, 0.01, 0.1, 0.5, 1])('undoes the inverse EOTF at %d', (light) => {
    expect(decodePq(encode(light))).toBeCloseTo(light, 8);
  });

  test('100 cd/m² lie at 50.8 %, 1000 at 75.2 % (BT.2408, quoted from memory)', () => {
    expect(decodePq(0.508)).toBeCloseTo(0.01, 3);
    expect(decodePq(0.7518)).toBeCloseTo(0.1, 2);
    expect(decodePq(0)).toBeCloseTo(0, 9);
  });
});

test('linear and gamma', () => {
  expect(decodeLinear(0.37)).toBe(0.37);
  expect(decodeGamma(2.2)(0.5)).toBeCloseTo(0.2176, 4);
  expect(decodeGamma(2.2)(-0.1)).toBe(0);
});

describe('a curve through points', () => {
  const points = [
    [0, 0],
    [0.25, 0.02],
    [0.5, 0.12],
    [0.75, 0.45],
    [1, 1],
  ] as const;
  const curve = decodeCurve(points);

  test('goes through them', () => {
    for (const [code, light] of points) expect(curve(code)).toBeCloseTo(light, 12);
  });

  test('carries a line exactly', () => {
    const line = decodeCurve([
      [0, 0.1],
      [0.4, 0.3],
      [1, 0.6],
    ]);
    for (const code of [0.05, 0.3, 0.4, 0.77, 0.99]) expect(line(code)).toBeCloseTo(0.1 + code / 2, 12);
  });

  test('a rise too small to be divided by is flat', () => {
    const decode = decodeCurve([[0, 0], [0.25, 5e-324], [0.5, 1e-9], [1, 1]]); // prettier-ignore
    for (let i = 0; i <= 100; i++) expect(decode(i / 100)).toBeGreaterThanOrEqual(0);
  });

  test('never falls between points, however they lie (property)', () => {
    const steps = fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 3, maxLength: 8 });
    fc.assert(
      fc.property(steps, (rises) => {
        const total = rises.reduce((sum, one) => sum + one, 1e-9);
        let light = 0;
        const drawn = [0, ...rises].map((rise, i) => [i / rises.length, (light += rise) / total] as const);
        const decode = decodeCurve(drawn);
        let before = -Infinity;
        for (let i = 0; i <= 100; i++) {
          const now = decode(i / 100);
          expect(now).toBeGreaterThanOrEqual(before - 1e-9);
          before = now;
        }
      }),
      { numRuns: 60 },
    );
  });

  test('stays level where two points do', () => {
    const flat = decodeCurve([
      [0, 0.1],
      [0.5, 0.1],
      [1, 0.9],
    ]);
    for (const code of [0.1, 0.25, 0.49]) expect(flat(code)).toBeCloseTo(0.1, 12);
  });

  test('goes on with its last slope beyond the ends, never below 0', () => {
    const short = decodeCurve([
      [0.2, 0.1],
      [0.6, 0.5],
    ]);
    expect(short(0.1)).toBeCloseTo(0, 12);
    expect(short(0)).toBe(0);
    expect(short(0.8)).toBeCloseTo(0.7, 12);
  });

  test('a steep part after a flat one is bent, not overshot (Fritsch & Carlson)', () => {
    const steep = decodeCurve([
      [0, 0],
      [0.5, 0.01],
      [0.6, 0.9],
      [1, 1],
    ]);
    for (let code = 0.5; code <= 0.6; code += 0.005) {
      expect(steep(code)).toBeGreaterThanOrEqual(0.01 - 1e-12);
      expect(steep(code)).toBeLessThanOrEqual(0.9 + 1e-12);
    }
    for (let code = 0.6; code <= 1; code += 0.02) expect(steep(code)).toBeLessThanOrEqual(1 + 1e-12);
  });

  test.each([
    [[[0, 0]], /two points/],
    [[[0.5, 0], [0.5, 1]], /codes .* must rise; point 2/],
    [[[0, 0], [0.6, 0.2], [0.4, 0.3]], /codes .* must rise; point 3/],
    [[[0, 0.5], [1, 0.4]], /light .* must not fall; point 2/],
  ])('what is no curve is told: %j', (wrong, words) => {
    expect(() => decodeCurve(wrong as never)).toThrow(words as RegExp);
  }); // prettier-ignore
});

describe('light of every code', () => {
  test('above 8 bits of the code itself', () => {
    const table = linearTable(decodeSrgb, 10);
    expect(table).toHaveLength(1024);
    expect(table[512]).toBe(decodeSrgb(512 / 1023));
  });

  test('at 8 bits the mean of its bin, the ends as they are', () => {
    const table = linearTable(decodeSrgb, 8);
    expect(table).toHaveLength(256);
    expect(table[0]).toBe(0);
    expect(table[255]).toBe(1);
    for (const code of [3, 20, 100, 200]) {
      // By a fine sum over the bin.
      let sum = 0;
      const n = 2000;
      for (let i = 0; i < n; i++) sum += decodeSrgb((code - 0.5 + (i + 0.5) / n) / 255) / n;
      expect(table[code] / sum).toBeCloseTo(1, 5);
      expect(table[code]).toBeGreaterThanOrEqual(decodeSrgb(code / 255) - 1e-12);
    }
  });

  test('a parabola’s bin is above its middle by a twelfth of its width squared', () => {
    const table = linearTable((value) => value * value, 8);
    expect(table[100] - (100 / 255) ** 2).toBeCloseTo(1 / 12 / 255 ** 2, 12);
  });
});
