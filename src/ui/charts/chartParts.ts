/** What ECharts options have in common: the room's and paper's inks, axes, legends, dots with their ±. */
import type { EChartsCoreOption } from 'echarts/core';
import { fixed } from '@/ui/format';

export interface Theme {
  ink: string;
  quiet: string;
  /** Lines that are read by themselves, between quiet text and the grid. */
  mid: string;
  line: string;
  accent: string;
  /** Letters on the accent. */
  onAccent: string;
  warning: string;
  paper: string;
}

/** The gray room, and paper. */
export const ROOM: Theme = {
  ink: '#ececec',
  quiet: '#bababa',
  mid: '#9a9a9a',
  line: '#5f5f5f',
  accent: '#9fe3c4',
  onAccent: '#10281d',
  warning: '#f0b354',
  paper: '#444444',
};
export const PAPER: Theme = {
  ink: '#1d1d1d',
  quiet: '#565656',
  mid: '#6f6f6f',
  line: '#c9c9c9',
  accent: '#0f6b4a',
  onAccent: '#ffffff',
  warning: '#8a5200',
  paper: '#ffffff',
};

/** Of charts on the screen, by the room that they stand in; paper there is a sheet on the floor. */
export const THEMES: Readonly<Record<'gray' | 'paper', Theme>> = { gray: ROOM, paper: { ...PAPER, paper: '#f0f0f0' } };

const FONT = 'Archivo Variable, system-ui, sans-serif';
export const minus = (value: number) => String(Math.round(value * 1e3) / 1e3).replace('-', '−');

export function base(theme: Theme): EChartsCoreOption {
  return {
    animation: false,
    backgroundColor: theme.paper,
    textStyle: { fontFamily: FONT, color: theme.quiet },
    aria: { enabled: false },
  };
}

export const words = (theme: Theme) => ({ color: theme.quiet, fontSize: 12, fontFamily: FONT });

export function valueAxis(theme: Theme, name: string, more: object = {}) {
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

/** An axis of figures between two ends that stand where they are: labels in between alone, with as many decimals as its steps need. */
export function figureAxis(theme: Theme, name: string, [min, max]: readonly [number, number], nameGap: number) {
  const decimals = Math.max(0, Math.ceil(-Math.log10((max - min) / 4)));
  return valueAxis(theme, name, {
    min,
    max,
    nameGap,
    axisLine: { onZero: false, lineStyle: { color: theme.line } },
    axisLabel: {
      ...words(theme),
      formatter: (value: number) => fixed(value, decimals),
      showMinLabel: false,
      showMaxLabel: false,
      hideOverlap: true,
    },
  });
}

const TELLS = /^tells (\d+)( alone)?( |$)/;

/**
 * A series whose marks are told on pointing, by rows of the table beside the chart: the nth mark by the nth row from the first one on, or all
 * by that one alone. @param part tells series of the same rows apart
 */
export const telling = (first: number, { alone = false, part = '' } = {}) => ({
  id: `tells ${first}${alone ? ' alone' : ''}${part === '' ? '' : ` ${part}`}`,
  cursor: 'default',
  emphasis: { disabled: true },
});

/** The table's row that tells a mark; `null` for marks that nothing is told of. */
export function rowOfMark({ seriesId = '', dataIndex }: { seriesId?: string; dataIndex: number }): number | null {
  const found = TELLS.exec(seriesId);
  if (!found) return null;
  return Number(found[1]) + (found[2] ? 0 : dataIndex);
}

/** What a drawing of one's own needs of ECharts. */
export interface Api {
  value(dimension: number): number;
  coord(point: readonly number[]): number[];
}

/** A dot with its interval, upright; the dot of what is off is a square, so that color isn't all that tells. */
export function interval(theme: Theme, square: (row: number) => boolean) {
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

export const SYMBOLS = [
  'circle',
  'rect',
  'triangle',
  'diamond',
  'emptyCircle',
  'emptyRect',
  'emptyTriangle',
  'emptyDiamond',
] as const;

/** Of a drawing, pixels. */
export interface Size {
  width: number;
  height: number;
}

const LEGEND_LINE = 22;
/** A letter's width about, and what a legend's sign and gaps take. */
const LETTER = 7;
const SIGN = 46;

/** A legend in as many lines as its names need, and how far down the drawing begins below it. */
export function legendOf(names: readonly string[], theme: Theme, width: number) {
  let [lines, used] = [1, 0];
  for (const name of names) {
    const long = SIGN + LETTER * name.length;
    if (used > 0 && used + long > width - 16) [lines, used] = [lines + 1, 0];
    used += long;
  }
  return {
    legend: { top: 4, type: 'plain', itemWidth: 22, itemHeight: 12, itemGap: 14, textStyle: words(theme) },
    below: 14 + LEGEND_LINE * lines,
  };
}
