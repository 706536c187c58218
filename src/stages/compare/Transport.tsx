'use client';

import { Pause, Play, StepBack, StepForward } from 'lucide-react';
import { fixed } from '@/ui/format';
import { useKeys } from '@/ui/keys';
import { apartAt } from './playback';
import type { Shown } from './shown';
import { Toggle } from './Toolbar';
import type { Player } from './usePlayback';

/** Seconds of a shift by hand, a click. */
const SHIFT_STEP = 0.04;

/** The clips' time: played, scrubbed, stepped frame by frame; how they keep step, and a shift by hand. */
export function Transport({ player, second }: { player: Player; second: Shown | null }) {
  const { playback, playing, loop, span, waiting } = player;
  useKeys((key, event) => {
    if (!span) return false;
    // A button that has the focus is pressed by the space bar.
    if (key === ' ' && !(event.target as HTMLElement).closest('button, a, [role="slider"]')) player.play(!playing);
    else if (key === ',') player.step(-1);
    else if (key === '.') player.step(1);
    else if (key === '<' || key === '>')
      player.seek((playback.moment ?? (span.from + span.to) / 2) + (key === '<' ? -1 : 1));
    else if (key === 'e') player.setLoop(!loop);
    else return false;
    return true;
  });
  if (!span) return null;
  const moment = playback.moment ?? (span.from + span.to) / 2;
  const film = second?.picture.film;
  const apart = second && apartAt(second, playback);
  const shift = (second && playback.shifts[second.picture.sha256]) ?? 0;
  const round = 'rounded-full size-8 grid place-items-center hover:bg-sheet';
  return (
    <div role="group" aria-label="Clips" className="flex items-center gap-x-4 gap-y-1 flex-wrap pt-1.5">
      <div className="flex items-center gap-1">
        <button type="button" className={round} aria-label="One frame back" title="," onClick={() => player.step(-1)}>
          <StepBack size={17} aria-hidden />
        </button>
        <button
          type="button"
          className="rounded-full size-9 grid place-items-center bg-ink text-[#1f1f1f]"
          aria-label={playing ? 'Stop' : 'Play'}
          title="space"
          onClick={() => player.play(!playing)}
        >
          {playing ? <Pause size={18} aria-hidden /> : <Play size={18} aria-hidden />}
        </button>
        <button type="button" className={round} aria-label="One frame on" title="." onClick={() => player.step(1)}>
          <StepForward size={17} aria-hidden />
        </button>
      </div>
      <input
        type="range"
        aria-label="Moment of the clips"
        aria-valuetext={`${fixed(moment)} of ${fixed(span.to)} seconds`}
        className="accent-ink-2 flex-1 min-w-40"
        min={span.from}
        max={Math.max(span.to, span.from + 1 / span.framesPerSecond)}
        step={1 / span.framesPerSecond}
        value={moment}
        onChange={(event) => {
          player.play(false);
          player.seek(Number(event.target.value));
        }}
      />
      <span className="tabular-nums text-ink-2 min-w-[120px]" aria-hidden>
        {fixed(moment)} <span className="text-ink-3">of {fixed(span.to)} s</span>
      </span>
      <Toggle on={loop} keys="e" onClick={() => player.setLoop(!loop)}>
        Loop
      </Toggle>
      {film?.steps && (
        <div role="group" aria-label="In step" className="flex">
          <Toggle on={playback.byRoute} keys="" onClick={() => player.setByRoute(true)}>
            By place
          </Toggle>
          <Toggle on={!playback.byRoute} keys="" onClick={() => player.setByRoute(false)}>
            By time
          </Toggle>
        </div>
      )}
      {second && film && second.picture.sha256 !== second.bare?.sha256 && (
        <label className="flex items-center gap-2 text-ink-2 text-[13px]">
          {second.picture.name} shifted by
          <input
            type="number"
            className="field w-[84px] text-right tabular-nums"
            step={SHIFT_STEP}
            value={Number(shift.toFixed(3))}
            onChange={(event) => player.shift(second.picture.sha256, Number(event.target.value) || 0)}
          />
          s
        </label>
      )}
      <span className="text-ink-2 text-[13px]" role="status">
        {waiting ? 'frames are coming …' : apart !== null ? `cameras ${fixed(apart, 1)} m apart` : ''}
      </span>
    </div>
  );
}
