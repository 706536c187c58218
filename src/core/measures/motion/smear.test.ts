/** Clips of a camera of a known path and shutter before a wall of waves, smeared exactly: the shutter that is told by the blur alone. */
import { wallOfWaves } from '@/simulator/waves';
import { seededNormals } from '../../formulas/statistics/seededNormals';
import type { GrayFrame } from './flow';
import { openShare, transferOf, type SmearFrame } from './smear';

const SIZE = { width: 240, height: 152 };
type Path = Parameters<typeof wallOfWaves>[1];

const noise = seededNormals(4);

function grained({ width, height, data }: GrayFrame, noisy: number): GrayFrame {
  return { width, height, data: data.map((one) => one + noisy * noise()) };
}

function groupsOf(
  path: Path,
  share: number,
  { noisy = 0.002, softPx }: { noisy?: number; softPx?: (frame: number) => number } = {},
): SmearFrame[][] {
  return [0, 9, 18].map((first) =>
    [0, 1, 2, 3, 4].map((k) => ({
      frame: grained(wallOfWaves(SIZE, path, first + k, share, softPx?.(first + k)), noisy),
      way: (part) => {
        const [a, b] = [path(first + k), path(first + k + part)];
        return [b[0] - a[0], b[1] - a[1]];
      },
    })),
  );
}

/** A hand that pans and sways, by several pixels a frame. */
const hand: Path = (t) => [1.2 * t + 5 * Math.sin(0.9 * t), 4 * Math.cos(0.7 * t + 1)];

test('the mean of an even way is the sinc of its length (table of sinc, common knowledge)', () => {
  const even: SmearFrame['way'] = (share) => [8 * share, 0];
  // Over half of the time 4 px: sinc(4 · 0.125) = 2/π.
  expect(transferOf(even, 0.5, 0.125, 0)).toBeCloseTo(2 / Math.PI, 2);
  expect(transferOf(even, 0.5, 0, 0.125)).toBeCloseTo(1, 9);
});

test.each([0.25, 0.7])('a shutter open for %s of the time is told within 10 %', (share) => {
  const found = openShare(groupsOf(hand, share))!;
  expect(Math.abs(found.value / share - 1)).toBeLessThan(0.1);
  expect(Math.abs(found.value - share)).toBeLessThan(found.u95);
});

test('frames that differ in focus don’t pass for a shutter', () => {
  const found = openShare(groupsOf(hand, 0.5, { softPx: (frame) => 0.25 + 0.25 * Math.sin(5 * frame) }))!;
  expect(Math.abs(found.value / 0.5 - 1)).toBeLessThan(0.1);
});

test('a shutter of an instant is told as one', () => {
  const found = openShare(groupsOf(hand, 0.01))!;
  expect(found.value).toBeLessThan(0.08);
});

test('of an even pan nothing is sure, and noise alone tells nothing', () => {
  const even = openShare(groupsOf((t) => [3 * t, 0], 0.5));
  expect(even === null || even.u95 > 0.1 || Math.abs(even.value - 0.5) < 0.1).toBe(true);
  const dark = groupsOf(hand, 0.5).map((group) =>
    group.map(({ way }) => ({
      way,
      frame: {
        ...SIZE,

        data: Float32Array.from({ length: SIZE.width * SIZE.height }, () => 0.5 + 0.05 * noise()),
      },
    })),
  );
  expect(openShare(dark)).toBeNull();
});
