import { ShapeAt, shapeOf } from '../VerdictShape';
import { layOutLadder, type LadderBead } from './layout';

const WIDTH = 420;
const HEIGHT = 46;

/** The ladder in small, for lists: beads and threads, no names. */
export function SmallLadder({ beads }: { beads: readonly LadderBead[] }) {
  const layout = layOutLadder(beads, WIDTH, true);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width={WIDTH} height={HEIGHT} aria-hidden className="max-w-full">
      <line x1={layout.left} y1={30} x2={layout.right} y2={30} stroke="var(--color-ink-4)" />
      {layout.ticks.map((tick) => (
        <g key={tick.x}>
          <line x1={tick.x} y1={30} x2={tick.x} y2={34} stroke="var(--color-ink-4)" />
          {tick.label !== null && (
            <text x={tick.x} y={44} textAnchor="middle" fontSize="10" fill="var(--color-ink-3)">
              {tick.label}
            </text>
          )}
        </g>
      ))}
      <circle cx={layout.bareX} cy={10} r="3" fill="none" stroke="var(--color-ink)" />
      {layout.beads.map((bead) => (
        <g key={bead.id}>
          {bead.threads.map(([from, to]) => (
            <path
              key={`${from} ${to}`}
              d={`M${from} 10 C${from} 24 ${to} 16 ${to} 30`}
              fill="none"
              stroke="var(--color-ink-4)"
            />
          ))}
          {bead.line && (
            <line x1={bead.line.from} y1={10} x2={bead.line.to} y2={10} stroke="var(--color-ink)" strokeWidth="1.3" />
          )}
          <ShapeAt
            shape={bead.found || bead.span ? shapeOf(bead.verdict ?? 'unrated') : 'ring'}
            x={bead.x}
            y={10}
            color="var(--color-ink)"
            size={4.5}
          />
        </g>
      ))}
    </svg>
  );
}
