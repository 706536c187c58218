'use client';

import type { ReactNode } from 'react';
import { Select, type Option } from '@/ui/controls/Select';
import { Slider } from '@/ui/controls/Slider';
import { Toggle } from '@/ui/controls/Toggle';
import { IconButton } from '@/ui/controls/Tooltip';
import { SPOTS, spotView } from './viewport';
import type { Gamut } from '@/core/viewing/display';
import type { Room } from './scene';
import type { Choice } from './state';
import { SaveView } from './SaveView';
import type { SavingView } from './useSaveView';
import { SPOT_KEYS } from './useRoomKeys';

const GAMUTS: readonly Option<Gamut>[] = [
  ['srgb', 'sRGB'],
  ['display-p3', 'Display P3'],
];

/** Where one looks: zoom, corners, loupe, the room's gray; and the view as a file. */
export function BottomBar({
  room,
  choice,
  change,
  soft,
  note,
  saving,
  children,
}: {
  room: Room | null;
  choice: Choice;
  change: (part: Partial<Choice>) => void;
  /** Drawn on a plain canvas. */
  soft: boolean;
  /** How the picture lies on bare. */
  note: string | null;
  saving: SavingView;
  children?: ReactNode;
}) {
  const scale = room?.view.scale ?? 1;
  return (
    <div className="flex items-center justify-between gap-x-6 gap-y-1 max-sm:flex-col max-sm:items-stretch sm:flex-wrap pt-1.5">
      <div className="flex sm:flex-wrap max-sm:overflow-x-auto items-center">
        <Toggle on={choice.view === null} onChange={() => change({ view: null })}>
          Fit
        </Toggle>
        <Toggle on={scale === 1} keys="z" onChange={() => room && change({ view: { ...room.view, scale: 1 } })}>
          Own pixels
        </Toggle>
        <Toggle on={choice.loupe} keys="q" onChange={(loupe) => change({ loupe })}>
          Loupe
        </Toggle>
        <span className="px-2.5 text-ink-2 tabular-nums whitespace-nowrap">{Math.round(100 * scale)} %</span>
        <div role="group" aria-label="Jump to" className="flex">
          {SPOTS.map((spot, i) => (
            <IconButton
              key={spot}
              label={spot}
              words={`${spot} (${Object.keys(SPOT_KEYS).find((key) => SPOT_KEYS[key] === spot)})`}
              className="min-w-8 !px-2 !py-1 text-ink"
              onClick={() => room && change({ view: spotView(spot, room.view, room.frame, room.cells[0]) })}
            >
              {['·', '↖', '↗', '↙', '↘'][i]}
            </IconButton>
          ))}
        </div>
        {children}
      </div>
      <div className="flex items-center gap-4 sm:flex-wrap max-sm:overflow-x-auto max-sm:whitespace-nowrap">
        <span className="flex items-center gap-2 text-ink-2 text-label">
          Room
          <Slider
            label="Lightness of the room"
            min={5}
            max={60}
            step={1}
            value={choice.lightness}
            className="w-[120px]"
            onChange={(lightness) => change({ lightness })}
          />
        </span>
        <span className="flex items-center gap-2 text-ink-2 text-label">
          Screen
          <Select
            label="Screen"
            value={choice.gamut ?? 'srgb'}
            options={GAMUTS}
            onChange={(gamut) => change({ gamut })}
          />
        </span>
        {note && <span className="text-ink-2 text-label">{note}</span>}
        {soft && <span className="text-ink-3 text-label">drawn without graphics, coarser</span>}
        <SaveView disabled={!room} saving={saving} />
      </div>
    </div>
  );
}
