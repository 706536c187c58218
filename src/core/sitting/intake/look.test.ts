import type { Picture } from '../../reading/window';
import { isEven, joinLooks, lightOf, likeness, lookOf, LOOK_COLUMNS } from './look';

/** A gray picture from light 0–1 over the frame, 8 bit, linear. */
function picture(light: (x: number, y: number) => number, size = { width: 240, height: 160 }): Picture {
  const data = new Uint8Array(size.width * size.height * 3);
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const code = Math.min(255, Math.round(255 * light(x / size.width, y / size.height)));
      data.fill(code, (y * size.width + x) * 3, (y * size.width + x) * 3 + 3);
    }
  return { ...size, channels: 3, bitDepth: 8, data };
}

const linear = [(code: number) => code, (code: number) => code, (code: number) => code];
const checks = (x: number, y: number) => ((Math.floor(8 * x) + Math.floor(5 * y)) % 2 === 0 ? 0.6 : 0.2);

test('worked example: a picture whose left eighth is clipped', () => {
  const look = lookOf(picture((x) => (x < 1 / 8 ? 1 : 0.4)));
  expect(look.top).toBeCloseTo(1 / 8, 3);
  expect(look.zero).toBe(0);
  expect(look.topCells.slice(0, LOOK_COLUMNS)).toEqual([100, 100, 100, ...Array<number>(LOOK_COLUMNS - 3).fill(0)]);
  expect(look.histogram[1][255]).toBe(125_000);
  expect(look.histogram[1][102]).toBe(875_000);
  for (const light of lightOf(look, linear, 8)) expect(light).toBeCloseTo(1 / 8 + 0.875 * 0.4, 4);
});

test('the same view is alike at any exposure, another view is not', () => {
  const bare = lookOf(picture(checks));
  const darker = lookOf(picture((x, y) => checks(x, y) / 4));
  const other = lookOf(picture((x, y) => checks(y, x)));
  expect(likeness(bare, darker)).toBeGreaterThan(0.95);
  expect(likeness(bare, other)).toBeLessThan(0.6);
});

test('an even wall with its falloff is even, and nothing can be compared on it', () => {
  const wall = lookOf(picture((x, y) => 0.6 * (1 - 0.8 * ((x - 0.5) ** 2 + (y - 0.5) ** 2))));
  expect(isEven(wall)).toBe(true);
  expect(likeness(wall, wall)).toBeNull();
  expect(isEven(lookOf(picture(checks)))).toBe(false);
  expect(likeness(wall, lookOf(picture(checks)))).toBe(0);
});

test('a blur across shows across, and the frames of a clip are joined', () => {
  const sharp = lookOf(picture(checks));
  const smeared = lookOf(
    picture((x, y) => {
      let sum = 0;
      for (let i = -8; i <= 8; i++) sum += checks(Math.max(0, x + i / 240), y) / 17;
      return sum;
    }),
  );
  expect(smeared.detail.x).toBeLessThan(0.3 * sharp.detail.x);
  expect(smeared.detail.y).toBeGreaterThan(0.9 * sharp.detail.y);
  const joined = joinLooks([sharp, smeared, sharp]);
  expect(joined.histogram[0].reduce((sum, n) => sum + n, 0)).toBeCloseTo(1e6, -2);
  expect(joined.detail.x).toBeCloseTo((2 * sharp.detail.x + smeared.detail.x) / 3, 9);
});
