'use client';

import type { ReactNode } from 'react';
import { Choice as Choose, Toggle, type ChoiceEntry } from '@/ui/controls/Toggle';
import type { Choice, Level } from './state';
import { LAYOUTS } from './words';

const LAYOUT_ENTRIES = LAYOUTS.map(({ layout, name, key }) => ({ value: layout, words: name, keys: key }));
const LEVELS: readonly ChoiceEntry<Level>[] = [
  { value: 'shot', words: 'As shot' },
  { value: 'level', words: 'Levelled', keys: 'l' },
  { value: 'channels', words: 'Cast out too', keys: '⇧l' },
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
    <div className="flex items-center justify-between gap-x-6 gap-y-1 max-sm:flex-col max-sm:items-stretch sm:flex-wrap py-1.5">
      <div className="flex sm:flex-wrap max-sm:overflow-x-auto">
        <Choose
          label="Layout"
          value={choice.layout}
          entries={LAYOUT_ENTRIES}
          className="flex sm:flex-wrap"
          onChange={(layout) => onChoice({ layout })}
        />
        <Toggle on={choice.bare} keys="hold b" onChange={(bare) => onChoice({ bare })}>
          Bare
        </Toggle>
      </div>
      <div className="flex sm:flex-wrap max-sm:overflow-x-auto items-center">
        <Choose
          label="Light"
          value={choice.level}
          entries={LEVELS}
          className="flex sm:flex-wrap"
          onChange={(level) => onChoice({ level })}
        />
        <Toggle on={choice.marks} keys="c" onChange={(marks) => onChoice({ marks })}>
          Clipping
        </Toggle>
        <Toggle on={choice.instruments} keys="i" onChange={(instruments) => onChoice({ instruments })}>
          Histograms
        </Toggle>
        {children}
      </div>
    </div>
  );
}
