'use client';

import { LineChart } from 'echarts/charts';
import { GridComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef, type PointerEvent } from 'react';
import { useRoom } from '../controls/room';
import { THEMES } from './chartParts';

echarts.use([LineChart, GridComponent, SVGRenderer]);

const TYPE = { fontSize: 11, fontFamily: 'Archivo Variable, system-ui, sans-serif' };
/** Curves in the ink of the text, and in a quieter one. */
type Ink = 'bright' | 'gray';

const GRID = { left: 40, right: 14, top: 22, bottom: 38 };

export interface Curve {
  points: readonly (readonly [number, number])[];
  ink: Ink;
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

/** The round step (1, 2 or 5 times a power of ten) about as long as a length. */
function niceStep(length: number): number {
  const power = 10 ** Math.floor(Math.log10(length));
  return (length <= 1.2 * power ? 1 : length <= 2.4 * power ? 2 : length <= 6 * power ? 5 : 10) * power;
}

/** Curves over one axis, in grays. */
export function CurveChart({
  curves,
  x,
  y,
  label,
  height = 150,
  cursor,
  onCursor,
}: {
  curves: readonly Curve[];
  x: Axis;
  y: Axis;
  /** What a reader who can't see it is told. */
  label: string;
  height?: number;
  /** Where a line stands upright, and what is told when another place is pointed at. */
  cursor?: number;
  onCursor?: (x: number) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const content = JSON.stringify({ curves, x, y });
  const theme = THEMES[useRoom()];
  useEffect(() => {
    if (!box.current) return;
    const chart = echarts.init(box.current, undefined, { renderer: 'svg' });
    const shown = JSON.parse(content) as { curves: Curve[]; x: Axis; y: Axis };
    const text = { ...TYPE, color: theme.quiet };
    const inks: Record<Ink, string> = { bright: theme.ink, gray: theme.mid };
    const axis = ({ min, max, interval = niceStep((max - min) / 4) }: Axis) => ({
      type: 'value' as const,
      min,
      max,
      interval,
      axisLabel: {
        ...text,
        // An end that isn't a round number would stand on the number before it.
        showMaxLabel: Math.abs((max - min) / interval - Math.round((max - min) / interval)) < 1e-6,
        formatter: (value: number) => String(Math.round(value * 1e3) / 1e3).replace('-', '−'),
      },
      axisLine: { lineStyle: { color: theme.mid } },
    });
    chart.setOption({
      animation: false,
      grid: GRID,
      xAxis: {
        ...axis(shown.x),
        name: shown.x.name,
        nameLocation: 'middle',
        nameGap: 23,
        nameTextStyle: text,
        splitLine: { show: false },
      },
      yAxis: {
        ...axis(shown.y),
        name: shown.y.name,
        nameLocation: 'end',
        nameGap: 8,
        nameTextStyle: { ...text, align: 'left', padding: [0, 0, 0, -34] },
        splitLine: { lineStyle: { color: theme.line } },
      },
      series: shown.curves.map(({ points, ink, dash = 'solid', dots = false }) => ({
        type: 'line' as const,
        silent: true,
        showSymbol: dots,
        symbol: 'circle',
        symbolSize: points.length === 1 ? 9 : 4,
        itemStyle: { color: inks[ink] },
        data: points as [number, number][],
        lineStyle: { color: inks[ink], width: ink === 'bright' ? 2 : 1.5, type: dash },
      })),
    });
    const observer = new ResizeObserver(() => chart.resize());
    observer.observe(box.current);
    return () => {
      observer.disconnect();
      chart.dispose();
    };
  }, [content, theme]);
  const point = (event: PointerEvent<HTMLDivElement>) => {
    const { left, width } = event.currentTarget.getBoundingClientRect();
    const share = (event.clientX - left - GRID.left) / Math.max(1, width - GRID.left - GRID.right);
    onCursor?.(x.min + Math.min(1, Math.max(0, share)) * (x.max - x.min));
  };
  const across = cursor === undefined ? 0 : (cursor - x.min) / (x.max - x.min);
  return (
    <div
      className={`relative w-full ${onCursor ? 'cursor-ew-resize touch-pan-y' : ''}`}
      onPointerDown={onCursor && point}
      onPointerMove={onCursor && ((event) => event.buttons === 1 && point(event))}
    >
      <div ref={box} role="img" aria-label={label} className="w-full" style={{ height }} />
      {cursor !== undefined && (
        <div
          aria-hidden
          data-cursor
          className="absolute w-px bg-ink pointer-events-none"
          style={{
            left: `calc(${GRID.left}px + ${across.toFixed(4)} * (100% - ${GRID.left + GRID.right}px))`,
            top: GRID.top,
            height: height - GRID.top - GRID.bottom,
          }}
        />
      )}
    </div>
  );
}
