import { fitGraduation, transitionInWords, type StopsField } from './fit';

/** A logistic in stops over a 3:2 frame, written down independently of the fit: heights from the top, clockwise degrees. */
function field({ clear = 0.05, dense = 3, midline = 0.45, width = 0.2, degrees = 8 }, noise = 0): StopsField {
  const [columns, rows] = [60, 40];
  const angle = (degrees * Math.PI) / 180;
  const edges = (count: number, length: number) =>
    Array.from({ length: count + 1 }, (_, i) => (i / count - 0.5) * length);
  const stops = new Float64Array(columns * rows);
  let seed = 7;
  for (let i = 0; i < stops.length; i++) {
    const x = ((i % columns) + 0.5) / columns - 0.5;
    const y = (Math.floor(i / columns) + 0.5) / rows - midline;
    const across = x * 1.5 * Math.sin(angle) - y * Math.cos(angle);
    seed = (seed * 16807) % 2147483647;
    const jitter = (seed / 2147483647 - 0.5) * Math.sqrt(12) * noise;
    stops[i] = clear + (dense - clear) / (1 + 81 ** (-across / width)) + jitter;
  }
  return { xEdges: edges(columns, 1.5), yEdges: edges(rows, 1), stops, noise: Math.max(noise, 1e-6) };
}

test.each([
  [{}],
  [{ degrees: 0 }],
  [{ degrees: 180, midline: 0.6 }],
  [{ degrees: -35, width: 0.4 }],
  [{ degrees: 75, width: 0.3 }],
  [{ dense: 0.9, width: 0.5 }],
])('halves, line, width and tilt come back: %j', (given) => {
  const truth = { clear: 0.05, dense: 3, midline: 0.45, width: 0.2, degrees: 8, ...given };
  const fit = fitGraduation(field(truth))!;
  expect(fit.clear).toBeCloseTo(truth.clear, 2);
  expect(fit.dense).toBeCloseTo(truth.dense, 2);
  expect(Math.abs(fit.midline - truth.midline)).toBeLessThan(0.002);
  expect(Math.abs(fit.transitionWidth - truth.width)).toBeLessThan(0.005);
  expect(Math.abs(fit.angleDegrees - truth.degrees)).toBeLessThan(0.2);
});

test('a line that runs upright has no midline', () => {
  expect(fitGraduation(field({ degrees: 90 }))!.midline).toBeNaN();
});

test('an even filter has no graduation', () => {
  expect(fitGraduation(field({ clear: 2, dense: 2.05 }, 0.01))).toBeNull();
});

test('u grows with noise and covers the error', () => {
  const fit = fitGraduation(field({}, 0.05))!;
  expect(fit.u.midline).toBeGreaterThan(0);
  expect(Math.abs(fit.midline - 0.45)).toBeLessThan(4 * fit.u.midline);
  expect(Math.abs(fit.dense - 3)).toBeLessThan(4 * fit.u.dense);
});

test.each([
  ['a wider line', { width: 0.202 }, { transitionWidth: 0.002 }],
  ['a tilted one', { degrees: 8.1 }, { angleDegrees: 0.1 }],
  ['a darker half', { dense: 3.01 }, { dense: 0.01 }],
  ['a lower line', { midline: 0.451 }, { midline: 0.001 }],
])('cells that stray together as %s has it move that figure by as much, the others little', (_, other, expected) => {
  const [at, there] = [field({}), field(other)];
  const { moved } = fitGraduation({ ...at, doubt: there.stops.map((stops, i) => stops - at.stops[i]) })!;
  const wanted = { clear: 0, dense: 0, midline: 0, transitionWidth: 0, angleDegrees: 0, ...expected };
  for (const [name, value] of Object.entries(wanted))
    expect(Math.abs(moved[name as keyof typeof wanted] - value)).toBeLessThan(Math.max(0.05 * value, 0.0001));
});

test('where nothing is in doubt nothing moves', () => {
  expect(Object.values(fitGraduation(field({}))!.moved)).toEqual([0, 0, 0, 0, 0]);
});

test('hard, medium and soft', () => {
  expect([0.05, 0.2, 0.4].map(transitionInWords)).toEqual(['hard', 'medium', 'soft']);
});
