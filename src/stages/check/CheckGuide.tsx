'use client';

import { useState } from 'react';
import { formatShutter } from '@/core/formulas/optics/exposure';
import { checkExposures } from '@/core/sitting/planning/cameraCheck';
import { Checkbox } from '@/ui/controls/Checkbox';
import { Select } from '@/ui/controls/Select';

/** Brightest shutters that are offered, seconds. */
const BRIGHTEST = [1, 1 / 2, 1 / 4, 1 / 8, 1 / 15, 1 / 30] as const;

/** What to shoot, picture by picture, to be ticked off beside the camera. */
export function CheckGuide() {
  const [brightest, setBrightest] = useState(1 / 15);
  const [done, setDone] = useState<ReadonlySet<number>>(new Set());
  const pictures = checkExposures(brightest);
  const tick = (i: number, on: boolean) =>
    setDone((before) => {
      const next = new Set(before);
      if (on) next.add(i);
      else next.delete(i);
      return next;
    });
  const list = (scene: 'surface' | 'edge') => (
    <ol className="grid grid-cols-3 gap-x-4 gap-y-0.5 mt-2 tabular-nums">
      {pictures.map((picture, i) =>
        picture.scene === scene ? (
          <li key={i} className="min-h-8 flex items-center">
            <Checkbox checked={done.has(i)} onChange={(on) => tick(i, on)}>
              {formatShutter(picture.seconds)}
            </Checkbox>
          </li>
        ) : null,
      )}
    </ol>
  );
  return (
    <section aria-label="What to shoot">
      <h2>What to shoot</h2>
      <ol className="list-decimal pl-5 mt-2 text-ink-2 flex flex-col gap-1.5">
        <li>
          No filter. Everything by hand: ISO, aperture, white balance, focus; the picture style of your sittings; no
          automatic tone. Lamps warm and steady; they get hot, keep hands and cloth away.
        </li>
        <li>
          Fill the frame with an even, matt, gray or white surface, out of focus. Choose the ISO so that the first
          shutter is just short of clipping:{' '}
          <Select
            label="First shutter"
            className="w-[104px]"
            value={String(brightest)}
            options={BRIGHTEST.map((seconds) => [String(seconds), formatShutter(seconds)] as const)}
            onChange={(chosen) => setBrightest(Number(chosen))}
          />
        </li>
        <li>
          Shoot the shutters below in their order, darker and back again between them; the last, like the first, tells
          whether the light drifted.
        </li>
      </ol>
      <h3 className="mt-4">Even surface</h3>
      {list('surface')}
      <h3 className="mt-4">Edge</h3>
      <p className="text-ink-2 mt-1">
        Then a black edge on white, or a gray chart, in focus: light and dark in one picture show whether tone follows
        the picture.
      </p>
      {list('edge')}
      <p className="text-ink-3 text-small mt-3" role="status">
        {done.size} of {pictures.length} shot
      </p>
    </section>
  );
}
