import { parseSession } from '../session/parse';
import { exposureOf, exposureRules, markDoubt, type ExposedShot } from './exposures';

const session = (shutterMarks?: 'exact' | 'nominal') =>
  parseSession({
    format: 'aurora-glade-session',
    version: 1,
    rig: { aperture: 'fixed', ...(shutterMarks ? { shutterMarks } : {}) },
    scenes: [{ id: 'chart', kind: 'chart' }],
    takes: [],
  });

const shot = (shutter: string) =>
  ({ take: { id: shutter, exposure: { shutter, iso: 100 } }, facts: { exposure: {} } }) as unknown as ExposedShot;

const rulesOf = (shutters: string[], marks?: 'exact' | 'nominal') => exposureRules(shutters.map(shot), session(marks));

/** How far two marks' ratio may lie from the middle, stops. */
function doubtBetween(a: string, b: string): number {
  const rules = rulesOf([a, b]);
  return Math.abs(markDoubt(shot(a), rules) - markDoubt(shot(b), rules)) * 2;
}

/** log2 of the ratio as written less that of the exact series, by hand: 1/1000 is 2^−10 in the series, 1/60 2^−6, 1/8 2^−3, 30 s 2^5. */
test.each([
  ['1/2000', '1/250', 0],
  ['1/1000', '1/125', 0],
  ['1/1000', '1/60', Math.log2(1024 / 1000) - Math.log2(64 / 60)],
  ['1/1000', '1/8', Math.log2(1024 / 1000)],
  ['1/60', '1/8', Math.log2(64 / 60)],
  ['1/60', '30', Math.log2(64 / 60) + Math.log2(32 / 30)],
])('%s and %s, of unknown meaning, are apart by %d stop', (a, b, stops) =>
  expect(doubtBetween(a, b)).toBeCloseTo(Math.abs(stops), 9),
);

test('the middle lies between both meanings', () => {
  const rules = rulesOf(['1/1000', '1/60']);
  const ratio = Number(exposureOf(shot('1/60'), rules)) - Number(exposureOf(shot('1/1000'), rules));
  const [written, series] = [Math.log2(1000 / 60), 4];
  expect(ratio).toBeCloseTo((written + series) / 2, 9);
});

test('told, or given away by an odd time, nothing is in doubt', () => {
  const exact = rulesOf(['1/1000', '1/60'], 'exact');
  expect(exact.marks).toBe('exact');
  expect(exposureOf(shot('1/60'), exact)).toBeCloseTo(Math.log2(100 / 60), 9);
  const nominal = rulesOf(['1/1000', '1/60'], 'nominal');
  expect(exposureOf(shot('1/60'), nominal)).toBeCloseTo(Math.log2(100) - 6, 9);
  const odd = rulesOf(['1/1000', '1/63.7']);
  expect(odd.marks).toBe('exact');
  expect(markDoubt(shot('1/1000'), odd)).toBe(0);
});

test('what is missing is named', () =>
  expect(
    exposureOf({ take: { exposure: {} }, facts: { exposure: {} } } as unknown as ExposedShot, rulesOf([])),
  ).toContain('shutter and ISO and aperture are neither'));
