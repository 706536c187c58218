import { useMemo } from 'react';
import type { HourCovered } from '@/core/judging/carry/carry';
import { ChartFigure, type Drawing } from '@/ui/charts/ChartFigure';
import { hoursOption } from '@/ui/charts/hoursOption';
import { percent } from '@/ui/format';
import { MONTHS } from './words';
import { shortNames } from './words';

/** Pixels of an hour's row. */
const ROW = 21;

/** At which hours of which months a work is covered. */
export function CoveredChart({ name, cells }: { name: string; cells: readonly HourCovered[] }) {
  const drawing = useMemo((): Drawing => {
    const drawn = cells.map(({ month, by, ...rest }) => ({ ...rest, month: month - 1, words: shortNames(by) }));
    return (theme) => hoursOption(drawn, MONTHS, theme);
  }, [cells]);
  const rows = new Set(cells.map(({ hour }) => hour)).size;
  return (
    <ChartFigure
      title={`${name}: hours of the year`}
      says="Every hour with the sun up, by the sun: 12 is noon. Gray needs no filter, green is covered by one, and what is crossed out by none; a cell is shared by the skies."
      name="what-to-carry"
      drawing={drawing}
      height={44 + ROW * rows}
      head={['Month', 'Hour', 'No filter', 'With a filter', 'By', 'Not covered']}
      rows={cells.map(({ month, hour, bare, filtered, by }) => [
        MONTHS[month - 1],
        `${hour}–${hour + 1} h`,
        percent(bare),
        percent(filtered),
        by.join(', '),
        percent(Math.max(0, 1 - bare - filtered)),
      ])}
    />
  );
}
