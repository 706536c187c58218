/** @jest-environment jsdom */
/** Patches stay inside the picture, whatever is done to them; what lies in them is told with advice. */
import { screen } from '@testing-library/react';
import fc from 'fast-check';
import { show } from '@/ui/testing/render';
import { PatchStatistics } from './PatchStatistics';
import { dragged, nudged, overlap, rectBetween, type Grip } from './rects';

const RECT = { x: 0.4, y: 0.3, width: 0.2, height: 0.1 };
const close = (rect: { x: number; y: number; width: number; height: number }) => ({
  x: expect.closeTo(rect.x, 5),
  y: expect.closeTo(rect.y, 5),
  width: expect.closeTo(rect.width, 5),
  height: expect.closeTo(rect.height, 5),
});

test('between two corners, wherever each lies', () => {
  expect(rectBetween(0.6, 0.4, 0.4, 0.3)).toEqual(close(RECT));
  expect(rectBetween(-1, -1, 2, 2)).toEqual(close({ x: 0, y: 0, width: 1, height: 1 }));
  expect(rectBetween(0.5, 0.5, 0.5, 0.5)).toEqual(close({ x: 0.5, y: 0.5, width: 0.005, height: 0.005 }));
});

test.each<[Grip, number, number, typeof RECT]>([
  ['move', 0.1, -0.1, { x: 0.5, y: 0.2, width: 0.2, height: 0.1 }],
  ['move', 9, 9, { x: 0.8, y: 0.9, width: 0.2, height: 0.1 }],
  ['e', 0.1, 0.5, { x: 0.4, y: 0.3, width: 0.3, height: 0.1 }],
  ['w', 0.1, 0.5, { x: 0.5, y: 0.3, width: 0.1, height: 0.1 }],
  ['n', 0, -0.1, { x: 0.4, y: 0.2, width: 0.2, height: 0.2 }],
  ['s', 0, 0.1, { x: 0.4, y: 0.3, width: 0.2, height: 0.2 }],
  ['ne', 0.1, -0.1, { x: 0.4, y: 0.2, width: 0.3, height: 0.2 }],
  ['sw', -0.1, 0.1, { x: 0.3, y: 0.3, width: 0.3, height: 0.2 }],
  ['e', -9, 0, { x: 0.4, y: 0.3, width: 0.005, height: 0.1 }],
])('dragged by %s (%d, %d)', (grip, dx, dy, to) => {
  expect(dragged(RECT, grip, dx, dy)).toEqual(close(to));
});

test('never leaves the picture (property)', () => {
  const any = fc.double({ min: -2, max: 2, noNaN: true });
  const grip = fc.constantFrom<Grip>('move', 'n', 's', 'e', 'w', 'ne', 'nw', 'se', 'sw');
  fc.assert(
    fc.property(grip, any, any, (which, dx, dy) => {
      const { x, y, width, height } = dragged(RECT, which, dx, dy);
      expect(Math.min(x, y, width, height)).toBeGreaterThanOrEqual(0);
      expect(Math.max(x + width, y + height)).toBeLessThanOrEqual(1 + 2e-6);
      expect(Math.min(width, height)).toBeGreaterThan(0.0049);
    }),
  );
});

describe('keys', () => {
  const frame = { width: 1000, height: 500 };
  test('a pixel, ten with Ctrl, sizes with Shift', () => {
    expect(nudged(RECT, 'ArrowRight', { shift: false, far: false, frame })!.x).toBeCloseTo(0.401, 6);
    expect(nudged(RECT, 'ArrowUp', { shift: false, far: true, frame })!.y).toBeCloseTo(0.28, 6);
    expect(nudged(RECT, 'ArrowDown', { shift: true, far: false, frame })).toEqual(close({ ...RECT, height: 0.102 }));
    expect(nudged(RECT, 'x', { shift: false, far: false, frame })).toBeNull();
  });
});

test.each([
  [RECT, RECT, 1],
  [RECT, { ...RECT, x: 0.6 }, 0],
  [RECT, { ...RECT, x: 0.5 }, 1 / 3],
  [{ x: 0, y: 0, width: 1, height: 1 }, { x: 0, y: 0, width: 0.5, height: 0.5 }, 0.25],
])('two share: %#', (a, b, share) => {
  expect(overlap(a, b)).toBeCloseTo(share, 9);
  expect(overlap(b, a)).toBeCloseTo(share, 9);
});

describe('what lies in a patch', () => {
  const good = { meanCode: [0.668, 0.66, 0.65], noise: [0.01, 0.012, 0.011], pixels: 33280, clipped: 0, black: 0 };
  const advice = () => screen.getByTestId('statistics').textContent!;

  test('codes and noise in percent, pixels counted', () => {
    show(<PatchStatistics statistics={good as never} role="neutral" />);
    expect(advice()).toContain('66.866.065.0');
    expect(advice()).toContain('33,280');
    expect(advice()).toContain('a good patch');
  });

  test('a clipped one says what to do; a refusal is told; nothing yet is dashes', () => {
    const { unmount } = show(<PatchStatistics statistics={{ ...good, clipped: 0.02 } as never} role="neutral" />);
    expect(advice()).toContain('Clipped here: no strength can be measured.');
    unmount();
    const refused = show(<PatchStatistics statistics="The picture can’t be read." role="neutral" />);
    expect(screen.getByRole('alert').textContent).toBe('The picture can’t be read.');
    refused.unmount();
    show(<PatchStatistics statistics={null} role="neutral" />);
    expect(advice()).toContain('–');
  });
});
