'use client';

import { CircleAlert, Eye } from 'lucide-react';
import { useState } from 'react';
import type { FootageView } from '@/server/footage';
import type { Check } from '@/core/sitting/checks/check';
import { LOOK_COLUMNS, LOOK_ROWS } from '@/core/sitting/intake/look';
import type { Response } from '@/core/session/schema';
import { pictureUrl } from '@/ui/pictures';
import { MomentsGraph } from './MomentsGraph';

/** What will spoil the measurement, each with a picture that shows it and what to do. */
export function ChecksPanel({
  checks,
  tiles,
  response,
}: {
  checks: Check[];
  tiles: FootageView['tiles'];
  response: Response;
}) {
  const [open, setOpen] = useState<number | null>(null);
  if (checks.length === 0)
    return <p className="mt-4 text-ink-2">Nothing in the files speaks against measuring them.</p>;
  return (
    <section aria-label="Checks" className="mt-4 rounded-sheet bg-sheet px-4 py-3">
      <h2>
        {checks.length} {checks.length === 1 ? 'thing' : 'things'} to look at before measuring
      </h2>
      <ul className="mt-1.5">
        {checks.map((check, i) => (
          <li key={`${check.code} ${check.file} ${check.takes[0]}`} className="border-t border-rule first:border-t-0">
            <button
              type="button"
              aria-expanded={open === i}
              onClick={() => setOpen(open === i ? null : i)}
              className="w-full text-left py-2 flex gap-2.5 items-start"
            >
              {check.severity === 'stop' ? (
                <CircleAlert size={17} className="text-failure shrink-0 mt-0.5" aria-label="A figure will be missing" />
              ) : (
                <Eye size={17} className="text-warning shrink-0 mt-0.5" aria-label="Worth a look" />
              )}
              <span>
                {check.message} <span className="text-ink-2">{check.advice}</span>
              </span>
            </button>
            {open === i && (
              <div className="pb-4 pl-[27px]">
                <Shown check={check} tiles={tiles} response={response} />
              </div>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Shown({ check, tiles, response }: { check: Check; tiles: FootageView['tiles']; response: Response }) {
  const { file, show } = check;
  if (file === null || !tiles[file]?.sha256) return <p className="text-ink-3">There is no picture to show.</p>;
  if (show.kind === 'moments') return <MomentsGraph moments={tiles[file].moments} name={file} />;
  const picture = (path: string, cells: number[] = []) => (
    <figure className="w-full max-w-[460px]">
      <div className="relative">
        <img
          src={pictureUrl(tiles[path]?.sha256 ?? undefined, 1600, response)}
          alt={path}
          className="w-full block rounded-sm bg-well"
        />
        {cells.length > 0 && (
          <svg
            role="img"
            aria-label={`${cells.length} of ${LOOK_COLUMNS * LOOK_ROWS} places hold clipped pixels`}
            viewBox={`0 0 ${LOOK_COLUMNS} ${LOOK_ROWS}`}
            preserveAspectRatio="none"
            className="absolute inset-0 w-full h-full"
          >
            {cells.map((cell) => (
              <rect
                key={cell}
                x={cell % LOOK_COLUMNS}
                y={Math.floor(cell / LOOK_COLUMNS)}
                width={1}
                height={1}
                className="fill-none stroke-warning"
                strokeWidth={1.5}
                vectorEffect="non-scaling-stroke"
              />
            ))}
          </svg>
        )}
      </div>
      <figcaption className="text-ink-3 text-small mt-1 break-all">{path}</figcaption>
    </figure>
  );
  return (
    <div className="flex gap-4 flex-wrap">
      {picture(file, show.kind === 'cells' ? show.cells : [])}
      {show.kind === 'beside' && picture(show.file)}
    </div>
  );
}
