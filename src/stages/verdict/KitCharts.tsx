'use client';

import { useMemo } from 'react';
import { stepsOf, type RankedKit } from '@/core/judging/ranking/kitAsSet';
import type { Bands } from '@/core/judging/rating/bands';
import { isEdge, type Readings } from '@/core/session/readings';
import { ChartFigure, type Drawing } from '@/ui/charts/ChartFigure';
import { castsOption } from '@/ui/charts/castsOption';
import { labelsOption, mapOption, mtfOption, stepsOption } from '@/ui/charts/options';
import { fixed, percent, signed } from '@/ui/format';
import { partNamed } from './parts';
import { stepInWords } from './stepWords';

/** The kit's labels, steps, casts, sharpness and corners, drawn. */
export function KitCharts({ kit, readings, bands }: { kit: RankedKit; readings: Readings | null; bands: Bands }) {
  const found = useMemo(
    () => (readings?.filters ?? []).filter((one) => kit.filters.some((filter) => filter.filter === one.filter)),
    [readings, kit],
  );
  const nameOf = (id: string) => kit.filters.find((one) => one.filter === id)?.name ?? id;
  const labelled = kit.filters.flatMap(({ name, error, filter }) =>
    error
      ? [
          {
            name,
            error: error.value,
            u95: error.u95,
            off: found.find((one) => one.filter === filter)?.verdict.label === 'off',
          },
        ]
      : [],
  );
  const bounds = bands.strength.map((band) => band.upTo).filter(Number.isFinite);
  const steps = stepsOf(kit.filters, bands);
  const casts = kit.filters.flatMap(({ name, cast }) =>
    cast ? [{ name, a: cast.a.value, b: cast.b.value, u95: [cast.a.u95, cast.b.u95] as const }] : [],
  );
  const edges = found.flatMap((one) => {
    const all = (one.sharpness ?? []).filter(isEdge);
    const edge = all.find((part) => part.region === 'center') ?? all[0];
    return edge ? [{ id: one.filter, edge }] : [];
  });
  const maps = found.flatMap((one) =>
    one.shading?.map.stops.length ? [{ id: one.filter, shading: one.shading }] : [],
  );
  // One object while nothing changes: a chart is drawn anew for another one.
  const key = JSON.stringify([kit.id, readings?.createdAt, bounds, bands.mergedBelow]);
  const options = useMemo(() => {
    const mtf = [
      ...(edges[0] ? [{ name: 'bare', curve: edges[0].edge.curves.bare, bare: true }] : []),
      ...edges.map(({ id, edge }) => ({ name: nameOf(id), curve: edge.curves.filtered, bare: false })),
    ];
    const reach = Math.max(0.1, ...maps.flatMap(({ shading }) => shading.map.stops.map(Math.abs)));
    const named = steps.map((one) => ({
      name: `${one.from}\n${one.to}`,
      labelled: one.labelled,
      found: one.found.value,
      u95: one.found.u95,
      odd: one.state !== 'even' && one.state !== 'unsure',
    }));
    return {
      labels: ((theme) => labelsOption(labelled, bounds, theme)) as Drawing,
      steps: ((theme) => stepsOption(named, theme)) as Drawing,
      casts: ((theme, size) => castsOption([{ name: kit.name, rows: casts }], theme, size)) as Drawing,
      mtf: ((theme, size) => mtfOption(mtf, theme, size)) as Drawing,
      maps: maps.map(
        ({ shading }): Drawing =>
          (theme) =>
            mapOption(shading.map, theme, reach),
      ),
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return (
    <div className="grid gap-3 mt-3 scroll-mt-4 xl:grid-cols-2" {...partNamed(`${kit.name} in charts`)}>
      {labelled.length > 0 && (
        <ChartFigure
          title="Labels against what was found"
          says="What was found less the label, with its ±; above nothing is darker. Dashed lines are the rating limits."
          name="labels"
          drawing={options.labels}
          head={['Filter', 'Error, stops', '±']}
          rows={labelled.map((one) => [one.name, signed(one.error, 3), fixed(one.u95, 3)])}
        />
      )}
      {steps.length > 0 && (
        <ChartFigure
          title="Steps between neighbors"
          says="A frame is the step that the labels promise, a dot the one found, with its ±; a square is out of its bounds."
          name="steps"
          drawing={options.steps}
          head={['Step', 'Labelled', 'Found', '±', 'Finding']}
          rows={steps.map((one) => [
            `${one.from} to ${one.to}`,
            fixed(one.labelled),
            fixed(one.found.value, 3),
            fixed(one.found.u95, 3),
            stepInWords(one),
          ])}
        />
      )}
      {casts.length > 0 && (
        <ChartFigure
          title="Casts, CIE a*b* at L* 50"
          says="Right is redder, up is yellower, a halo is the ±. Inside the solid ring an eye hardly sees a cast."
          name="casts"
          drawing={options.casts}
          height={360}
          head={['Filter', 'a*', '±', 'b*', '±']}
          rows={casts.map((one) => [one.name, signed(one.a), fixed(one.u95[0]), signed(one.b), fixed(one.u95[1])])}
        />
      )}
      {edges.length > 0 && (
        <ChartFigure
          title="Sharpness in the middle, MTF"
          says="How much of the contrast of fine lines is left, the finer the farther right; bare is dashed."
          name="mtf"
          drawing={options.mtf}
          height={360}
          head={['Filter', 'MTF50 bare', 'MTF50', 'Kept']}
          rows={edges.map(({ id, edge }) => [
            nameOf(id),
            fixed(edge.baselineMtf50.value, 3),
            fixed(edge.mtf50.value, 3),
            percent(edge.retained.value, 1),
          ])}
        />
      )}
      {maps.map(({ id, shading }, i) => (
        <ChartFigure
          key={id}
          title={`Corners of ${nameOf(id)}`}
          says="Stops that the filter adds to the lens’s own falloff: blue is darker than the middle. One scale for all filters."
          name={`corners-${id}`}
          drawing={options.maps[i]}
          height={230}
          head={['Corner', 'Stops']}
          rows={Object.entries(shading.corners).map(([corner, reading]) => [
            corner.replace(/([A-Z])/g, ' $1').toLowerCase(),
            reading ? signed(reading.value, 3) : 'withheld',
          ])}
        />
      ))}
    </div>
  );
}
