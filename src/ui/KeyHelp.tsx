'use client';

import { useState } from 'react';
import { Dialog } from './controls/Dialog';
import { useKeys } from './keys';

const KEYS: readonly [string, string][] = [
  ['1 – 8', 'the stages, from Kits & rigs to Verdict'],
  ['[ ]', 'previous and next filter'],
  ['← →', 'on the ladder: walk along it; on a patch: nudge it'],
  ['Shift + ← → ↑ ↓', 'on a patch: change its size'],
  ['p', 'in Regions: propose places to measure'],
  ['a', 'in Regions: take all that is proposed'],
  ['space , .', 'in Compare, clips: play or stop, one frame back, one on; < and > a second, e over and over'],
  ['w s t g d r', 'in Compare: wipe, side by side, stacked, tiles, difference, ratio map'],
  ['b', 'in Compare: bare, while it is held'],
  ['l ⇧l c i q', 'in Compare: levelled, cast out too, clipping, histograms, loupe'],
  ['z + − ← → ↑ ↓', 'in Compare: own pixels, zoom, pan'],
  ['u o j k m', 'in Compare: the four corners and the middle'],
  ['Page up, Page down', 'on the wipe’s line: turn it; arrows move it'],
  ['?', 'this list'],
];

/** All keys, on `?`. */
export function KeyHelp() {
  const [open, setOpen] = useState(false);
  useKeys((key) => {
    if (key !== '?') return false;
    setOpen(true);
    return true;
  });
  return (
    <Dialog open={open} onOpenChange={setOpen} title="Keys">
      <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
        {KEYS.map(([keys, what]) => (
          <div key={keys} className="contents">
            <dt className="font-semibold whitespace-nowrap">{keys}</dt>
            <dd className="text-ink-2">{what}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
