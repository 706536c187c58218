import Color from 'colorjs.io';
import fc from 'fast-check';
import { cubePoints, parseCube1d } from './curveCube';
import {
  decodeBt709,
  decodeCurve,
  decodeGamma,
  decodeHlg,
  decodePq,
  decodeSrgb,
  linearTable,
} from '../formulas/transfer/transfer';
import { parseCurveCsv } from './curveCsv';
import { resolveResponse } from './response';

/** Decoding by a general color library: a code in a space to its linear companion. */
function byLibrary(space: string, linear: string, code: number): number {
  return new Color(space, [code, code, code]).to(linear).coords[0] as number;
}

const UNTOLD = { transfer: null, source: null, toXyz: null, profile: null };

describe('transfer functions', () => {
  const codes = Array.from({ length: 21 }, (_, i) => i / 20);

  test('sRGB agrees with colorjs.io', () => {
    for (const code of codes) expect(decodeSrgb(code)).toBeCloseTo(byLibrary('srgb', 'srgb-linear', code), 9);
  });

  test('published points of sRGB (IEC 61966-2-1) and BT.709-6', () => {
    expect(decodeSrgb(0.04045)).toBeCloseTo(0.0031308, 6);
    expect(decodeSrgb(0.5)).toBeCloseTo(0.21404, 5);
    expect(decodeBt709(0.081)).toBeCloseTo(0.018, 3);
    expect(decodeBt709(0.409)).toBeCloseTo(0.18, 3);
    expect(decodeBt709(1)).toBeCloseTo(1, 12);
  });

  test('BT.709 decodes what its OETF encodes', () => {
    const encode = (light: number) => (light < 0.018 ? 4.5 * light : 1.099 * light ** 0.45 - 0.099);
    // The two branches meet within the rounding of the standard's constants.
    for (const light of [0.001, 0.01, 0.05, 0.18, 0.5, 1]) expect(decodeBt709(encode(light))).toBeCloseTo(light, 9);
  });

  test('PQ agrees with colorjs.io in ratios; HLG meets the points of BT.2100', () => {
    const ours = decodePq(0.6) / decodePq(0.3);
    const theirs = byLibrary('rec2100pq', 'rec2020-linear', 0.6) / byLibrary('rec2100pq', 'rec2020-linear', 0.3);
    expect(ours / theirs).toBeCloseTo(1, 6);
    expect(decodeHlg(0.5)).toBeCloseTo(1 / 12, 12);
    expect(decodeHlg(1)).toBeCloseTo(1, 6);
    expect(decodePq(1)).toBeCloseTo(1, 9);
  });
});

describe('curves', () => {
  test('pass through their points and stay monotone between them', () => {
    const points: [number, number][] = [
      [0, 0],
      [0.2, 0.01],
      [0.5, 0.2],
      [0.55, 0.2],
      [0.8, 0.6],
      [1, 1],
    ];
    const decode = decodeCurve(points);
    for (const [code, light] of points) expect(decode(code)).toBeCloseTo(light, 12);
    let last = -1;
    for (let code = 0; code <= 1; code += 0.001) {
      expect(decode(code)).toBeGreaterThanOrEqual(last - 1e-12);
      last = decode(code);
    }
  });

  test('any rising points give a monotone curve', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.001, max: 1, noNaN: true }), { minLength: 2, maxLength: 12 }),
        (steps) => {
          let light = 0;
          const decode = decodeCurve(steps.map((step, i) => [i / (steps.length - 1), (light += step)]));
          let last = -Infinity;
          for (let i = 0; i <= 200; i++) {
            const now = decode(i / 200);
            expect(now).toBeGreaterThanOrEqual(last - 1e-9);
            last = now;
          }
        },
      ),
    );
  });

  test('refuse codes that do not rise and light that falls', () => {
    expect(() =>
      decodeCurve([
        [0, 0],
        [0, 1],
      ]),
    ).toThrow('must rise');
    expect(() =>
      decodeCurve([
        [0, 0.5],
        [1, 0.4],
      ]),
    ).toThrow('must not fall');
  });

  test('a dense table of sRGB decodes like sRGB', () => {
    const decode = decodeCurve(Array.from({ length: 65 }, (_, i) => [i / 64, decodeSrgb(i / 64)]));
    for (let code = 0.1; code < 1; code += 0.013) expect(Math.log2(decode(code) / decodeSrgb(code))).toBeCloseTo(0, 3);
  });

  test('curves as CSV, one column of light or three', () => {
    const one = resolveResponse({ kind: 'curve', file: 'c.csv' }, UNTOLD, () => 'code,light\n0,0\n128,0.2\n255,1\n');
    expect(one.decode[1](128 / 255)).toBeCloseTo(0.2, 10);
    const three = parseCurveCsv('# own curve\n0;0;0;0\n1;0.9;1;0.8\n');
    expect(three.map((points) => points[1])).toEqual([
      [1, 0.9],
      [1, 1],
      [1, 0.8],
    ]);
    expect(() => parseCurveCsv('code,light\n0,0\n128,dark\n')).toThrow('line 3: expected "code,light"');
    expect(() => parseCurveCsv('0,0\n')).toThrow('at least two rows');
  });

  test('1-D .cube tables', () => {
    const table = parseCube1d(
      'TITLE "test"\n# a comment\nLUT_1D_SIZE 3\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 1 1 1\n0 0 0\n0.2 0.3 0.4\n1 1 1\n',
    );
    expect(table.title).toBe('test');
    expect(cubePoints(table, 1)).toEqual([
      [0, 0],
      [0.5, 0.3],
      [1, 1],
    ]);
    expect(() => parseCube1d('LUT_1D_SIZE 3\n0 0 0\n')).toThrow('says 3 rows, 1 were found');
    expect(() => parseCube1d('LUT_3D_SIZE 2\n')).toThrow('holds a 3-D one');
    expect(() => parseCube1d('LUT_1D_SIZE 2\n0 0 0\n0.1 x 1\n')).toThrow('line 3');
  });
});

test('8-bit tables hold the mean light of each code’s bin', () => {
  const table = linearTable(decodeGamma(2.2), 8);
  let sum = 0;
  for (let i = 0; i < 1000; i++) sum += ((20 + (i + 0.5) / 1000 - 0.5) / 255) ** 2.2;
  expect(table[20] / (sum / 1000)).toBeCloseTo(1, 6);
  expect(linearTable(decodeSrgb, 16)[65535]).toBe(1);
});
