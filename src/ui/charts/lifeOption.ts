/** A figure over the years: sittings with their ±, the line through them, or limits that a bench stays within. */
import { extent } from 'd3-array';
import type { EChartsCoreOption } from 'echarts/core';
import { monthOf } from '@/ui/format';
import { base, figureAxis, interval, telling, words, type Theme } from './chartParts';

export interface LifeRow {
  /** Milliseconds since 1970, UTC. */
  day: number;
  value: number;
  u95: number;
  /** Drawn as what stands out. */
  odd?: boolean;
}

const MONTH_MS = 30.44 * 24 * 3600 * 1000;
/** Room above and below what is drawn, of its height. */
const BEYOND = 0.08;

interface Beside {
  /** Through the first and the last sitting, with its ± there; `null` for none. */
  line: { first: LifeRow; last: LifeRow } | null;
  /** Of a control chart: lines across. */
  limits?: readonly { at: number; name: string }[];
  /** Lines down. */
  events?: readonly { day: number; name: string }[];
  unit: string;
  /** The axis holds this much at least: noise below what anybody would notice isn't drawn large. */
  least: number;
}

/** Sittings as dots with their ±, and what stands beside them. */
export function lifeOption(
  rows: readonly LifeRow[],
  { line, limits = [], events = [], unit, least }: Beside,
  theme: Theme,
): EChartsCoreOption {
  const [from, to] = extent([...rows, ...events], ({ day }) => day) as [number, number];
  const drawn = [...rows, ...(line ? [line.first, line.last] : [])];
  const lowest = Math.min(...drawn.map(({ value, u95 }) => value - u95), ...limits.map(({ at }) => at));
  const highest = Math.max(...drawn.map(({ value, u95 }) => value + u95), ...limits.map(({ at }) => at));
  const half = Math.max(highest - lowest, least) / 2;
  const [low, high] = [(lowest + highest) / 2 - half, (lowest + highest) / 2 + half];
  const room = BEYOND * (high - low);
  const ends = line ? [line.first, line.last] : [];
  const dashed = (sign: number) => ({
    type: 'line',
    silent: true,
    symbol: 'none',
    lineStyle: { color: theme.mid, type: 'dashed', width: 1 },
    data: ends.map(({ day, value, u95 }) => [day, value + sign * u95]),
  });
  return {
    ...base(theme),
    grid: { left: 64, right: limits.length > 0 ? 96 : 24, top: events.length > 0 ? 30 : 16, bottom: 30 },
    xAxis: {
      type: 'time',
      min: from - MONTH_MS,
      max: to + MONTH_MS,
      splitNumber: 5,
      axisLabel: { ...words(theme), formatter: monthOf, hideOverlap: true },
      axisLine: { onZero: false, lineStyle: { color: theme.line } },
    },
    yAxis: figureAxis(theme, unit, [low - room, high + room], 46),
    series: [
      {
        type: 'line',
        silent: true,
        symbol: 'none',
        lineStyle: { color: theme.accent, width: 2 },
        data: ends.map(({ day, value }) => [day, value]),
      },
      dashed(1),
      dashed(-1),
      {
        type: 'custom',
        ...telling(0),
        renderItem: interval(theme, (i) => rows[i].odd === true),
        data: rows.map(({ day, value, u95 }) => [day, value, u95]),
        markLine: {
          silent: true,
          symbol: 'none',
          // Lines stand where they are: by itself they would be rounded to two decimals.
          precision: 9,
          label: { ...words(theme), position: 'end', formatter: '{b}' },
          lineStyle: { color: theme.quiet, type: 'dashed' },
          data: [
            ...limits.map(({ at, name }) => ({ yAxis: at, name })),
            ...events.map(({ day, name }) => ({ xAxis: day, name })),
          ],
        },
      },
    ],
  };
}
