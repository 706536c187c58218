import { mean, median, upperMedian } from './averages';

test('means and medians of a few numbers', () => {
  expect(mean([1, 2, 6])).toBe(3);
  expect(mean(Float64Array.of(0.5, 1.5))).toBe(1);
  expect(median([5, 1, 3])).toBe(3);
  expect(median([4, 1, 3, 2])).toBe(2.5);
  expect(upperMedian([4, 1, 3, 2])).toBe(3);
  expect(upperMedian([7])).toBe(7);
});

test('nothing is left out quietly: NaN makes a mean NaN, and counts as the largest in a median', () => {
  expect(mean([1, NaN])).toBeNaN();
  expect(median([1, 2, NaN])).toBe(2);
  expect(median([1, NaN, NaN])).toBeNaN();
});

test('of none there is no mean and no median; half of none is 0', () => {
  expect([mean([]), median([])]).toEqual([NaN, NaN]);
  expect(upperMedian([])).toBe(0);
});

test('the list that is asked about stays as it was', () => {
  const list = [3, 1, 2];
  median(list);
  upperMedian(list);
  expect(list).toEqual([3, 1, 2]);
});
