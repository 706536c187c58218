'use client';

import { useMemo } from 'react';
import type { LightLine } from '@/core/session/readings';
import { ChartFigure, type Drawing } from '@/ui/charts/ChartFigure';
import { lightOption } from '@/ui/charts/options';
import { fixed, signed } from '@/ui/format';
import { partNamed } from './parts';

/** The light of ordinary scenes over all their pictures: a cloud is seen at a glance. */
export function LightPanel({ light, createdAt }: { light: readonly LightLine[]; createdAt: string }) {
  const lines = useMemo(
    () =>
      light.map(({ scene, points }) => {
        const start = Date.parse(points[0]?.at ?? '');
        const placed = points.map((one) => ({
          ...one,
          minute: (Date.parse(one.at) - start) / 60000,
          bare: one.filter === null,
        }));
        const drawing: Drawing = (theme) => lightOption(placed, theme);
        return { scene, points: placed, drawing };
      }),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [createdAt],
  );
  return (
    <div className="grid gap-3 mt-3 scroll-mt-4" {...partNamed('The light')}>
      {lines.map(({ scene, points, drawing }) => (
        <ChartFigure
          key={scene}
          title={`The light of “${scene}”`}
          says="Bare pictures are open circles; filtered ones are filled, with their filter’s strength added back."
          name={`light-${scene}`}
          drawing={drawing}
          height={220}
          head={['Take', 'Minute', 'Stops', '±']}
          rows={points.map((one) => [one.take, fixed(one.minute), signed(one.stops, 3), fixed(one.u95, 3)])}
        />
      ))}
    </div>
  );
}
