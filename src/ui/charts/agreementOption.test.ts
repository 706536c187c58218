/** Drawings of what benches agree on: the band lies where the mean is, and a circle is round whatever the drawing's shape. */
import { agreementOption, youdenOption } from './agreementOption';
import { ROOM } from './chartParts';

type Node = { type: string; shape?: Record<string, number>; style?: Record<string, unknown>; children?: Node[] };
type Drawn = (params: { dataIndex: number }, api: object) => Node;
interface Option {
  xAxis: { min: number; max: number; axisLabel: { formatter: (name: string) => string } };
  yAxis: { min: number; max: number };
  series: { renderItem: Drawn; data: number[][] }[];
}

const rows = [
  { name: 'This bench', value: 5.02, u95: 0.02, odd: false },
  { name: 'The bench of a club with a long name', value: 5.2, u95: 0.03, odd: true },
];

test('every ± lies on the axis, and the band lies over the mean and its ±', () => {
  const size = { width: 600, height: 260 };
  const option = agreementOption(rows, { value: 5.05, u95: 0.1 }, { unit: 'stops', least: 0.05 }, ROOM, size) as unknown as Option; // prettier-ignore
  expect(option.yAxis.min).toBeLessThan(4.95);
  expect(option.yAxis.max).toBeGreaterThan(5.23);
  const coord = ([x, y]: number[]) => [100 + 200 * x, 1000 - 100 * y];
  const band = option.series[0].renderItem({ dataIndex: 0 }, { coord });
  const [rect, line] = band.children!;
  expect(rect.shape!.y).toBeCloseTo(1000 - 515, 6);
  expect(rect.shape!.height).toBeCloseTo(20, 6);
  expect(line.shape!.y1).toBeCloseTo(1000 - 505, 6);
  // From the first bench's left to the last one's right.
  expect([rect.shape!.x, rect.shape!.width]).toEqual([0, 400]);
  expect(option.xAxis.axisLabel.formatter(rows[1].name)).toMatch(/^The bench of a cl.*…$/);
});

test.each([
  [700, 340],
  [320, 340],
])('of %d × %d pixels a circle is round and holds on the drawing', (width, height) => {
  const dots = {
    center: [5, 2] as const,
    radius: 0.1,
    points: [
      { bench: 'a', first: 5.3, second: 2, outside: true },
      { bench: 'b', first: 5, second: 2.01, outside: false },
    ],
  };
  const { xAxis, yAxis, series } = youdenOption(dots, ['A', 'B'], 0.02, ROOM, { width, height }) as unknown as Option;
  const across = (xAxis.max - xAxis.min) / (width - 84);
  const upright = (yAxis.max - yAxis.min) / (height - 64);
  expect(across / upright).toBeCloseTo(1, 6);
  expect(xAxis.max).toBeGreaterThan(5.3);
  const coord = ([x, y]: number[]) => [(x - xAxis.min) / across, (yAxis.max - y) / upright];
  const circle = series[0].renderItem({ dataIndex: 0 }, { coord }).children!.find(({ type }) => type === 'circle')!;
  expect(circle.shape!.r).toBeCloseTo(0.1 / across, 6);
  const outside = series[1].renderItem({ dataIndex: 0 }, { coord });
  expect(outside.children!.map(({ type }) => type)).toEqual(['rect', 'text']);
});
