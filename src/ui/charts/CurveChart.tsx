'use client';

import { LineChart } from 'echarts/charts';
import { GridComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';

echarts.use([LineChart, GridComponent, SVGRenderer]);

const TEXT = { color: '#bababa', fontSize: 11, fontFamily: 'Archivo Variable, system-ui, sans-serif' };
const INKS = { bright: '#ececec', gray: '#a0a0a0' } as const;

export interface Curve {
  points: readonly (readonly [number, number])[];
  ink: keyof typeof INKS;
  dash?: 'solid' | 'dashed' | 'dotted';
  /** Dots at the points, where there are few. */
  dots?: boolean;
}

export interface Axis {
  min: number;
  max: number;
  interval?: number;
  /** What it counts, written beside it. */
  name: string;
}

/** Curves over one axis, in grays. */
export function CurveChart({
  curves,
  x,
  y,
  label,
  height = 150,
}: {
  curves: readonly Curve[];
  x: Axis;
  y: Axis;
  /** What a reader who can't see it is told. */
  label: string;
  height?: number;
}) {
  const box = useRef<HTMLDivElement>(null);
  const content = JSON.stringify({ curves, x, y });
  useEffect(() => {
    if (!box.current) return;
    const chart = echarts.init(box.current, undefined, { renderer: 'svg' });
    const shown = JSON.parse(content) as { curves: Curve[]; x: Axis; y: Axis };
    const axis = ({ min, max, interval }: Axis) => ({
      type: 'value' as const,
      min,
      max,
      interval,
      axisLabel: { ...TEXT, formatter: (value: number) => String(Math.round(value * 1e3) / 1e3).replace('-', '−') },
      axisLine: { lineStyle: { color: '#8a8a8a' } },
    });
    chart.setOption({
      animation: false,
      grid: { left: 40, right: 14, top: 22, bottom: 38 },
      xAxis: {
        ...axis(shown.x),
        name: shown.x.name,
        nameLocation: 'middle',
        nameGap: 23,
        nameTextStyle: TEXT,
        splitLine: { show: false },
      },
      yAxis: {
        ...axis(shown.y),
        name: shown.y.name,
        nameLocation: 'end',
        nameGap: 8,
        nameTextStyle: { ...TEXT, align: 'left', padding: [0, 0, 0, -34] },
        splitLine: { lineStyle: { color: '#5f5f5f' } },
      },
      series: shown.curves.map(({ points, ink, dash = 'solid', dots = false }) => ({
        type: 'line' as const,
        silent: true,
        showSymbol: dots,
        symbol: 'circle',
        symbolSize: 4,
        itemStyle: { color: INKS[ink] },
        data: points as [number, number][],
        lineStyle: { color: INKS[ink], width: ink === 'bright' ? 2 : 1.5, type: dash },
      })),
    });
    const observer = new ResizeObserver(() => chart.resize());
    observer.observe(box.current);
    return () => {
      observer.disconnect();
      chart.dispose();
    };
  }, [content]);
  return <div ref={box} role="img" aria-label={label} className="w-full" style={{ height }} />;
}
