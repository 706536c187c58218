import { crossBegins, hysteresis, markCurve, type MeasuredMark } from './markCurve';

const row = (stops: number[], unevenness?: number[]): MeasuredMark[] =>
  stops.map((value, i) => ({
    mark: i + 1,
    stops: value,
    u: 0.01,
    ...(unevenness ? { unevenness: unevenness[i] } : {}),
  }));

test('the curve runs through rising marks, both ways, and gives the mark for a strength', () => {
  const curve = markCurve(row([1.5, 2.4, 3.6, 5]))!;
  expect(curve.rising).toBe(true);
  expect(curve.stopsAt(3)).toBeCloseTo(3.6, 9);
  expect(curve.stopsAt(2.5)).toBeGreaterThan(2.4);
  expect(curve.stopsAt(2.5)).toBeLessThan(3.6);
  expect(curve.stopsAt(curve.markFor(3)!)).toBeCloseTo(3, 6);
  expect(curve.markFor(6)).toBeNull();
  expect(curve.residualStops).toBe(0);
  const falling = markCurve(row([5, 3.6, 2.4, 1.5]))!;
  expect(falling.rising).toBe(false);
  [5, 3.6, 2.4, 1.5].forEach((stops, i) => expect(falling.stopsAt(i + 1)).toBeCloseTo(stops, 9));
  // Beyond the ends they are held.
  expect([falling.stopsAt(0), falling.stopsAt(9)].map((one) => one.toFixed(9))).toEqual(['5.000000000', '1.500000000']);
  expect([curve.stopsAt(0), curve.stopsAt(9)].map((one) => one.toFixed(9))).toEqual(['1.500000000', '5.000000000']);
  expect(falling.markFor(4.9)).toBeLessThan(1.2);
  expect(falling.stopsAt(falling.markFor(2)!)).toBeCloseTo(2, 6);
  expect(markCurve(row([2]))).toBeNull();
});

test('marks that run back are pooled (isotonic regression), and the departure is told', () => {
  const curve = markCurve(row([1, 3, 2.8, 4]))!;
  expect(curve.stopsAt(2)).toBeCloseTo(2.9, 9);
  expect(curve.stopsAt(3)).toBeCloseTo(2.9, 9);
  expect(curve.residualStops).toBeCloseTo(0.1, 9);
});

test('the cross begins where unevenness passes a tenth of a stop', () => {
  const marks = row([1, 2, 3, 4], [0.01, 0.04, 0.2, 0.6]);
  const begins = crossBegins(marks, markCurve(marks)!)!;
  expect(begins.mark).toBeCloseTo(2 + 0.06 / 0.16, 9);
  const even = row([1, 2, 3, 4], [0.01, 0.02, 0.03, 0.05]);
  expect(crossBegins(even, markCurve(even)!)).toBeNull();
});

test('hysteresis is what a mark takes from above less from below', () => {
  const takes = [1, 2, 3, 2, 1].map((mark, i) => ({ mark, stops: mark + (i > 2 ? 0.08 : 0), u: 0.01 }));
  const found = hysteresis(takes)!;
  // Mark 1 was only ever come down to, mark 3 only gone up to.
  expect(found.marks).toEqual([2]);
  expect(found.stops).toBeCloseTo(0.08, 9);
  expect(found.u).toBeCloseTo(0.01 * Math.SQRT2, 9);
  expect(hysteresis(takes.slice(0, 3))).toBeNull();
});
