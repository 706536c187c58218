'use client';

import type { ReactNode } from 'react';
import { SPOTS, spotView } from './viewport';
import type { Gamut } from '@/core/viewing/display';
import type { Room } from './scene';
import type { Choice } from './state';
import { SaveView, type Wished } from './SaveView';
import { Toggle } from './Toolbar';
import { SPOT_KEYS } from './useRoomKeys';

/** Where one looks: zoom, corners, loupe, the room's gray; and the view as a file. */
export function BottomBar({
  room,
  choice,
  change,
  soft,
  note,
  onSave,
  children,
}: {
  room: Room | null;
  choice: Choice;
  change: (part: Partial<Choice>) => void;
  /** Drawn on a plain canvas. */
  soft: boolean;
  /** How the picture lies on bare. */
  note: string | null;
  onSave: (wished: Wished) => void;
  children?: ReactNode;
}) {
  const scale = room?.view.scale ?? 1;
  return (
    <div className="flex items-center justify-between gap-x-6 gap-y-1 flex-wrap pt-1.5">
      <div className="flex flex-wrap items-center">
        <Toggle on={choice.view === null} keys="" onClick={() => change({ view: null })}>
          Fit
        </Toggle>
        <Toggle on={scale === 1} keys="z" onClick={() => room && change({ view: { ...room.view, scale: 1 } })}>
          Own pixels
        </Toggle>
        <Toggle on={choice.loupe} keys="q" onClick={() => change({ loupe: !choice.loupe })}>
          Loupe
        </Toggle>
        <span className="px-2.5 text-ink-2 tabular-nums">{Math.round(100 * scale)} %</span>
        <div role="group" aria-label="Jump to" className="flex">
          {SPOTS.map((spot, i) => (
            <button
              key={spot}
              type="button"
              aria-label={spot}
              title={`${spot} (${Object.keys(SPOT_KEYS).find((key) => SPOT_KEYS[key] === spot)})`}
              className="min-w-8 px-2 py-1 rounded-md hover:bg-sheet"
              onClick={() => room && change({ view: spotView(spot, room.view, room.frame, room.cells[0]) })}
            >
              {['·', '↖', '↗', '↙', '↘'][i]}
            </button>
          ))}
        </div>
        {children}
      </div>
      <div className="flex items-center gap-4 flex-wrap">
        <label className="flex items-center gap-2 text-ink-2 text-[13px]">
          Room
          <input
            type="range"
            min={5}
            max={60}
            value={choice.lightness}
            aria-label="Lightness of the room"
            className="accent-ink-2"
            onChange={(event) => change({ lightness: Number(event.target.value) })}
          />
        </label>
        <label className="flex items-center gap-2 text-ink-2 text-[13px]">
          Screen
          <select
            className="field"
            value={choice.gamut ?? 'srgb'}
            onChange={(event) => change({ gamut: event.target.value as Gamut })}
          >
            <option value="srgb">sRGB</option>
            <option value="display-p3">Display P3</option>
          </select>
        </label>
        {note && <span className="text-ink-2 text-[13px]">{note}</span>}
        {soft && <span className="text-ink-3 text-[13px]">drawn without graphics, coarser</span>}
        <SaveView disabled={!room} onSave={onSave} />
      </div>
    </div>
  );
}
