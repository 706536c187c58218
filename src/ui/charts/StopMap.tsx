'use client';

import { useState, type PointerEvent } from 'react';
import { fixed } from '../format';
import { bandsOf, colorOf, contourLevels, contourStep, labelPlaces, type StopGrid } from './stopMap';

/**
 * A map in stops in false color with contour lines; of a place that is pointed at its figure is told.
 *
 * @param darkest what the deepest color stands for, negative stops; alike on maps that are to be compared
 */
export function StopMap({ map, title, darkest }: { map: StopGrid; title: string; darkest: number }) {
  const { columns, rows } = map;
  const [lowest, highest] = [Math.min(...map.stops), Math.max(...map.stops)];
  const step = contourStep(lowest, highest);
  const levels = contourLevels(lowest, highest, step);
  const bands = bandsOf(map, levels);
  const decimals = step < 0.1 ? 2 : 1;
  const [cell, setCell] = useState<{ x: number; y: number } | null>(null);
  const point = ({ currentTarget, clientX, clientY }: PointerEvent<SVGSVGElement>) => {
    const { left, top, width, height } = currentTarget.getBoundingClientRect();
    const inside = (share: number, count: number) => Math.min(count - 1, Math.max(0, Math.floor(share * count)));
    setCell({ x: inside((clientX - left) / width, columns), y: inside((clientY - top) / height, rows) });
  };
  return (
    <figure className="min-w-0">
      <svg
        viewBox={`0 0 ${columns} ${rows}`}
        className="w-full block"
        onPointerMove={point}
        onPointerDown={point}
        onPointerLeave={() => setCell(null)}
        role="img"
        aria-label={`${title}: from ${fixed(lowest)} to ${fixed(highest)} stops of the center, lines every ${fixed(step)}`}
      >
        <rect width={columns} height={rows} fill={colorOf(lowest, darkest)} />
        {bands.map(({ level, path }) => (
          <path key={level} d={path} fill={colorOf(level + step / 2, darkest)} />
        ))}
        {bands.map(({ level, path }) => (
          <path
            key={`line ${level}`}
            d={path}
            fill="none"
            stroke="#1f1f1f"
            strokeOpacity={0.75}
            strokeWidth={level === 0 ? 1.6 : 1}
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {labelPlaces(map, levels).map(({ level, x, y }) => (
          <text
            key={`figure ${level}`}
            x={x}
            y={y}
            fontSize={columns / 17}
            textAnchor="middle"
            dominantBaseline="middle"
            fill="#ffffff"
            stroke="#1f1f1f"
            strokeWidth={columns / 70}
            paintOrder="stroke"
          >
            {fixed(level, decimals)}
          </text>
        ))}
        {cell && (
          <circle
            cx={cell.x + 0.5}
            cy={cell.y + 0.5}
            r={columns / 60}
            fill="#ffffff"
            stroke="#1f1f1f"
            vectorEffect="non-scaling-stroke"
            pointerEvents="none"
          />
        )}
      </svg>
      {/* As high whatever it says: what lies below must not move while one points. */}
      <figcaption className="text-small text-ink-2 mt-1 min-h-10">
        {cell ? (
          <>
            {title} <span className="text-ink">{fixed(map.stops[cell.y * columns + cell.x], 3)}</span> stop here.
          </>
        ) : (
          <>
            {title}. Lines every {fixed(step, step < 0.1 ? 2 : 1)} stop.
          </>
        )}
      </figcaption>
    </figure>
  );
}

/** What the colors stand for. */
export function StopScale({ darkest }: { darkest: number }) {
  const steps = 32;
  return (
    <div className="flex items-center gap-2 text-small text-ink-2">
      <span>0</span>
      <svg viewBox={`0 0 ${steps} 1`} preserveAspectRatio="none" className="h-2 flex-1" aria-hidden>
        {Array.from({ length: steps }, (_, i) => (
          <rect key={i} x={i} width={1.05} height={1} fill={colorOf((darkest * (i + 0.5)) / steps, darkest)} />
        ))}
      </svg>
      <span>{fixed(darkest)} stops</span>
    </div>
  );
}
