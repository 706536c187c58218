import { useMemo } from 'react';
import { controlChart, LEAST_RESULTS } from '@/core/judging/overTime/controlChart';
import { FOLLOWED, type FilterLife, type Followed } from '@/core/judging/overTime/lives';
import { ChartFigure, type Drawing } from '@/ui/charts/ChartFigure';
import { lifeOption } from '@/ui/charts/lifeOption';
import { dayOf, signalWords } from './words';
import { withU95 } from '@/ui/format';

/** Whether the bench is still what it was, by one filter that is measured in every sitting or by all of a kit together. */
export function BenchChart({ control, quality }: { control: FilterLife; quality: Followed }) {
  const { unit, noticeable } = FOLLOWED[quality];
  const { points, name } = control;
  const chart = useMemo(() => controlChart(points.map(({ reading }) => reading.value)), [points]);
  const drawing = useMemo((): Drawing => {
    const odd = new Set(chart?.signals.flatMap(({ from, to }) => range(from, to)));
    const limits = chart
      ? [
          { at: chart.upper, name: 'upper limit' },
          { at: chart.center, name: 'middle' },
          { at: chart.lower, name: 'lower limit' },
        ]
      : [];
    const rows = points.map(({ day, reading }, i) => ({ day, ...reading, odd: odd.has(i) }));
    return (theme) => lifeOption(rows, { line: null, limits, unit, least: noticeable / 4 }, theme);
  }, [points, chart, unit, noticeable]);
  return (
    <section aria-label="The bench itself" className="grid gap-3 min-w-0">
      <h2>{chart ? (chart.signals.length > 0 ? 'The bench has moved' : 'The bench is steady') : 'The bench itself'}</h2>
      {chart ? (
        chart.signals.length > 0 && (
          <ul className="bg-well border-l-[3px] border-warning rounded-r-md px-4 py-2.5 grid gap-1">
            {chart.signals.map((one) => (
              <li key={`${one.rule} ${one.side} ${one.from}`}>{signalWords(one, points)}</li>
            ))}
          </ul>
        )
      ) : (
        <p className="text-ink-2">
          Limits need {LEAST_RESULTS} sittings of what the bench is judged by; there{' '}
          {points.length === 1 ? 'is' : 'are'} {points.length}
          {points.length >= LEAST_RESULTS ? ', and all read the same' : ''}.
        </p>
      )}
      {points.length > 0 && (
        <ChartFigure
          title={`Control chart by ${name}`}
          says="Every sitting with its ±. The limits are three standard deviations, from how far neighboring sittings differ; squares are told above."
          name="control-chart"
          drawing={drawing}
          height={240}
          head={['Day', 'Session', `${quality}, ${unit}`]}
          rows={points.map(({ day, title, reading }) => [dayOf(day), title, withU95(reading)])}
        />
      )}
    </section>
  );
}

const range = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, i) => from + i);
