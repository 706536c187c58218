/** Hours of a day by months of a year, each by how much of it is covered. */
import type { EChartsCoreOption } from 'echarts/core';
import { base, telling, words, type Theme } from './chartParts';

export interface HourCell {
  /** From 0. */
  month: number;
  hour: number;
  /** Shares: with no filter, and with one. */
  bare: number;
  filtered: number;
  /** What is written into it, where there is room. */
  words: string;
}

/** Cells as a calendar: ink where no filter is needed, the accent where one does it, a warning as far as neither does. */
export function hoursOption(cells: readonly HourCell[], months: readonly string[], theme: Theme): EChartsCoreOption {
  const hours = [...new Set(cells.map(({ hour }) => hour))].sort((a, b) => a - b);
  const category = (data: readonly string[]) => ({
    type: 'category',
    data: [...data],
    axisLabel: { ...words(theme), interval: 'auto' },
    axisLine: { show: false },
    axisTick: { show: false },
    splitArea: { show: false },
  });
  return {
    ...base(theme),
    grid: { left: 44, right: 8, top: 8, bottom: 28 },
    xAxis: category(months),
    yAxis: { ...category(hours.map((hour) => `${hour} h`)), inverse: true },
    series: [
      {
        type: 'custom',
        ...telling(0),
        renderItem: ({ dataIndex }: { dataIndex: number }, api: HourApi) => {
          const [x, y] = api.coord([api.value(0), api.value(1)]);
          const [wide, high] = api.size([1, 1]);
          const [left, width, height] = [x - wide / 2 + 1, wide - 2, high - 2];
          const part = (from: number, share: number, fill: string) => ({
            type: 'rect',
            shape: { x: left + from * width, y: y - height / 2, width: share * width, height },
            style: { fill },
          });
          const [bare, filtered] = [api.value(2), api.value(3)];
          const open = 1 - bare - filtered;
          return {
            type: 'group',
            children: [
              part(0, bare, theme.line),
              part(bare, filtered, theme.accent),
              part(bare + filtered, open, theme.warning),
              ...(LETTER * cells[dataIndex].words.length < filtered * width
                ? [
                    {
                      type: 'text',
                      style: {
                        ...words(theme),
                        text: cells[dataIndex].words,
                        x: left + (bare + filtered / 2) * width,
                        y,
                        align: 'center',
                        verticalAlign: 'middle',
                        fill: theme.onAccent,
                        fontSize: 11,
                      },
                    },
                  ]
                : []),
              // A line through what isn't covered: color isn't all that tells.
              ...(open > 0.01
                ? [
                    {
                      type: 'line',
                      shape: {
                        x1: left + (1 - open) * width,
                        y1: y + height / 2,
                        x2: left + width,
                        y2: y - height / 2,
                      },
                      style: { stroke: theme.paper, lineWidth: 1.5 },
                    },
                  ]
                : []),
            ],
          };
        },
        data: cells.map(({ month, hour, bare, filtered }) => [month, hours.indexOf(hour), bare, filtered]),
      },
    ],
  };
}

/** A letter's width about, pixels. */
const LETTER = 6.6;

interface HourApi {
  value(dimension: number): number;
  coord(point: readonly number[]): number[];
  size(span: readonly number[]): number[];
}
