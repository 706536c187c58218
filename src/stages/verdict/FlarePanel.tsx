import type { FilterReadings } from '@/core/session/readings';
import type { Patch } from '@/core/session/schema';
import { StopMap } from '@/ui/charts/StopMap';
import { fixed, plusMinus, signed } from '@/ui/format';
import { pictureUrl } from '@/ui/pictures';
import type { SessionView } from '@/ui/sessionView';
import { Panel } from './Panel';

type Flare = NonNullable<FilterReadings['flare']>;

/** Flare of a filter: the veil, and a picture that marks the ghosts and the patches. */
export function FlarePanel({ flare, view }: { flare: Flare; view: SessionView }) {
  const { session, files, frames } = view;
  const shown = [
    ['with the filter', flare.pictures?.filtered],
    ['bare', flare.pictures?.bare],
  ] as const;
  const patches = session.patches.filter(
    ({ id }) => flare.patches && [flare.patches.black, flare.patches.neutral].includes(id),
  );
  const count = flare.ghosts.length;
  return (
    <Panel title="Flare" method="flare" word={count === 0 ? 'no ghost' : count === 1 ? 'one ghost' : `${count} ghosts`}>
      <p className="mt-2">
        <span className="text-figure font-medium">{signed(flare.veilPercent.value)}</span>{' '}
        <span className="unit">% of veil {plusMinus(flare.veilPercent.u95)}</span>
      </p>
      <p className="text-small text-ink-2">Light on the black patch, as a share of the gray one, more than bare.</p>
      <div className="grid grid-cols-2 gap-3 mt-3">
        {shown.map(([title, file]) => {
          const frame = file === undefined ? undefined : frames[files[file]];
          return file === undefined || !frame ? null : (
            <figure key={title} className="min-w-0">
              <div className="relative" style={{ aspectRatio: `${frame.width} / ${frame.height}` }}>
                <img
                  src={pictureUrl(files[file], 1600, session.rig.response)}
                  alt={`The scene ${flare.scene}, ${title}`}
                  loading="lazy"
                  className="absolute inset-0 w-full h-full mat"
                />
                <Marks frame={frame} patches={patches} ghosts={title === 'bare' ? [] : flare.ghosts} />
              </div>
              <figcaption className="text-small text-ink-2 mt-1">{title}</figcaption>
            </figure>
          );
        })}
      </div>
      {count > 0 && (
        <table className="w-full text-label mt-2">
          <thead>
            <tr className="text-ink-3 text-small">
              <th className="text-left font-medium">ghost</th>
              <th className="text-right font-medium">from the left, top</th>
              <th className="text-right font-medium">height</th>
              <th className="text-right font-medium">radius</th>
            </tr>
          </thead>
          <tbody>
            {flare.ghosts.map((ghost, i) => (
              <tr key={i}>
                <td>{i + 1}</td>
                <td className="text-right">
                  {fixed(100 * ghost.x, 0)} %, {fixed(100 * ghost.y, 0)} %
                </td>
                <td className="text-right">
                  {fixed(ghost.stops)} <span className="unit">stops</span>
                </td>
                <td className="text-right">
                  {fixed(100 * ghost.radius, 1)} <span className="unit">% of width</span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {flare.map && (
        <div className="mt-3">
          <StopMap
            map={negated(flare.map)}
            title="Light that the filter adds to its surroundings"
            darkest={scaleOf(flare.map.stops)}
          />
        </div>
      )}
    </Panel>
  );
}

/** Added light is drawn deep, as lost light is on the shading maps. */
function negated(map: NonNullable<Flare['map']>) {
  return { ...map, stops: map.stops.map((value) => (value > 0 ? -value : 0)) };
}

function scaleOf(stops: readonly number[]): number {
  return -Math.max(0.1, ...stops);
}

function Marks({
  frame,
  patches,
  ghosts,
}: {
  frame: { width: number; height: number };
  patches: readonly Patch[];
  ghosts: Flare['ghosts'];
}) {
  const size = frame.width / 30;
  return (
    <svg viewBox={`0 0 ${frame.width} ${frame.height}`} className="absolute inset-0 w-full h-full" aria-hidden>
      {patches.map(({ id, rect }) =>
        ['#000000', '#ffffff'].map((stroke, i) => (
          <rect
            key={id + stroke}
            x={rect.x * frame.width}
            y={rect.y * frame.height}
            width={rect.width * frame.width}
            height={rect.height * frame.height}
            fill="none"
            stroke={stroke}
            strokeWidth={i === 0 ? 3 : 1.5}
            strokeDasharray={i === 0 ? undefined : '4 3'}
            vectorEffect="non-scaling-stroke"
          />
        )),
      )}
      {ghosts.map((ghost, i) => {
        const [x, y] = [ghost.x * frame.width, ghost.y * frame.height];
        const r = Math.max(ghost.radius * frame.width * 1.4, size * 0.6);
        return (
          <g key={i}>
            <circle cx={x} cy={y} r={r} fill="none" stroke="#000" strokeWidth={3} vectorEffect="non-scaling-stroke" />
            <circle cx={x} cy={y} r={r} fill="none" stroke="#fff" strokeWidth={1.5} vectorEffect="non-scaling-stroke" />
            <text
              x={x + r + size / 4}
              y={y}
              fontSize={size}
              dominantBaseline="middle"
              fill="#fff"
              stroke="#000"
              strokeWidth={size / 6}
              paintOrder="stroke"
            >
              {i + 1}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
