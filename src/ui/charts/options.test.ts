/** Charts as options: what is drawn is what was measured, on axes that hold all of it. */
import * as echarts from 'echarts';
import { castsOption } from './castsOption';
import { legendOf, PAPER, ROOM, rowOfMark, telling } from './chartParts';
import { breakdownOption, labelsOption, lightOption, mapOption, mtfOption, stepsOption } from './options';

const SIZE = { width: 480, height: 360 };

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

  test('casts: a* to the right, b* up, with their ±', () => {
    const option = castsOption(
      [{ name: 'Set', rows: [{ name: 'ND4', a: 1.5, b: -2.5, u95: [0.4, 0.2] }] }],
      theme,
      SIZE,
    );
    const [x, y] = [axisOf(option, 'xAxis'), axisOf(option, 'yAxis')];
    expect(x.min).toBeLessThan(-1);
    expect(y.min).toBeLessThan(-2.5);
    const all = numbersIn(seriesOf(option));
    for (const one of [1.5, -2.5, 0.4, 0.2]) expect(all).toContain(one);
  });

  test('sharpness: a curve a filter, bare dashed, from nothing to one cycle a pixel', () => {
    const curve = Array.from({ length: 65 }, (_, i) => 1 - i / 64);
    const option = mtfOption(
      [
        { name: 'bare', curve, bare: true },
        { name: 'ND8', curve: curve.map((one) => one * 0.9), bare: false },
      ],
      theme,
      SIZE,
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
    const option = breakdownOption(['strength', 'cast'], [{ name: 'Set', scores: [88, null] }], theme, SIZE);
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

/** The drawing as SVG by the library itself. */
function drawn(option: echarts.EChartsCoreOption, { width, height } = SIZE): string {
  const chart = echarts.init(null, null, { renderer: 'svg', ssr: true, width, height });
  chart.setOption(option);
  const svg = chart.renderToSVGString();
  chart.dispose();
  return svg;
}

const textsOf = (svg: string) => [...svg.matchAll(/<text[^>]*>([^<]*)<\/text>/g)].map((one) => one[1]);

describe('as they are drawn', () => {
  const kits = ['Foundry Set', 'Harbour Six', 'Millrace Five', 'Sluice Turners'].map((name, k) => ({
    name,
    rows: Array.from({ length: 6 }, (_, i) => ({ name: `ND${2 ** (i + 1)}`, a: 0.2 * i - k * 0.3, b: 0.1 * i })),
  }));

  test.each([
    [480, 360],
    [900, 430],
    [330, 430],
  ])('rings are round in a drawing of %d × %d', (width, height) => {
    const svg = drawn(castsOption(kits, ROOM, { width, height }), { width, height });
    // A ring is the line of 73 points; its box is as wide as high.
    const boxes = [...svg.matchAll(/<path d="(M[^"]*)"/g)]
      .map(([, path]) => [...path.matchAll(/(-?[\d.]+) (-?[\d.]+)/g)].map(([, x, y]) => [Number(x), Number(y)]))
      .filter((points) => points.length > 60);
    expect(boxes.length).toBeGreaterThan(1);
    for (const points of boxes) {
      const span = (axis: 0 | 1) =>
        Math.max(...points.map((one) => one[axis])) - Math.min(...points.map((one) => one[axis]));
      expect(Math.abs(span(0) - span(1))).toBeLessThan(0.5);
    }
  });

  test('labels of axes end at round numbers', () => {
    const labels = textsOf(
      drawn(labelsOption([{ name: 'ND8', error: -0.46, u95: 0.02, off: false }], [0.33, 0.67], ROOM)),
    );
    expect(labels).toEqual(expect.arrayContaining(['−0.8', '−0.4', '0', '0.4', '0.8']));
    expect(labels).not.toContain('0.67');
    const casts = textsOf(drawn(castsOption(kits, ROOM, { width: 640, height: 430 }), { width: 640, height: 430 }));
    expect(casts).toEqual(expect.arrayContaining(['−4', '−2', '0', '2', '4']));
    expect(casts.filter((one) => /\d\.\d/.test(one))).toEqual([]);
    const steps = [{ name: 'ND4\nND8', labelled: 1, found: 1.31, u95: 0.02, odd: false }];
    expect(textsOf(drawn(stepsOption(steps, ROOM)))).toEqual(expect.arrayContaining(['0', '0.5', '1', '1.5']));
  });

  test('filters in the wrong order step down, and the drawing holds it', () => {
    const steps = [{ name: 'ND4\nND8', labelled: 1, found: -0.4, u95: 0.02, odd: true }];
    expect(axisOf(stepsOption(steps, ROOM), 'yAxis').min).toBeLessThanOrEqual(-0.42);
  });

  test('a legend takes the lines that its names need, never pages', () => {
    const names = kits.map(({ name }) => name);
    expect(legendOf(names, ROOM, 1200).below).toBeLessThan(legendOf(names, ROOM, 300).below);
    const texts = textsOf(drawn(castsOption(kits, ROOM, { width: 330, height: 430 }), { width: 330, height: 430 }));
    for (const name of names) expect(texts).toContain(name);
    expect(texts.some((one) => /^\d+\/\d+$/.test(one))).toBe(false);
  });

  test('a sharpened filter’s curve above one is held', () => {
    const curve = Array.from({ length: 65 }, (_, i) => 1 + 0.25 * Math.sin((i / 64) * Math.PI * 2));
    expect(axisOf(mtfOption([{ name: 'x', curve, bare: false }], ROOM, SIZE), 'yAxis').max).toBeCloseTo(1.4, 9);
  });
});

describe('which row of the table tells a mark', () => {
  const row = (id: string | undefined, dataIndex: number) => rowOfMark({ seriesId: id, dataIndex });

  test('the nth mark by the nth row from the first on, or all by one alone', () => {
    expect(row(telling(0).id, 3)).toBe(3);
    expect(row(telling(4, { part: 'Foundry Set alone' }).id, 2)).toBe(6);
    expect(row(telling(2, { alone: true }).id, 9)).toBe(2);
    expect(row(telling(2, { alone: true, part: 'x' }).id, 9)).toBe(2);
  });

  test('nothing is told of rings, halos and bounds, nor of a series that the library names', () => {
    expect(row(undefined, 1)).toBeNull();
    expect(row('\0series\0', 1)).toBeNull();
  });

  test('series of one chart have names of their own: the library lays those of one name on each other', () => {
    const cast = { name: 'ND4', a: 1, b: 1 };
    const kits = [
      { name: 'A', rows: [cast, cast] },
      // Of one nothing was measured; two have one name.
      { name: 'B', rows: [] },
      { name: 'A', rows: [cast] },
    ];
    const curve = [1, 0.5, 0.2];
    const options = [
      castsOption(kits, ROOM, SIZE),
      stepsOption([{ name: 'a', labelled: 1, found: 1, u95: 0.1, odd: false }], ROOM),
      breakdownOption(['cast'], [{ name: 'A', scores: [1] }, { name: 'A', scores: [null] }], ROOM, SIZE), // prettier-ignore
      mtfOption([{ name: 'bare', curve, bare: true }, { name: 'a', curve, bare: false }, { name: 'b', curve, bare: false }], ROOM, SIZE), // prettier-ignore
    ];
    const idsOf = (option: object) => seriesOf(option).flatMap(({ id }) => (id === undefined ? [] : [String(id)]));
    for (const option of options) expect(new Set(idsOf(option)).size).toBe(idsOf(option).length);
    // The last kit's first dot is the table's third row; the second filter's curve its second.
    expect(row(idsOf(options[0])[2], 0)).toBe(2);
    expect(row(idsOf(options[3])[1], 5)).toBe(1);
  });
});
