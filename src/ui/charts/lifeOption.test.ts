import * as echarts from 'echarts';
import { lifeOption } from './lifeOption';
import { ROOM } from './chartParts';

const DAY = Date.UTC(2025, 0, 1);
const YEAR = 365 * 24 * 3600 * 1000;
const rows = [0, 1, 2].map((i) => ({ day: DAY + i * YEAR, value: 3 + 0.1 * i, u95: 0.05 }));
const drawn = (rows_: typeof rows, beside: Partial<Parameters<typeof lifeOption>[1]> = {}) =>
  lifeOption(rows_, { line: null, unit: 'stops', least: 0.02, ...beside }, ROOM) as {
    xAxis: { min: number; max: number };
    yAxis: { min: number; max: number; axisLabel: { formatter: (value: number) => string } };
    series: { data: unknown[]; markLine?: { data: unknown[] } }[];
  };

test('the axes hold every sitting with its ±, the line’s ends, limits and what happened', () => {
  const { xAxis, yAxis, series } = drawn(rows, {
    line: { first: { ...rows[0], u95: 0.3 }, last: rows[2] },
    limits: [{ at: 4, name: 'upper limit' }],
    events: [{ day: DAY + 3 * YEAR, name: 'dropped' }],
  });
  expect(yAxis.min).toBeLessThan(2.7);
  expect(yAxis.max).toBeGreaterThan(4);
  expect(xAxis.max).toBeGreaterThan(DAY + 3 * YEAR);
  expect(series[0].data).toEqual([[DAY, 3], [DAY + 2 * YEAR, 3.2]]); // prettier-ignore
  expect(series[3].data).toEqual(rows.map(({ day, value, u95 }) => [day, value, u95]));
  expect(series[3].markLine!.data).toEqual([
    { yAxis: 4, name: 'upper limit' },
    { xAxis: DAY + 3 * YEAR, name: 'dropped' },
  ]);
});

test('limits are drawn where they are, not where two decimals put them', () => {
  const { width, height } = { width: 600, height: 240 };
  const chart = echarts.init(null, undefined, { renderer: 'svg', ssr: true, width, height });
  const low = rows.map((row, i) => ({ ...row, value: i - 1 ? 0.02 : -0.02, u95: 0.001 }));
  const drawnAt = (at: number) => {
    chart.setOption(
      lifeOption(low, { line: null, unit: 'stops', least: 0.02, limits: [{ at, name: 'limit' }] }, ROOM),
      true,
    );
    // A dashed line across is the limit's; its height is in its path.
    return Number(/d="M[\d.]+ ([\d.]+)L[\d.]+ \1"[^>]*stroke-dasharray/.exec(chart.renderToSVGString())![1]);
  };
  try {
    // Of 0.04 and their room over 194 pixels; 0.0149 would be drawn as 0.01, 25 pixels away.
    expect(Math.abs(drawnAt(0.0149) - drawnAt(0.01))).toBeGreaterThan(15);
  } finally {
    chart.dispose();
  }
});

test('what nobody would notice isn’t drawn large, and numbers have the decimals that their steps need', () => {
  const quiet = rows.map((row, i) => ({ ...row, value: 3 + 0.0001 * i, u95: 0.0002 }));
  const { yAxis } = drawn(quiet);
  expect(yAxis.max - yAxis.min).toBeGreaterThan(0.02);
  expect((yAxis.max + yAxis.min) / 2).toBeCloseTo(3.0001, 6);
  // Some four parts of 0.023: steps of thousandths.
  expect(yAxis.axisLabel.formatter(3.005)).toBe('3.005');
  expect(drawn(rows).yAxis.axisLabel.formatter(3)).toBe('3.00');
  expect(drawn(rows.map((row, i) => ({ ...row, value: 10 * i }))).yAxis.axisLabel.formatter(10)).toBe('10');
});
