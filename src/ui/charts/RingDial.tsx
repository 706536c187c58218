import { fixed } from '../format';
import { dialPlace, layOutDial, type RingCurve } from './ringDial';

const RIM = 100;
const BOX = 132;

/** A polarizer's ring as a dial: the rim is the brightest, each circle inward some stops darker; takes as dots on the fitted curve. */
export function RingDial({
  curve,
  points,
  title,
  screenDegrees,
}: {
  curve: RingCurve;
  /** `doubtful` ones are crossed out; ones without an angle aren't drawn. */
  points: readonly { take: string; degrees: number | null; stops: { value: number }; doubtful?: boolean }[];
  title: string;
  /** Where the mark should stand for the brightest. */
  screenDegrees?: number;
}) {
  const noted = points.flatMap((one) => (one.degrees === null ? [] : [{ ...one, degrees: one.degrees }]));
  const dial = layOutDial(
    curve,
    noted.map((one) => ({ degrees: one.degrees, stops: one.stops.value })),
    RIM,
  );
  const ends = (degrees: number, from: number, to: number) => {
    const [x1, y1] = dialPlace(degrees, from);
    const [x2, y2] = dialPlace(degrees, to);
    return { x1, y1, x2, y2 };
  };
  const [ax, ay] = dialPlace(dial.axisDegrees, RIM + 19);
  return (
    <svg
      viewBox={`${-BOX} ${-BOX} ${2 * BOX} ${2 * BOX}`}
      className="w-full max-w-[330px] mx-auto block"
      role="img"
      aria-label={`${title}: brightest at ${fixed(dial.axisDegrees, 1)}°, ${noted.length} ring angles`}
    >
      {dial.rings.map((ring) => (
        <circle
          key={ring.stops}
          r={ring.radius}
          fill="none"
          stroke="var(--color-ink-4)"
          strokeWidth={ring.stops === 0 ? 1.4 : 0.7}
        />
      ))}
      {Array.from({ length: 24 }, (_, i) => (
        <line key={i} {...ends(i * 15, RIM, RIM + (i % 2 === 0 ? 6 : 3))} stroke="var(--color-ink-4)" strokeWidth="1" />
      ))}
      {[0, 90, 180, 270].map((degrees) => {
        const [x, y] = dialPlace(degrees, RIM + 17);
        // Where the axis is written there is no room for the dial's own figure.
        const near = Math.abs(((degrees - dial.axisDegrees + 90) % 180) - 90) < 12 && degrees < 180;
        return near ? null : (
          <text key={degrees} x={x} y={y + 3.5} textAnchor="middle" fontSize="10" fill="var(--color-ink-3)">
            {degrees}°
          </text>
        );
      })}
      <line
        {...ends(dial.axisDegrees, -RIM, RIM + 8)}
        stroke="var(--color-accent)"
        strokeWidth="1.2"
        strokeDasharray="4 3"
      />
      <text x={ax} y={ay + 4} textAnchor="middle" fontSize="11.5" fontWeight="600" fill="var(--color-accent)">
        {fixed(dial.axisDegrees, 1)}°
      </text>
      {screenDegrees !== undefined && (
        <path
          d="M0 -3 L5 -12 L-5 -12 Z"
          transform={`rotate(${screenDegrees}) translate(0 ${-RIM})`}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="1.3"
        />
      )}
      <path d={dial.path} fill="var(--color-ink)" fillOpacity="0.07" stroke="var(--color-ink)" strokeWidth="1.6" />
      {dial.rings.slice(1).map((ring) => (
        <text
          key={ring.stops}
          x={dialPlace(dial.axisDegrees + 45, ring.radius)[0]}
          y={dialPlace(dial.axisDegrees + 45, ring.radius)[1] + 3}
          textAnchor="middle"
          fontSize="8.5"
          fill="var(--color-ink-3)"
          paintOrder="stroke"
          stroke="var(--color-sheet)"
          strokeWidth="3"
        >
          −{ring.stops}
        </text>
      ))}
      {dial.dots.map(({ x, y, echo, index }) =>
        noted[index].doubtful ? (
          echo ? null : (
            <path
              key={`${index}`}
              d={`M${x - 4} ${y - 4}L${x + 4} ${y + 4}M${x - 4} ${y + 4}L${x + 4} ${y - 4}`}
              stroke="var(--color-warning)"
              strokeWidth="2"
            />
          )
        ) : (
          <circle
            key={`${index}${echo}`}
            cx={x}
            cy={y}
            r={echo ? 2.6 : 3.6}
            fill={echo ? 'var(--color-sheet)' : 'var(--color-ink)'}
            stroke="var(--color-ink)"
            strokeWidth="1"
          />
        ),
      )}
    </svg>
  );
}
