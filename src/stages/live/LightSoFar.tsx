import { useMemo } from 'react';
import type { LightPoint } from '@/core/sitting/live/bareLight';
import { ChartFigure, type Drawing } from '@/ui/charts/ChartFigure';
import { lightOption } from '@/ui/charts/options';
import { fixed, signed } from '@/ui/format';

/** The light as bare pictures come in. */
export function LightSoFar({ points }: { points: readonly LightPoint[] }) {
  const placed = useMemo(() => {
    const start = Date.parse(points[0]?.at ?? '');
    return points.map((one, i) => {
      const minute = one.at === null ? NaN : (Date.parse(one.at) - start) / 60_000;
      // Without times they stand in their order.
      return { ...one, minute: Number.isFinite(minute) ? minute : i, u95: 0, bare: true };
    });
  }, [points]);
  const drawing = useMemo((): Drawing => (theme) => lightOption(placed, theme), [placed]);
  return (
    <ChartFigure
      title="The light so far"
      says="Bare pictures against the first one of their scene, by whole pictures: rough, for a glance."
      name="live-light"
      drawing={drawing}
      height={190}
      head={['Take', 'Minute', 'Stops']}
      rows={placed.map((one) => [one.take, fixed(one.minute, 1), signed(one.stops)])}
    />
  );
}
