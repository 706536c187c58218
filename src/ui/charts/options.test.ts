/** Charts as options: what is drawn is what was measured, on axes that hold all of it. */
import {
  breakdownOption,
  castsOption,
  labelsOption,
  lightOption,
  mapOption,
  mtfOption,
  PAPER,
  ROOM,
  stepsOption,
} from './options';

type Json = Record<string, never>;
const seriesOf = (option: object) => (option as { series: Json[] }).series;
const axisOf = (option: object, which: 'xAxis' | 'yAxis') => {
  const axis = (option as Record<string, unknown>)[which];
  return (Array.isArray(axis) ? axis[0] : axis) as { min?: number; max?: number; data?: string[]; name?: string };
};
const numbersIn = (value: unknown): number[] =>
  typeof value === 'number' ? [value] : typeof value === 'object' && value !== null ? Object.values(value).flatMap(numbersIn) : []; // prettier-ignore

describe.each([
  ['the room', ROOM],
  ['paper', PAPER],
])('in the colors of %s', (_, theme) => {
  test('labels: each filter’s error with its ±, and the bounds of the words', () => {
    const option = labelsOption(
      [
        { name: 'ND4', error: 0.1, u95: 0.02, off: false },
        { name: 'ND8', error: -0.6, u95: 0.05, off: true },
      ],
      [0.33, 0.66],
      theme,
    );
    expect(JSON.stringify(option)).toContain('ND8');
    const all = numbersIn(seriesOf(option));
    for (const one of [0.1, -0.6]) expect(all.some((value) => Math.abs(value - one) < 1e-9)).toBe(true);
    expect(JSON.stringify(option)).toContain(theme.paper);
  });

  test('steps: labelled and found side by side', () => {
    const option = stepsOption([{ name: 'ND4\nND8', labelled: 1, found: 0.87, u95: 0.03, odd: true }], theme);
    const all = numbersIn(seriesOf(option));
    for (const one of [1, 0.87]) expect(all).toContain(one);
    expect(JSON.stringify(option)).toContain('ND8');
  });

  test('casts: a* to the right, b* up, rings that are round', () => {
    const option = castsOption([{ name: 'Set', rows: [{ name: 'ND4', a: 1.5, b: -2.5 }] }], theme, 1.3);
    const [x, y] = [axisOf(option, 'xAxis'), axisOf(option, 'yAxis')];
    const spanX = x.max! - x.min!;
    const spanY = y.max! - y.min!;
    expect(Math.max(spanX / spanY, spanY / spanX)).toBeCloseTo(1.3, 1);
    expect(x.min).toBeLessThan(-1);
    expect(y.min).toBeLessThan(-2.5);
    expect(JSON.stringify(seriesOf(option))).toContain('1.5');
  });

  test('sharpness: a curve a filter, bare dashed, from nothing to one cycle a pixel', () => {
    const curve = Array.from({ length: 65 }, (_, i) => 1 - i / 64);
    const option = mtfOption(
      [
        { name: 'bare', curve, bare: true },
        { name: 'ND8', curve: curve.map((one) => one * 0.9), bare: false },
      ],
      theme,
    );
    expect(seriesOf(option)).toHaveLength(2);
    const [bare, filtered] = seriesOf(option) as unknown as {
      data: [number, number][];
      lineStyle: { type?: string };
    }[];
    expect(bare.data[0]).toEqual([0, 1]);
    expect(filtered.data[0][1]).toBeCloseTo(0.9, 9);
    expect(bare.lineStyle.type).not.toBe(filtered.lineStyle.type);
  });

  test('corners: a cell a place, both signs alike', () => {
    const option = mapOption({ columns: 3, rows: 2, stops: [0, -0.1, -0.2, 0.1, 0, -0.3] }, theme, 0.3);
    const [map] = seriesOf(option) as unknown as { data: [number, number, number][] }[];
    expect(map.data).toHaveLength(6);
    const at = (x: number, y: number) => map.data.find(([cx, cy]) => cx === x && cy === y)![2];
    expect([at(0, 0), at(2, 0), at(0, 1), at(2, 1)]).toEqual([0, -0.2, 0.1, -0.3]);
    const scale = (option as unknown as { visualMap: { min: number; max: number } }).visualMap;
    expect(scale.min).toBe(-scale.max);
  });

  test('scores: a bar a kit and quality; what wasn’t measured is no bar', () => {
    const option = breakdownOption(['strength', 'cast'], [{ name: 'Set', scores: [88, null] }], theme);
    const [bars] = seriesOf(option) as unknown as { data: unknown[] }[];
    expect(bars.data).toHaveLength(2);
    expect(numbersIn(bars.data)).toContain(88);
    expect(numbersIn(bars.data)).not.toContain(0);
  });

  test('light over time: bare open, filters filled', () => {
    const option = lightOption(
      [
        { minute: 0, stops: 0, u95: 0.01, bare: true },
        { minute: 3, stops: -0.2, u95: 0.02, bare: false },
      ],
      theme,
    );
    const all = numbersIn(seriesOf(option));
    for (const one of [3, -0.2]) expect(all).toContain(one);
  });
});
