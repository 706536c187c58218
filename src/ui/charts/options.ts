/** Charts as ECharts options: the same on screen, saved as a file, and in a report. Plain data in, no browser needed. */
import type { EChartsCoreOption } from 'echarts/core';

export interface Theme {
  ink: string;
  quiet: string;
  line: string;
  accent: string;
  warning: string;
  paper: string;
}

/** The gray room, and paper. */
export const ROOM: Theme = {
  ink: '#ececec',
  quiet: '#bababa',
  line: '#5f5f5f',
  accent: '#9fe3c4',
  warning: '#f0b354',
  paper: '#444444',
};
export const PAPER: Theme = {
  ink: '#1d1d1d',
  quiet: '#565656',
  line: '#c9c9c9',
  accent: '#0f6b4a',
  warning: '#8a5200',
  paper: '#ffffff',
};

const FONT = 'Archivo Variable, system-ui, sans-serif';
const minus = (value: number) => String(Math.round(value * 1e3) / 1e3).replace('-', '−');

function base(theme: Theme): EChartsCoreOption {
  return {
    animation: false,
    backgroundColor: theme.paper,
    textStyle: { fontFamily: FONT, color: theme.quiet },
    aria: { enabled: false },
  };
}

const words = (theme: Theme) => ({ color: theme.quiet, fontSize: 12, fontFamily: FONT });

function valueAxis(theme: Theme, name: string, more: object = {}) {
  return {
    type: 'value',
    name,
    nameLocation: 'middle',
    nameTextStyle: words(theme),
    axisLabel: { ...words(theme), formatter: minus },
    axisLine: { lineStyle: { color: theme.line } },
    splitLine: { lineStyle: { color: theme.line, opacity: 0.6 } },
    ...more,
  };
}

interface Api {
  value(dimension: number): number;
  coord(point: readonly number[]): number[];
}

/** A dot with its interval, upright; the dot of what is off is a square, so that color isn't all that tells. */
function interval(theme: Theme, square: (row: number) => boolean) {
  return (params: { dataIndex: number }, api: Api) => {
    const [x, value, u] = [api.value(0), api.value(1), api.value(2)];
    const [px, py] = api.coord([x, value]);
    const [top, bottom] = [api.coord([x, value + u])[1], api.coord([x, value - u])[1]];
    const stroke = { stroke: theme.ink, lineWidth: 1.6 };
    const lineTo = (x1: number, y1: number, x2: number, y2: number) => ({
      type: 'line',
      shape: { x1, y1, x2, y2 },
      style: stroke,
    });
    const dot = square(params.dataIndex)
      ? { type: 'rect', shape: { x: px - 5, y: py - 5, width: 10, height: 10 }, style: { fill: theme.warning } }
      : { type: 'circle', shape: { cx: px, cy: py, r: 5 }, style: { fill: theme.accent } };
    return {
      type: 'group',
      children: [
        lineTo(px, top, px, bottom),
        lineTo(px - 5, top, px + 5, top),
        lineTo(px - 5, bottom, px + 5, bottom),
        dot,
      ],
    };
  };
}

export interface LabelRow {
  name: string;
  /** Found less labelled, stops. */
  error: number;
  u95: number;
  off: boolean;
}

/** Labels against what was found: the error of each filter with its interval; lines at the bounds of the words. */
export function labelsOption(rows: readonly LabelRow[], bounds: readonly number[], theme: Theme): EChartsCoreOption {
  const reach = Math.max(...bounds, ...rows.map(({ error, u95 }) => Math.abs(error) + u95)) * 1.15;
  return {
    ...base(theme),
    grid: { left: 56, right: 20, top: 16, bottom: 34 },
    xAxis: {
      type: 'category',
      data: rows.map((row) => row.name),
      axisLabel: words(theme),
      axisLine: { onZero: true, lineStyle: { color: theme.ink } },
      axisTick: { show: false },
    },
    yAxis: valueAxis(theme, 'found less label, stops', {
      min: -reach,
      max: reach,
      nameGap: 40,
      axisLabel: { ...words(theme), formatter: (v: number) => v.toFixed(1).replace('-', '−') },
    }),
    series: [
      {
        type: 'custom',
        renderItem: interval(theme, (i) => rows[i].off),
        data: rows.map(({ error, u95 }, i) => [i, error, u95]),
        silent: true,
        markLine: {
          silent: true,
          symbol: 'none',
          label: { show: false },
          lineStyle: { color: theme.quiet, type: 'dashed' },
          data: bounds.flatMap((bound) => [{ yAxis: bound }, { yAxis: -bound }]),
        },
      },
    ],
  };
}

export interface StepRow {
  name: string;
  labelled: number;
  found: number;
  u95: number;
  odd: boolean;
}

