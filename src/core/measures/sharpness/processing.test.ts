import { processingU } from './processing';

/** u95² = 0.02² + 0.045² + (0.15·(1 − kept))² + (0.045 a stop)², by hand. */
test.each([
  [1, 0, Math.hypot(0.02, 0.045)],
  [0.8, 0, Math.hypot(0.02, 0.045, 0.03)],
  [1, 1, Math.hypot(0.02, 0.045, 0.099)],
  [1.1, -1, Math.hypot(0.02, 0.045, 0.099)],
])('kept %d, codes halved %d times: u95 %d', (kept, halved, u95) =>
  expect(2 * processingU(kept, halved)).toBeCloseTo(u95, 9),
);
