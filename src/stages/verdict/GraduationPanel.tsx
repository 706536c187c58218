import type { GraduationReadings } from '@/core/session/readings';
import { CurveChart } from '@/ui/charts/CurveChart';
import { StopMap } from '@/ui/charts/StopMap';
import { fixed, plusMinus } from '@/ui/format';
import { Panel } from './Panel';

/** A graduated filter: its two halves, and the line between them. */
export function GraduationPanel({ graduation }: { graduation: GraduationReadings }) {
  const { clearStops, denseStops, midline, transitionWidth, angleDegrees, profile, map } = graduation;
  const most = Math.max(1, Math.ceil(denseStops.value + 0.1));
  const far = Math.max(0.5, Math.ceil(10 * Math.max(...profile.map(([distance]) => Math.abs(distance)))) / 10);
  const scale = transitionWidth.value / (2 * Math.log(9));
  const fitted = Array.from({ length: 121 }, (_, i): [number, number] => {
    const distance = far * (i / 60 - 1);
    return [distance, clearStops.value + (denseStops.value - clearStops.value) / (1 + Math.exp(-distance / scale))];
  });
  const lines = [
    ['clear half', `${fixed(clearStops.value)}`, `stops ${plusMinus(clearStops.u95)}`],
    ['dense half', `${fixed(denseStops.value)}`, `stops ${plusMinus(denseStops.u95)}`],
    ...(midline
      ? [['halfway at', fixed(100 * midline.value, 1), `% of the height ${plusMinus(100 * midline.u95, 1)}`]]
      : []),
    ['transition', fixed(100 * transitionWidth.value, 1), `% of the height ${plusMinus(100 * transitionWidth.u95, 1)}`],
    ['turned by', `${fixed(angleDegrees.value, 1)}°`, plusMinus(angleDegrees.u95, 1)],
  ];
  return (
    <Panel title="Graduation" method="graduated-filters" word={graduation.transition}>
      <div className="grid gap-x-8 gap-y-3 mt-3 sm:grid-cols-[minmax(0,1fr)_minmax(0,300px)] items-start">
        <dl className="grid grid-cols-[1fr_auto] gap-y-0.5">
          {lines.map(([what, figure, unit]) => (
            <div key={what} className="contents">
              <dt className="text-ink-2">{what}</dt>
              <dd className="text-right whitespace-nowrap">
                {figure} <span className="unit">{unit}</span>
              </dd>
            </div>
          ))}
        </dl>
        {map && (
          <StopMap
            map={{ ...map, stops: map.stops.map((stops) => -stops) }}
            title="What it takes over the frame"
            darkest={-most}
          />
        )}
      </div>
      <div className="mt-2">
        <CurveChart
          label={`Stops across the line: from ${fixed(clearStops.value)} to ${fixed(denseStops.value)}`}
          curves={[
            { points: fitted, ink: 'bright' },
            ...profile.map((point) => ({ points: [point], ink: 'gray' as const, dots: true })),
          ]}
          x={{
            min: -far,
            max: far,
            interval: far > 1 ? 0.5 : 0.1,
            name: 'across the line towards dense, heights of the frame',
          }}
          y={{ min: 0, max: most, interval: most > 4 ? 2 : 1, name: 'stops' }}
          height={180}
        />
      </div>
    </Panel>
  );
}
