import { processingU } from './processing';

/** u95² = 0.02² + 0.045² + (0.15·(1 − kept))² + (0.065 a stop)², by hand. */
test('contrast that is changed place by place counts half, where bare and filtered differ by a halving of codes', () => {
  const plain = 2 * processingU(1, 1);
  expect(2 * processingU(1, 1, 0.2)).toBeCloseTo(Math.hypot(plain, 0.1), 9);
  expect(processingU(1, 0, 0.2)).toBe(processingU(1, 0));
});

test.each([
  [1, 0, Math.hypot(0.02, 0.045)],
  [0.8, 0, Math.hypot(0.02, 0.045, 0.03)],
  [1, 1, Math.hypot(0.02, 0.045, 0.143)],
  [1.1, -1, Math.hypot(0.02, 0.045, 0.143)],
])('kept %d, codes halved %d times: u95 %d', (kept, halved, u95) =>
  expect(2 * processingU(kept, halved)).toBeCloseTo(u95, 9),
);
