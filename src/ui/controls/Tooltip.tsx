'use client';

import { Tooltip as Primitive } from 'radix-ui';
import type { ComponentProps, ReactNode } from 'react';
import { useRoom } from './room';

/** How a tip looks, wherever it comes from. */
export const TIP = 'z-50 bg-ink text-on-ink rounded-md px-2.5 py-1 text-small shadow-lift';

/** A few words about what is pointed at or has the focus. */
export function Tooltip({ words, children }: { words: string; children: ReactNode }) {
  const room = useRoom();
  return (
    <Primitive.Root>
      <Primitive.Trigger asChild>{children}</Primitive.Trigger>
      <Primitive.Portal>
        <Primitive.Content data-room={room} sideOffset={5} className={`${TIP} max-w-[min(80vw,320px)]`}>
          {words}
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}

/** Once around the application: how long one rests before words come. */
export function TooltipRoom({ children }: { children: ReactNode }) {
  return (
    <Primitive.Provider delayDuration={500} skipDelayDuration={200}>
      {children}
    </Primitive.Provider>
  );
}

/** A button that shows a drawing alone; its name is told on pointing. */
export function IconButton({
  label,
  words = label,
  className = '',
  children,
  ...rest
}: Omit<ComponentProps<'button'>, 'aria-label' | 'title'> & {
  label: string;
  /** What is told on pointing, where that is not its name. */
  words?: string;
}) {
  return (
    <Tooltip words={words}>
      <button
        type="button"
        aria-label={label}
        className={`p-2 rounded-md text-ink-3 hover:text-ink hover:bg-sheet disabled:opacity-50 ${className}`}
        {...rest}
      >
        {children}
      </button>
    </Tooltip>
  );
}
