import { fixed } from '../format';
import { dialPlace } from './ringDial';

const RIM = 100;
const BOX = 130;

/** What a polarizer does to a clear sky by heading: north up, the farther out the darker; the sun, and where the camera looked. */
export function SkyRose({
  rose,
  sunAzimuth,
  view,
  points = [],
  known,
}: {
  rose: readonly { azimuth: number; stops: number }[];
  /** Left out where nobody knows. */
  sunAzimuth?: number;
  view?: { azimuth: number; stops: number };
  /** Measured by heading, where the camera turned about. */
  points?: readonly { heading: number; stops: { value: number } }[];
  /** False where only the angle to the sun is known: then the sun is drawn at the top. */
  known: boolean;
}) {
  const measured = points.map((one) => Math.max(0, one.stops.value));
  const most = Math.max(1, Math.ceil(Math.max(...rose.map((one) => one.stops), ...measured, view?.stops ?? 0)));
  const place = (azimuth: number, stops: number) => dialPlace(azimuth, (RIM * stops) / most);
  const path = `M${rose
    .map(({ azimuth, stops }) =>
      place(azimuth, stops)
        .map((one) => one.toFixed(2))
        .join(' '),
    )
    .join('L')}Z`;
  const [sx, sy] = dialPlace(sunAzimuth ?? 0, RIM + 12);
  return (
    <svg
      viewBox={`${-BOX} ${-BOX} ${2 * BOX} ${2 * BOX}`}
      className="w-full max-w-[260px] mx-auto block"
      role="img"
      aria-label={`Expected darkening of a clear sky by heading, up to ${fixed(most, 0)} stops${sunAzimuth === undefined ? '' : `; the sun at ${fixed(sunAzimuth, 0)}°`}`}
    >
      {Array.from({ length: most }, (_, i) => (
        <circle key={i} r={(RIM * (i + 1)) / most} fill="none" stroke="var(--color-ink-4)" strokeWidth="0.7" />
      ))}
      {Array.from({ length: most }, (_, i) => (
        <text key={i} x="3" y={-(RIM * (i + 1)) / most + 9} fontSize="8.5" fill="var(--color-ink-3)">
          {i + 1}
        </text>
      ))}
      {known &&
        (['N', 'E', 'S', 'W'] as const).map((name, i) => {
          const [x, y] = dialPlace(i * 90, RIM + 13);
          return sunAzimuth !== undefined && Math.abs(((i * 90 - sunAzimuth + 540) % 360) - 180) < 14 ? null : (
            <text key={name} x={x} y={y + 4} textAnchor="middle" fontSize="11" fill="var(--color-ink-3)">
              {name}
            </text>
          );
        })}
      <path d={path} fill="var(--color-ink)" fillOpacity="0.1" stroke="var(--color-ink)" strokeWidth="1.4" />
      {points.map((one) => {
        const [x, y] = place(one.heading, Math.max(0, one.stops.value));
        return <circle key={one.heading} cx={x} cy={y} r="2.6" fill="var(--color-accent)" />;
      })}
      {sunAzimuth !== undefined && (
        <>
          <circle cx={sx} cy={sy} r="5.5" fill="none" stroke="var(--color-ink)" strokeWidth="1.5" />
          <circle cx={sx} cy={sy} r="1.5" fill="var(--color-ink)" />
        </>
      )}
      {view && (
        <>
          <line
            x1="0"
            y1="0"
            x2={dialPlace(view.azimuth, RIM)[0]}
            y2={dialPlace(view.azimuth, RIM)[1]}
            stroke="var(--color-accent)"
            strokeDasharray="4 3"
          />
          <circle
            cx={place(view.azimuth, view.stops)[0]}
            cy={place(view.azimuth, view.stops)[1]}
            r="4"
            fill="var(--color-accent)"
          />
        </>
      )}
    </svg>
  );
}
