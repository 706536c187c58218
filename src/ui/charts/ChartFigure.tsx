'use client';

import { BarChart, CustomChart, HeatmapChart, LineChart, ScatterChart } from 'echarts/charts';
import {
  GridComponent,
  LegendComponent,
  MarkLineComponent,
  TooltipComponent,
  VisualMapComponent,
} from 'echarts/components';
import * as echarts from 'echarts/core';
import { LabelLayout } from 'echarts/features';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef, useState } from 'react';
import { Toggle } from '../controls/Toggle';
import { saveBlob } from '@/ui/saveBlob';
import { useRoom } from '../controls/room';
import { TIP } from '../controls/Tooltip';
import { rowOfMark, THEMES, type Size, type Theme } from './chartParts';

echarts.use([
  BarChart,
  CustomChart,
  HeatmapChart,
  LineChart,
  ScatterChart,
  GridComponent,
  LegendComponent,
  MarkLineComponent,
  TooltipComponent,
  VisualMapComponent,
  LabelLayout,
  SVGRenderer,
]);

/** Makes the option of a drawing, in the colors of a room and for a size. */
export type Drawing = (theme: Theme, size: Size) => echarts.EChartsCoreOption;

/** Saved pictures have so many pixels for each of the screen's. */
const SCALE = 2;

/** What is told of a mark that is pointed at: its row of the table, in the dress of our other tips. */
function tipOf(head: readonly string[], row: readonly string[], room: string): HTMLElement {
  const tip = document.createElement('dl');
  tip.dataset.room = room;
  tip.className = `${TIP} grid grid-cols-[auto_auto] gap-x-3 tabular-nums`;
  head.forEach((name, i) => {
    for (const [tag, text] of [
      ['dt', name],
      ['dd', row[i]],
    ])
      tip.append(Object.assign(document.createElement(tag), { textContent: text }));
  });
  return tip;
}

/** A chart with the table of its figures, to be read aloud or copied, and saved as SVG or PNG. */
export function ChartFigure({
  title,
  says,
  drawing,
  head,
  rows,
  height = 260,
  name,
}: {
  title: string;
  /** What it shows, and how it is read: a sentence. */
  says: string;
  /** Keep the same one while nothing changes. */
  drawing: Drawing;
  head: readonly string[];
  rows: readonly (readonly string[])[];
  height?: number;
  /** File name without an ending. */
  name: string;
}) {
  const box = useRef<HTMLDivElement>(null);
  const chart = useRef<echarts.ECharts | null>(null);
  const [table, setTable] = useState(false);
  const room = useRoom();
  const theme = THEMES[room];
  // Rows are made anew with every drawing of the page; the chart isn't.
  const told = useRef({ head, rows, room });
  useEffect(() => {
    told.current = { head, rows, room };
  });
  useEffect(() => {
    if (!box.current) return;
    const made = echarts.init(box.current, undefined, { renderer: 'svg' });
    chart.current = made;
    const tooltip = {
      trigger: 'item',
      formatter: (mark: { seriesId?: string; dataIndex: number }) => {
        const { head: names, rows: figures, room: where } = told.current;
        const row = figures[rowOfMark(mark) ?? -1];
        return row ? tipOf(names, row, where) : '';
      },
      // The dress is the content's own.
      padding: 0,
      borderWidth: 0,
      backgroundColor: 'transparent',
      extraCssText: 'box-shadow: none',
      transitionDuration: 0,
      confine: true,
    };
    const draw = () => {
      const size = { width: made.getWidth(), height: made.getHeight() };
      made.setOption({ ...drawing(theme, size), tooltip }, { notMerge: true });
    };
    draw();
    const observer = new ResizeObserver(() => {
      made.resize();
      draw();
    });
    observer.observe(box.current);
    return () => {
      observer.disconnect();
      made.dispose();
      chart.current = null;
    };
  }, [drawing, theme]);

  const svg = () => chart.current?.renderToSVGString() ?? '';
  async function savePng() {
    const made = chart.current;
    if (!made) return;
    const image = new Image();
    const address = URL.createObjectURL(new Blob([svg()], { type: 'image/svg+xml' }));
    try {
      image.src = address;
      await image.decode();
      const canvas = new OffscreenCanvas(SCALE * made.getWidth(), SCALE * made.getHeight());
      canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
      saveBlob(await canvas.convertToBlob({ type: 'image/png' }), `${name}.png`);
    } finally {
      URL.revokeObjectURL(address);
    }
  }
  const button = 'px-2 py-1 rounded-md hover:bg-raised text-small text-ink-2';
  return (
    <figure className="bg-sheet rounded-sheet p-3 min-w-0">
      <figcaption className="flex items-baseline justify-between gap-3 flex-wrap mb-1">
        <span className="font-semibold">{title}</span>
        <span className="flex gap-1">
          <Toggle on={table} onChange={setTable} className="!px-2 !py-1 !text-small text-ink-2">
            Table
          </Toggle>
          <button
            type="button"
            className={button}
            onClick={() => saveBlob(new Blob([svg()], { type: 'image/svg+xml' }), `${name}.svg`)}
          >
            SVG
          </button>
          <button type="button" className={button} onClick={() => void savePng()}>
            PNG
          </button>
        </span>
      </figcaption>
      <p className="text-ink-2 text-small mb-1">{says}</p>
      <div ref={box} role="img" aria-label={`${title}. ${says}`} className="w-full" style={{ height }} />
      {/* A table doesn't shrink by itself: what holds it does. */}
      <div className={table ? 'overflow-x-auto' : 'sr-only'}>
        <table className="w-full mt-2 text-label">
          <caption className="sr-only">{title}</caption>
          <thead>
            <tr className="text-left text-ink-3">
              {head.map((one) => (
                <th key={one} scope="col" className="font-medium pr-3">
                  {one}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => (
              <tr key={i}>
                {row.map((cell, k) => (
                  <td key={k} className="pr-3">
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </figure>
  );
}
