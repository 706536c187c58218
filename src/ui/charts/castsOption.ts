/** Casts of all filters of one or more kits in a*, b* at L* 50, each with its ±; a kit has a shape of its own. */
import { ticks } from 'd3-array';
import type { EChartsCoreOption } from 'echarts/core';
import { labelsNear } from './castLabels';
import {
  base,
  legendOf,
  minus,
  SYMBOLS,
  telling,
  valueAxis,
  words,
  type Api,
  type Size,
  type Theme,
} from './chartParts';

export interface CastRow {
  name: string;
  a: number;
  b: number;
  /** ± of a* and b*; no halo where left out. */
  u95?: readonly [a: number, b: number];
}

const RINGS = [1, 2.3, 5, 10, 20, 40];
const LEFT = 60;
const RIGHT = 24;
const BELOW = 44;
const SYMBOL = 11;
/** Parts that an axis is cut into, about. */
const PARTS = 6;
/** Room beyond the outermost ring, of its radius. */
const BEYOND = 1.1;

/** What is left of the drawing between its margins is as wide and high as the axes say, so that rings are round at any size. */
export function castsOption(
  kits: readonly { name: string; rows: readonly CastRow[] }[],
  theme: Theme,
  { width, height }: Size,
): EChartsCoreOption {
  const { legend, below: legendEnd } = legendOf(
    kits.map(({ name }) => name),
    theme,
    width,
  );
  const top = kits.length > 1 ? legendEnd : 16;
  const [wide, high] = [Math.max(1, width - LEFT - RIGHT), Math.max(1, height - top - BELOW)];
  const furthest = Math.max(
    3,
    ...kits.flatMap(({ rows }) =>
      rows.map(({ a, b, u95 = [0, 0] }) => Math.hypot(Math.abs(a) + u95[0], Math.abs(b) + u95[1])),
    ),
  );
  const limit = RINGS.find((ring) => ring >= furthest) ?? Math.ceil(furthest);
  const perPixel = (2 * BEYOND * limit) / Math.min(wide, high);
  const ring = (radius: number) =>
    Array.from({ length: 73 }, (_, i) => [
      radius * Math.cos((i * Math.PI) / 36),
      radius * Math.sin((i * Math.PI) / 36),
    ]);
  const axis = (name: string, nameGap: number, pixels: number) =>
    valueAxis(theme, name, {
      min: (-perPixel * pixels) / 2,
      max: (perPixel * pixels) / 2,
      nameGap,
      splitLine: { show: false },
      // The axis ends where the drawing does: its own numbers would begin there.
      axisLabel: { ...words(theme), formatter: minus, customValues: ticks(-limit, limit, PARTS) },
      axisTick: { show: false },
    });
  const inks = [theme.accent, theme.ink, theme.warning, theme.quiet];
  const dots = kits.flatMap(({ rows }, kit) =>
    rows.map(({ name, a, b }) => ({ name, kit, x: LEFT + wide / 2 + a / perPixel, y: top + high / 2 - b / perPixel })),
  );
  const labels = labelsNear(dots, width);
  const labelOf = (kit: number, row: number) => {
    const i = dots.findIndex((dot) => dot.kit === kit) + row;
    const [place, { name, x, y }] = [labels[i], dots[i]];
    if (!place) return { show: false };
    return {
      show: true,
      formatter: name,
      ...words(theme),
      color: theme.ink,
      align: place.align,
      verticalAlign: 'middle',
      // Counted from the corner of the dot's box.
      position: [place.x - x + SYMBOL / 2, place.y - y + SYMBOL / 2],
    };
  };
  return {
    ...base(theme),
    // Margins are as they are said: otherwise the library makes room of its own, and rings are no longer round.
    grid: { left: LEFT, right: RIGHT, top, bottom: BELOW, outerBoundsMode: 'none' },
    legend: { ...legend, show: kits.length > 1, data: kits.map(({ name }) => name) },
    xAxis: axis('a*, green to red', 26, wide),
    yAxis: axis('b*, blue to yellow', 36, high),
    series: [
      ...RINGS.filter((radius) => radius <= limit).map((radius) => ({
        type: 'line',
        silent: true,
        showSymbol: false,
        data: ring(radius),
        lineStyle: { color: theme.line, width: 1, type: radius === 1 ? 'solid' : 'dashed' },
      })),
      ...kits.map(({ rows }, k) => ({
        type: 'custom',
        silent: true,
        data: rows.flatMap(({ a, b, u95 }) => (u95 ? [[a, b, ...u95]] : [])),
        renderItem: (_: unknown, api: Api) => {
          const [cx, cy] = api.coord([api.value(0), api.value(1)]);
          const [rx, ry] = [api.value(2) / perPixel, api.value(3) / perPixel];
          return { type: 'ellipse', shape: { cx, cy, rx, ry }, style: { fill: inks[k % inks.length], opacity: 0.25 } };
        },
      })),
      ...kits.map(({ name, rows }, k) => ({
        type: 'scatter',
        name,
        ...telling(
          kits.slice(0, k).reduce((sum, kit) => sum + kit.rows.length, 0),
          { part: String(k) },
        ),
        symbol: SYMBOLS[k % SYMBOLS.length],
        symbolSize: SYMBOL,
        itemStyle: { color: inks[k % inks.length] },
        data: rows.map((row, i) => ({ name: row.name, value: [row.a, row.b], label: labelOf(k, i) })),
      })),
    ],
  };
}
