'use client';

import { Pause, Play, StepBack, StepForward } from 'lucide-react';
import { Slider } from '@/ui/controls/Slider';
import { IconButton } from '@/ui/controls/Tooltip';
import { fixed } from '@/ui/format';
import { useKeys } from '@/ui/keys';
import { apartAt } from './playback';
import type { Shown } from './shown';
import { Choice, Toggle } from '@/ui/controls/Toggle';
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
  const round = '!rounded-full !p-0 size-8 grid place-items-center text-ink';
  return (
    <div role="group" aria-label="Clips" className="flex items-center gap-x-4 gap-y-1 flex-wrap pt-1.5">
      <div className="flex items-center gap-1">
        <IconButton className={round} label="One frame back" words="One frame back (,)" onClick={() => player.step(-1)}>
          <StepBack size={17} aria-hidden />
        </IconButton>
        <IconButton
          className="!rounded-full !p-0 size-9 grid place-items-center !bg-ink !text-on-ink"
          label={playing ? 'Stop' : 'Play'}
          words={playing ? 'Stop (space)' : 'Play (space)'}
          onClick={() => player.play(!playing)}
        >
          {playing ? <Pause size={18} aria-hidden /> : <Play size={18} aria-hidden />}
        </IconButton>
        <IconButton className={round} label="One frame on" words="One frame on (.)" onClick={() => player.step(1)}>
          <StepForward size={17} aria-hidden />
        </IconButton>
      </div>
      <Slider
        label="Moment of the clips"
        valueText={`${fixed(moment)} of ${fixed(span.to)} seconds`}
        className="flex-1 min-w-40"
        min={span.from}
        max={Math.max(span.to, span.from + 1 / span.framesPerSecond)}
        step={1 / span.framesPerSecond}
        value={moment}
        onChange={(to) => {
          player.play(false);
          player.seek(to);
        }}
      />
      <span className="tabular-nums text-ink-2 min-w-[120px]" aria-hidden>
        {fixed(moment)} <span className="text-ink-3">of {fixed(span.to)} s</span>
      </span>
      <Toggle on={loop} keys="e" onChange={(on) => player.setLoop(on)}>
        Loop
      </Toggle>
      {film?.steps && (
        <Choice
          label="In step"
          value={playback.byRoute ? 'place' : 'time'}
          entries={[
            { value: 'place', words: 'By place' },
            { value: 'time', words: 'By time' },
          ]}
          onChange={(by) => player.setByRoute(by === 'place')}
        />
      )}
      {second && film && second.picture.sha256 !== second.bare?.sha256 && (
        <label className="flex items-center gap-2 text-ink-2 text-label">
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
      <span className="text-ink-2 text-label" role="status">
        {waiting ? 'frames are coming …' : apart !== null ? `cameras ${fixed(apart, 1)} m apart` : ''}
      </span>
    </div>
  );
}
