import { averagedShutter, type LightFrame } from './average';

const SIZE = { width: 80, height: 20, channels: 1 as const };

/** A bright bar of 10 px whose left edge lies here, on a dark ground. */
function bar(left: number): LightFrame {
  const data = new Float32Array(SIZE.width * SIZE.height);
  for (let y = 0; y < SIZE.height; y++)
    for (let x = 0; x < SIZE.width; x++) data[y * SIZE.width + x] = x >= left && x < left + 10 ? 1 : 0.1;
  return { ...SIZE, data };
}

const row = ({ data, width }: LightFrame) => Array.from(data.subarray(10 * width, 11 * width));

test('a shutter that is not open gives the frame itself', () => {
  expect(row(averagedShutter(bar(20), bar(36), { dx: 16, dy: 0, rotation: 0 }, 0))).toEqual(row(bar(20)));
});

test.each([
  [0.5, 8],
  [1, 16],
])('open for %p of the time a moving edge is drawn over %p px, and no light is lost', (share, way) => {
  const drawn = row(averagedShutter(bar(20), bar(36), { dx: 16, dy: 0, rotation: 0 }, share));
  drawn.forEach((value, x) => {
    // The share of the time in which the bar covered the pixel's middle.
    const from = Math.max(0, (x + 0.5 - 30) / way);
    const to = Math.min(1, (x + 0.5 - 20) / way);
    expect(Math.abs(value - (0.1 + 0.9 * Math.max(0, to - from)))).toBeLessThan(0.1);
  });
  const sum = (values: number[]) => values.reduce((total, one) => total + one, 0);
  expect(sum(drawn)).toBeCloseTo(sum(row(bar(20))), 1);
});

test('frames of different sizes are refused', () => {
  const small: LightFrame = { width: 8, height: 8, channels: 1, data: new Float32Array(64) };
  expect(() => averagedShutter(bar(0), small, { dx: 0, dy: 0, rotation: 0 }, 1)).toThrow(RangeError);
});
