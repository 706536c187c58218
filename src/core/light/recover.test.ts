import { seededRandom } from '@/simulator/random';
import { recoverCurves, type BracketSample } from './recover';

/** An S-shaped response: a toe, a nearly straight middle, a shoulder. */
const encode = (light: number) => {
  const x = Math.log2(Math.max(light, 1e-6) / 0.18);
  return 1 / (1 + Math.exp(-0.62 * (x + 0.3)));
};
const black = encode(1e-6);
const sCurve = (light: number) => (encode(light) - black) / (encode(1.2) - black);

function bracket(curve: (light: number) => number, bitDepth: 8 | 16, noise = 1): BracketSample[] {
  const random = seededRandom(`bracket ${bitDepth}`);
  const top = 2 ** bitDepth - 1;
  const places = Array.from({ length: 300 }, () => 0.03 * 2 ** (4 * random.uniform()));
  return [-4, -3, -2, -1, 0, 1, 2, 3].flatMap((stops) =>
    places.map((light, place) => {
      const electrons = light * 2 ** stops * 12000;
      const codes = Array.from({ length: 100 }, () => {
        const recorded = (electrons + noise * Math.sqrt(electrons + 9) * random.normal()) / 12000;
        return Math.round(top * Math.min(1, Math.max(0, curve(recorded))));
      });
      return { place, exposureLog2: stops, codes: bitDepth === 16 ? Uint16Array.from(codes) : Uint8Array.from(codes) };
    }),
  );
}

test.each<[string, (light: number) => number, 8 | 16]>([
  ['linear, 16 bit', (light) => light, 16],
  ['BT.709, 8 bit', (light) => (light < 0.018 ? 4.5 * light : 1.099 * light ** 0.45 - 0.099), 8],
  ['tanh, 8 bit', (light) => Math.tanh(1.6 * light) / Math.tanh(1.6), 8],
  ['logarithmic with a toe, 16 bit', (light) => Math.log2(1 + 60 * light) / Math.log2(61), 16],
  ['S-shaped, 16 bit', sCurve, 16],
  ['S-shaped, 8 bit', sCurve, 8],
  ['gamma 2.6, 8 bit', (light) => light ** (1 / 2.6), 8],
  ['sRGB, 16 bit', (light) => (light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055), 16],
])('%s: the curve to 0.01 stop over the middle eight stops', (_, curve, bitDepth) => {
  const [recovered] = recoverCurves([bracket(curve, bitDepth)], bitDepth)!;
  const lights = Array.from({ length: 33 }, (_, i) => 0.7 * 2 ** (-8 + i / 4));
  const errors = lights
    .filter((light) => curve(light) > recovered.range[0] && curve(light) < recovered.range[1])
    .map((light) => recovered.logLight(curve(light)) - Math.log2(light));
  expect(errors.length).toBeGreaterThan(20);
  const offset = errors.reduce((sum, error) => sum + error, 0) / errors.length;
  expect(Math.max(...errors.map((error) => Math.abs(error - offset)))).toBeLessThan(0.01);
  expect(recovered.residualStops).toBeLessThan(0.05);
});

test('the curve rises, and its uncertainty grows with the distance between codes', () => {
  const [recovered] = recoverCurves([bracket(sCurve, 16)], 16)!;
  let last = -Infinity;
  for (let code = 0; code <= 1; code += 0.002) {
    expect(recovered.logLight(code)).toBeGreaterThanOrEqual(last);
    last = recovered.logLight(code);
  }
  const between = (first: number, second: number) => {
    const ratio = [
      [first, 1],
      [second, -1],
    ] as const;
    return Math.sqrt(Math.max(0, recovered.covariance(ratio, ratio)));
  };
  expect(between(0.5, 0.5)).toBeCloseTo(0, 9);
  expect(between(0.2, 0.7)).toBeGreaterThan(between(0.5, 0.52));
  expect(between(0.2, 0.7)).toBeLessThan(0.01);
});

test('channels that bend alike share a curve, channels that differ have their own', () => {
  const alike = recoverCurves([bracket(sCurve, 8), bracket(sCurve, 8), bracket(sCurve, 8)], 8)!;
  expect(alike[1]).toBe(alike[0]);
  const other = (light: number) => sCurve(light) ** 1.06;
  const apart = recoverCurves([bracket(sCurve, 8), bracket(sCurve, 8), bracket(other, 8)], 8)!;
  expect(apart[2]).not.toBe(apart[0]);
  // The same light, 3 stops apart, read through each channel's own codes.
  for (const [curve, encodeLight] of [
    [apart[0], sCurve],
    [apart[2], other],
  ] as const)
    expect(curve.logLight(encodeLight(0.4)) - curve.logLight(encodeLight(0.05))).toBeCloseTo(3, 1.9);
});

test('one exposure is no bracket', () => {
  expect(recoverCurves([bracket(sCurve, 16).filter((sample) => sample.exposureLog2 === 0)], 16)).toBeNull();
});
