'use client';

import { CustomChart, ScatterChart } from 'echarts/charts';
import { GridComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';
import { useRoom } from '../controls/room';
import { placeLabels, type LabelPlace } from './castLabels';
import { THEMES, type Theme } from './chartParts';

echarts.use([CustomChart, ScatterChart, GridComponent, SVGRenderer]);

export interface CastPoint {
  id: string;
  name: string;
  a: number;
  b: number;
  u95a: number;
  u95b: number;
}

/** What the drawing needs of ECharts' custom-series interface. */
interface RenderApi {
  coord(point: [number, number]): number[];
}

const RINGS = [1, 2.3, 5, 10, 20, 40];
const FONT = 'Archivo Variable, system-ui, sans-serif';

/**
 * All casts of a kit in a*, b* at L* 50: the selected one in accent, 95 % as ellipses. Rings are at the bounds of the words, drawn
 * in plain a*b* distance, which near gray is close to ΔE00.
 */
export function CastPlot({
  points,
  selected,
  onSelect,
}: {
  points: readonly CastPoint[];
  selected: string | null;
  onSelect: (id: string) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const chart = useRef<echarts.ECharts | null>(null);
  const reach = Math.max(3, ...points.map((point) => Math.hypot(point.a, point.b) * 1.12));
  const limit = RINGS.find((ring) => ring >= reach) ?? Math.ceil(reach);
  const rings = RINGS.filter((ring) => ring <= limit);
  const span = limit * 1.16;
  const theme = THEMES[useRoom()];

  useEffect(() => {
    if (!box.current) return;
    const made = echarts.init(box.current, undefined, { renderer: 'svg' });
    chart.current = made;
    const observer = new ResizeObserver(() => made.resize());
    observer.observe(box.current);
    return () => {
      observer.disconnect();
      made.dispose();
    };
  }, []);

  useEffect(() => {
    const made = chart.current;
    if (!made) return;
    const labelsOf = (api: RenderApi) =>
      placeLabels(
        points.map(({ a, b, name }) => {
          const [x, y] = api.coord([a, b]);
          return { x, y, name };
        }),
        made.getWidth(),
      );
    made.setOption(
      {
        animation: false,
        grid: { left: 0, right: 0, top: 0, bottom: 0 },
        xAxis: { type: 'value', min: -span, max: span, show: false },
        yAxis: { type: 'value', min: -span, max: span, show: false },
        textStyle: { fontFamily: FONT },
        series: [
          {
            type: 'custom',
            silent: true,
            data: [[0, 0]],
            renderItem: (_: unknown, api: RenderApi) => frame(api, rings, span, theme),
          },
          {
            type: 'custom',
            data: points.map((point) => [point.a, point.b]),
            renderItem: (item: { dataIndex: number }, api: RenderApi) => {
              const point = points[item.dataIndex];
              const color = point.id === selected ? theme.accent : theme.ink;
              return dot(api, point, color, point.id === selected, labelsOf(api)[item.dataIndex]);
            },
          },
        ],
      },
      { notMerge: true },
    );
    made.off('click');
    made.on('click', (event) => {
      const point = points[event.dataIndex];
      if (point) onSelect(point.id);
    });
  });

  return (
    <div
      ref={box}
      role="img"
      aria-label={`Casts in a*, b*: ${points.map((point) => `${point.name} ${point.a.toFixed(1)}, ${point.b.toFixed(1)}`).join('; ')}`}
      className="w-full aspect-square"
    />
  );
}

function text(x: number, y: number, words: string, align: 'left' | 'center' | 'right', fill: string, size = 11.5) {
  return {
    type: 'text' as const,
    style: {
      x,
      y,
      text: words,
      textAlign: align,
      textVerticalAlign: 'middle' as const,
      fill,
      fontSize: size,
      fontFamily: FONT,
    },
  };
}

function frame(api: RenderApi, rings: number[], span: number, { quiet, mid }: Theme) {
  const [cx, cy] = api.coord([0, 0]);
  const scale = api.coord([1, 0])[0] - cx;
  const end = rings[rings.length - 1] * scale;
  return {
    type: 'group' as const,
    children: [
      { type: 'line' as const, shape: { x1: cx - end, y1: cy, x2: cx + end, y2: cy }, style: { stroke: mid } },
      { type: 'line' as const, shape: { x1: cx, y1: cy - end, x2: cx, y2: cy + end }, style: { stroke: mid } },
      ...rings.map((ring, i) => ({
        type: 'circle' as const,
        shape: { cx, cy, r: ring * scale },
        style: { fill: 'none', stroke: mid, lineDash: i === 0 ? undefined : [3, 3] },
      })),
      ...rings.map((ring) =>
        text(cx - ring * scale * 0.72 - 3, cy + ring * scale * 0.72 + 5, String(ring), 'right', quiet),
      ),
      text(cx, cy - end - 9, 'yellow', 'center', quiet),
      text(cx, cy + end + 9, 'blue', 'center', quiet),
      text(cx + span * scale - 2, cy - 9, 'red', 'right', quiet),
      text(cx - span * scale + 2, cy - 9, 'green', 'left', quiet),
    ],
  };
}

function dot(api: RenderApi, point: CastPoint, color: string, active: boolean, label: LabelPlace) {
  const [x, y] = api.coord([point.a, point.b]);
  const [ox] = api.coord([0, 0]);
  const scale = api.coord([1, 0])[0] - ox;
  return {
    type: 'group' as const,
    z2: active ? 10 : 1,
    children: [
      {
        type: 'ellipse' as const,
        shape: { cx: x, cy: y, rx: Math.max(6, point.u95a * scale), ry: Math.max(6, point.u95b * scale) },
        style: { fill: color, opacity: 0.24 },
      },
      { type: 'circle' as const, shape: { cx: x, cy: y, r: 3.2 }, style: { fill: color } },
      text(label.x, label.y, point.name, label.align, color, 12),
    ],
  };
}