/** Steps between neighbors: what was found as dots with intervals, what is labelled as bars. */
export function stepsOption(rows: readonly StepRow[], theme: Theme): EChartsCoreOption {
  return {
    ...base(theme),
    grid: { left: 56, right: 20, top: 16, bottom: 34 },
    xAxis: {
      type: 'category',
      data: rows.map((row) => row.name),
      axisLabel: { ...words(theme), interval: 0 },
      axisLine: { lineStyle: { color: theme.ink } },
      axisTick: { show: false },
    },
    yAxis: valueAxis(theme, 'step, stops', { nameGap: 36 }),
    series: [
      {
        type: 'bar',
        silent: true,
        barWidth: '46%',
        itemStyle: { color: 'transparent', borderColor: theme.quiet, borderWidth: 1.2 },
        data: rows.map((row) => row.labelled),
      },
      {
        type: 'custom',
        silent: true,
        renderItem: interval(theme, (i) => rows[i].odd),
        data: rows.map(({ found, u95 }, i) => [i, found, u95]),
      },
    ],
  };
}

export interface CastRow {
  name: string;
  a: number;
  b: number;
}

const RINGS = [1, 2.3, 5, 10, 20, 40];
const SYMBOLS = ['circle', 'rect', 'triangle', 'diamond', 'pin', 'arrow'] as const;

/**
 * Casts of all filters of one or more kits in a*, b* at L* 50; a kit has a shape of its own.
 *
 * @param aspect width over height of the drawing, so that circles are nearly round
 */
export function castsOption(
  kits: readonly { name: string; rows: readonly CastRow[] }[],
  theme: Theme,
  aspect: number,
): EChartsCoreOption {
  const furthest = Math.max(3, ...kits.flatMap(({ rows }) => rows.map(({ a, b }) => Math.hypot(a, b))));
  const limit = RINGS.find((ring) => ring >= furthest) ?? Math.ceil(furthest);
  const ring = (radius: number) =>
    Array.from({ length: 73 }, (_, i) => [
      radius * Math.cos((i * Math.PI) / 36),
      radius * Math.sin((i * Math.PI) / 36),
    ]);
  const axis = (name: string, nameGap: number, by: number) =>
    valueAxis(theme, name, {
      min: -Math.ceil(limit * 1.1 * by),
      max: Math.ceil(limit * 1.1 * by),
      nameGap,
      splitLine: { show: false },
      axisLabel: { ...words(theme), formatter: minus, showMinLabel: false, showMaxLabel: false },
    });
  const inks = [theme.accent, theme.ink, theme.warning, theme.quiet];
  return {
    ...base(theme),
    grid: { left: 56, right: 24, top: 40, bottom: 44 },
    legend: { show: kits.length > 1, top: 4, type: 'scroll', textStyle: words(theme) },
    xAxis: axis('a*, green to red', 26, aspect),
    yAxis: axis('b*, blue to yellow', 36, 1),
    series: [
      ...RINGS.filter((radius) => radius <= limit).map((radius) => ({
        type: 'line',
        silent: true,
        showSymbol: false,
        data: ring(radius),
        lineStyle: { color: theme.line, width: 1, type: radius === 1 ? 'solid' : 'dashed' },
      })),
      ...kits.map(({ name, rows }, k) => ({
        type: 'scatter',
        name,
        silent: true,
        symbol: SYMBOLS[k % SYMBOLS.length],
        symbolSize: 11,
        itemStyle: { color: inks[k % inks.length] },
        data: rows.map((row) => ({ name: row.name, value: [row.a, row.b] })),
        label: { show: true, position: 'right', formatter: '{b}', ...words(theme), color: theme.ink },
        labelLayout: { moveOverlap: 'shiftY' },
      })),
    ],
  };
}

export interface MtfRow {
  name: string;
  /** Response at even steps from 0 to 1 cycle a pixel. */
  curve: readonly number[];
  bare: boolean;
}

/** MTF curves: bare dashed, filters solid. */
export function mtfOption(rows: readonly MtfRow[], theme: Theme): EChartsCoreOption {
  return {
    ...base(theme),
    grid: { left: 56, right: 20, top: 40, bottom: 44 },
    legend: { top: 4, textStyle: words(theme), type: 'scroll' },
    xAxis: valueAxis(theme, 'cycles/pixel', { min: 0, max: 0.5, nameGap: 26, splitLine: { show: false } }),
    yAxis: valueAxis(theme, 'response', { min: 0, max: 1.1, nameGap: 36 }),
    series: rows.map(({ name, curve, bare }, i) => ({
      type: 'line',
      name,
      silent: true,
      symbol: SYMBOLS[i % SYMBOLS.length],
      showSymbol: !bare,
      symbolSize: 6,
      lineStyle: { color: bare ? theme.quiet : theme.ink, width: bare ? 1.5 : 2, type: bare ? 'dashed' : 'solid' },
      itemStyle: { color: bare ? theme.quiet : theme.ink },
      data: curve
        .map((value, k) => [k / (curve.length - 1), value])
        .filter(([f], k) => f <= 0.5 && (bare || k % 4 === 0 || f === 0.5)),
    })),
  };
}

