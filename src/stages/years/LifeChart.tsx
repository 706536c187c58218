import { useMemo } from 'react';
import type { FilterLife, Followed } from '@/core/judging/overTime/lives';
import { FOLLOWED } from '@/core/judging/overTime/lives';
import { ChartFigure, type Drawing } from '@/ui/charts/ChartFigure';
import { lifeOption } from '@/ui/charts/lifeOption';
import { dayOf, eventWords } from './words';
import { withU95 } from '@/ui/format';

/** One filter's sittings with their ±, and the line through them. */
export function LifeChart({ life, quality }: { life: FilterLife; quality: Followed }) {
  const { unit, noticeable } = FOLLOWED[quality];
  const { points, change, name, events, earlier } = life;
  const drawing = useMemo((): Drawing => {
    const end = (point: { day: number }, reading: { value: number; u95: number }) => ({ day: point.day, ...reading });
    const line = change && { first: end(points[0], change.first), last: end(points.at(-1)!, change.last) };
    return (theme) =>
      lifeOption(
        points.map(({ day, reading }) => ({ day, ...reading })),
        { line, unit, least: noticeable / 4, events: events.map(({ day, what }) => ({ day, name: what })) },
        theme,
      );
  }, [points, change, events, unit, noticeable]);
  return (
    <>
      <ChartFigure
        title={`${name}: ${quality}`}
        says="Every sitting with its ±; the line through them, weighted by it, and dashed how well the line is known."
        name="over-the-years"
        drawing={drawing}
        height={280}
        head={['Day', 'Session', `${quality}, ${unit}`]}
        rows={points.map(({ day, title, reading }) => [dayOf(day), title, withU95(reading)])}
      />
      {events.length + earlier > 0 && (
        <ul aria-label={`What happened to ${name}`} className="text-ink-2 grid gap-0.5">
          {events.map((one) => (
            <li key={`${one.date} ${one.what}`}>{eventWords(one, unit)}</li>
          ))}
          {earlier > 0 && (
            <li>
              {earlier} {earlier === 1 ? 'sitting is' : 'sittings are'} of another sample (replaced, or of another
              serial number) and not drawn.
            </li>
          )}
        </ul>
      )}
    </>
  );
}
