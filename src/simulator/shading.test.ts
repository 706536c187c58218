import { shading } from './shading';

const FRAME = { width: 600, height: 400 };
const CORNER2 = 300 ** 2 + 200 ** 2;

test('a corner has lost what lens and filter take of it, the middle nothing', () => {
  const at = shading(FRAME, { falloffStops: 0.5, cornerStops: 0.25 });
  expect(at(0)).toBe(1);
  // By hand: 2^(−0.5 − 0.25), and half way out 2^(−0.5/4 − 0.25/16).
  expect(at(CORNER2)).toBeCloseTo(0.594603557501, 7);
  expect(at(CORNER2 / 4)).toBeCloseTo(2 ** -0.140625, 7);
});

test('a hot spot brightens the middle; at its radius a share of e^(−½) of its stops is left', () => {
  const at = shading(FRAME, { falloffStops: 0, cornerStops: 0, hotSpot: { stops: 0.2, radius: 0.3 } });
  expect(Math.log2(at(0))).toBeCloseTo(0.2, 7);
  expect(Math.log2(at(0.09 * CORNER2))).toBeCloseTo(0.2 * 0.6065306597, 6);
});

test('a long lens sees the rim’s darkening of a smaller field', () => {
  const at = shading(FRAME, { falloffStops: 0.5, cornerStops: 0.4, field: 0.6 });
  expect(Math.log2(at(CORNER2))).toBeCloseTo(-(0.3 + 0.144), 7);
});
