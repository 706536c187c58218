import type { Plan } from '@/core/sitting/planning/plan';
import { WORKABLE_STOPS } from '@/core/sitting/planning/plan';
import { fixed, signed } from '@/ui/format';

const WIDTH = 960;
const HEIGHT = 168;
const [LEFT, RIGHT, TOP, BOTTOM] = [56, 12, 14, 24];
/** A meter's gray lies about this far below clipping, stops. */
const TO_CLIPPING = 2.5;

/** Where each take's exposure will fall, against clipping and the noise floor. */
export function LevelChart({
  plan: { takes },
  usableStops,
  less,
  nameOf,
}: {
  plan: Plan;
  usableStops: number;
  /** Stops that are exposed less on purpose. */
  less: number;
  nameOf: (id: string) => string;
}) {
  const floor = -(usableStops - TO_CLIPPING);
  const low = Math.min(floor - 1, ...takes.map((one) => -one.short - 0.5));
  const high = Math.max(TO_CLIPPING + 0.6, ...takes.map((one) => -one.short + 0.5));
  const y = (stops: number) => TOP + ((high - stops) / (high - low)) * (HEIGHT - TOP - BOTTOM);
  const x = (i: number) => LEFT + ((i + 0.5) / takes.length) * (WIDTH - LEFT - RIGHT);
  const line = (stops: number, words: string) => (
    <g key={words}>
      <line
        x1={LEFT}
        x2={WIDTH - RIGHT}
        y1={y(stops)}
        y2={y(stops)}
        stroke="var(--color-ink-4)"
        strokeDasharray="4 4"
      />
      <text x={LEFT - 6} y={y(stops) + 4} textAnchor="end" fontSize="11" fill="var(--color-ink-3)">
        {words}
      </text>
    </g>
  );
  return (
    <figure className="mt-5">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full"
        role="img"
        aria-label={`Expected level of ${takes.length} takes against clipping and the noise floor; the darkest lies ${fixed(Math.max(...takes.map((one) => one.short)), 1)} stops below the meter’s wish`}
      >
        <rect
          x={LEFT}
          y={y(WORKABLE_STOPS)}
          width={WIDTH - LEFT - RIGHT}
          height={y(-WORKABLE_STOPS) - y(WORKABLE_STOPS)}
          fill="var(--color-raised)"
        />
        {line(TO_CLIPPING, 'clipping')}
        {line(0, 'metered')}
        {line(floor, 'noise')}
        {takes.map((take, i) => {
          const off = Math.abs(take.short - less) > WORKABLE_STOPS;
          const name = take.filter === null ? 'bare' : nameOf(take.filter);
          return (
            <g key={take.id}>
              <title>{`${name}, ${take.scene}: ${signed(-take.short, 1)} stops`}</title>
              {take.filter === null ? (
                <circle cx={x(i)} cy={y(-take.short)} r="4" fill="none" stroke="var(--color-ink)" strokeWidth="1.4" />
              ) : off ? (
                <path
                  d={`M${x(i)} ${y(-take.short) - 6} l6 11 h-12z`}
                  fill="var(--color-floor)"
                  stroke="var(--color-warning)"
                  strokeWidth="1.6"
                />
              ) : (
                <circle cx={x(i)} cy={y(-take.short)} r="4.5" fill="var(--color-ink)" />
              )}
            </g>
          );
        })}
        <text x={LEFT} y={HEIGHT - 6} fontSize="11" fill="var(--color-ink-3)">
          first take
        </text>
        <text x={WIDTH - RIGHT} y={HEIGHT - 6} fontSize="11" textAnchor="end" fill="var(--color-ink-3)">
          last
        </text>
      </svg>
      <figcaption className="text-small text-ink-3">
        Where each take’s exposure falls, in shooting order; rings are bare. Inside the gray band a picture measures
        well.
      </figcaption>
    </figure>
  );
}
