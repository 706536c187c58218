'use client';

import { usePathname } from 'next/navigation';
import { useState } from 'react';
import { Dialog } from './controls/Dialog';
import { IconButton } from './controls/Tooltip';
import { useKeys } from './keys';

interface KeyGroup {
  title: string;
  /** Addresses on which they are heard; everywhere when left out. */
  on?: RegExp;
  keys: readonly (readonly [string, string])[];
}

const LADDER: KeyGroup = {
  title: 'On the ladder of filters',
  on: /^\/sessions\/[^/]+\/(?:measure|compare|verdict|footage|regions)/,
  keys: [
    ['[ ]', 'previous and next filter'],
    ['← →', 'walk along it, where it has the focus'],
  ],
};

const GROUPS: readonly KeyGroup[] = [
  {
    title: 'List of sessions',
    on: /^\/$/,
    keys: [['/', 'search the sessions']],
  },
  {
    title: 'New session',
    on: /^\/sessions\/new/,
    keys: [
      ['1 – 9', 'answer the question with the choice of that number'],
      ['Ctrl + Z', 'take the last answer back'],
    ],
  },
  {
    title: 'Kit',
    on: /^\/kits\/./,
    keys: [
      ['↑ ↓ Enter', 'from row to row; Enter on the last adds one'],
      ['Alt + ↑ ↓', 'move the row itself'],
      ['Ctrl + V', 'paste rows from a spreadsheet'],
    ],
  },
  {
    title: 'Footage and details',
    on: /^\/sessions\/[^/]+\/(?:footage|details)/,
    keys: [
      ['space ← → ↑ ↓', 'take a picture up, carry it, lay it down'],
      ['Ctrl + Z, Ctrl + Shift + Z', 'undo and redo'],
    ],
  },
  {
    title: 'Regions',
    on: /^\/sessions\/[^/]+\/regions/,
    keys: [
      ['p', 'propose places to measure'],
      ['a', 'take all that is proposed'],
      ['← → ↑ ↓', 'move the chosen patch'],
      ['Shift + ← → ↑ ↓', 'change its size'],
      ['Ctrl + Z, Ctrl + Shift + Z', 'undo and redo'],
    ],
  },
  {
    title: 'Compare',
    on: /^\/sessions\/[^/]+\/compare/,
    keys: [
      ['w s t g d r', 'wipe, side by side, stacked, tiles, difference, ratio map'],
      ['b', 'bare, while it is held'],
      ['l ⇧l c i q', 'levelled, cast out too, clipping, histograms, loupe'],
      ['z + − ← → ↑ ↓', 'own pixels, zoom, pan'],
      ['u o j k m', 'the four corners and the middle'],
      ['Page up, Page down', 'on the wipe’s line: turn it; arrows move it'],
      ['space , . < >', 'clips: play or stop, a frame back, one on, a second back, one on'],
      ['e', 'clips: over and over'],
    ],
  },
  {
    title: 'Verdict',
    on: /^\/sessions\/[^/]+\/verdict/,
    keys: [['↑ ↓', 'in the contents: the part before and the next']],
  },
  LADDER,
  {
    title: 'Everywhere',
    keys: [
      ['1 – 9, 0', 'the stages, from Kits & rigs to Report'],
      ['Tab, Shift + Tab', 'from one control to the next'],
      ['?', 'this list'],
    ],
  },
];

/** The keys of the page that is shown, on `?` and behind a button that says so. */
export function KeyHelp() {
  const path = usePathname();
  const [open, setOpen] = useState(false);
  useKeys((key) => {
    if (key !== '?') return false;
    setOpen(true);
    return true;
  });
  const groups = GROUPS.filter(({ on }) => on === undefined || on.test(path));
  return (
    <>
      <IconButton
        label="Keys of this page"
        words="Keys  ?"
        onClick={() => setOpen(true)}
        className="!p-0 size-7 grid place-items-center"
      >
        <span aria-hidden className="font-semibold text-label w-4 text-center">
          ?
        </span>
      </IconButton>
      <Dialog open={open} onOpenChange={setOpen} title="Keys">
        {groups.map(({ title, keys }) => (
          <section key={title} aria-label={title} className="mb-4">
            <h3 className="text-ink-3 text-label mb-1.5">{title}</h3>
            <dl className="grid grid-cols-[156px_1fr] gap-x-5 gap-y-1.5">
              {keys.map(([pressed, what]) => (
                <div key={pressed} className="contents">
                  <dt className="font-semibold whitespace-nowrap">{pressed}</dt>
                  <dd className="text-ink-2">{what}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </Dialog>
    </>
  );
}
