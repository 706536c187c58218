/** Charts as ECharts options: the same on screen, saved as a file, and in a report. Plain data in, no browser needed. */
import { tickStep } from 'd3-array';
import type { EChartsCoreOption } from 'echarts/core';
import {
  base,
  interval,
  legendOf,
  SYMBOLS,
  telling,
  valueAxis,
  words,
  type Api,
  type Size,
  type Theme,
} from './chartParts';

const PARTS = 4;

/** An axis that goes as far on both sides of nothing, and ends where a number stands. @param reach what it must hold */
function aroundNothing(reach: number): { min: number; max: number; interval: number } {
  const step = tickStep(0, Math.max(reach, 1e-6), PARTS - 1);
  const end = Math.ceil(reach / step - 1e-9) * step;
  return { min: -end, max: end, interval: step };
}

/** The same from nothing up. */
function upFromNothing(reach: number): { min: number; max: number; interval: number } {
  const step = tickStep(0, Math.max(reach, 1e-6), PARTS);
  return { min: 0, max: Math.ceil(reach / step - 1e-9) * step, interval: step };
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
  const reach = Math.max(...bounds, ...rows.map(({ error, u95 }) => Math.abs(error) + u95)) * 1.05;
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
      ...aroundNothing(reach),
      nameGap: 40,
    }),
    series: [
      {
        type: 'custom',
        ...telling(0),
        renderItem: interval(theme, (i) => rows[i].off),
        data: rows.map(({ error, u95 }, i) => [i, error, u95]),
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
    grid: { left: 56, right: 20, top: 16, bottom: 48 },
    xAxis: {
      type: 'category',
      data: rows.map((row) => row.name),
      // A name of two lines needs their height said, or the second stands on the first.
      axisLabel: { ...words(theme), interval: 0, lineHeight: 16 },
      axisLine: { lineStyle: { color: theme.ink } },
      axisTick: { show: false },
    },
    yAxis: valueAxis(theme, 'step, stops', {
      ...upFromNothing(Math.max(0, ...rows.map(({ labelled, found, u95 }) => Math.max(labelled, found + u95)))),
      // Two filters that stand in the wrong order step down.
      ...(rows.some(({ found, u95 }) => found - u95 < 0)
        ? aroundNothing(Math.max(...rows.map(({ labelled, found, u95 }) => Math.max(labelled, Math.abs(found) + u95))))
        : {}),
      nameGap: 36,
    }),
    series: [
      {
        type: 'bar',
        ...telling(0, { part: 'labelled' }),
        barWidth: '46%',
        itemStyle: { color: 'transparent', borderColor: theme.quiet, borderWidth: 1.2 },
        data: rows.map((row) => row.labelled),
      },
      {
        type: 'custom',
        ...telling(0, { part: 'found' }),
        renderItem: interval(theme, (i) => rows[i].odd),
        data: rows.map(({ found, u95 }, i) => [i, found, u95]),
      },
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
export function mtfOption(rows: readonly MtfRow[], theme: Theme, { width }: Size): EChartsCoreOption {
  const { legend, below } = legendOf(
    rows.map(({ name }) => name),
    theme,
    width,
  );
  const highest = Math.max(1, ...rows.flatMap(({ curve }) => curve.slice(0, Math.ceil(curve.length / 2))));
  return {
    ...base(theme),
    grid: { left: 56, right: 20, top: below, bottom: 44 },
    legend,
    xAxis: valueAxis(theme, 'cycles/pixel', { min: 0, max: 0.5, nameGap: 26, splitLine: { show: false } }),
    yAxis: valueAxis(theme, 'response', {
      min: 0,
      max: Math.ceil(highest / 0.2 - 0.05) * 0.2,
      interval: 0.2,
      nameGap: 36,
    }),
    series: rows.map(({ name, curve, bare }, i) => ({
      type: 'line',
      name,
      // Bare has no row of its own: it stands in those of the filters.
      ...(bare ? { silent: true } : telling(rows.slice(0, i).filter((one) => !one.bare).length, { alone: true })),
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
  { width }: Size,
): EChartsCoreOption {
  const { legend, below } = legendOf(
    kits.map(({ name }) => name),
    theme,
    width,
  );
  const inks = [theme.accent, theme.ink, theme.quiet, theme.warning];
  return {
    ...base(theme),
    grid: { left: 84, right: 20, top: below, bottom: 40 },
    legend,
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
      ...telling(0, { part: String(i) }),
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
  const reach = Math.max(0.1, ...points.map(({ stops, u95 }) => Math.abs(stops) + u95));
  const most = Math.max(0.5, ...points.map(({ minute }) => minute));
  return {
    ...base(theme),
    grid: { left: 52, right: 16, top: 12, bottom: 40 },
    xAxis: valueAxis(theme, 'minutes', { ...upFromNothing(most), nameGap: 26 }),
    yAxis: valueAxis(theme, 'light, stops', { ...aroundNothing(reach), nameGap: 38 }),
    series: [
      {
        type: 'custom',
        ...telling(0),
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
