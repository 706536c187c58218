import { BLUE_DIFFERENCE, lumaOf, RED_DIFFERENCE } from './luma';

test('gray is its own luma, the channels add up to it', () => {
  expect(lumaOf(90, 90, 90)).toBeCloseTo(90, 9);
  expect(lumaOf(255, 0, 0) + lumaOf(0, 255, 0) + lumaOf(0, 0, 255)).toBeCloseTo(255, 9);
});

/** ITU-T T.871, clause 6: blue 255 lies 127.5 above the middle of Cb, red 255 as far of Cr; their factors are written 0.5643 and 0.7133. */
test('pure blue and pure red lie at the ends of their differences', () => {
  expect(BLUE_DIFFERENCE * (255 - lumaOf(0, 0, 255))).toBeCloseTo(127.5, 9);
  expect(RED_DIFFERENCE * (255 - lumaOf(255, 0, 0))).toBeCloseTo(127.5, 9);
  expect([BLUE_DIFFERENCE.toFixed(4), RED_DIFFERENCE.toFixed(4)]).toEqual(['0.5643', '0.7133']);
});
