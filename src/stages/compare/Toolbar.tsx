'use client';

import type { ReactNode } from 'react';
import type { Choice, Level } from './state';
import { LAYOUTS } from './words';

const LEVELS: readonly { level: Level; name: string; key: string }[] = [
  { level: 'shot', name: 'As shot', key: '' },
  { level: 'level', name: 'Levelled', key: 'l' },
  { level: 'channels', name: 'Cast out too', key: '⇧l' },
];

/** How it is laid out and what is done to the light; every choice has a key. */
export function Toolbar({
  choice,
  onChoice,
  children,
}: {
  choice: Choice;
  onChoice: (part: Partial<Choice>) => void;
  children?: ReactNode;
}) {
  return (
    <div className="flex items-center justify-between gap-x-6 gap-y-1 flex-wrap py-1.5">
      <div role="group" aria-label="Layout" className="flex flex-wrap">
        {LAYOUTS.map(({ layout, name, key }) => (
          <Toggle key={layout} on={choice.layout === layout} keys={key} onClick={() => onChoice({ layout })}>
            {name}
          </Toggle>
        ))}
        <Toggle on={choice.bare} keys="hold b" onClick={() => onChoice({ bare: !choice.bare })}>
          Bare
        </Toggle>
      </div>
      <div className="flex flex-wrap items-center">
        <div role="group" aria-label="Light" className="flex">
          {LEVELS.map(({ level, name, key }) => (
            <Toggle key={level} on={choice.level === level} keys={key} onClick={() => onChoice({ level })}>
              {name}
            </Toggle>
          ))}
        </div>
        <Toggle on={choice.marks} keys="c" onClick={() => onChoice({ marks: !choice.marks })}>
          Clipping
        </Toggle>
        <Toggle on={choice.instruments} keys="i" onClick={() => onChoice({ instruments: !choice.instruments })}>
          Histograms
        </Toggle>
        {children}
      </div>
    </div>
  );
}

export function Toggle({
  on,
  keys,
  onClick,
  children,
}: {
  on: boolean;
  keys: string;
  onClick: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onClick}
      className={`rounded-md px-2.5 py-1.5 text-[13.5px] whitespace-nowrap ${on ? 'bg-ink text-[#1f1f1f] font-semibold' : 'text-ink hover:bg-sheet'}`}
    >
      {children}
      {keys && (
        <span aria-hidden className={`ml-1.5 text-[11.5px] ${on ? 'text-[#4a4a4a]' : 'text-ink-3'}`}>
          {keys}
        </span>
      )}
    </button>
  );
}
