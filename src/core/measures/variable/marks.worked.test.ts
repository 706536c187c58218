/** A variable filter mark by mark, on small sessions before an even wall. */
import { plainFilter, quietWall, work, type Worked } from '@/core/testing/worked';
import type { TrueFilter } from '@/simulator/truth';

const MARKS = [
  { mark: 1, stops: 1.6 },
  { mark: 2, stops: 2.5 },
  { mark: 3, stops: 3.7 },
  { mark: 4, stops: 4.6 },
];
const vnd = (more: Partial<NonNullable<TrueFilter['variable']>> = {}): TrueFilter =>
  plainFilter('vnd', 0, {
    kind: 'variable-nd',
    nominal: { stopsRange: [2, 5] },
    stops: [0, 0, 0],
    variable: { marks: MARKS, ...more },
  });
describe('four marks', () => {
  let worked: Worked;
  beforeAll(async () => {
    worked = await work(quietWall(vnd()));
  });

  test('each mark’s strength lies within its ± of the truth', () => {
    const rows = worked.compared('mark');
    expect(rows).toHaveLength(4);
    for (const { error, u95 } of rows) {
      expect(Math.abs(error!)).toBeLessThan(1.4 * u95!);
      expect(u95).toBeLessThan(0.03);
    }
    expect(worked.of('vnd').marks!.map((one) => one.mark)).toEqual([1, 2, 3, 4]);
  });

  test('lightest and darkest are the ends, and stand beside the label', () => {
    const { lightest, darkest, errors } = worked.of('vnd').variable!;
    expect(lightest.value).toBeCloseTo(1.6, 1);
    expect(darkest.value).toBeCloseTo(4.6, 1);
    expect(errors!.low.value).toBeCloseTo(lightest.value - 2, 9);
    expect(errors!.high.value).toBeCloseTo(darkest.value - 5, 9);
  });

  test('the curve goes through the marks and never back', () => {
    const { curve } = worked.of('vnd').variable!;
    expect(curve[0][0]).toBe(1);
    expect(curve[curve.length - 1][0]).toBe(4);
    for (let i = 1; i < curve.length; i++) expect(curve[i][1]).toBeGreaterThanOrEqual(curve[i - 1][1] - 1e-9);
    for (const { mark, stops } of worked.of('vnd').marks!) {
      const at = curve.find(([x]) => Math.abs(x - mark) < 1e-9);
      expect(at?.[1]).toBeCloseTo(stops.value, 6);
    }
  });

  test('without a cross nothing is uneven beyond its ±', () => {
    for (const { error, u95 } of worked.compared('unevenness'))
      if (error !== null) expect(Math.abs(error)).toBeLessThan(1.6 * u95! + 0.02);
  });

  test('it has no one strength of its own', () => {
    expect(worked.of('vnd').density).toBeUndefined();
  });
});

test('a cross makes its marks uneven, the more the farther they are turned', async () => {
  const worked = await work(quietWall(vnd({ cross: { from: 2, stopsPerMark: 0.4, axisDegrees: 45 } })));
  const { marks } = worked.of('vnd');
  const uneven = marks!.map((one) => one.unevenness?.value ?? 0);
  expect(Math.max(uneven[2], uneven[3])).toBeGreaterThan(uneven[0] + 0.1);
  for (const { error, u95 } of worked.compared('unevenness'))
    if (error !== null) expect(Math.abs(error)).toBeLessThan(1.6 * u95! + 0.03);
});

test('takes that note no mark are told, and say nothing', async () => {
  const worked = await work(quietWall(vnd()), (session) => {
    for (const take of session.takes.filter((one) => one.setting?.mark === 3)) delete take.setting;
  });
  expect(worked.codes).toContain('mark-missing');
  expect(worked.of('vnd').marks!.map((one) => one.mark)).toEqual([1, 2, 4]);
});

test('no mark at all: nothing of it is measured', async () => {
  const worked = await work(quietWall(vnd()), (session) => {
    for (const take of session.takes) delete take.setting;
  });
  expect(worked.of('vnd').marks).toBeUndefined();
  expect(worked.of('vnd').variable).toBeUndefined();
});
