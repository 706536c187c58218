'use client';

import { useEffect, useRef, useState } from 'react';
import type { OrdinaryReadings } from '@/core/session/readings';
import type { Session } from '@/core/session/schema';
import { invertHomography, type Homography } from '@/core/formulas/geometry/homography';
import { frameInWords } from '@/core/reading/facts';
import { partOfPairs } from '@/core/viewing/shownFirst';
import { Toggle } from '@/ui/controls/Toggle';
import { fixed, percent, plusMinus } from '@/ui/format';
import { Panel } from './Panel';

/** Why a cell is left out, by its digit in the readings; the lines of its hatching. */
const REASONS: readonly { words: string; angle: number; gap: number }[] = [
  { words: 'outside bare', angle: 90, gap: 7 },
  { words: 'clipped', angle: 0, gap: 5 },
  { words: 'too dark', angle: 45, gap: 4 },
  { words: 'moved, or not the same', angle: 45, gap: 8 },
  { words: 'in another light', angle: 135, gap: 6 },
];

/** The pictures of an ordinary scene, each laid on the bare one it was compared with, and what was left out of their ratio. */
export function ScenePanel({
  ordinary,
  session,
  sessionId,
}: {
  ordinary: OrdinaryReadings;
  session: Session;
  sessionId: string;
}) {
  const { pairs, unpaired, scene, areas } = ordinary;
  const [at, go] = useState(0);
  const [showsBare, showBare] = useState(false);
  const [hatched, hatch] = useState(true);
  const pair = pairs[Math.min(at, pairs.length - 1)];
  const query = (file: string) => {
    const part = partOfPairs(ordinary, session);
    const rect = Object.fromEntries(Object.entries(part).map(([key, value]) => [key, String(value)]));
    return `/api/sessions/${sessionId}/frame?${new URLSearchParams({ file, ...rect })}`;
  };
  const used = pair ? [...pair.cells].filter((one) => one === '0').length / pair.cells.length : 0;
  return (
    <Panel title={`“${scene}”, an ordinary scene`} method="ordinary-scenes">
      {pair && (
        <>
          <div
            role="group"
            aria-label="Pairs of pictures"
            tabIndex={0}
            className="mt-2 rounded-md"
            onKeyDown={(event) => {
              if (event.key === 'ArrowRight') go((now) => Math.min(pairs.length - 1, now + 1));
              else if (event.key === 'ArrowLeft') go((now) => Math.max(0, now - 1));
              else if (event.key === 'b') showBare((now) => !now);
              else if (event.key === 'h') hatch((now) => !now);
              else return;
              event.preventDefault();
            }}
          >
            <Pictures pair={pair} ordinary={ordinary} query={query} showsBare={showsBare} hatched={hatched} />
            <div className="flex flex-wrap items-center gap-2 mt-2 text-label">
              <Step label="Pair before" disabled={at === 0} onClick={() => go(at - 1)}>
                ←
              </Step>
              <span>
                pair {at + 1} of {pairs.length}
              </span>
              <Step label="Next pair" disabled={at >= pairs.length - 1} onClick={() => go(at + 1)}>
                →
              </Step>
              <Toggle on={showsBare} keys="b" onChange={showBare}>
                {showsBare ? 'bare, laid on it' : 'filtered'}
              </Toggle>
              <Toggle on={hatched} keys="h" onChange={hatch}>
                left out hatched
              </Toggle>
            </div>
          </div>
          <p className="text-small text-ink-2 mt-1.5" aria-live="polite">
            {nameOf(pair.take, pair.seconds)} on {nameOf(pair.bareTake, pair.bareSeconds)}: {percent(pair.agreement, 0)}{' '}
            of it shows the same, laid to {fixed(2 * pair.errorPx)} px; {percent(used, 0)} of the frame speaks.
          </p>
          <Legend cells={pair.cells} />
        </>
      )}
      {areas && areas.length > 0 && (
        <table className="w-full text-label mt-2">
          <caption className="text-left text-ink-3 text-small">
            What the polarizer takes, by kinds of area told from bare’s colors
          </caption>
          <tbody>
            {areas.map(({ area, stops, share }) => (
              <tr key={area}>
                <th scope="row" className="text-left font-normal text-ink-2">
                  {area} <span className="text-ink-3">{percent(share, 0)} of the frame</span>
                </th>
                <td className="text-right whitespace-nowrap">
                  {fixed(stops.value)} <span className="unit">stops {plusMinus(stops.u95)}</span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {unpaired.length > 0 && (
        <section className="mt-3">
          <h3 className="text-label font-semibold">Not paired</h3>
          <p className="text-small text-ink-2">
            {unpaired.length === 1 ? 'One picture was' : `${unpaired.length} pictures were`} left out:{' '}
            {unpaired[0].words}.
          </p>
          <div className="grid grid-cols-2 gap-2 mt-1.5">
            {[unpaired[0].file, unpaired[0].tried].map((file) => (
              <figure key={file} className="min-w-0">
                <img src={query(file)} alt={file} loading="lazy" className="w-full h-auto mat rounded" />
                <figcaption className="text-small text-ink-3 truncate">{frameInWords(file)}</figcaption>
              </figure>
            ))}
          </div>
        </section>
      )}
      <p className="text-ink-3 text-small mt-2">
        Figures from an ordinary scene are wider in their ± than a bench’s: light, leaves and lens share in them.
      </p>
    </Panel>
  );
}

const nameOf = (take: string, seconds: number | null) => (seconds === null ? take : `${take} at ${fixed(seconds)} s`);

type Pair = OrdinaryReadings['pairs'][number];

function Pictures({
  pair,
  ordinary: { columns, rows, width, height },
  query,
  showsBare,
  hatched,
}: {
  pair: Pair;
  ordinary: OrdinaryReadings;
  query: (file: string) => string;
  showsBare: boolean;
  hatched: boolean;
}) {
  const box = useRef<HTMLDivElement>(null);
  const [half, setHalf] = useState(0);
  useEffect(() => {
    if (!box.current) return;
    const observer = new ResizeObserver(([entry]) => setHalf(entry.contentRect.width / 2));
    observer.observe(box.current);
    return () => observer.disconnect();
  }, []);
  const layer = 'absolute inset-0 w-full h-full';
  return (
    <div
      ref={box}
      className="relative overflow-hidden rounded mat"
      style={{ aspectRatio: `${width} / ${height}` }}
      data-testid="pair"
    >
      <img src={query(pair.file)} alt="" className={layer} style={{ visibility: showsBare ? 'hidden' : 'visible' }} />
      <img
        src={query(pair.bareFile)}
        alt={showsBare ? `${pair.bareFile}, laid on ${pair.file}` : ''}
        className={layer}
        style={{
          visibility: showsBare ? 'visible' : 'hidden',
          transformOrigin: 'center',
          transform: matrixOf(invertHomography(pair.homography), half),
        }}
      />
      {hatched && (
        <svg viewBox={`0 0 ${columns} ${rows}`} preserveAspectRatio="none" className={layer} aria-hidden>
          <Hatching unit={half > 0 ? columns / (2 * half) : 0.1} />
          {[...pair.cells].map((digit, cell) =>
            digit === '0' ? null : (
              <rect
                key={cell}
                x={cell % columns}
                y={Math.floor(cell / columns)}
                width={1}
                height={1}
                fill={`url(#left-out-${digit})`}
              />
            ),
          )}
        </svg>
      )}
    </div>
  );
}

/** Patterns of lines by reason, light on dark so that they are seen on any picture. */
function Hatching({ unit }: { unit: number }) {
  return (
    <defs>
      {REASONS.map(({ angle, gap }, i) => (
        <pattern
          key={angle + gap}
          id={`left-out-${i + 1}`}
          width={gap * unit}
          height={gap * unit}
          patternUnits="userSpaceOnUse"
          patternTransform={`rotate(${angle})`}
        >
          <rect width={gap * unit} height={gap * unit} fill="rgba(0,0,0,0.38)" />
          <rect width={1.2 * unit} height={gap * unit} fill="rgba(236,236,236,0.8)" />
        </pattern>
      ))}
    </defs>
  );
}

/** CSS of a homography in half widths, about the middle of a box of that half width in pixels. */
function matrixOf(h: Homography, half: number): string {
  if (half === 0) return 'none';
  const [a, b, tx, c, d, ty, px, py] = h;
  return `matrix3d(${[a, c, 0, px / half, b, d, 0, py / half, 0, 0, 1, 0, tx * half, ty * half, 0, 1].join(',')})`;
}

function Legend({ cells }: { cells: string }) {
  const shares = REASONS.map((_, i) => [...cells].filter((one) => one === String(i + 1)).length / cells.length);
  return (
    <ul className="flex flex-wrap gap-x-4 gap-y-1 mt-1.5 text-small text-ink-2" aria-label="Left out">
      {REASONS.map(({ words, angle, gap }, i) =>
        shares[i] === 0 ? null : (
          <li key={words} className="flex items-center gap-1.5">
            <svg width="18" height="12" aria-hidden className="rounded-sm">
              <defs>
                <pattern
                  id={`key-${i}`}
                  width={gap}
                  height={gap}
                  patternUnits="userSpaceOnUse"
                  patternTransform={`rotate(${angle})`}
                >
                  <rect width={gap} height={gap} fill="var(--color-well)" />
                  <rect width="1.2" height={gap} fill="var(--color-ink)" />
                </pattern>
              </defs>
              <rect width="18" height="12" fill={`url(#key-${i})`} />
            </svg>
            {words} {percent(shares[i], 0)}
          </li>
        ),
      )}
    </ul>
  );
}

function Step({ label, ...rest }: { label: string } & React.ComponentProps<'button'>) {
  return (
    <button
      type="button"
      aria-label={label}
      className="min-w-[32px] min-h-[28px] rounded-md bg-raised disabled:opacity-40"
      {...rest}
    />
  );
}
