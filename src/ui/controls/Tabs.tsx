'use client';

import { Tabs as Primitive } from 'radix-ui';
import type { ReactNode } from 'react';

/** Views of which one is shown; arrows walk along the names. */
export function Tabs<T extends string>({
  value,
  tabs,
  onChange,
  label,
  children,
}: {
  value: T;
  tabs: readonly (readonly [value: T, name: string])[];
  onChange: (value: T) => void;
  label: string;
  /** The view of the chosen tab. */
  children: ReactNode;
}) {
  return (
    <Primitive.Root value={value} onValueChange={(next) => onChange(next as T)}>
      {tabs.length > 1 && (
        <Primitive.List aria-label={label} className="flex flex-wrap gap-1 mb-2">
          {tabs.map(([one, name]) => (
            <Primitive.Trigger
              key={one}
              value={one}
              className="px-3 py-1 rounded-md text-ink-2 hover:bg-sheet data-[state=active]:bg-ink data-[state=active]:text-on-ink data-[state=active]:font-semibold"
            >
              {name}
            </Primitive.Trigger>
          ))}
        </Primitive.List>
      )}
      <Primitive.Content value={value} tabIndex={-1}>
        {children}
      </Primitive.Content>
    </Primitive.Root>
  );
}
