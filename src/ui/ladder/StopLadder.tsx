'use client';

import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import { ShapeAt, shapeOf } from '../VerdictShape';
import { fixed, plusMinus } from '../format';
import { layOutLadder, type LadderBead, type PlacedBead } from './layout';

const HEIGHT = 116;
const BEAD_Y = 44;
const RULE_Y = 84;
/** Between spans that would lie on each other. */
const LANE_PX = 9;

/**
 * The stop ladder: beads at what was found with their 95 % bars, threads to the ticks of their labels, bare at zero. Arrow
 * keys walk along it; screen readers get it as a list.
 */
export function StopLadder({
  beads,
  selected,
  onSelect,
}: {
  beads: readonly LadderBead[];
  selected?: string | null;
  onSelect?: (id: string) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(1280);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(Math.max(320, entry.contentRect.width)));
    if (box.current) observer.observe(box.current);
    return () => observer.disconnect();
  }, []);
  const layout = layOutLadder(beads, width);
  const measured = beads.some((bead) => bead.found || bead.span);

  function walk(event: KeyboardEvent, index: number) {
    const step = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    const next = layout.beads[index + step];
    if (step === 0 || !next) return;
    event.preventDefault();
    onSelect?.(next.id);
    box.current?.querySelector<HTMLElement>(`[data-bead="${CSS.escape(next.id)}"]`)?.focus();
  }

  return (
    <section
      ref={box}
      aria-label="Stop ladder"
      className="bg-ladder border-b border-header relative overflow-hidden"
      style={{ height: HEIGHT }}
    >
      <svg width={width} height={HEIGHT} aria-hidden className="absolute inset-0">
        <Rule layout={layout} />
        <text x={layout.left - 14} y={RULE_Y + 22} textAnchor="end" fontSize="12" fill="var(--color-ink-3)">
          stops
        </text>
        <text x={layout.left - 14} y={BEAD_Y + 4} textAnchor="end" fontSize="12" fill="var(--color-ink-3)">
          {measured ? 'found' : 'label'}
        </text>
        <circle cx={layout.bareX} cy={BEAD_Y} r="4" fill="none" stroke="var(--color-ink)" strokeWidth="1.3" />
        <line x1={layout.bareX} y1={BEAD_Y + 4} x2={layout.bareX} y2={RULE_Y} stroke="var(--color-ink-4)" />
        <text
          x={layout.bareX}
          y={BEAD_Y - 14}
          textAnchor="middle"
          fontSize="13"
          fontWeight="600"
          fill="var(--color-ink)"
        >
          bare
        </text>
        {layout.beads.map((bead) => {
          const color = bead.id === selected ? 'var(--color-accent)' : 'var(--color-ink)';
          return (
            <g key={bead.id}>
              {bead.threads.map(([from, to]) => (
                <path
                  key={`${from} ${to}`}
                  d={`M${from} ${yOf(bead)} C${from} ${yOf(bead) + 22} ${to} ${RULE_Y - 22} ${to} ${RULE_Y}`}
                  fill="none"
                  stroke={bead.id === selected ? 'var(--color-accent)' : 'var(--color-ink-4)'}
                  strokeWidth={bead.id === selected ? 2 : 1.2}
                />
              ))}
              {bead.line && <Span span={bead.line} y={yOf(bead)} color={color} />}
              {bead.bar && (
                <rect
                  x={bead.bar[0]}
                  y={yOf(bead) - 2}
                  width={Math.max(1, bead.bar[1] - bead.bar[0])}
                  height="4"
                  fill={color}
                  opacity=".55"
                />
              )}
              {bead.written && bead.row > 0 && (
                <line
                  x1={bead.x}
                  y1={BEAD_Y - 11}
                  x2={bead.x}
                  y2={BEAD_Y - 9 - 13 * bead.row}
                  stroke="var(--color-ink-4)"
                />
              )}
            </g>
          );
        })}
        {layout.beads.map((bead) => {
          const color = bead.id === selected ? 'var(--color-accent)' : 'var(--color-ink)';
          return (
            <g key={bead.id}>
              <ShapeAt
                shape={bead.found || bead.span ? shapeOf(bead.verdict ?? 'unrated') : 'ring'}
                x={bead.x}
                y={yOf(bead)}
                color={color}
              />
              {(bead.written || bead.id === selected) && (
                <text
                  x={bead.written?.x ?? bead.x}
                  y={BEAD_Y - 14 - 13 * bead.row}
                  textAnchor="middle"
                  fontSize="13"
                  fontWeight="600"
                  fill={color}
                  paintOrder="stroke"
                  stroke="var(--color-ladder)"
                  strokeWidth="4"
                >
                  {bead.written?.text ?? bead.name}
                </text>
              )}
            </g>
          );
        })}
      </svg>
      <ul className="absolute inset-0 list-none">
        {layout.beads.map((bead, index) => (
          <li key={bead.id}>
            <button
              type="button"
              data-bead={bead.id}
              aria-pressed={bead.id === selected}
              title={bead.name}
              tabIndex={bead.id === selected || (!selected && index === 0) ? 0 : -1}
              onClick={() => onSelect?.(bead.id)}
              onKeyDown={(event) => walk(event, index)}
              className="absolute rounded-md"
              style={{ left: bead.x - 14, top: yOf(bead) - 13, width: 28, height: 28 }}
            >
              <span className="sr-only">{describe(bead)}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

const yOf = ({ lane }: PlacedBead) => BEAD_Y + LANE_PX * lane;

/** A span as a line with its ends, ticks of marks on it; two joined beads for the halves of a graduated filter. */
function Span({ span, y, color }: { span: NonNullable<PlacedBead['line']>; y: number; color: string }) {
  const { from, to, ticks, open, halves } = span;
  return (
    <g stroke={color} fill="none">
      <line x1={from} y1={y} x2={to} y2={y} strokeWidth="1.5" strokeDasharray={halves ? '2 3' : undefined} />
      {halves ? (
        <circle cx={from} cy={y} r="4" fill="var(--color-ladder)" strokeWidth="1.5" />
      ) : (
        <line x1={from} y1={y - 6} x2={from} y2={y + 6} strokeWidth="1.5" />
      )}
      {!halves &&
        (open ? (
          <path d={`M${to - 6} ${y - 5} L${to} ${y} L${to - 6} ${y + 5}`} strokeWidth="1.5" />
        ) : (
          <line x1={to} y1={y - 6} x2={to} y2={y + 6} strokeWidth="1.5" />
        ))}
      {ticks.map((x) => (
        <line key={x} x1={x} y1={y - 4} x2={x} y2={y + 4} strokeWidth="1" />
      ))}
    </g>
  );
}

function describe(bead: LadderBead): string {
  const range = bead.labelSpan ? `label ${bead.labelSpan.map((end) => fixed(end)).join(' to ')} stops` : 'no label';
  const label = bead.labelStops === null ? range : `label ${fixed(bead.labelStops)} stops`;
  if (!bead.found && bead.span)
    return `${bead.name}: ${bead.span.halves ? 'halves of' : 'from'} ${fixed(bead.span.low)} ${bead.span.halves ? 'and' : 'to'} ${fixed(bead.span.high)} stops, ${label}, ${bead.verdict ?? ''}`;
  if (!bead.found) return `${bead.name}: ${label}, not measured`;
  return `${bead.name}: found ${fixed(bead.found.value)} ${plusMinus(bead.found.u95)} stops, ${label}, ${bead.verdict ?? ''}`;
}

/** The rule below the beads, in stops. */
function Rule({ layout }: { layout: ReturnType<typeof layOutLadder> }) {
  return (
    <>
      <line x1={layout.left} y1={RULE_Y} x2={layout.right} y2={RULE_Y} stroke="var(--color-ink-4)" />
      {layout.ticks.map((tick) => (
        <g key={tick.x}>
          <line
            x1={tick.x}
            y1={RULE_Y}
            x2={tick.x}
            y2={RULE_Y + (tick.label === null ? 4 : 9)}
            stroke="var(--color-ink-4)"
          />
          {tick.label !== null && (
            <text x={tick.x} y={RULE_Y + 22} textAnchor="middle" fontSize="12" fill="var(--color-ink-3)">
              {tick.label}
            </text>
          )}
        </g>
      ))}
    </>
  );
}