/** A map of stops over the frame; negative is darker. */
export function mapOption(
  { columns, rows, stops }: { columns: number; rows: number; stops: readonly number[] },
  theme: Theme,
  reach: number,
): EChartsCoreOption {
  const category = (count: number, inverse: boolean) => ({
    type: 'category',
    data: Array.from({ length: count }, (_, i) => i),
    show: false,
    inverse,
  });
  return {
    ...base(theme),
    grid: { left: 8, right: 8, top: 8, bottom: 30 },
    xAxis: category(columns, false),
    yAxis: category(rows, true),
    visualMap: {
      min: -reach,
      max: reach,
      orient: 'horizontal',
      left: 'center',
      bottom: 0,
      itemWidth: 10,
      itemHeight: 110,
      precision: 2,
      text: [`+${reach.toFixed(2)} stop`, `−${reach.toFixed(2)}`],
      textStyle: words(theme),
      inRange: { color: ['#1a477f', '#c8c8c8', '#b8560b'] },
    },
    series: [
      {
        type: 'heatmap',
        silent: true,
        data: stops.map((value, i) => [i % columns, Math.floor(i / columns), value]),
      },
    ],
  };
}

export interface BreakdownRow {
  name: string;
  /** Score by quality; `null` where it wasn't measured. */
  scores: readonly (number | null)[];
}

/** Scores by quality, a row of bars a quality, a bar a kit. */
export function breakdownOption(
  qualities: readonly string[],
  kits: readonly BreakdownRow[],
  theme: Theme,
): EChartsCoreOption {
  const inks = [theme.accent, theme.ink, theme.quiet, theme.warning];
  return {
    ...base(theme),
    grid: { left: 84, right: 20, top: 34, bottom: 40 },
    legend: { top: 2, type: 'scroll', textStyle: words(theme) },
    xAxis: valueAxis(theme, 'score', { min: 0, max: 100, nameGap: 24 }),
    yAxis: {
      type: 'category',
      inverse: true,
      data: [...qualities],
      axisLabel: words(theme),
      axisLine: { lineStyle: { color: theme.line } },
      axisTick: { show: false },
    },
    series: kits.map(({ name, scores }, i) => ({
      type: 'bar',
      name,
      silent: true,
      barGap: '20%',
      itemStyle: { color: inks[i % inks.length], decal: i > 3 ? { symbol: 'rect' } : undefined },
      data: scores.map((score) => score ?? '-'),
    })),
  };
}

/** The light of a scene over its pictures: minutes since the first, stops, their ±; bare ones as open circles, filtered ones filled. */
export function lightOption(
  points: readonly { minute: number; stops: number; u95: number; bare: boolean }[],
  theme: Theme,
): EChartsCoreOption {
  const reach = Math.max(0.1, ...points.map(({ stops, u95 }) => Math.abs(stops) + u95)) * 1.1;
  const most = Math.max(0.5, ...points.map(({ minute }) => minute));
  return {
    ...base(theme),
    grid: { left: 52, right: 16, top: 12, bottom: 40 },
    xAxis: valueAxis(theme, 'minutes', { min: 0, max: Number((most * 1.02).toPrecision(3)), nameGap: 26 }),
    yAxis: valueAxis(theme, 'light, stops', {
      min: -Number(reach.toPrecision(2)),
      max: Number(reach.toPrecision(2)),
      nameGap: 38,
    }),
    series: [
      {
        type: 'custom',
        data: points.map(({ minute, stops, u95, bare }) => [minute, stops, u95, bare ? 1 : 0]),
        renderItem: (_: unknown, api: Api) => {
          const [x, value, u, bare] = [0, 1, 2, 3].map((dimension) => api.value(dimension));
          const [px, py] = api.coord([x, value]);
          const [top, bottom] = [api.coord([x, value + u])[1], api.coord([x, value - u])[1]];
          const ink = bare ? theme.ink : theme.accent;
          return {
            type: 'group',
            children: [
              { type: 'line', shape: { x1: px, y1: top, x2: px, y2: bottom }, style: { stroke: ink, lineWidth: 1.4 } },
              {
                type: 'circle',
                shape: { cx: px, cy: py, r: 4 },
                style: bare ? { fill: theme.paper, stroke: ink, lineWidth: 1.6 } : { fill: ink },
              },
            ],
          };
        },
      },
    ],
  };
}
