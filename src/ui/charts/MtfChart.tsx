'use client';

import { LineChart } from 'echarts/charts';
import { GridComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';

echarts.use([LineChart, GridComponent, SVGRenderer]);

const TEXT = { color: '#bababa', fontSize: 11, fontFamily: 'Archivo Variable, system-ui, sans-serif' };

/** Spatial frequency responses to one cycle a pixel; the half is marked. */
export function MtfChart({ bare, filtered }: { bare: number[]; filtered: number[] }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!box.current) return;
    const chart = echarts.init(box.current, undefined, { renderer: 'svg' });
    const line = (curve: number[], color: string, width: number) => ({
      type: 'line' as const,
      silent: true,
      showSymbol: false,
      data: curve.map((value, i) => [i / (curve.length - 1), value]),
      lineStyle: { color, width },
    });
    chart.setOption({
      animation: false,
      grid: { left: 30, right: 8, top: 8, bottom: 22 },
      xAxis: {
        type: 'value',
        min: 0,
        max: 0.75,
        axisLabel: TEXT,
        axisLine: { lineStyle: { color: '#8a8a8a' } },
        splitLine: { show: false },
      },
      yAxis: {
        type: 'value',
        min: 0,
        max: 1.05,
        interval: 0.5,
        axisLabel: { ...TEXT, showMaxLabel: false },
        splitLine: { lineStyle: { color: '#5f5f5f' } },
      },
      series: [line(bare, '#a0a0a0', 1.5), line(filtered, '#ececec', 2)],
    });
    const observer = new ResizeObserver(() => chart.resize());
    observer.observe(box.current);
    return () => {
      observer.disconnect();
      chart.dispose();
    };
  }, [bare, filtered]);
  return (
    <div
      ref={box}
      role="img"
      aria-label="Response of the edge, bare and with the filter, against cycles per pixel"
      className="w-full h-[130px] mt-1"
    />
  );
}
