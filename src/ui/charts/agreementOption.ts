/** Several benches' figures of one thing: each with its ±, over the band of what they agree on; and Youden's plot of two filters. */
import type { EChartsCoreOption } from 'echarts/core';
import { labelsNear } from './castLabels';
import { base, figureAxis, interval, telling, words, type Api, type Size, type Theme } from './chartParts';

export interface BenchRow {
  name: string;
  value: number;
  u95: number;
  /** Drawn as what stands out. */
  odd: boolean;
}

/** Room above and below what is drawn, of its height. */
const BEYOND = 0.1;
/** A bench's name is cut where there is no room for it, letters. */
const LONGEST_NAME = 18;
const LETTER = 7;

const cut = (name: string, most: number) => (name.length > most ? `${name.slice(0, most - 1)}…` : name);

/** Benches side by side. @param least the axis holds this much at least */
export function agreementOption(
  rows: readonly BenchRow[],
  agreed: { value: number; u95: number },
  { unit, least }: { unit: string; least: number },
  theme: Theme,
  { width }: Size,
): EChartsCoreOption {
  const ends = [...rows, agreed].flatMap(({ value, u95 }) => [value - u95, value + u95]);
  const [lowest, highest] = [Math.min(...ends), Math.max(...ends)];
  const half = (Math.max(highest - lowest, least) / 2) * (1 + 2 * BEYOND);
  const [low, high] = [(lowest + highest) / 2 - half, (lowest + highest) / 2 + half];
  const each = Math.max(4, Math.min(LONGEST_NAME, Math.floor((width - 110) / rows.length / LETTER)));
  return {
    ...base(theme),
    grid: { left: 64, right: 24, top: 16, bottom: 34 },
    xAxis: {
      type: 'category',
      data: rows.map(({ name }) => name),
      axisLabel: { ...words(theme), interval: 0, formatter: (name: string) => cut(name, each) },
      axisTick: { show: false },
      axisLine: { onZero: false, lineStyle: { color: theme.line } },
    },
    yAxis: figureAxis(theme, unit, [low, high], 46),
    series: [
      { type: 'custom', silent: true, data: [[0, agreed.value]], renderItem: band(agreed, rows.length, theme) },
      {
        type: 'custom',
        ...telling(0),
        renderItem: interval(theme, (i) => rows[i].odd),
        data: rows.map(({ value, u95 }, i) => [i, value, u95]),
      },
    ],
  };
}

/** From the first bench's left to the last one's right: the ± that they agree on, and the mean in its middle. */
function band({ value, u95 }: { value: number; u95: number }, count: number, theme: Theme) {
  return (_: unknown, api: Api) => {
    const [first, top] = api.coord([0, value + u95]);
    const [last, bottom] = api.coord([count - 1, value - u95]);
    const step = count > 1 ? (last - first) / (count - 1) : 80;
    const [left, right] = [first - step / 2, last + step / 2];
    const middle = api.coord([0, value])[1];
    return {
      type: 'group',
      children: [
        {
          type: 'rect',
          shape: { x: left, y: top, width: right - left, height: Math.max(1, bottom - top) },
          style: { fill: theme.accent, opacity: 0.16 },
        },
        {
          type: 'line',
          shape: { x1: left, y1: middle, x2: right, y2: middle },
          style: { stroke: theme.accent, lineWidth: 1.5 },
        },
      ],
    };
  };
}

export interface YoudenDots {
  center: readonly [number, number];
  radius: number;
  points: readonly { bench: string; first: number; second: number; outside: boolean }[];
}

const EDGES = { left: 64, right: 20, top: 18, bottom: 46 };

/** Youden's plot: one dot a bench, the medians' cross, the diagonal, the circle that holds 95 % of what is off by chance. */
export function youdenOption(
  { center, radius, points }: YoudenDots,
  names: readonly [string, string],
  least: number,
  theme: Theme,
  { width, height }: Size,
): EChartsCoreOption {
  const farthest = Math.max(
    least,
    radius,
    ...points.flatMap(({ first, second }) => [Math.abs(first - center[0]), Math.abs(second - center[1])]),
  );
  // As many stops a pixel across as upright, or the circle would be none.
  const [across, upright] = [width - EDGES.left - EDGES.right, height - EDGES.top - EDGES.bottom];
  const reach = farthest * 1.2;
  const perPixel = (2 * reach) / Math.max(1, Math.min(across, upright));
  const [halfX, halfY] = [(perPixel * across) / 2, (perPixel * upright) / 2];
  return {
    ...base(theme),
    grid: EDGES,
    xAxis: figureAxis(theme, names[0], [center[0] - halfX, center[0] + halfX], 28),
    yAxis: figureAxis(theme, names[1], [center[1] - halfY, center[1] + halfY], 46),
    series: [
      { type: 'custom', silent: true, clip: true, data: [[center[0], center[1]]], renderItem: cross(center, radius, Math.min(halfX, halfY), theme) }, // prettier-ignore
      {
        type: 'custom',
        ...telling(0),
        renderItem: dots(points, theme, width),
        data: points.map(({ first, second }) => [first, second]),
      },
    ],
  };
}

/** Benches with their names, none over another; what lies outside is a square, so that color isn't all that tells. */
function dots(points: YoudenDots['points'], theme: Theme, width: number) {
  return ({ dataIndex }: { dataIndex: number }, api: Api) => {
    const places = points.map(({ bench, first, second }) => {
      const [x, y] = api.coord([first, second]);
      return { x, y, name: cut(bench, LONGEST_NAME) };
    });
    const { x, y, name } = places[dataIndex];
    const label = labelsNear(places, width)[dataIndex];
    const dot = points[dataIndex].outside
      ? { type: 'rect', shape: { x: x - 5, y: y - 5, width: 10, height: 10 }, style: { fill: theme.warning } }
      : { type: 'circle', shape: { cx: x, cy: y, r: 5 }, style: { fill: theme.accent } };
    const text = label && {
      type: 'text',
      // Above the dots of other benches.
      z2: 10,
      style: {
        text: name,
        x: label.x,
        y: label.y,
        textAlign: label.align,
        textVerticalAlign: 'middle',
        fill: theme.ink,
        fontSize: 12,
        fontFamily: words(theme).fontFamily,
      },
    };
    return { type: 'group', children: text ? [dot, text] : [dot] };
  };
}

function cross(center: readonly [number, number], radius: number, half: number, theme: Theme) {
  return (_: unknown, api: Api) => {
    const [cx, cy] = api.coord(center);
    const perUnit = api.coord([center[0] + 1, center[1]])[0] - cx;
    const line = (x1: number, y1: number, x2: number, y2: number, dashed = false) => ({
      type: 'line',
      shape: { x1, y1, x2, y2 },
      style: { stroke: theme.mid, lineWidth: 1, ...(dashed ? { lineDash: [4, 4] } : {}) },
    });
    const long = half * perUnit;
    return {
      type: 'group',
      children: [
        line(cx - long, cy, cx + long, cy),
        line(cx, cy - long, cx, cy + long),
        line(cx - long, cy + long, cx + long, cy - long, true),
        {
          type: 'circle',
          shape: { cx, cy, r: radius * perUnit },
          style: { fill: 'none', stroke: theme.accent, lineWidth: 1.5 },
        },
      ],
    };
  };
}
